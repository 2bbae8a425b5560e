import { TextDecoder, TextEncoder } from 'node:util';

/*
 * What the stores touch of a browser when they are loaded in tests; in tests of panels what
 * their page (jsdom) lacks.
 */
if (typeof window === 'undefined') {
  const kept = new Map<string, string>();
  const storage = {
    getItem: (k: string) => kept.get(k) ?? null,
    setItem: (k: string, v: string) => void kept.set(k, v),
    removeItem: (k: string) => void kept.delete(k),
  };
  Object.assign(globalThis, {
    document: { documentElement: { dataset: {} }, querySelector: () => null },
    localStorage: storage,
    navigator: {},
    window: { localStorage: storage, matchMedia: () => ({ matches: true }), addEventListener: () => {} },
  });
} else {
  class NoSizes {
    observe(): void {}
    unobserve(): void {}
    disconnect(): void {}
  }
  Object.assign(globalThis, {
    TextDecoder,
    TextEncoder,
    ResizeObserver: NoSizes,
    structuredClone: (value: unknown) => value,
  });
  Object.assign(window, {
    matchMedia: () => ({ matches: true, addEventListener: () => {}, removeEventListener: () => {} }),
  });
  // Lists of rows are as high as what they stand in: without a height there would be none.
  Object.defineProperty(Element.prototype, 'clientHeight', { get: () => 600 });
  Object.defineProperty(Element.prototype, 'clientWidth', { get: () => 400 });
}

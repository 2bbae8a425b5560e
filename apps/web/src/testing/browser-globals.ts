/* What the stores touch of a browser when they are loaded in tests. */
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

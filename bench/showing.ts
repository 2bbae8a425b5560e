import { pipOrientation, FRAMES } from '@bathyscope/core/camera';
import { hiddenLineDrawing } from '@bathyscope/core/drawing';
import type { PartGeometry } from '@bathyscope/core/geometry';
import { IDENTITY } from '@bathyscope/core/math';
import { withBigModel } from './browser.ts';
import { medianTime, report } from './report.ts';

/* Budget: showing and hiding many components, switching styles, and the growth of the vector drawing. */

interface Measured {
  frame: number;
  hide: number;
  ghost: number;
  style: number;
}

export async function benchShowing(): Promise<void> {
  const parts = await withBigModel(async (page) => {
    const m = await page.evaluate(measure);
    report(
      'hide 1,000 of 5,000, to the next frame',
      m.hide / m.frame,
      '× a plain frame',
      'script and drawing',
    );
    report(
      'ghost 1,000 of 5,000, to the next frame',
      m.ghost / m.frame,
      '× a plain frame',
      'ghosts are drawn in passes of their own',
    );
    report(
      'switch of style, to the next frame',
      m.style / m.frame,
      '× a plain frame',
      'the second time, all lines built',
    );
  });
  drawingGrowth(parts);
}

/** Exponent of the time over the number of edges: 1 is linear. */
function drawingGrowth(parts: PartGeometry[]): void {
  const orientation = pipOrientation([1, 1, 1], FRAMES.z);
  const measured = [25, 50, 100, 200].map((count) => {
    const components = Array.from({ length: count }, (_, i) => ({
      geometry: parts[i % parts.length],
      placement: [
        ...IDENTITY.slice(0, 12),
        (i % 10) * 30,
        (Math.floor(i / 10) % 10) * 30,
        Math.floor(i / 100) * 30,
        1,
      ],
    }));
    const edges = components.reduce((n, c) => n + c.geometry.edges.length, 0);
    return {
      edges,
      time: medianTime(
        3,
        () => void hiddenLineDrawing(components, orientation, { hidden: true, smooth: false }),
      ),
    };
  });
  const [first, last] = [measured[0], measured[measured.length - 1]];
  report(
    `vector drawing: growth from ${first.edges} to ${last.edges} edges`,
    Math.log(last.time / first.time) / Math.log(last.edges / first.edges),
    '(exponent)',
    '1 is linear',
  );
}

/** Runs in the page. */
function measure(): Measured {
  interface Store<T> {
    getState(): T;
    setState(values: Partial<T>): void;
  }
  const { view, visibilityStore, styleStore, modelStore } = (
    window as unknown as {
      bathyscope: {
        view: { draw(): void };
        visibilityStore: Store<{ states: Record<string, unknown> }>;
        styleStore: Store<{ style: Record<string, unknown> }>;
        modelStore: Store<{ components: { path: string }[] }>;
      };
    }
  ).bathyscope;
  const gl = document.querySelector<HTMLCanvasElement>('[data-testid=scene]')!.getContext('webgl2')!;
  const finished = (work: () => void) => {
    const start = performance.now();
    work();
    view.draw();
    gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4));
    return performance.now() - start;
  };
  const median = (runs: number, work: (i: number) => void) =>
    Array.from({ length: runs }, (_, i) => finished(() => work(i))).sort((a, b) => a - b)[runs >> 1];
  const thousand = modelStore
    .getState()
    .components.slice(0, 1000)
    .map((c) => c.path);
  const table = (state: object) =>
    Object.fromEntries(
      thousand.map((p) => [p, { visible: true, ghosted: false, keptWhole: false, ...state }]),
    );
  const result: Measured = {
    frame: median(7, () => {}),
    hide: median(6, (i) => visibilityStore.setState({ states: i % 2 ? {} : table({ visible: false }) })),
    ghost: median(5, (i) => visibilityStore.setState({ states: i % 2 ? {} : table({ ghosted: true }) })),
    style: 0,
  };
  visibilityStore.setState({ states: {} });
  const { style } = styleStore.getState();
  const through = { ...style, hiddenEdges: 'dashed', outlines: true };
  finished(() => styleStore.setState({ style: through }));
  finished(() => styleStore.setState({ style }));
  result.style = median(5, (i) => styleStore.setState({ style: i % 2 ? style : through }));
  styleStore.setState({ style });
  return result;
}

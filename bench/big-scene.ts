import { withBigModel } from './browser.ts';
import { report } from './report.ts';

/* Budget: drawing, picking and turning 5,000 components of 60 parts, in one and in four panes. */

interface Measured {
  calls: number;
  frame: number;
  plain: number;
  pick: number;
  scan: number;
  orbit: number;
}

export async function benchBigScene(): Promise<void> {
  await withBigModel(async (page) => {
    const lit = await page.evaluate(measureLit);
    report(
      '5,000 picked: script of a frame while the mouse moves',
      lit.picked / lit.plain,
      '×',
      'the same with nothing picked',
    );
    report('picking all 5,000', lit.pick / lit.plain, '×', 'script of a frame');
    const one = await page.evaluate(measure);
    report('5,000 components of 60 parts: draw calls', one.calls, 'calls', '5,000 with one mesh a component');
    report(
      'script time of a frame',
      one.frame / one.plain,
      '×',
      'one pass over the components in plain script',
    );
    report(
      'pick under the cursor',
      one.scan / one.pick,
      'times faster',
      'asking every component for its box',
    );
    report('orbit step: input to camera', one.orbit / one.frame, '× a frame', 'script time of a frame');
    await page.getByRole('button', { name: 'Four', exact: true }).click();
    await page.waitForTimeout(1500);
    const four = await page.evaluate(measure);
    report('four panes: draw calls', four.calls / one.calls, '×', 'one pane');
    report('four panes: script time of a frame', four.frame / one.frame, '×', 'one pane');
    report('four panes: orbit step, input to camera', four.orbit / one.orbit, '×', 'one pane');
  });
}

/** Runs in the page. Script time only: the drawing itself is software here and says nothing. */
function measure(): Measured {
  interface Box {
    min: number[];
    max: number[];
  }
  const { view, picking, cameraStore, modelStore } = (
    window as unknown as {
      bathyscope: {
        view: { draw(): void; drawn: { calls: number } };
        picking: { pick(x: number, y: number): unknown };
        cameraStore: {
          getState(): {
            panes: { camera: { target: number[] } }[];
            setCamera(c: unknown, pane: number): void;
          };
        };
        modelStore: {
          getState(): {
            components: { part: number; placement: number[] }[];
            parts: Map<number, { geometry: { box: Box } }>;
          };
        };
      };
    }
  ).bathyscope;
  const median = (runs: number, work: (i: number) => void) => {
    const times = Array.from({ length: runs }, (_, i) => {
      const start = performance.now();
      work(i);
      return performance.now() - start;
    });
    return times.sort((a, b) => a - b)[runs >> 1];
  };
  const { components, parts } = modelStore.getState();
  let sum = 0;
  const pass = () =>
    components.forEach((c) => {
      const { box } = parts.get(c.part)!.geometry;
      for (let k = 0; k < 8; k++)
        for (let r = 0; r < 3; r++)
          sum += c.placement[r] * (k & 1 ? box.min[0] : box.max[0]) + c.placement[12 + r];
    });
  const [camera] = cameraStore.getState().panes.map((p) => p.camera);
  const result = {
    plain: Math.max(1e-3, median(20, pass)),
    frame: median(9, () => view.draw()),
    pick:
      median(9, (n) => {
        for (let i = 0; i < 20; i++) picking.pick(200 + 29 * i + n, 150 + 15 * i);
      }) / 20,
    // Eight rays around the cursor besides the one under it, each against all boxes.
    scan: median(9, () => {
      for (let ray = 0; ray < 9; ray++) pass();
    }),
    // A step is far below the clock's resolution.
    orbit:
      median(9, () => {
        for (let i = 0; i < 200; i++)
          cameraStore.getState().setCamera({ ...camera, target: camera.target.map((x) => x + i * 1e-4) }, 0);
      }) / 200,
    calls: view.drawn.calls,
  };
  cameraStore.getState().setCamera(camera, 0);
  return sum === Infinity ? { ...result, calls: 0 } : result;
}

/**
 * Runs in the page: a frame with the mouse over one component after another, with nothing
 * picked and with everything.
 */
function measureLit(): { plain: number; picked: number; pick: number } {
  const { view, selectionStore, modelStore } = (
    window as unknown as {
      bathyscope: {
        view: { draw(): void };
        selectionStore: { getState(): { pick(items: object[]): void; setHover(item: object | null): void } };
        modelStore: { getState(): { components: { path: string }[] } };
      };
    }
  ).bathyscope;
  const items = modelStore
    .getState()
    .components.map(({ path }) => ({ kind: 'component', component: path, index: 0 }));
  const gl = document.querySelector<HTMLCanvasElement>('[data-testid=scene]')!.getContext('webgl2')!;
  const median = (runs: number, work: (i: number) => void) => {
    const times = Array.from({ length: runs }, (_, i) => {
      const start = performance.now();
      work(i);
      const script = performance.now() - start;
      // What was asked to be drawn is drawn before the next begins: a full queue would stall it.
      gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4));
      return script;
    });
    return times.sort((a, b) => a - b)[runs >> 1];
  };
  const { pick, setHover } = selectionStore.getState();
  const move = (i: number) => {
    setHover(items[(37 * i) % items.length]);
    view.draw();
  };
  move(0);
  const plain = median(41, move);
  const times = median(5, () => {
    pick([]);
    pick(items);
    view.draw();
  });
  const picked = median(41, move);
  pick([]);
  setHover(null);
  return { plain, picked, pick: times };
}

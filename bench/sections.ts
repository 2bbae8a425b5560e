import type { PartGeometry } from '@bathyscope/core/geometry';
import { IDENTITY, normalize, type Vec3 } from '@bathyscope/core/math';
import { buildPartBvh } from '@bathyscope/core/picking';
import { cutComponents, fillLoops, straighten, type CutInput } from '@bathyscope/core/section';
import { turnedPart } from '../packages/core/src/testing/round-parts.ts';
import { withBigModel } from './browser.ts';
import { medianTime, report } from './report.ts';

/* Budget: what one step of dragging a section costs, of one large mesh and of many components. */

export async function benchSections(): Promise<void> {
  largeMesh();
  await withBigModel(async (page) => {
    const m = await page.evaluate(measure);
    report(
      '5,000 components: step of a plane to caps on the screen',
      m.step / m.frame,
      '× a plain frame',
      `${m.cut} components cut`,
    );
  });
}

/** A ring with ripples in its tube, as a mesh of 2 · n² triangles. */
function rippled(n: number): PartGeometry {
  return turnedPart(
    Array.from({ length: n }, (_, i): [number, number] => {
      const a = (2 * Math.PI * i) / n;
      const r = 20 + 0.4 * Math.sin(9 * a);
      return [60 + r * Math.cos(a), r * Math.sin(a)];
    }),
    n,
  );
}

function largeMesh(): void {
  const normal = normalize([0.3, 0.2, 1]);
  const measured = [125, 250, 500].map((n) => {
    const geometry = rippled(n);
    const input: CutInput = { geometry, bvh: buildPartBvh(geometry), placement: IDENTITY, stored: IDENTITY };
    let constant = 0;
    const step = () => ({ normal, constant: (constant = (constant + 0.37) % 12) });
    const cut = () => cutComponents([input], step());
    const loops = cut().flatMap((c) => c.loops);
    return {
      triangles: geometry.mesh.indices.length / 3,
      points: loops.reduce((sum, l) => sum + l.length, 0),
      cut: medianTime(9, () => void cut()),
      fill: medianTime(5, () => void fillLoops(loops.map(straighten))),
      sweep: medianTime(5, () => void sweep(geometry, normal, step().constant)),
    };
  });
  const [first, , last] = measured;
  report(
    `a mesh of ${last.triangles} triangles: cut into loops`,
    last.cut / last.sweep,
    '× a bare sweep over all triangles',
    `loops of ${last.points} points, figures included`,
  );
  report(
    'the same: triangles of the cap',
    last.fill / last.cut,
    '× the cut',
    'in the worker; left out while dragging is faster',
  );
  report(
    `growth of the cut from ${first.triangles} to ${last.triangles} triangles`,
    Math.log(last.cut / first.cut) / Math.log(last.triangles / first.triangles),
    '(exponent)',
    '0.5 is the length of the outline',
  );
}

/** The least that a cut without a tree has to do: which triangles does the plane cross? */
function sweep({ mesh: { positions, indices } }: PartGeometry, n: Vec3, constant: number): number {
  let crossed = 0;
  for (let i = 0; i < indices.length; i += 3) {
    let above = 0;
    for (let k = 0; k < 3; k++) {
      const v = 3 * indices[i + k];
      if (positions[v] * n[0] + positions[v + 1] * n[1] + positions[v + 2] * n[2] >= constant) above++;
    }
    if (above % 3) crossed++;
  }
  return crossed;
}

/** Runs in the page. */
async function measure(): Promise<{ frame: number; step: number; cut: number }> {
  interface Store<T> {
    getState(): T;
    setState(values: Partial<T>): void;
    subscribe(f: () => void): () => void;
  }
  const { view, picking, sectionStore, cutStore } = (
    window as unknown as {
      bathyscope: {
        view: { draw(): void };
        picking: { shownBox(): { min: number[]; max: number[] } };
        sectionStore: Store<{ planes: object[] }>;
        cutStore: Store<{ results: { cuts: object[] }[] }>;
      };
    }
  ).bathyscope;
  const gl = document.querySelector<HTMLCanvasElement>('[data-testid=scene]')!.getContext('webgl2')!;
  const finish = () => {
    view.draw();
    gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4));
  };
  const median = (values: number[]) => values.sort((a, b) => a - b)[values.length >> 1];
  const timed = (work: () => void) => {
    const start = performance.now();
    work();
    return performance.now() - start;
  };
  const { min, max } = picking.shownBox();
  const plane = (offset: number) => ({
    id: 'p',
    name: 'P',
    origin: min.map((x, k) => (x + max[k]) / 2),
    normal: [0.6, 0, 0.8],
    offset,
    flipped: false,
    on: true,
  });
  const steps: number[] = [];
  for (let i = 0; i < 9; i++) {
    const start = performance.now();
    await new Promise<void>((resolve) => {
      const before = cutStore.getState().results;
      const off = cutStore.subscribe(() => {
        if (cutStore.getState().results === before) return;
        off();
        queueMicrotask(resolve);
      });
      sectionStore.setState({ planes: [plane(i * 0.7)] });
    });
    finish();
    steps.push(performance.now() - start);
  }
  const frame = median(Array.from({ length: 7 }, () => timed(finish)));
  return { frame, step: median(steps.slice(2)), cut: cutStore.getState().results[0].cuts.length };
}

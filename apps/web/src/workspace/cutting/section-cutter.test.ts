import { boxPart } from '../../../../../packages/core/src/testing/box-part.ts';
import { IDENTITY } from '@bathyscope/core/math';
import { buildPartBvh } from '@bathyscope/core/picking';
import type { SectionPlane } from '@bathyscope/core/section';
import { SectionCutter, type CutResult } from './section-cutter.ts';
import type { SectionJob, SectionModel, SectionReply } from '../../workers/section-work.ts';
import { testWorkspace } from '../../testing/test-workspace.ts';
import { cutOf } from './section-now.ts';

const ws = testWorkspace();

/** A worker that answers when the test says so. */
const worker = {
  jobs: [] as SectionJob[],
  models: [] as SectionModel[],
  onmessage: null as ((e: { data: SectionReply }) => void) | null,
  onerror: null as (() => void) | null,
  postMessage(message: SectionModel | SectionJob) {
    if (message.type === 'model') this.models.push(message);
    else this.jobs.push(message);
  },
  answer(filling = 1) {
    const job = this.jobs.shift()!;
    const buffers = {
      base: [0, 0, 0] as const,
      positions: new Float32Array(),
      inPlane: new Float32Array(),
      thickness: new Float32Array(),
      indices: new Uint32Array(),
      ranges: new Uint32Array(),
      outlines: new Float32Array(),
    };
    this.onmessage!({
      data: { id: job.id, planes: job.planes.map(() => ({ cuts: [], buffers })), whole: [], filling },
    });
    return job;
  },
  terminate() {},
};
jest.mock('../../workers/start-section-worker.ts', () => ({ startSectionWorker: () => worker }));

const plane = (offset: number): SectionPlane => ({
  id: 'p',
  name: 'P',
  origin: [0, 0, 0],
  normal: [0, 0, 1],
  offset,
  flipped: false,
  on: true,
});
const include = Uint8Array.of(1);

describe('cutting in a worker', () => {
  let results: CutResult[];
  let cutter: SectionCutter;
  const offsets = () => results.map((r) => r.planes[0].plane.offset);
  const cut = (offset: number) => cutter.cut([plane(offset)], 'any', include);

  beforeEach(() => {
    const geometry = boxPart(10, 10, 10);
    ws.model.setState({
      components: [
        {
          path: 'a',
          name: 'a',
          depth: 0,
          placement: IDENTITY,
          mirrored: false,
          part: 0,
          children: [],
          parent: null,
        },
      ],
      parts: new Map([[0, { geometry, bvh: buildPartBvh(geometry) }]]),
    });
    [results, worker.jobs, worker.models] = [[], [], []];
    cutter = new SectionCutter(ws, (r) => results.push(r));
  });

  test('a worker that crashes is replaced and tries the cut once more; the second time it is told, and the next wish is met', () => {
    const crashes: string[] = [];
    cutter = new SectionCutter(
      ws,
      (r) => results.push(r),
      () => crashes.push('told'),
    );
    cut(1);
    worker.onerror!();
    expect([worker.models.length, worker.jobs.length, crashes.length]).toEqual([2, 2, 0]);
    worker.onerror!();
    expect(crashes).toEqual(['told']);
    worker.jobs = [];
    cut(2);
    worker.answer();
    expect(offsets()).toEqual([2]);
  });

  test('one cut is under way at a time; of what is wished meanwhile only the newest is made', () => {
    for (const offset of [1, 2, 3, 4]) cut(offset);
    expect(worker.jobs).toHaveLength(1);
    expect(worker.jobs[0].planes).toEqual([cutOf(ws, plane(1))]);
    worker.answer();
    expect(worker.jobs.map((j) => j.planes[0].constant)).toEqual([4]);
    worker.answer();
    expect(offsets()).toEqual([1, 4]);
    expect(worker.jobs).toEqual([]);
    expect(results.every((r) => !r.outlinesOnly)).toBe(true);
  });

  test('when triangles take long, a drag shows outlines, and what stands still is filled', () => {
    cut(1);
    worker.answer(200);
    cut(2);
    cut(3);
    expect(worker.jobs[0].outlinesOnly).toBe(false);
    worker.answer(200);
    // Wished while another was under way: the hand is faster than the filling.
    expect(worker.jobs[0]).toMatchObject({ outlinesOnly: true, planes: [{ constant: 3 }] });
    worker.answer();
    expect(worker.jobs[0]).toMatchObject({ outlinesOnly: false, planes: [{ constant: 3 }] });
    worker.answer(200);
    expect(results.map((r) => [r.planes[0].plane.offset, r.outlinesOnly])).toEqual([
      [1, false],
      [2, false],
      [3, true],
      [3, false],
    ]);
    expect(worker.jobs).toEqual([]);
  });

  test('what is under way when the section goes away is forgotten, and the next wish is made all the same', () => {
    cut(1);
    cutter.stop();
    cut(5);
    while (worker.jobs.length) worker.answer();
    expect(offsets().at(-1)).toBe(5);
    expect(offsets()).not.toContain(1);
  });

  test('the model goes to the worker once, as meshes without what cutting does not need', () => {
    cut(1);
    worker.answer();
    cut(2);
    expect(worker.models).toHaveLength(1);
    const [{ geometry }] = worker.models[0].parts;
    expect(geometry.mesh.positions.length).toBeGreaterThan(0);
    expect([
      geometry.mesh.normals.length,
      geometry.faces.length,
      geometry.edges.length,
      geometry.lines.positions.length,
    ]).toEqual([0, 0, 0, 0]);
  });
});

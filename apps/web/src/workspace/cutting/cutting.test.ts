import type { ModelDetail } from '@bathyscope/contracts';
import { IDENTITY, type Vec3 } from '@bathyscope/core/math';
import { buildPartBvh } from '@bathyscope/core/picking';
import type { SectionPlane } from '@bathyscope/core/section';
import { PLAIN_STATE } from '@bathyscope/core/visibility';
import { boxPart } from '../../../../../packages/core/src/testing/box-part.ts';
import { createProfileState } from '../../state/settings-store.ts';
import { CutInPlace } from '../../testing/cut-in-place.ts';
import { placedAt } from '../../testing/test-model.ts';
import { FIXTURE } from '../../testing/test-workspace.ts';
import { createWorkspace } from '../create-workspace.ts';
import { figuresOf } from './cuts.ts';
import { fixtureSource } from '../source/fixture-source.ts';
import type { Workspace } from '../workspace.ts';
import { startCutting } from './cutting.ts';

jest.mock('../../workers/start-section-worker.ts', () => ({ startSectionWorker: () => new CutInPlace() }));

/* Two boxes of 10 × 20 × 30, 50 apart along X; no scene, no page. */

const ALL = './A';
const detail = {
  ...FIXTURE,
  structure: {
    root: {
      name: 'Rig',
      placement: IDENTITY,
      children: [0, 50].map((x, i) => ({ name: 'AB'[i], part: 0, placement: placedAt(x, 0, 0) })),
    },
    parts: [{ name: 'Box', geometry: 'box' }],
  },
} as unknown as ModelDetail;

const plane = (normal: Vec3, at: number): SectionPlane => ({
  id: `${normal.join()}`,
  name: 'Plane',
  origin: [0, 0, 0],
  normal,
  offset: at,
  flipped: false,
  on: true,
});

let ws: Workspace;
beforeEach(() => {
  jest.useFakeTimers();
  ws = createWorkspace(fixtureSource(detail, new Map()), createProfileState());
  const geometry = boxPart(10, 20, 30);
  ws.model.getState().begin(detail);
  ws.model.getState().finish(new Map([[0, { geometry, bvh: buildPartBvh(geometry) }]]));
  ws.players.cutting = startCutting(ws);
});
afterEach(() => {
  ws.players.cutting!.stop();
  jest.useRealTimers();
});

const settle = () => jest.runAllTimersAsync();
/** Areas of what is cut, by plane and component. */
const areas = () =>
  ws.cut
    .getState()
    .results.map((result) =>
      Object.fromEntries(
        figuresOf(ws, result).map(({ cut, best }) => [
          ws.model.getState().components[cut.component].name,
          best.properties!.area,
        ]),
      ),
    );

test('a workspace without a scene cuts what its stores say: planes, what is hidden, and what is kept whole', async () => {
  expect(ws.cut.getState().results).toEqual([]);
  ws.section.setState({ planes: [plane([0, 0, 1], 15)] });
  await settle();
  expect(areas()).toEqual([{ A: 200, B: 200 }]);
  expect(ws.cut.getState().results[0].buffers!.indices.length).toBeGreaterThan(0);

  ws.visibility.getState().set({ [ALL]: { ...PLAIN_STATE, visible: false } });
  await settle();
  expect(areas()).toEqual([{ B: 200 }]);

  ws.visibility.getState().set({ [ALL]: { ...PLAIN_STATE, keptWhole: true } });
  await settle();
  expect(areas()).toEqual([{ B: 200 }]);
  expect([...ws.cut.getState().whole]).toEqual([ALL]);

  ws.visibility.getState().set({});
  ws.section.setState({ planes: [plane([0, 0, 1], 15), plane([1, 0, 0], 55)], combine: 'any' });
  await settle();
  // Of each other the planes take what lies beyond: of B half is left.
  expect(areas()).toEqual([{ A: 200, B: 100 }, { B: 300 }]);

  ws.section.setState({ on: false });
  expect(ws.cut.getState().results).toEqual([]);
});

test('once the planes rest the kernel is asked; where there is none, each component says so', async () => {
  ws.section.setState({ planes: [plane([0, 0, 1], 15)] });
  await settle();
  const { exact, asking, results } = ws.cut.getState();
  expect(asking).toBe(false);
  expect([...exact.get(results[0].plane.id)!.values()]).toEqual(
    [0, 1].map(() => ({ failed: 'there is no kernel to ask here' })),
  );
  // Moved, nothing is exact any more.
  ws.section.setState({ planes: [plane([0, 0, 1], 16)] });
  await jest.advanceTimersByTimeAsync(5);
  expect(ws.cut.getState().exact.size).toBe(0);
  expect(ws.cut.getState().asking).toBe(true);
});

test('when the model is closed nothing is cut any more, and nobody asked', async () => {
  ws.section.setState({ planes: [plane([0, 0, 1], 15)] });
  await settle();
  ws.players.cutting!.stop();
  expect(ws.cut.getState().results).toEqual([]);
  ws.section.setState({ planes: [plane([0, 0, 1], 16)] });
  await settle();
  expect(ws.cut.getState().results).toEqual([]);
});

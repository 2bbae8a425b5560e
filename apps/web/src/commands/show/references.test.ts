import { toVec3, type Vec3 } from '@bathyscope/core/math';
import { NO_REFERENCES } from '@bathyscope/core/references';
import { cutComponents, cutPlaneOf, planeFrame, type SectionPlane } from '@bathyscope/core/section';
import { boxPart } from '../../../../../packages/core/src/testing/box-part.ts';
import { cylinderPart } from '../../../../../packages/core/src/testing/round-parts.ts';
import { type Picked } from '../../state/selection-store.ts';
import { placedAt, showModel } from '../../testing/test-model.ts';
import { directionOf } from '../look/pick-directions.ts';
import { envelopeVerdict } from './reference-commands.ts';
import { commandById } from '../registry.ts';
import { offerPick, runCommand } from '../run-command.ts';
import { testWorkspace } from '../../testing/test-workspace.ts';
import { curvesOf } from '../../workspace/cutting/cuts.ts';

const ws = testWorkspace();

/* A block 40 × 20 × 30 at x = 100, and a pin Ø10 standing at y = 50, its foot at z = 0. */
beforeEach(() => {
  showModel(
    ws,
    [boxPart(40, 20, 30), cylinderPart(5, 60)],
    [
      ['Block', 0, placedAt(100, 0, 0)],
      ['Pin', 1, placedAt(0, 50, 0)],
    ],
  );
  ws.reference.setState(NO_REFERENCES);
  ws.history.getState().clear();
  ws.waiting.setState({ waiting: null, repeating: false, collected: [] });
  ws.ask.getState().close();
  ws.cut.setState({ results: [], exact: new Map(), whole: new Set() });
});

const vertex = (index: number): Picked => ({ kind: 'vertex', component: 'a/Block', index });
const pick = (...items: Picked[]) => ws.selection.getState().pick(items);
const run = (id: string) => runCommand(ws, commandById(id));
const { planes, axes, shown } = {
  planes: () => ws.reference.getState().planes,
  axes: () => ws.reference.getState().axes,
  shown: () => ws.reference.getState().shown,
};

test('what is there anyway goes on and off, singly and all at once, each a step back by its name', () => {
  run('reference-plane-xy');
  run('reference-axis-z');
  expect(shown()).toEqual(['triad', 'plane xy', 'axis z']);
  run('reference-plane-xy');
  expect(shown()).toEqual(['triad', 'axis z']);
  // All off and on again brings back what was shown; where nothing was, all.
  run('references-all');
  expect(shown()).toEqual([]);
  run('references-all');
  expect(shown()).toEqual(['triad', 'axis z']);
  const names = [
    'show all reference geometry',
    'hide all reference geometry',
    'hide plane xy',
    'show axis z',
    'show plane xy',
  ];
  for (const name of names) {
    expect(ws.history.getState().done.at(-1)!.name).toBe(name);
    ws.history.getState().undo();
  }
  expect(shown()).toEqual(['triad']);
  ws.mode.setState({ referencesBefore: [] });
  run('references-all');
  // Without an envelope there is none to show.
  expect(shown()).toHaveLength(10);
  expect(shown()).not.toContain('envelope');
});

test('own planes: off a face where the part is placed, through three points clicked one by one, across an edge; numbered on, shown at once', () => {
  pick({ kind: 'face', component: 'a/Block', index: 1 });
  run('plane-offset');
  expect(planes()).toEqual([]);
  ws.ask.getState().number!.run(-10);
  expect(planes()[0]).toMatchObject({ name: 'Plane 1', normal: [1, 0, 0], made: '-10 mm off a face' });
  expect(planes()[0].origin[0]).toBeCloseTo(130, 9);
  pick();
  run('plane-points');
  // Corners of the block: (100, 0, 0), (140, 0, 0) and (100, 20, 30).
  for (const i of [0, 1, 6]) expect(offerPick(ws, vertex(i))).toBe(true);
  const [, through] = planes();
  const at: Vec3[] = [
    [100, 0, 0],
    [140, 0, 0],
    [100, 20, 30],
  ];
  for (const p of at)
    expect(p.reduce((sum, x, k) => sum + (x - through.origin[k]) * through.normal[k], 0)).toBeCloseTo(0, 9);
  expect(ws.waiting.getState().waiting).toBeNull();
  pick({ kind: 'edge', component: 'a/Block', index: 8, point: [100, 0, 12] });
  run('plane-edge');
  expect(planes()[2]).toMatchObject({ name: 'Plane 3', origin: [100, 0, 12] });
  expect(Math.abs(planes()[2].normal[2])).toBe(1);
  expect(shown()).toEqual(['triad', ...planes().map((p) => p.id)]);
  ws.history.getState().undo();
  expect([planes().length, shown().length]).toEqual([2, 3]);
});

test('three points on one line make no plane and change nothing; a face that is not flat is refused and it waits on', () => {
  pick(
    ...[
      [100, 0, 0],
      [120, 0, 0],
      [140, 0, 0],
    ].map((point): Picked => ({ kind: 'face', component: 'a/Block', index: 2, point: toVec3(point) })),
  );
  run('plane-points');
  expect(planes()).toEqual([]);
  expect(ws.history.getState().done).toEqual([]);
  pick();
  run('plane-offset');
  expect(offerPick(ws, { kind: 'face', component: 'a/Pin', index: 0 })).toBe(true);
  expect(ws.ask.getState().number).toBeNull();
  expect(ws.waiting.getState().waiting?.id).toBe('plane-offset');
});

test('own axes: of a turned face where its component stands, along an edge, through the centre of a circle and a corner', () => {
  pick({ kind: 'face', component: 'a/Pin', index: 0 });
  run('axis-of');
  expect(axes()[0]).toMatchObject({ name: 'Axis 1', made: 'of a turned face' });
  expect([axes()[0].origin[0], axes()[0].origin[1], Math.abs(axes()[0].direction[2])]).toEqual([0, 50, 1]);
  pick({ kind: 'edge', component: 'a/Block', index: 0 });
  run('axis-of');
  expect(axes()[1]).toMatchObject({ made: 'along an edge', direction: [1, 0, 0] });
  // The circle counts by its centre, (0, 50, 60), wherever on it was clicked; the corner is (100, 0, 0).
  pick({ kind: 'edge', component: 'a/Pin', index: 1, point: [5, 50, 60] }, vertex(0));
  run('axis-points');
  const { direction } = axes()[2];
  const length = Math.hypot(100, 50, 60);
  expect(direction.map((x, k) => Math.abs(x) * length - [100, 50, 60][k])).toEqual([
    expect.closeTo(0, 9),
    expect.closeTo(0, 9),
    expect.closeTo(0, 9),
  ]);
});

test('the envelope says whether the model fits, turned if need be, and by how much not', () => {
  // Block and pin together are 145 × 55 × 60.
  expect(envelopeVerdict(ws)).toBeNull();
  run('envelope');
  // Round tens that just hold it.
  expect(ws.reference.getState().envelope).toEqual({ size: [150, 60, 60], at: null });
  expect(envelopeVerdict(ws)).toBe('Fits as placed, with 0.000 mm to spare.');
  ws.reference.setState({ envelope: { size: [70, 150, 60], at: null } });
  expect(envelopeVerdict(ws)).toBe(
    'Does not fit as placed: too large by 75.000 mm in X. Fits when turned, its X, Y and Z along the envelope’s Y, Z, X, with 5.000 mm to spare.',
  );
  ws.reference.setState({ envelope: { size: [50, 50, 150], at: null } });
  expect(envelopeVerdict(ws)).toContain('it is still too large by');
});

test('a cut has directions too: its face, a straight outline where it was picked, and nothing where there is none', () => {
  const plane: SectionPlane = {
    id: 'p',
    name: 'P',
    origin: [0, 0, 12],
    normal: [0, 0, 1],
    offset: 0,
    flipped: false,
    on: true,
  };
  const { components, parts } = ws.model.getState();
  const cut = cutPlaneOf(plane);
  const cuts = cutComponents(
    components.map(({ part, placement }) => ({ ...parts.get(part)!, placement, stored: placement })),
    cut,
  );
  ws.section.setState({ planes: [plane], on: true, combine: 'any' });
  ws.cut.setState({
    results: [{ plane, cut, frame: planeFrame(cut), cuts }],
    exact: new Map(),
    whole: new Set(),
  });
  const of = (kind: Picked['kind'], component: string, index: number, point: Vec3) =>
    directionOf(ws, { kind, component, index, point, plane: 'p' });
  expect(of('cap', 'a/Block', 0, [110, 5, 12])).toEqual({
    kind: 'normal',
    origin: [110, 5, 12],
    direction: [0, 0, 1],
  });
  const curves = curvesOf(ws, 'p', cuts[0]);
  const front = curves.findIndex((c) => c.shape === 'line' && c.from[1] === 0 && c.to[1] === 0);
  expect(of('outline', 'a/Block', front, [110, 0, 12])).toMatchObject({
    kind: 'along',
    origin: [110, 0, 12],
  });
  expect(Math.abs(of('outline', 'a/Block', front, [110, 0, 12])!.direction[0])).toBeCloseTo(1, 9);
  // The pin's outline is a circle: through its centre, square to the cut.
  expect(of('outline', 'a/Pin', 0, [5, 50, 12])).toMatchObject({
    kind: 'axis',
    origin: [expect.closeTo(0, 5), expect.closeTo(50, 5), expect.closeTo(12, 9)],
    direction: [0, 0, 1],
  });
  expect(of('corner', 'a/Block', 0, [100, 0, 12])).toBeNull();
  expect(of('outline', 'a/Block', 99, [100, 0, 12])).toBeNull();
  ws.section.setState({ planes: [] });
});

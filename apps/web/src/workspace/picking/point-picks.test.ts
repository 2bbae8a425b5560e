import { FIXTURE } from '../../testing/test-workspace.ts';
import type { Hole } from '@bathyscope/core/geometry';
import { boxPart } from '../../../../../packages/core/src/testing/box-part.ts';
import { cylinderPart } from '../../../../../packages/core/src/testing/round-parts.ts';
import { createProfileState } from '../../state/settings-store.ts';
import type { Picked } from '../../state/selection-store.ts';
import { placedAt, showModel } from '../../testing/test-model.ts';
import { commandById } from '../../commands/registry.ts';
import { runCommand } from '../../commands/run-command.ts';
import { allFigures } from '../measuring/all-figures.ts';
import { createWorkspace } from '../create-workspace.ts';
import { datumOf } from './datums.ts';
import { distanceOf, figuresOfOne } from '../measuring/figures.ts';
import { fixtureSource } from '../source/fixture-source.ts';
import { figuresOfMany } from '../measuring/measured.ts';
import { pickOf, referenceTo, resolve } from '../measuring/references.ts';
import { pointOfPick } from './snap-picks.ts';
import type { Workspace } from '../workspace.ts';

/** A pin of Ø10, 20 long, 30 mm along X, on which a block of 8 × 6 × 4 stands. */
function opened(pinAt = 30): Workspace {
  const ws = createWorkspace(fixtureSource(FIXTURE), createProfileState());
  showModel(
    ws,
    [cylinderPart(5, 20), boxPart(8, 6, 4)],
    [
      ['pin', 0, placedAt(pinAt, 0, 0)],
      ['block', 1, placedAt(0, 0, 20)],
    ],
  );
  return ws;
}

const RIM = 1;
const centre: Picked = {
  kind: 'point',
  component: 'a/pin',
  index: RIM,
  snap: { kind: 'centre', on: 'edge' },
  point: [30, 0, 20],
};
const midpoint: Picked = {
  kind: 'point',
  component: 'a/block',
  index: 0,
  snap: { kind: 'midpoint', on: 'edge' },
  point: [4, 0, 20],
};
const onFace: Picked = {
  kind: 'point',
  component: 'a/block',
  index: 5,
  snap: { kind: 'on face', on: 'face' },
  point: [1, 2, 24],
};
const datum = (id: string): Picked => ({ kind: 'datum', component: '', index: 0, datum: id });

test.each([centre, midpoint, onFace])(
  'a point is kept by what it is of, and found where that is now ($snap.kind)',
  (item) => {
    const ws = opened();
    const kept = JSON.parse(JSON.stringify(referenceTo(ws, item))) as ReturnType<typeof referenceTo>;
    expect(pickOf(ws, kept)).toMatchObject({
      kind: 'point',
      component: item.component,
      index: item.index,
      point: item.point,
    });
    // In a later revision the pin stands elsewhere: its point goes with it.
    const later = opened(50);
    expect(pickOf(later, kept)!.point![0]).toBe(item.point![0] + (item.component === 'a/pin' ? 20 : 0));
    // Of a part that is gone nothing is left.
    expect(pickOf(later, { ...kept, component: 'a/none', part: 'none' } as typeof kept)).toBeNull();
  },
);

test('points, the origin and planes are measured to each other without asking the kernel', async () => {
  const ws = opened();
  const between = async (a: Picked, b: Picked) => (await allFigures(ws, [a, b])).facts;
  expect((await between(centre, midpoint)).main).toMatchObject({ label: 'Distance', value: { value: 26 } });
  expect((await between(centre, datum('origin'))).main!.value.value).toBeCloseTo(Math.hypot(30, 20), 12);
  const toPlane = await between(onFace, datum('plane xy'));
  expect(toPlane.main).toMatchObject({ label: 'Normal distance', value: { value: 24 } });
  // A plane has no end, and so there is no least distance to it.
  expect(toPlane.rows.map((r) => r.label)).not.toContain('Least distance');
  expect((await between(datum('axis x'), datum('plane xy'))).main).toMatchObject({
    label: 'Distance',
    value: { value: 0 },
  });
  expect((await between(datum('axis z'), { kind: 'face', component: 'a/pin', index: 0 })).main).toMatchObject(
    { value: { value: 30 } },
  );
  expect(distanceOf(ws, [centre, { kind: 'face', component: 'a/block', index: 0 }])).toEqual({
    ask: {
      a: { component: 'a/pin', kind: 'point', at: [30, 0, 20] },
      b: { component: 'a/block', kind: 'face', index: 0 },
    },
  });
});

test('three points: the angle at the second leads, drawn there; then the circle through them and the chain', async () => {
  const ws = opened();
  const { facts, dimension } = await allFigures(ws, [centre, midpoint, datum('origin')]);
  expect(facts.main).toMatchObject({ label: 'Angle at the second' });
  // From (30, 0) over (4, 0) to the origin 20 below: arctan(20/4) to the axis.
  expect(facts.main!.value.value).toBeCloseTo(Math.PI / 2 + Math.atan(4 / 20), 12);
  expect(facts.rows.map((r) => r.label)).toEqual(
    expect.arrayContaining(['Circle through them', 'Area between', 'Distance, along the chain']),
  );
  expect(dimension).toMatchObject({ kind: 'angle', at: [4, 0, 20] });
});

test('what reference geometry is, and that a plane that was deleted is lost', () => {
  const ws = opened();
  expect(figuresOfOne(ws, datum('plane xz'))).toMatchObject({ title: 'Plane XZ' });
  ws.reference.setState({
    planes: [{ id: 'p', name: 'Waterline', origin: [0, 0, 7], normal: [0, 0, 1], made: '' }],
  });
  expect(datumOf(ws, 'p')).toMatchObject({ kind: 'plane', name: 'Waterline' });
  const kept = referenceTo(ws, datum('p'));
  expect(resolve(ws, kept).status).toBe('found');
  ws.reference.setState({ planes: [] });
  expect(resolve(ws, kept).status).toBe('lost');
  expect(pickOf(ws, kept)).toBeNull();
  expect(figuresOfOne(ws, datum('p'))).toBeNull();
  // What acts on components leaves it alone.
  ws.selection.getState().pick([datum('origin')]);
  runCommand(ws, commandById('hide'));
  expect(Object.keys(ws.visibility.getState().states)).toEqual([]);
  expect(pointOfPick(ws, datum('origin'))!.at).toEqual([0, 0, 0]);
});

test('a set leads with what it is: a total of what is alike, a pattern of holes; unlike figures are never added', () => {
  const ws = opened();
  const edge = (component: string, index: number): Picked => ({ kind: 'edge', component, index });
  const face = (component: string, index: number): Picked => ({ kind: 'face', component, index });
  const of = (items: Picked[]) => figuresOfMany(ws, items);
  const labels = (facts: ReturnType<typeof of>) => facts.rows.map((r) => r.label);
  // Three edges of the block; with a face of it among them the sum of the edges stands beneath, and
  // says what it leaves out.
  const { edges } = ws.model.getState().parts.get(1)!.geometry;
  const sum = [0, 1, 2].reduce((all, e) => all + edges[e].length, 0);
  expect(of([0, 1, 2].map((e) => edge('a/block', e))).main).toMatchObject({
    label: 'Total length',
    value: { value: expect.closeTo(sum, 9) },
  });
  const stray = of([...[0, 1, 2].map((e) => edge('a/block', e)), face('a/block', 4)]);
  expect(stray.main).toBeNull();
  expect(stray.rows[0]).toMatchObject({
    label: 'Total length',
    value: { value: expect.closeTo(sum, 9) },
    note: 'of 3 edges; one pick is none',
  });
  expect(of([0, 1, 2].map((f) => face('a/block', f))).main).toMatchObject({ label: 'Total area' });
  // A wall, a face and a rim: distances and differences of diameters, one by one and without a sum.
  const mixed = of([face('a/pin', 0), edge('a/pin', RIM), face('a/block', 4)]);
  expect(mixed.main).toBeNull();
  expect(labels(mixed).some((l) => l.includes('along the chain'))).toBe(false);
  expect(labels(mixed).filter((l) => /^\d to \d/.test(l))).toHaveLength(2);
});

test('holes of a bolt circle lead with its pitch circle', () => {
  const ws = opened();
  const { geometry } = ws.model.getState().parts.get(0)!;
  const hole = (x: number, y: number): Hole => ({
    faces: [0],
    diameter: 4,
    depth: 20,
    start: [x, y, 0],
    axis: [0, 0, 1],
    ends: 'through',
    steps: [],
    opensInto: [],
    accuracy: { kind: 'exact' },
  });
  const angles = [0, 1, 2, 3, 4, 5].map((i) => (i * Math.PI) / 3);
  geometry.holes = angles.map((t) => hole(17 * Math.cos(t), 17 * Math.sin(t)));
  // Each hole has a face of its own to be picked by.
  geometry.faces = angles.map((_, h) => ({ ...geometry.faces[0], hole: h }));
  const facts = figuresOfMany(
    ws,
    [0, 1, 3].map((index): Picked => ({ kind: 'face', component: 'a/pin', index })),
  );
  expect(facts.main).toMatchObject({
    label: 'Pitch circle',
    value: { value: expect.closeTo(34, 9), prefix: 'Ø' },
  });
  expect(facts.rows[0]).toMatchObject({ label: 'Holes of the pattern', value: { value: 6 } });
});

import { IDENTITY, patchDistance } from '@bathyscope/core/math';
import { cutComponents, cutPlaneOf, planeFrame, type SectionPlane } from '@bathyscope/core/section';
import { boxPart } from '../../../../../packages/core/src/testing/box-part.ts';
import { cylinderPart } from '../../../../../packages/core/src/testing/round-parts.ts';
import type { Picked } from '../../state/selection-store.ts';
import { placedAt, showModel } from '../../testing/test-model.ts';
import { measuredThing } from './cut-distance.ts';
import { testWorkspace } from '../../testing/test-workspace.ts';
import { curvesOf } from '../cutting/cuts.ts';

const ws = testWorkspace();

const plane: SectionPlane = {
  id: 'p',
  name: 'P',
  origin: [0, 0, 20],
  normal: [0, 0, 1],
  offset: 0,
  flipped: false,
  on: true,
};

/**
 * A block 40 × 20 × 40, a sheet 10 beside it and a pin Ø4 further on, cut at half their
 * height; the pin is kept whole.
 */
beforeEach(() => {
  showModel(
    ws,
    [boxPart(40, 20, 40), boxPart(1, 20, 40), cylinderPart(2, 40)],
    [
      ['Block', 0, IDENTITY],
      ['Sheet', 1, placedAt(50, 0, 0)],
      ['Pin', 2, placedAt(62, 0, 0)],
    ],
  );
  const { components, parts } = ws.model.getState();
  const cut = cutPlaneOf(plane);
  const inputs = components.map(({ part, placement }, i) =>
    i < 2 ? { ...parts.get(part)!, placement, stored: placement } : null,
  );
  ws.section.setState({ planes: [plane], on: true, combine: 'any' });
  ws.cut.setState({
    results: [{ plane, cut, frame: planeFrame(cut), cuts: cutComponents(inputs, cut) }],
    exact: new Map(),
    whole: new Set(['a/Pin']),
  });
});

const thing = (kind: Picked['kind'], component: string, index = 0): Picked => ({
  kind,
  component: `a/${component}`,
  index,
  ...(['cap', 'outline', 'corner'].includes(kind) && { plane: 'p' }),
});
const between = (a: Picked, b: Picked) => {
  const [first, second] = [a, b].map((i) => measuredThing(ws, i, ws.cut.getState())!);
  return {
    ...patchDistance(first.patch, second.patch)!,
    exact: first.exact && second.exact,
    chord: first.chord + second.chord,
  };
};
/** The number of an edge of a box by its middle. */
const edgeAt = (part: number, [x, y, z]: readonly number[]): number =>
  ws.model
    .getState()
    .parts.get(part)!
    .geometry.edges.findIndex((_, e) => {
      const { lines } = ws.model.getState().parts.get(part)!.geometry;
      const [i, j] = [3 * lines.start[e], 3 * (lines.start[e + 1] - 1)];
      return [x, y, z].every(
        (v, k) => Math.abs((lines.positions[i + k] + lines.positions[j + k]) / 2 - v) < 1e-9,
      );
    });

test('a cut face to faces and edges of the model, also where its outline is nowhere nearest', () => {
  // The floor lies 20 below the cut, right under it: no outline is nearer than the inside.
  expect(between(thing('cap', 'Block'), thing('face', 'Block', 4))).toMatchObject({
    distance: expect.closeTo(20, 9),
  });
  expect(between(thing('cap', 'Block'), thing('face', 'Sheet', 0))).toMatchObject({
    distance: expect.closeTo(10, 9),
  });
  expect(between(thing('cap', 'Block'), thing('cap', 'Sheet'))).toMatchObject({
    distance: expect.closeTo(10, 9),
    from: [expect.closeTo(40, 9), expect.anything(), expect.closeTo(20, 9)],
  });
  expect(between(thing('cap', 'Block'), thing('face', 'Block', 1)).distance).toBeCloseTo(0, 9);
});

test('what is cut away of a face or an edge does not count; what is kept whole counts in full', () => {
  // From the pin's top at z = 40 the sheet is only there up to z = 20.
  const top = 1;
  const slope = Math.hypot(62 - 2 - 51, 20);
  expect(between(thing('edge', 'Pin', top), thing('face', 'Sheet', 1)).distance).toBeCloseTo(slope, 6);
  expect(
    between(thing('edge', 'Pin', top), thing('edge', 'Sheet', edgeAt(1, [1, 0, 20]))).distance,
  ).toBeCloseTo(slope, 6);
  // The pin itself is whole: a corner of the cut meets its wall at the same height.
  const corners = ws.cut
    .getState()
    .results[0].cuts.map((c) => curvesOf(ws, 'p', c).map((curve) => ('from' in curve ? curve.from : null)));
  const corner = corners[1].findIndex(
    (p) => Array.isArray(p) && Math.abs(p[0] - 51) < 1e-9 && Math.abs(p[1]) < 1e-9,
  );
  expect(between(thing('corner', 'Sheet', corner), thing('face', 'Pin', 0)).distance).toBeCloseTo(9, 6);
});

test('exact only where all is straight and the cut is the kernel’s; else within what the chords may be off', () => {
  const straight = [thing('cap', 'Block'), thing('face', 'Sheet', 0)] as const;
  expect(between(...straight)).toMatchObject({ exact: false, chord: expect.any(Number) });
  const [cut] = ws.cut.getState().results[0].cuts;
  const loops = [curvesOf(ws, 'p', cut)];
  ws.cut.setState({
    exact: new Map([['p', new Map([[0, { loops, properties: cut.properties, tolerance: 0 }]])]]),
  });
  expect(between(...straight)).toMatchObject({ exact: true, chord: 0, distance: expect.closeTo(10, 12) });
  const round = between(thing('cap', 'Block'), thing('face', 'Pin', 0));
  expect(round.exact).toBe(false);
  expect(Math.abs(round.distance - 20)).toBeLessThan(round.chord + 1e-6);
  expect(measuredThing(ws, thing('component', 'Block'), ws.cut.getState())).toBeNull();
  expect(measuredThing(ws, { ...thing('outline', 'Block', 99) }, ws.cut.getState())).toBeNull();
});

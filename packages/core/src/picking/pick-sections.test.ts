import { IDENTITY } from '../math/mat4.ts';
import { lookFrom } from '../math/quaternion.ts';
import type { ViewCamera } from '../camera/view-camera.ts';
import { boxPart } from '../testing/box-part.ts';
import type { CutBy, Plane } from '../math/plane.ts';
import { buildPartBvh, PickScene, type PickOptions } from './pick-scene.ts';

/* Two boxes of 10 one behind the other along Y, seen from the front. */
const part = boxPart(10, 10, 10);
const scene = new PickScene(
  [
    { part: 0, placement: IDENTITY },
    { part: 0, placement: [...IDENTITY.slice(0, 12), 0, 20, 0, 1] },
  ],
  new Map([[0, part]]),
  new Map([[0, buildPartBvh(part)]]),
);
const camera: ViewCamera = {
  projection: 'orthographic',
  target: [5, 0, 5],
  orientation: lookFrom([0, -1, 0], [0, 0, 1]),
  height: 40,
  lens: 0.5,
};
const pane = { width: 400, height: 400 };
/** To rounding. */
const near = (...p: number[]) => p.map((x) => expect.closeTo(x, 9));
const FACES = { face: true, edge: false, vertex: false };
const pick = (options: Partial<PickOptions>) =>
  scene.pick(camera, pane, 200, 200, { pickable: () => true, kinds: FACES, ...options });
/** Takes away what lies before y = at. */
const before = (at: number): Plane => ({ normal: [0, -1, 0], constant: -at });
/** Takes away what lies left of x = at. */
const left = (at: number): Plane => ({ normal: [-1, 0, 0], constant: -at });
const any = (planes: Plane[]): CutBy => ({ planes, combine: 'any' });
const all = (planes: Plane[]): CutBy => ({ planes, combine: 'all' });

test('a cut opens what it takes away: first the inside of the box, then the one behind, then nothing', () => {
  expect(pick({})).toMatchObject({ component: 0, point: near(5, 0, 5) });
  // The back wall of the first box, seen from within.
  expect(pick({ cut: any([before(4)]) })).toMatchObject({ component: 0, index: 3, point: near(5, 10, 5) });
  expect(pick({ cut: any([before(15)]) })).toMatchObject({ component: 1, point: near(5, 20, 5) });
  expect(pick({ cut: any([before(40)]) })).toBeNull();
});

test('what any plane takes is gone, or only what all take', () => {
  // At x = 5 the first plane takes, the second (left of 2) does not.
  expect(pick({ cut: any([before(15), left(2)]) })).toMatchObject({ component: 1 });
  expect(pick({ cut: all([before(15), left(2)]) })).toMatchObject({ component: 0, point: near(5, 0, 5) });
  expect(pick({ cut: all([before(15), left(8)]) })).toMatchObject({ component: 1 });
});

test('what is kept whole is picked where it stands, its edges and corners too', () => {
  const uncut = (component: number) => component === 0;
  expect(pick({ cut: any([before(15)]), uncut })).toMatchObject({ component: 0, point: near(5, 0, 5) });
  const corner = scene.pick(camera, pane, 250, 150, { pickable: () => true, cut: any([before(15)]), uncut });
  expect(corner).toMatchObject({ kind: 'vertex', component: 0, point: near(10, 0, 10) });
  expect(scene.pick(camera, pane, 250, 150, { pickable: () => true, cut: any([before(15)]) })).toMatchObject({
    kind: 'vertex',
    component: 1,
    point: near(10, 20, 10),
  });
});

test('the list of all that lies behind leaves out what is cut away', () => {
  const through = (options: Partial<PickOptions>) =>
    scene
      .through(camera, pane, 200, 200, { pickable: () => true, ...options })
      .map((h) => [h.component, Math.round(h.point[1] * 1e9) / 1e9]);
  expect(through({})).toEqual([
    [0, 0],
    [0, 10],
    [1, 20],
    [1, 30],
  ]);
  expect(through({ cut: any([before(4)]) })).toEqual([
    [0, 10],
    [1, 20],
    [1, 30],
  ]);
  expect(through({ cut: any([before(4)]), uncut: (c) => c === 0 })).toHaveLength(4);
});

import { placed } from '../testing/placed.ts';
import { DEFAULT_LENS, type ViewCamera } from '../camera/view-camera.ts';
import { transformPoint, IDENTITY } from '../math/mat4.ts';
import { lookFrom } from '../math/quaternion.ts';
import { type Vec3 } from '../math/vec3.ts';
import { boxesOnScreen, isSeenIn, outlineOf } from './boxes-on-screen.ts';
import { buildPartBvh, PickScene } from './pick-scene.ts';
import { nearestOnScreen } from '../camera/nearest-on-screen.ts';
import { reachOfComponents } from '../camera/reach-of-components.ts';
import { boxPart } from '../testing/box-part.ts';

describe('picking', () => {
  const PANE = { width: 400, height: 400 };

  const part = boxPart(10, 10, 10);

  const bvh = buildPartBvh(part);

  const components = [
    { part: 0, placement: IDENTITY },
    { part: 0, placement: [...IDENTITY.slice(0, 12), 0, 30, 0, 1] },
  ];

  const scene = new PickScene(components, new Map([[0, part]]), new Map([[0, bvh]]));

  const front = {
    projection: 'orthographic' as const,
    target: [5, 0, 5] as Vec3,
    orientation: lookFrom([0, -1, 0], [0, 0, 1]),
    height: 40,
    lens: DEFAULT_LENS,
  };

  const any = { pickable: () => true };

  test.each(['orthographic', 'perspective'] as const)(
    'faces in the middle, edges and vertices near them, nothing beside; what is hidden or cut away lets through (%s)',
    (projection) => {
      const camera = { ...front, projection };
      expect(scene.pick(camera, PANE, 200, 200, any)).toMatchObject({ kind: 'face', component: 0, index: 2 });
      expect(scene.pick(camera, PANE, 200, 152, any)).toMatchObject({ kind: 'edge' });
      expect(scene.pick(camera, PANE, 152, 152, any)).toMatchObject({ kind: 'vertex' });
      expect(scene.pick(camera, PANE, 20, 20, any)).toBeNull();
      expect(scene.pick(camera, PANE, 200, 200, { pickable: (i) => i === 1 })).toMatchObject({
        component: 1,
      });
      // Cut away in front of y = 5: the inside of the back wall is seen.
      expect(
        scene.pick(camera, PANE, 200, 200, {
          ...any,
          cut: { planes: [{ normal: [0, -1, 0], constant: -5 }], combine: 'any' },
        }),
      ).toMatchObject({
        component: 0,
        index: 3,
      });
    },
  );

  test('a box picks what lies fully inside, or what it touches', () => {
    const onScreen = components.map((c) => ({ placement: c.placement, box: part.box, bvh }));
    const side = {
      ...front,
      target: [5, 20, 5] as Vec3,
      orientation: lookFrom([1, 0, 0], [0, 0, 1]),
      height: 80,
    };
    // Seen from the right, the first spans x 100…150 px and the second 250…300.
    const box = { left: 90, right: 260, top: 100, bottom: 300 };
    expect(boxesOnScreen(side, PANE, box, false, onScreen)).toEqual([0]);
    expect(boxesOnScreen(side, PANE, box, true, onScreen)).toEqual([0, 1]);
    expect(
      boxesOnScreen(side, PANE, { left: 160, right: 240, top: 100, bottom: 300 }, true, onScreen),
    ).toEqual([]);
  });

  test('beside the model the nearest point of its silhouette is found; a fit reaches its last vertex', () => {
    const onScreen = components.map((c) => ({ placement: c.placement, box: part.box, bvh }));
    const found = nearestOnScreen(front, PANE, 10, 200, onScreen)!;
    expect(found[0]).toBeCloseTo(0, 9);
    expect(found[2]).toBeCloseTo(5, 6);
    const turned = placed([3, 4, 5], [1, 1, 0]);
    const reach = reachOfComponents([{ placement: turned, geometry: part }]);
    const d: Vec3 = [0.3, -2, 1];
    const exact = Math.max(
      ...Array.from({ length: 8 }, (_, i) => {
        const p = transformPoint(turned, [i & 1 ? 10 : 0, i & 2 ? 10 : 0, i & 4 ? 10 : 0]);
        return p[0] * d[0] + p[1] * d[1] + p[2] * d[2];
      }),
    );
    expect(reach(d)).toBeCloseTo(exact, 6);
  });
});

test('a line is seen in a rectangle that it crosses without an end or a corner in it; beside it, and behind the eye, it is not', () => {
  const camera: ViewCamera = {
    projection: 'orthographic',
    target: [0, 0, 0],
    orientation: [0, 0, 0, 1],
    height: 100,
    lens: 0.5,
  };
  const pane = { width: 200, height: 100 };
  const box = { left: 90, right: 110, top: 40, bottom: 60 };
  // Two px a millimetre, the middle at (100, 50), y downwards.
  expect(
    isSeenIn(camera, pane, box, [
      [-50, -20, 0],
      [50, 20, 0],
    ]),
  ).toBe(true);
  expect(
    isSeenIn(camera, pane, box, [
      [-50, 20, 0],
      [50, 21, 0],
    ]),
  ).toBe(false);
  // Across the corner's outside: its rectangle meets, the line does not.
  expect(
    isSeenIn(camera, pane, box, [
      [0, 25, 0],
      [25, 0, 0],
    ]),
  ).toBe(false);
  expect(
    isSeenIn(camera, pane, box, [
      [-90, -90, 0],
      [90, -90, 0],
      [0, 200, 0],
    ]),
  ).toBe(true);
  const near: ViewCamera = { ...camera, projection: 'perspective' };
  expect(
    isSeenIn(near, pane, box, [
      [0, 0, 1e4],
      [1, 0, 1e4],
    ]),
  ).toBe(false);
  expect(outlineOf(near, pane, [[0, 0, 1e4]])).toBeNull();
  expect(
    outlineOf(camera, pane, [
      [-10, 5, 0],
      [10, -5, 3],
    ]),
  ).toEqual({ left: 90, right: 110, top: 45, bottom: 55 });
});

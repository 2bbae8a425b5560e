import { lookFrom } from '../math/quaternion.ts';
import { IDENTITY } from '../math/mat4.ts';
import type { ViewCamera } from '../camera/view-camera.ts';
import { boxPart } from '../testing/box-part.ts';
import { boundsInView, gridFromMiddle } from './in-view.ts';
import { buildPartBvh, PickScene } from './pick-scene.ts';

const PANE = { width: 400, height: 300 };
const part = boxPart(20, 10, 6);
const scene = new PickScene(
  [{ part: 0, placement: IDENTITY }],
  new Map([[0, part]]),
  new Map([[0, buildPartBvh(part)]]),
);
/** From above, a little aslant: +Z, +X and −Y are seen. */
const camera: ViewCamera = {
  projection: 'orthographic',
  target: [10, 5, 3],
  orientation: lookFrom([0.4, -0.5, 1], [0, 1, 0]),
  height: 40,
  lens: 0.5,
};
const options = { pickable: () => true };

test('a pane is looked over from its middle outwards, all of it', () => {
  const grid = gridFromMiddle(PANE);
  expect(grid[0]).toMatchObject({ x: 200, y: 150 });
  const away = grid.map(({ x, y }) => Math.hypot(x - 200, y - 150));
  away.slice(1).forEach((a, i) => expect(a).toBeGreaterThanOrEqual(away[i] - 1e-9));
  expect(Math.max(...grid.map((g) => g.x))).toBeGreaterThan(PANE.width - 11);
  expect(Math.min(...grid.map((g) => g.y))).toBeLessThan(11);
});

test('of a face that is seen its four edges and corners are found, the nearest first; of what is covered or cut away nothing', () => {
  const top = scene.pick(camera, PANE, 200, 150, {
    ...options,
    kinds: { face: true, edge: false, vertex: false },
  })!;
  expect(top).toMatchObject({ kind: 'face', index: 5 });
  const bounds = boundsInView(scene, camera, PANE, { ...top, x: 200, y: 150 }, options);
  expect(
    bounds
      .filter((b) => b.kind === 'edge')
      .map((b) => b.index)
      .sort(),
  ).toEqual([...part.faces[5].edges].sort());
  expect(bounds.filter((b) => b.kind === 'vertex')).toHaveLength(4);
  const away = bounds.map((b) => Math.hypot(b.x - 200, b.y - 150));
  expect(away).toEqual([...away].sort((a, b) => a - b));
  // The face below is not seen: only what it has in common with those that are.
  const under = boundsInView(scene, camera, PANE, { ...top, index: 4, x: 200, y: 150 }, options);
  expect(under.length).toBeLessThan(8);
  // Cut across: the half that is left.
  const half = boundsInView(
    scene,
    camera,
    PANE,
    { ...top, x: 200, y: 150 },
    { ...options, cut: { planes: [{ normal: [-1, 0, 0], constant: -12 }], combine: 'any' } },
  );
  expect(half.every((b) => b.point[0] >= 12)).toBe(true);
  expect(half.length).toBeGreaterThan(0);
});

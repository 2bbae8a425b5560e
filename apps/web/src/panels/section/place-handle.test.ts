import { DEFAULT_LENS, pixelSizeAt, type ViewCamera } from '@bathyscope/core/camera';
import { dot, lookFrom, type Vec3 } from '@bathyscope/core/math';
import type { SectionPlane } from '@bathyscope/core/section';
import { ARM, placeHandle } from './place-handle.ts';

const box = { min: [0, 0, 0] as Vec3, max: [40, 20, 10] as Vec3 };
const size = { width: 800, height: 600 };
const plane: SectionPlane = {
  id: 'x',
  name: 'X',
  origin: [0, 0, 0],
  normal: [1, 0, 0],
  offset: 30,
  flipped: false,
  on: true,
};
const camera: ViewCamera = {
  projection: 'orthographic',
  target: [20, 10, 5],
  orientation: lookFrom([0, -1, 0], [0, 0, 1]),
  height: 60,
  lens: DEFAULT_LENS,
};

test('the handle sits in its plane amid what is shown; a pixel along its normal is as many mm as it looks', () => {
  const placed = placeHandle(box, plane, camera, size)!;
  expect(placed.at).toEqual([30, 10, 5]);
  // Seen from the front X runs to the right, and nothing of it is foreshortened.
  expect(placed.along[0]).toBeCloseTo(1, 9);
  expect(placed.mmPerPx).toBeCloseTo(60 / 600, 9);
  expect(placed.arm).toBeCloseTo(ARM * 0.1, 9);
  expect([dot(placed.u, plane.normal), dot(placed.v, plane.normal), dot(placed.u, placed.v)]).toEqual([
    expect.closeTo(0, 12),
    expect.closeTo(0, 12),
    expect.closeTo(0, 12),
  ]);
});

test('a normal that points at the eye is moved up and down; one panned away comes along', () => {
  const along = { ...camera, orientation: lookFrom([1, 0, 0], [0, 0, 1]) };
  const facing = placeHandle(box, plane, along, size)!;
  expect(facing.along).toEqual([0, -1]);
  expect(facing.mmPerPx).toBeCloseTo(pixelSizeAt(along, size, facing.at), 12);
  const panned = placeHandle(box, plane, { ...camera, target: [32, 10, 500] }, size)!;
  expect(panned.at).toEqual([30, 10, 500]);
});

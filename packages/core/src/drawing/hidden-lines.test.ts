import { frameOrientation, FRAMES, pipOrientation, TRIMETRIC } from '../camera/directions.ts';
import type { PartGeometry } from '../geometry/part-geometry.ts';
import { IDENTITY, type Mat4 } from '../math/mat4.ts';
import { boxPart } from '../testing/box-part.ts';
import { cylinderPart, spherePart } from '../testing/round-parts.ts';
import type { DrawnCurve, LineKind } from './drawing.ts';
import { hiddenLineDrawing } from './hidden-lines.ts';

const at = (x: number, y: number, z: number): Mat4 => [...IDENTITY.slice(0, 12), x, y, z, 1];
const trimetric = frameOrientation(TRIMETRIC, FRAMES.z);
const isometric = pipOrientation([1, 1, 1], FRAMES.z);
const front = pipOrientation([0, 1, 0], FRAMES.z);
const draw = (parts: [PartGeometry, Mat4][], orientation = trimetric, hidden = true) => hiddenLineDrawing(parts.map(([geometry, placement]) => ({ geometry, placement })), orientation, { hidden, smooth: false });
const count = (curves: readonly DrawnCurve[], kind: LineKind) => curves.filter((c) => c.kind === kind).length;
const length = (curves: readonly DrawnCurve[], kind: LineKind) => curves.filter((c) => c.kind === kind).reduce((sum, c) => sum + (c.shape === 'line' ? Math.hypot(c.to[0] - c.from[0], c.to[1] - c.from[1]) : c.shape === 'arc' ? c.radius * (c.to - c.from) : 0), 0);

test('a cube in a trimetric view shows 9 edges and hides 3', () => {
  const { curves } = draw([[boxPart(10, 10, 10), IDENTITY]]);
  expect([count(curves, 'visible'), count(curves, 'hidden')]).toEqual([9, 3]);
  expect(curves.every((c) => c.shape === 'line')).toBe(true);
});

test('in an isometric view no dash of a cube runs over a visible line', () => {
  const { curves } = draw([[boxPart(10, 10, 10), IDENTITY]], isometric);
  expect([count(curves, 'visible'), count(curves, 'hidden')]).toEqual([9, 3]);
  expect(length(curves, 'visible')).toBeCloseTo(90 * Math.sqrt(2 / 3), 6);
  // Front and back corner fall on one point; the hidden edges go to the other three corners of the hexagon.
  const lines = curves.flatMap((c) => (c.shape === 'line' ? [c] : []));
  for (const hidden of lines.filter((c) => c.kind === 'hidden'))
    for (const seen of lines.filter((c) => c.kind === 'visible'))
      for (const t of [0.25, 0.5, 0.75]) {
        const p = [0, 1].map((k) => hidden.from[k] + t * (hidden.to[k] - hidden.from[k]));
        const off = Math.abs((p[0] - seen.from[0]) * (seen.to[1] - seen.from[1]) - (p[1] - seen.from[1]) * (seen.to[0] - seen.from[0]));
        const beyond = (p[0] - seen.from[0]) * (p[0] - seen.to[0]) + (p[1] - seen.from[1]) * (p[1] - seen.to[1]);
        expect(off > 0.1 || beyond > 0.1).toBe(true);
      }
});

test('of two edges that lie behind each other only the visible one is drawn', () => {
  const { curves } = draw([[boxPart(10, 10, 10), IDENTITY]], front);
  expect([count(curves, 'visible'), count(curves, 'hidden')]).toEqual([4, 0]);
});

test('a cylinder from the front is a rectangle, from the top a circle', () => {
  const part = cylinderPart(5, 20);
  const side = draw([[part, IDENTITY]], front);
  expect(side.curves).toHaveLength(4);
  expect(side.curves.every((c) => c.shape === 'line' && c.kind === 'visible')).toBe(true);
  expect(length(side.curves, 'visible')).toBeCloseTo(2 * 10 + 2 * 20, 6);
  expect(side.box).toEqual({ minX: expect.closeTo(-5, 9), maxX: expect.closeTo(5, 9), minY: expect.closeTo(0, 9), maxY: expect.closeTo(20, 9) });
  const top = draw([[part, IDENTITY]], pipOrientation([0, 0, 1], FRAMES.z));
  const circle = top.curves.filter((c) => c.shape === 'arc');
  expect(circle).toHaveLength(1);
  expect(circle[0]).toMatchObject({ radius: 5, kind: 'visible' });
  expect(length(top.curves, 'visible')).toBeCloseTo(10 * Math.PI, 6);
});

test('the outline of a sphere is its circle, of a turned cylinder its two generators, on the exact surface', () => {
  const sphere = draw([[spherePart(8), IDENTITY]], trimetric, false);
  const points = sphere.curves.flatMap((c) => (c.shape === 'line' ? [c.from, c.to] : c.shape === 'polyline' ? c.points : []));
  expect(points.length).toBeGreaterThan(20);
  for (const [x, y] of points) expect(Math.hypot(x, y)).toBeCloseTo(8, 6);
  // Closed form: generators at ± the radius, of the projected length h·cos(elevation).
  const cylinder = draw([[cylinderPart(5, 20), IDENTITY]], trimetric, false);
  const generators = cylinder.curves.filter((c) => c.shape === 'line' && Math.abs(c.to[1] - c.from[1]) > 10) as { from: readonly [number, number]; to: readonly [number, number] }[];
  expect(generators.map((g) => g.from[0]).sort((a, b) => a - b)).toEqual([expect.closeTo(-5, 6), expect.closeTo(5, 6)]);
});

test('a cube behind a cube is hidden where the first stands before it', () => {
  const far = draw([[boxPart(10, 10, 10), IDENTITY], [boxPart(4, 4, 4), at(3, 20, 3)]], front);
  // The small one lies wholly behind: its square is dashed, once.
  expect(length(far.curves, 'hidden')).toBeCloseTo(16, 6);
  expect(length(far.curves, 'visible')).toBeCloseTo(40, 6);
  const half = draw([[boxPart(10, 10, 10), IDENTITY], [boxPart(10, 4, 4), at(5, 20, 3)]], front);
  // Half of it sticks out to the right.
  expect(length(half.curves, 'visible')).toBeCloseTo(40 + 5 + 5 + 4, 6);
  expect(length(half.curves, 'hidden')).toBeCloseTo(5 + 5 + 4, 6);
  const off = draw([[boxPart(10, 10, 10), IDENTITY], [boxPart(4, 4, 4), at(3, 20, 3)]], front, false);
  expect(count(off.curves, 'hidden')).toBe(0);
});

test('a mirrored cube and one far from the origin are drawn the same', () => {
  const mirrored: Mat4 = [-1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
  const { curves } = draw([[boxPart(10, 10, 10), mirrored]]);
  expect([count(curves, 'visible'), count(curves, 'hidden')]).toEqual([9, 3]);
  const shifted = draw([[boxPart(10, 10, 10), at(1000, -2000, 300)]]);
  expect([count(shifted.curves, 'visible'), count(shifted.curves, 'hidden')]).toEqual([9, 3]);
});

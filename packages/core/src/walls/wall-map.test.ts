import { boxPart } from '../testing/box-part.ts';
import { cylinderPart, turnedPart } from '../testing/round-parts.ts';
import type { PartGeometry } from '../geometry/part-geometry.ts';
import { isInside, meshGap, solidMesh } from '../interference/solid-mesh.ts';
import { largestBall, thicknessAt } from './inscribed-ball.ts';
import { wallAt, wallMap } from './wall-map.ts';
import { IDENTITY, type Mat4 } from '../math/mat4.ts';
import { patchDistance } from '../math/patch-distance.ts';
import { distance, pointAt, vecOf, type Vec3 } from '../math/vec3.ts';

const meshOf = (part: PartGeometry) => solidMesh(part.mesh, part.chordTolerance);

test('a plate is as thick as it is: along the normal, as a ball, and near an edge, where a ball is held by the side', () => {
  const plate = meshOf(boxPart(60, 40, 3));
  const { along, ball, facing } = thicknessAt(plate, [30, 20, 3], [0, 0, 1]);
  expect(along!.thickness).toBeCloseTo(3, 5);
  expect(ball.diameter).toBeCloseTo(3, 4);
  expect(facing).toBeCloseTo(-1, 6);
  // Exactly: the mesh of a plate is the plate, however coarse it may be elsewhere.
  expect(thicknessAt({ ...plate, chord: 0.5 }, [59, 20, 3], [0, 0, 1]).ball.diameter).toBeCloseTo(2, 4);
  const atEdge = thicknessAt(plate, [0.5, 20, 3], [0, 0, 1]);
  expect(atEdge.ball.diameter).toBeCloseTo(1, 4);
  expect(wallAt(plate, [0.5, 20, 3], [0, 0, 1])!.thickness).toBeCloseTo(3, 5);
  expect(largestBall(plate).diameter).toBeCloseTo(3, 4);
  const { thinnest, thickness, corners } = wallMap(plate);
  expect(thinnest!.thickness).toBeCloseTo(3, 4);
  expect(thickness.length).toBe(corners.length / 9);
  expect([...thickness].filter((x) => x < 2.99)).toHaveLength(0);
  // Pieces cover the whole of it.
  let area = 0;
  for (let i = 0; i < thickness.length; i++) {
    const [p, q, r] = [0, 1, 2].map((k) => pointAt(corners, 3 * i + k));
    const [u, v] = [q, r].map((s) => s.map((x, k) => x - p[k]));
    area += Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]) / 2;
  }
  expect(area).toBeCloseTo(2 * (60 * 40 + 60 * 3 + 40 * 3), 1);
});

test('a step of the thickness is drawn where it is, on the long triangles of a flat face too', () => {
  // 10 mm thick to a radius of 20, 3 mm from there to 40.
  const outline = [[1, 0], [40, 0], [40, 3], [20, 3], [20, 10], [1, 10]] as const; // prettier-ignore
  const { corners, thickness, range } = wallMap(meshOf(turnedPart(outline, 24)), undefined, {
    everywhere: 4000,
    atSteps: 6000,
  });
  const [thin, thick, lengths]: number[][] = [[], [], []];
  thickness.forEach((t, i) => {
    const [p, q, r] = [0, 1, 2].map((k) => pointAt(corners, 3 * i + k));
    lengths.push(distance(p, q), distance(q, r), distance(r, p));
    if (p[2] + q[2] + r[2] < 1e-6 && t > 0)
      (t < 5 ? thin : thick).push(Math.hypot(p[0] + q[0] + r[0], p[1] + q[1] + r[1]) / 3);
  });
  // A ball still touches the inner corner as an opposite wall up to 3 tan 30° beside it; sides of 24 come
  // 0.17 within their circle.
  expect(Math.min(...thin)).toBeGreaterThan(18.1);
  expect(Math.max(...thick)).toBeLessThan(20);
  expect(Math.max(...thick) - Math.min(...thin)).toBeLessThan(0.3);
  // Small everywhere: none is left as long as the mesh has it.
  expect(lengths.reduce((most, x) => Math.max(most, x))).toBeLessThan(6);
  // By area, however many small pieces there are beside the step: nearly all of it is 3 or 10 thick.
  expect(range[0]).toBeCloseTo(3, 1);
  expect(range[1]).toBeGreaterThan(9.5);
});

test('the largest ball in a rod is its diameter', () => {
  // Its sides are 0.011 mm off the round.
  const rod = solidMesh(cylinderPart(5, 40).mesh, 0.011);
  const { diameter } = largestBall(rod);
  // A lower bound: facets hold a ball that does not stand over their middle.
  expect(diameter).toBeLessThanOrEqual(10);
  expect(diameter).toBeGreaterThan(9.5);
});

test('the gap of two meshes is that of all their triangles, whichever is asked first; what is within is inside', () => {
  const [a, b] = [meshOf(cylinderPart(5, 20)), meshOf(boxPart(8, 6, 4))];
  const triangles = (m: ReturnType<typeof meshOf>, t: Mat4): Vec3[] =>
    [...m.indices].map((i) => {
      const [x, y, z] = pointAt(m.positions, i);
      return vecOf((r) => t[r] * x + t[4 + r] * y + t[8 + r] * z + t[12 + r]);
    });
  let seed = 7;
  const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647;
  for (let round = 0; round < 25; round++) {
    const [c, s] = [Math.cos(round), Math.sin(round)];
    const toA: Mat4 = [
      c,
      s,
      0,
      0,
      -s,
      c,
      0,
      0,
      0,
      0,
      1,
      0,
      30 * random() - 15,
      30 * random() - 15,
      40 * random() - 10,
      1,
    ];
    const exact = patchDistance(
      { triangles: triangles(a, IDENTITY) },
      { triangles: triangles(b, toA) },
    )!.distance;
    expect(meshGap(a, b, toA).distance).toBeCloseTo(exact, 4);
  }
  expect(isInside(b, [4, 3, 2])).toBe(true);
  expect(isInside(b, [4, 3, 4.01])).toBe(false);
  expect(isInside(b, [-0.01, 3, 2])).toBe(false);
});

import fc from 'fast-check';
import { DEFAULT_LENS, project } from '../camera/view-camera.ts';
import type { PartGeometry } from '../geometry/part-geometry.ts';
import { IDENTITY } from '../math/mat4.ts';
import { lookFrom } from '../math/quaternion.ts';
import { addScaled, cross, distance, dot, length, normalize, subtract, type Vec3 } from '../math/vec3.ts';
import { buildPartBvh, PickScene } from '../picking/pick-scene.ts';
import { boxPart } from '../testing/box-part.ts';
import { cylinderPart, spherePart } from '../testing/round-parts.ts';
import { derivedPoints, pointOnEdge, pointOnFace } from './derived-points.ts';
import { crossingOfEdges, snapPoints } from './snap-points.ts';

const PANE = { width: 400, height: 400 };
const top = (target: Vec3, height: number) => ({
  projection: 'orthographic' as const,
  target,
  orientation: lookFrom([0, 0, 1], [0, 1, 0]),
  height,
  lens: DEFAULT_LENS,
});

const sceneOf = (...parts: [PartGeometry, Vec3][]) =>
  new PickScene(
    parts.map(([, at], part) => ({ part, placement: [...IDENTITY.slice(0, 12), ...at, 1] })),
    new Map(parts.map(([part], i) => [i, part])),
    new Map(parts.map(([part], i) => [i, buildPartBvh(part)])),
  );

const kindsAt = (scene: PickScene, camera: ReturnType<typeof top>, point: Vec3) => {
  const { x, y } = project(camera, PANE, point);
  return snapPoints(scene, camera, PANE, x, y, { pickable: () => true });
};

test('of a straight edge its midpoint; of a circle its centre and its four quadrants along the axes', () => {
  expect(derivedPoints(boxPart(10, 20, 30), 0)).toEqual([
    { kind: 'midpoint', at: [5, 0, 0], accuracy: { kind: 'exact' } },
  ]);
  const round = cylinderPart(7, 20);
  const rim = round.edges.findIndex((e) => e.curve === 'circle' && e.centre![2] === 20);
  const points = derivedPoints(round, rim);
  expect(points.map((p) => p.kind)).toEqual(['centre', ...Array<string>(4).fill('quadrant')]);
  expect(points[0].at).toEqual([0, 0, 20]);
  const quadrants = points.slice(1).map((p) => p.at.map((x) => Math.round(x * 1e9) / 1e9 + 0));
  for (const at of [
    [7, 0, 20],
    [-7, 0, 20],
    [0, 7, 20],
    [0, -7, 20],
  ])
    expect(quadrants).toContainEqual(at);
});

test('of an arc the middle of its run, whichever way it runs, and only the quadrants on it', () => {
  const round = cylinderPart(5, 10);
  const rim = round.edges.findIndex((e) => e.curve === 'circle' && e.centre![2] === 10);
  const arc = (from: number, sweep: number): PartGeometry => {
    const n = 33;
    const at = (i: number) => from + (sweep * i) / (n - 1);
    const p = (a: number): Vec3 => [5 * Math.cos(a), 5 * Math.sin(a), 10];
    const start = round.edges.map((_, e) => (e <= rim ? 0 : n));
    return {
      ...round,
      edges: round.edges.map((e, i) =>
        i === rim ? { ...e, arcAngle: Math.abs(sweep), vertices: [0, 1] } : e,
      ),
      vertices: Float64Array.from([...p(at(0)), ...p(at(n - 1))]),
      lines: {
        positions: Float32Array.from(
          Array.from({ length: n }, (_, i) => p(at(i)).map((x, k) => x - round.origin[k])).flat(),
        ),
        start: Uint32Array.from([...start, n]),
      },
    };
  };
  fc.assert(
    fc.property(
      fc.double({ min: -3, max: 3, noNaN: true }),
      fc.double({ min: 0.2, max: 6, noNaN: true }),
      fc.boolean(),
      (from, size, back) => {
        const sweep = back ? -size : size;
        const points = derivedPoints(arc(from, sweep), rim);
        const middle = points.find((p) => p.kind === 'midpoint')!.at;
        const expected = from + sweep / 2;
        expect(distance(middle, [5 * Math.cos(expected), 5 * Math.sin(expected), 10])).toBeLessThan(1e-9);
        const [low, high] = [Math.min(from, from + sweep), Math.max(from, from + sweep)];
        const inside = [-4, -3, -2, -1, 0, 1, 2, 3, 4, 5, 6].filter(
          (q) => low + 1e-6 < (q * Math.PI) / 2 && (q * Math.PI) / 2 < high - 1e-6,
        );
        expect(points.filter((p) => p.kind === 'quadrant').length).toBeGreaterThanOrEqual(
          Math.min(4, inside.length),
        );
        for (const { at } of points.filter((p) => p.kind === 'quadrant'))
          expect(Math.min(Math.abs(at[0]), Math.abs(at[1]))).toBeLessThan(1e-9);
      },
    ),
    { numRuns: 60 },
  );
});

test('points on edges and faces lie on the exact curve and surface, not on their mesh', () => {
  const round = cylinderPart(7, 20);
  const rim = round.edges.findIndex((e) => e.curve === 'circle');
  fc.assert(
    fc.property(
      fc.double({ min: -4, max: 4, noNaN: true }),
      fc.double({ min: 1, max: 19, noNaN: true }),
      (angle, z) => {
        const off = 7 * Math.cos(0.01);
        const on = pointOnEdge(round, rim, [
          off * Math.cos(angle),
          off * Math.sin(angle),
          round.edges[rim].centre![2],
        ]);
        expect(Math.hypot(on.at[0], on.at[1])).toBeCloseTo(7, 9);
        const wall = round.faces.findIndex((f) => f.surface === 'cylinder');
        const face = pointOnFace(round, wall, [off * Math.cos(angle), off * Math.sin(angle), z]);
        expect(Math.hypot(face.at[0], face.at[1])).toBeCloseTo(7, 9);
        expect(face.at[2]).toBeCloseTo(z, 9);
        expect(face.accuracy).toEqual({ kind: 'exact' });
      },
    ),
  );
  const ball = spherePart(5);
  expect(length(pointOnFace(ball, 0, [2.88, 2.88, 2.88]).at)).toBeCloseTo(5, 9);
});

test('a point of a cone is the foot on it: square to its generating line', () => {
  const cylinder = cylinderPart(7, 20);
  const wall = cylinder.faces.findIndex((f) => f.surface === 'cylinder');
  fc.assert(
    fc.property(
      fc.double({ min: -1.2, max: 1.2, noNaN: true }),
      fc.double({ min: -3, max: 3, noNaN: true }),
      fc.double({ min: 0, max: 6, noNaN: true }),
      (semiAngle, h, turn) => {
        const face = {
          ...cylinder.faces[wall],
          surface: 'cone' as const,
          semiAngle,
          radius: 20,
          origin: [1, 2, 3] as Vec3,
          axis: [0, 0, 1] as Vec3,
        };
        const part = {
          ...cylinder,
          chordTolerance: 1,
          faces: cylinder.faces.map((f, i) => (i === wall ? face : f)),
        };
        const r = 20 + h * Math.tan(semiAngle);
        const normal: Vec3 = [
          Math.cos(semiAngle) * Math.cos(turn),
          Math.cos(semiAngle) * Math.sin(turn),
          -Math.sin(semiAngle),
        ];
        const exact: Vec3 = [1 + r * Math.cos(turn), 2 + r * Math.sin(turn), 3 + h];
        const near = addScaled(exact, normal, -0.05);
        expect(distance(pointOnFace(part, wall, near).at, exact)).toBeLessThan(1e-9);
      },
    ),
  );
});

test('near a midpoint that comes first; beside it the nearest point of the edge; on a face the face; what is covered is not offered', () => {
  const scene = sceneOf([boxPart(10, 10, 10), [0, 0, 0]]);
  const camera = top([5, 5, 10], 20);
  expect(kindsAt(scene, camera, [5.1, 0, 10])[0]).toMatchObject({
    kind: 'point',
    snap: { kind: 'midpoint' },
    point: [5, 0, 10],
  });
  const beside = kindsAt(scene, camera, [3, 0.1, 10])[0];
  expect(beside).toMatchObject({ snap: { kind: 'on edge' } });
  expect(beside.point).toEqual([3, 0, 10]);
  expect(kindsAt(scene, camera, [4, 4, 10]).map((h) => h.snap!.kind)).toEqual(['on face']);
  expect(kindsAt(scene, camera, [0.1, 0.1, 10])[0]).toMatchObject({ kind: 'vertex', point: [0, 0, 10] });
  // The lower edges lie beneath the upper ones and are never meant.
  for (const hit of kindsAt(scene, camera, [5.1, 0, 10])) expect(hit.point[2]).toBe(10);
});

test('the centre of a circle is offered at its rim and in its middle', () => {
  const scene = sceneOf([cylinderPart(5, 10), [0, 0, 0]]);
  const camera = top([0, 0, 10], 20);
  const atRim = kindsAt(scene, camera, [5 * Math.cos(0.7), 5 * Math.sin(0.7), 10]).map((h) => h.snap?.kind);
  expect(atRim).toContain('centre');
  expect(atRim[0]).toBe('on edge');
  expect(kindsAt(scene, camera, [5, 0.05, 10])[0]).toMatchObject({ snap: { kind: 'quadrant' } });
  expect(kindsAt(scene, camera, [0.1, 0.1, 10])[0]).toMatchObject({
    snap: { kind: 'centre' },
    point: [0, 0, 10],
  });
});

test('where edges of two parts meet in space there is an intersection; where they only seem to, none', () => {
  // A smaller box on a larger one: its lower edge crosses none, one that overhangs crosses the
  // upper edge of the other.
  const [big, small] = [boxPart(10, 10, 10), boxPart(4, 4, 4)];
  // From the front and above, so that both edges are seen.
  const camera = { ...top([8, 3, 10], 24), orientation: lookFrom([0, -1, 1], [0, 0, 1]) };
  const touching = sceneOf([big, [0, 0, 0]], [small, [8, 3, 10]]);
  const found = kindsAt(touching, camera, [10, 3, 10]).filter((h) => h.snap?.kind === 'intersection');
  expect(found).toHaveLength(1);
  expect(distance(found[0].point, [10, 3, 10])).toBeLessThan(1e-9);
  const apart = sceneOf([big, [0, 0, 0]], [small, [8, 3, 11]]);
  expect(kindsAt(apart, camera, [10, 3, 10]).filter((h) => h.snap?.kind === 'intersection')).toEqual([]);
});

test('an intersection is exact where both edges are; with a free curve it is known within the chord', () => {
  const [big, small] = [boxPart(10, 10, 10), boxPart(4, 4, 4)];
  const edgeAlong = (part: PartGeometry, from: Vec3, to: Vec3): number =>
    part.edges.findIndex(({ vertices }) => {
      const ends = vertices.map((v) => [0, 1, 2].map((k) => part.vertices[3 * v + k]).join());
      return ends.includes(from.join()) && ends.includes(to.join());
    });
  const [e, f] = [edgeAlong(big, [10, 0, 10], [10, 10, 10]), edgeAlong(small, [0, 0, 0], [4, 0, 0])];
  const placed = (geometry: PartGeometry, [x, y, z]: Vec3) => ({
    geometry,
    placement: [...IDENTITY.slice(0, 12), x, y, z, 1],
  });
  const free = {
    ...small,
    chordTolerance: 0.01,
    edges: small.edges.map((edge) => ({ ...edge, curve: 'freeform' as const })),
  };
  const crossing = (other: PartGeometry) =>
    crossingOfEdges(placed(big, [0, 0, 0]), e, placed(other, [8, 3, 10]), f, [9, 3, 10]);
  expect(crossing(small)).toEqual({
    at: [expect.closeTo(10, 9), expect.closeTo(3, 9), 10],
    accuracy: { kind: 'exact' },
  });
  expect(crossing(free)).toMatchObject({ accuracy: { kind: 'recognised', deviation: 0.01 } });
});

test('what is square to an axis is its circle’s frame, at any tilt', () => {
  fc.assert(
    fc.property(
      fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -1, max: 1, noNaN: true }))),
      ([x, y, z]) => {
        fc.pre(Math.hypot(x, y, z) > 0.1);
        const axis = normalize([x, y, z]);
        const round = cylinderPart(3, 5);
        const rim = round.edges.findIndex((e) => e.curve === 'circle');
        const turned = {
          ...round,
          edges: round.edges.map((e, i) => (i === rim ? { ...e, axis, centre: [1, 2, 3] as Vec3 } : e)),
        };
        const points = derivedPoints(turned, rim).filter((p) => p.kind === 'quadrant');
        expect(points).toHaveLength(4);
        for (const { at } of points) {
          expect(distance(at, [1, 2, 3])).toBeCloseTo(3, 9);
          expect(dot(subtract(at, [1, 2, 3]), axis)).toBeCloseTo(0, 9);
        }
        const [a, b] = points.map((p) => subtract(p.at, [1, 2, 3]));
        expect(length(cross(a, b))).toBeCloseTo(9, 8);
      },
    ),
  );
});

import type { FaceFacts } from '../geometry/part-geometry.ts';
import type { RingMesh } from '../geometry/ring-mesh.ts';
import { add, addScaled, cross, dot, normalize, pointAt, scale, subtract, type Vec3 } from '../math/vec3.ts';
import { meshWithinChord } from './mesh-within-chord.ts';
import { roundSurface } from './round-surface.ts';

/* Closed forms of sphere and torus; what a mesh is by counting. */

const CENTRE: Vec3 = [300, -20, 7];
const AXIS = normalize([1, 2, 3]);
const X = normalize(cross(AXIS, [0, 0, 1]));
const Y = cross(AXIS, X);
const face = (facts: Partial<FaceFacts>) => ({ origin: CENTRE, axis: AXIS, ...facts }) as FaceFacts;
const TORUS = face({ surface: 'torus', radius: 30, minorRadius: 10 });
const SPHERE = face({ surface: 'sphere', radius: 20 });

const around = (angle: number): Vec3 => add(scale(X, Math.cos(angle)), scale(Y, Math.sin(angle)));
/** Its point and outward normal at two angles: round the axis, and from the plane across it. */
function onSurface(
  { surface, radius, minorRadius }: FaceFacts,
  u: number,
  v: number,
): { point: Vec3; normal: Vec3 } {
  const normal = add(scale(around(u), Math.cos(v)), scale(AXIS, Math.sin(v)));
  const from = surface === 'torus' ? addScaled(CENTRE, around(u), radius!) : CENTRE;
  return { point: addScaled(from, normal, surface === 'torus' ? minorRadius! : radius!), normal };
}

/**
 * Rows and columns over a rectangle of angles, every second diagonal the wrong way;
 * inside out where side is −1.
 */
function rowsAndColumns(
  facts: FaceFacts,
  [u0, u1]: number[],
  [v0, v1]: number[],
  columns: number,
  rows: number,
  side = 1,
): RingMesh {
  const positions: number[] = [];
  const normals: number[] = [];
  const indices: number[] = [];
  for (let j = 0; j <= rows; j++)
    for (let i = 0; i <= columns; i++) {
      const { point, normal } = onSurface(facts, u0 + ((u1 - u0) * i) / columns, v0 + ((v1 - v0) * j) / rows);
      positions.push(...point);
      normals.push(...scale(normal, side));
      if (i === columns || j === rows) continue;
      const [a, b, c, d] = [j, j, j + 1, j + 1].map(
        (row, k) => row * (columns + 1) + i + (k === 1 || k === 2 ? 1 : 0),
      );
      const quad = (i + j) % 2 ? [a, b, c, a, c, d] : [a, b, d, b, c, d];
      indices.push(...(side > 0 ? quad : quad.reverse()));
    }
  return {
    positions: Float64Array.from(positions),
    normals: Float32Array.from(normals),
    indices: Uint32Array.from(indices),
  };
}

const cornersOf = (mesh: RingMesh) =>
  Array.from({ length: mesh.indices.length / 3 }, (_, t) =>
    [0, 1, 2].map((k) => pointAt(mesh.positions, mesh.indices[3 * t + k])),
  );

/** mm: how far the triangles are from the surface at 21 points of each. */
function worst(mesh: RingMesh, facts: FaceFacts): number {
  const surface = roundSurface(facts)!;
  let most = 0;
  for (const [a, b, c] of cornersOf(mesh))
    for (let i = 0; i <= 5; i++)
      for (let j = 0; i + j <= 5; j++) {
        const [x, y, z] = addScaled(addScaled(scale(a, (5 - i - j) / 5), b, i / 5), c, j / 5);
        most = Math.max(most, surface.distance(x, y, z));
      }
  return most;
}

/**
 * The edges that have a triangle on one side only, as text; throws where one has more than
 * two or two turned alike.
 */
function outline(mesh: RingMesh): string[] {
  const name = (v: number) =>
    pointAt(mesh.positions, v)
      .map((x) => x.toFixed(9))
      .join(' ');
  const found = new Set<string>();
  for (let t = 0; t < mesh.indices.length; t += 3)
    for (let k = 0; k < 3; k++) {
      const [a, b] = [name(mesh.indices[t + k]), name(mesh.indices[t + ((k + 1) % 3)])];
      if (found.has(`${a}|${b}`)) throw new Error('Two triangles lie on the same side of an edge.');
      found.add(`${a}|${b}`);
    }
  return [...found].filter((edge) => !found.has(edge.split('|').reverse().join('|'))).sort();
}

const cases: [string, FaceFacts, number[], number[], number, number, number][] = [
  ['a fillet’s quarter of a torus', TORUS, [0.2, 4.1], [0.1, 0.1 + Math.PI / 2], 70, 20, 1],
  ['the inside of one, which looks to the circle of the tube', TORUS, [0, 2], [2, 4], 60, 20, -1],
  ['the outer half, in too many rows', TORUS, [0, 3], [-1.5, 1.5], 20, 150, 1],
  ['a cap of a sphere', SPHERE, [0, 3], [0.1, 1.2], 45, 45, 1],
];

test.each(cases)(
  '%s: within the chord everywhere, with fewer triangles, on the outline that it had',
  (_, facts, u, v, columns, rows, side) => {
    const chord = 0.05;
    const before = rowsAndColumns(facts, u, v, columns, rows, side);
    const after = meshWithinChord(before, roundSurface(facts)!, chord, 0.25);
    expect(worst(before, facts)).toBeGreaterThan(0);
    // Between the points that are looked at, the middle and those of its sides, a triangle
    // reaches hardly farther out.
    expect(worst(after, facts)).toBeLessThan(chord * 1.25);
    expect(after.indices.length).toBeLessThan(0.75 * before.indices.length);
    expect(outline(after)).toEqual(outline(before));
    const surface = roundSurface(facts)!;
    let [off, lean, turn] = [0, 1, 1];
    cornersOf(after).forEach(([a, b, c], t) => {
      const { point, normal } = surface.nearest(a);
      off = Math.max(off, surface.distance(...a), surface.distance(...point));
      lean = Math.min(lean, side * dot(normalize(cross(subtract(b, a), subtract(c, a))), normal));
      turn = Math.min(turn, side * dot(pointAt(after.normals, after.indices[3 * t]), normal));
    });
    expect(off).toBeLessThan(1e-9);
    expect(lean).toBeGreaterThan(0.6);
    expect(turn).toBeGreaterThan(1 - 1e-6);
  },
);

test('what is too coarse is split until it keeps within the chord; small radii keep the angle', () => {
  const coarse = rowsAndColumns(TORUS, [0, 3], [0, 3], 60, 6);
  expect(worst(coarse, TORUS)).toBeGreaterThan(0.2);
  const fine = meshWithinChord(coarse, roundSurface(TORUS)!, 0.05, 0.25);
  // The rows of the outline, six of them, stay as far off as they are; within, nothing is.
  const name = (p: Vec3) => p.map((x) => x.toFixed(9)).join(' ');
  const rim = new Set(outline(fine).flatMap((edge) => edge.split('|')));
  const inner = cornersOf(fine).filter((corners) => !corners.some((p) => rim.has(name(p))));
  expect(inner.length).toBeGreaterThan(200);
  const packed = inner.flat();
  const within: RingMesh = {
    positions: Float64Array.from(packed.flat()),
    normals: new Float32Array(),
    indices: Uint32Array.from(packed.map((_, i) => i)),
  };
  expect(worst(within, TORUS)).toBeLessThan(0.05 * 1.25);

  // A chord as long as the part asks for nothing; the angle still does.
  const small = meshWithinChord(
    rowsAndColumns(SPHERE, [0, 3], [-1, 1], 60, 40),
    roundSurface(SPHERE)!,
    100,
    0.25,
  );
  const turns = Array.from(small.indices, (v, t) => {
    const [n, m] = [v, small.indices[t % 3 === 2 ? t - 2 : t + 1]].map((i) => pointAt(small.normals, i));
    return Math.acos(Math.min(1, dot(n, m)));
  });
  expect(Math.max(...turns)).toBeLessThan(0.25 * 1.5);
  expect(small.indices.length / 3).toBeGreaterThan(150);
});

test('a face whose outline lies off its surface stays as it is', () => {
  const before = rowsAndColumns(SPHERE, [0, 3], [0.1, 1.2], 20, 20);
  expect(meshWithinChord(before, roundSurface({ ...SPHERE, radius: 20.2 })!, 0.3, 0.25)).toBe(before);
});

test('a torus that runs through itself, and what curves one way, are left to the mesher', () => {
  expect(roundSurface(face({ surface: 'torus', radius: 5, minorRadius: 5 }))).toBeNull();
  expect(roundSurface(face({ surface: 'cylinder', radius: 5 }))).toBeNull();
});

import type { PartGeometry } from '@bathyscope/core/geometry';
import { add, addScaled, distance, dot, pointAt, subtract, type Vec3 } from '@bathyscope/core/math';
import { MESH_CHORD_RELATIVE } from '@bathyscope/core/tolerances';
import { describePart } from './describe-part.ts';
import type { Occt } from '../occt/load.ts';
import { madeSolids, type MadeSolids } from '../testing/made-solids.ts';
import { testKernel } from '../testing/test-kernel.ts';

/*
 * What is told of how far a mesh lies from the shape, against distances in closed form at random
 * places of its triangles.
 */

let oc: Occt;
let made: MadeSolids;
beforeAll(async () => {
  ({ oc } = await testKernel());
  made = madeSolids(oc);
});

/**
 * Parts that each side of a triangle is divided into; none of the places is one of those that the bound was
 * found at, but for the middles.
 */
const PARTS = 10;

/** mm: the farthest of many places of the triangles of some faces from where they should be. */
function farthest(
  { mesh: { positions, indices, faceStart }, origin }: PartGeometry,
  faces: number[],
  off: (p: Vec3) => number,
): number {
  let most = 0;
  for (const f of faces)
    for (let t = faceStart[f]; t < faceStart[f + 1]; t++) {
      const corners = [0, 1, 2].map((k) => add(pointAt(positions, indices[3 * t + k]), origin));
      for (let i = 0; i <= PARTS; i++)
        for (let j = 0; i + j <= PARTS; j++) {
          const shares = [i, j, PARTS - i - j].map((n) => n / PARTS);
          most = Math.max(
            most,
            off(corners.reduce((sum, c, k) => addScaled(sum, c, shares[k]), [0, 0, 0] as Vec3)),
          );
        }
    }
  return most;
}

const fromAxis = (p: Vec3): number => Math.hypot(p[0], p[1]);
const allOf = (part: PartGeometry, kinds: string[]) =>
  part.faces.flatMap((f, i) => (kinds.includes(f.surface) ? [i] : []));

const CASES: [string, () => Occt, string[], (p: Vec3) => number][] = [
  ...(
    [
      [20, 5, 60],
      [20, 0.5, 10],
      [30, 29, 80],
    ] as const
  ).map(([below, above, height]): [string, () => Occt, string[], (p: Vec3) => number] => {
    const angle = Math.atan2(below - above, height);
    return [
      `a cone of B-splines, ${below} to ${above} over ${height}`,
      () => made.asSplines(made.cone([0, 0, 0], below, above, height)),
      ['cone'],
      (p) => Math.abs(fromAxis(p) - below + ((below - above) * p[2]) / height) * Math.cos(angle),
    ];
  }),
  [
    'a cylinder of B-splines',
    () => made.asSplines(made.cylinder([0, 0, 0], 20, 60)),
    ['cylinder'],
    (p) => Math.abs(fromAxis(p) - 20),
  ],
  [
    'a torus',
    () => made.torus([0, 0, 0], 30, 8),
    ['torus'],
    (p) => Math.abs(Math.hypot(fromAxis(p) - 30, p[2]) - 8),
  ],
  [
    'a sphere of B-splines',
    () => made.asSplines(made.sphere([0, 0, 0], 20)),
    ['sphere'],
    (p) => Math.abs(distance(p, [0, 0, 0]) - 20),
  ],
  [
    'an extruded ellipse',
    () =>
      made.extruded(
        [0, 0, 30],
        [{ kind: 'conic', centre: [0, 0], a: [18, 0], b: [0, 9], from: 0, to: 2 * Math.PI }],
      ),
    ['extrusion'],
    fromEllipse,
  ],
];

/** From the ellipse of half axes 18 and 9, by stepping towards the foot. */
function fromEllipse([x, y]: Vec3): number {
  let t = Math.atan2(y / 9, x / 18);
  for (let i = 0; i < 30; i++) {
    const [px, py, dx, dy] = [18 * Math.cos(t), 9 * Math.sin(t), -18 * Math.sin(t), 9 * Math.cos(t)];
    t += ((x - px) * dx + (y - py) * dy) / (dx * dx + dy * dy - (x - px) * -px - (y - py) * -py);
  }
  return Math.hypot(x - 18 * Math.cos(t), y - 9 * Math.sin(t));
}

test.each(CASES)(
  '%s: its mesh is nowhere farther off than is told, and not farther than was asked',
  (_, make, kinds, off) => {
    const shape = make();
    const box = new oc.Bnd_Box_1();
    oc.BRepBndLib.Add(shape, box, false);
    const asked = MESH_CHORD_RELATIVE * (box.CornerMin().Distance(box.CornerMax()) as number);
    const part = describePart(oc, shape);
    const found = farthest(part, allOf(part, kinds), off);
    expect(found).toBeGreaterThan(0.3 * part.chordTolerance);
    expect(found).toBeLessThanOrEqual(part.chordTolerance);
    expect(part.chordTolerance).toBeLessThanOrEqual(asked * 1.001);
    // Where triangles were added neighbours still meet: nothing was put onto the outlines.
    if (kinds.includes('cone')) expect(openEdges(part)).toBe(0);
  },
);

/** How many sides of triangles have none on the other side. */
function openEdges({ mesh: { positions, indices } }: PartGeometry): number {
  const key = (i: number) =>
    pointAt(positions, i)
      .map((x) => x.toFixed(3))
      .join();
  const sides = new Map<string, number>();
  for (let t = 0; t < indices.length; t += 3)
    for (let k = 0; k < 3; k++) {
      const ends = [key(indices[t + k]), key(indices[t + ((k + 1) % 3)])];
      if (ends[0] !== ends[1]) sides.set(ends.sort().join(), (sides.get(ends.join()) ?? 0) + 1);
    }
  return [...sides.values()].filter((n) => n !== 2).length;
}

test('a box is met by its mesh to single precision', () => {
  const part = describePart(oc, made.turned(made.box([0, 0, 0], [40, 30, 8]), [0.48, 0.6, 0.64], 1));
  expect(part.chordTolerance).toBeGreaterThan(0);
  expect(part.chordTolerance).toBeLessThan(1e-5);
  const faces = part.faces.map((_, f) => f);
  for (const f of faces)
    expect(
      farthest(part, [f], (p) => Math.abs(dot(subtract(p, part.faces[f].origin!), part.faces[f].axis!))),
    ).toBeLessThanOrEqual(part.chordTolerance);
});

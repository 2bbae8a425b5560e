import { TINY } from '../tolerances.ts';
import { transformBox, type Box3 } from '../math/box3.ts';
import { multiply, transformDirection, transformPoint, IDENTITY, type Mat4 } from '../math/mat4.ts';
import { pointAt, type Vec3 } from '../math/vec3.ts';
import { boxWithin, knownBox } from './exact-box.ts';
import type { PartGeometry } from './part-geometry.ts';

/**
 * The box of a placed part: the part's own box for turns by quarter turns, else found
 * anew from the turned shape.
 */
export const placedBox = (part: PartGeometry, m: Mat4): Box3 => placedBoxKnown(part, m).box;

/** The same, and how much farther the placed part may reach, mm; 0 where that is exact. */
export function placedBoxKnown(part: PartGeometry, m: Mat4): ReturnType<typeof knownBox> {
  if (isAxisAligned(m)) return { box: transformBox(m, part.box), within: part.boxWithin ?? 0 };
  const { box, within } = turnedBox(part, m);
  return { box, within: Math.max(within, boxWithin(part)) };
}

function turnedBox(part: PartGeometry, m: Mat4): ReturnType<typeof knownBox> {
  const local = multiply(m, [...IDENTITY.slice(0, 12), ...part.origin, 1]);
  const point = (p: Vec3 | undefined) => p && transformPoint(m, p);
  const direction = (d: Vec3 | undefined) => d && transformDirection(m, d);
  return knownBox({
    origin: [0, 0, 0],
    mesh: { ...part.mesh, positions: turn(part.mesh.positions, local) },
    lines: { ...part.lines, positions: turn(part.lines.positions, local) },
    vertices: turn(part.vertices, m),
    faces: part.faces.map((f) => ({ ...f, origin: point(f.origin), axis: direction(f.axis) })),
    edges: part.edges.map((e) => ({
      ...e,
      centre: point(e.centre),
      axis: direction(e.axis),
      major: direction(e.major),
    })),
    chordTolerance: part.chordTolerance,
  });
}

function isAxisAligned(m: Mat4): boolean {
  const linear = [m[0], m[1], m[2], m[4], m[5], m[6], m[8], m[9], m[10]].map(Math.abs);
  return linear.filter((x) => x > TINY).length === 3;
}

/** In double precision: single counts in half millimetres a few kilometres away. */
function turn(flat: ArrayLike<number>, m: Mat4): Float64Array {
  const out = new Float64Array(flat.length);
  for (let i = 0; i < flat.length / 3; i++) out.set(transformPoint(m, pointAt(flat, i)), 3 * i);
  return out;
}

import type { FaceFacts, PartGeometry } from '../geometry/part-geometry.ts';
import { COAXIAL_RELATIVE, PARALLEL_ANGLE } from '../tolerances.ts';
import { cross, dot, length, subtract } from '../math/vec3.ts';

const close = (a: number, b: number): boolean =>
  Math.abs(a - b) <= Math.max(Math.abs(a), Math.abs(b)) * COAXIAL_RELATIVE;

/**
 * The faces of the same kind and radius: all holes of one drill, all fillets of one size. Empty for faces
 * without a radius.
 */
export function facesOfSameRadius(part: PartGeometry, index: number): number[] {
  const face = part.faces[index];
  const size = radiusOf(face);
  if (size === undefined) return [];
  return part.faces.flatMap((f, i) =>
    f.surface === face.surface &&
    f.concave === face.concave &&
    radiusOf(f) !== undefined &&
    close(radiusOf(f)!, size)
      ? [i]
      : [],
  );
}

/** Of a torus the tube counts: that is what a fillet is called by. */
const radiusOf = (f: FaceFacts): number | undefined =>
  f.surface === 'torus'
    ? f.minorRadius
    : f.surface === 'cylinder' || f.surface === 'sphere'
      ? f.radius
      : undefined;

/** The faces reached from one over smooth edges only, itself included. */
export function tangentFaces(part: PartGeometry, index: number): number[] {
  const found = [index];
  const seen = new Set(found);
  for (const f of found)
    for (const e of part.faces[f].edges) {
      if (!part.edges[e].smooth && !part.edges[e].seam) continue;
      for (const other of part.edges[e].faces)
        if (!seen.has(other)) {
          seen.add(other);
          found.push(other);
        }
    }
  return found;
}

/** The turned faces that share the axis of one, itself included; empty when it has no axis. */
export function coaxialFaces(part: PartGeometry, index: number): number[] {
  const face = part.faces[index];
  const turned = (f: FaceFacts) => ['cylinder', 'cone', 'torus'].includes(f.surface) && f.axis && f.origin;
  if (!turned(face)) return [];
  return part.faces.flatMap((f, i) => {
    if (!turned(f) || length(cross(f.axis!, face.axis!)) > PARALLEL_ANGLE) return [];
    const off = subtract(f.origin!, face.origin!);
    const across = Math.sqrt(Math.max(0, dot(off, off) - dot(off, face.axis!) ** 2));
    return across <= Math.max(f.radius ?? 1, face.radius ?? 1) * COAXIAL_RELATIVE ? [i] : [];
  });
}

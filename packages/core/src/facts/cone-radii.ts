import type { PartGeometry } from '../geometry/part-geometry.ts';
import { cross, dot, length, pointAt, subtract, type Vec3 } from '../math/vec3.ts';
import { ALONG_AXIS } from '../tolerances.ts';

/**
 * The largest and smallest radius of a conical face, mm: where it ends, not the reference circle that its
 * cone is stored by.
 * Exact where it ends in circles about its axis or in its tip; else of the points that stand for its outline.
 */
export function coneRadii(
  part: PartGeometry,
  face: number,
): { largest: number; smallest: number; exact: boolean } {
  const { origin, axis, edges } = part.faces[face];
  const around = (p: Vec3): number => length(cross(subtract(p, origin!), axis!));
  const radii: number[] = [];
  let exact = true;
  for (const e of edges) {
    const edge = part.edges[e];
    const coaxial =
      edge.curve === 'circle' && edge.axis && edge.radius && Math.abs(dot(edge.axis, axis!)) > 1 - ALONG_AXIS;
    if (coaxial) radii.push(edge.radius!);
    else {
      const { start, positions } = part.lines;
      for (let i = start[e]; i < start[e + 1]; i++) {
        const p = pointAt(positions, i);
        radii.push(around([p[0] + part.origin[0], p[1] + part.origin[1], p[2] + part.origin[2]]));
      }
      // A ruling ends where circles are, or in the tip.
      exact &&= edge.curve === 'line';
    }
  }
  return { largest: Math.max(...radii), smallest: Math.min(...radii), exact };
}

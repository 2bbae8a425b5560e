import type { EdgeFacts, PartGeometry } from '../geometry/part-geometry.ts';
import { cross, distance, length } from '../math/vec3.ts';
import { COAXIAL_RELATIVE, PARALLEL_ANGLE } from '../tolerances.ts';

/**
 * Vertices that are no corners: where only edges meet that are not drawn, or where one
 * circle or one line goes on.
 */
export function jointVertices({ edges }: Pick<PartGeometry, 'edges'>): ReadonlySet<number> {
  const at = new Map<number, EdgeFacts[]>();
  for (const edge of edges)
    for (const v of new Set(edge.vertices))
      at.set(v, [...(at.get(v) ?? []), ...(edge.smooth || edge.seam ? [] : [edge])]);
  return new Set(
    [...at].flatMap(([v, [first, ...others]]) =>
      !first ||
      (others.length < 2 && others.every((e) => goesOn(first, e)) && (others.length > 0 || isClosed(first)))
        ? [v]
        : [],
    ),
  );
}

const isClosed = ({ vertices }: EdgeFacts): boolean => new Set(vertices).size === 1;

function goesOn(a: EdgeFacts, b: EdgeFacts): boolean {
  if (a.curve !== b.curve || !a.axis || !b.axis || length(cross(a.axis, b.axis)) > PARALLEL_ANGLE)
    return false;
  if (a.curve === 'line') return true;
  return (
    a.curve === 'circle' &&
    distance(a.centre!, b.centre!) <= a.radius! * COAXIAL_RELATIVE &&
    Math.abs(a.radius! - b.radius!) <= a.radius! * COAXIAL_RELATIVE
  );
}

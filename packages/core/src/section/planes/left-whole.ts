import { boxCorners, transformBox } from '../../math/box3.ts';
import { transformPoint } from '../../math/mat4.ts';
import { heightOver, isTaken, type Combination, type Plane } from '../../math/plane.ts';
import { pointAt } from '../../math/vec3.ts';
import type { CutInput } from '../mesh/cut-components.ts';

/**
 * Whether a component that is kept whole is seen: a plane may pass through it or leave it, but what lies
 * altogether on the removed side goes with it. Common drawing practice: the bolt in the cut is drawn whole,
 * the one before it is not.
 */
export const isLeftWhole = (component: CutInput, planes: readonly Plane[], combine: Combination): boolean =>
  !isTaken(planes, combine, (plane) => isRemoved(component, plane));

/** By the box first; only where that is not enough by the vertices of the mesh. */
function isRemoved({ geometry, placement, stored }: CutInput, plane: Plane): boolean {
  const corners = boxCorners(transformBox(placement, geometry.box)).map((p) => heightOver(plane, p));
  if (Math.max(...corners) < 0) return false;
  if (Math.min(...corners) >= 0) return true;
  const { positions } = geometry.mesh;
  for (let v = 0; v < positions.length / 3; v++)
    if (heightOver(plane, transformPoint(stored, pointAt(positions, v))) < 0) return false;
  return true;
}

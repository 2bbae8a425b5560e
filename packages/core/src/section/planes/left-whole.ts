import { boxCorners, transformBox } from '../../math/box3.ts';
import { transformPoint } from '../../math/mat4.ts';
import { dot, pointAt } from '../../math/vec3.ts';
import type { CutInput } from '../mesh/cut-components.ts';
import type { Combination } from './section-plane.ts';
import type { CutPlane } from '../mesh/slice-mesh.ts';

/**
 * Whether a component that is kept whole is seen: a plane may pass through it or leave it, but what lies altogether on
 * the removed side goes with it. Common drawing practice: the bolt in the cut is drawn whole, the one before it is not.
 */
export function isLeftWhole(component: CutInput, planes: readonly CutPlane[], combine: Combination): boolean {
  const removed = (plane: CutPlane) => isRemoved(component, plane);
  return !(combine === 'any' ? planes.some(removed) : planes.length > 0 && planes.every(removed));
}

/** By the box first; only where that is not enough by the vertices of the mesh. */
function isRemoved({ geometry, placement, stored }: CutInput, { normal, constant }: CutPlane): boolean {
  const corners = boxCorners(transformBox(placement, geometry.box)).map((p) => dot(p, normal) - constant);
  if (Math.max(...corners) < 0) return false;
  if (Math.min(...corners) >= 0) return true;
  const { positions } = geometry.mesh;
  for (let v = 0; v < positions.length / 3; v++) if (dot(transformPoint(stored, pointAt(positions, v)), normal) < constant) return false;
  return true;
}

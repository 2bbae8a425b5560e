import type { MeshBVH } from 'three-mesh-bvh';
import { meshGap } from '../interference/solid-mesh.ts';
import { boxGap, transformBox, type Box3 } from '../math/box3.ts';
import { invertAffine, multiply, type Mat4 } from '../math/mat4.ts';

export interface PlacedMesh {
  /** Of the part as stored (relative to its geometry's origin). */
  placement: Mat4;
  /** In the frame of `placement`. */
  box: Box3;
  bvh: MeshBVH;
}

/**
 * Which components come nearer than a distance (mm) to one of some others, by their
 * meshes. Boxes are asked first.
 * @returns indices, those of the others themselves included
 */
export function neighboursWithin(
  components: readonly PlacedMesh[],
  of: readonly number[],
  distance: number,
): number[] {
  const boxes = components.map((c) => transformBox(c.placement, c.box));
  const chosen = new Set(of);
  components.forEach((c, i) => {
    if (chosen.has(i)) return;
    if (of.some((o) => boxGap(boxes[o], boxes[i]) <= distance && gapOf(components[o], c) <= distance))
      chosen.add(i);
  });
  return [...chosen].sort((a, b) => a - b);
}

const gapOf = (a: PlacedMesh, b: PlacedMesh): number =>
  meshGap(a, b, multiply(invertAffine(a.placement), b.placement)).distance;

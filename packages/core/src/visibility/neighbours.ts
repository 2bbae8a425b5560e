import { Matrix4, Vector3, type BufferGeometry } from 'three';
import type { MeshBVH } from 'three-mesh-bvh';
import { transformBox, type Box3 } from '../math/box3.ts';
import { invertAffine, multiply, type Mat4 } from '../math/mat4.ts';

export interface PlacedMesh {
  /** Of the part as stored (relative to its geometry's origin). */
  placement: Mat4;
  /** In the frame of `placement`. */
  box: Box3;
  bvh: MeshBVH;
}

/** mm between two boxes; 0 when they meet. */
export const boxGap = (a: Box3, b: Box3): number =>
  Math.hypot(...[0, 1, 2].map((k) => Math.max(0, a.min[k] - b.max[k], b.min[k] - a.max[k])));

/**
 * Which components come nearer than a distance (mm) to one of some others, by their meshes. Boxes are asked first.
 * @returns indices, those of the others themselves included
 */
export function neighboursWithin(components: readonly PlacedMesh[], of: readonly number[], distance: number): number[] {
  const boxes = components.map((c) => transformBox(c.placement, c.box));
  const chosen = new Set(of);
  components.forEach((c, i) => {
    if (chosen.has(i)) return;
    if (of.some((o) => boxGap(boxes[o], boxes[i]) <= distance && meshGapWithin(components[o], c, distance))) chosen.add(i);
  });
  return [...chosen].sort((a, b) => a - b);
}

/** Whether two meshes come nearer than a distance. */
function meshGapWithin(a: PlacedMesh, b: PlacedMesh, distance: number): boolean {
  const toA = new Matrix4().fromArray(multiply(invertAffine(a.placement), b.placement) as number[]);
  const { geometry } = b.bvh as unknown as { geometry: BufferGeometry };
  geometry.boundsTree = b.bvh;
  if (a.bvh.intersectsGeometry(geometry, toA)) return true;
  // The threshold only prunes boxes; what is returned may be further away.
  const nearest = a.bvh.closestPointToGeometry(geometry, toA, { point: new Vector3(), distance: 0, faceIndex: 0 }, undefined, 0, distance);
  return nearest !== null && nearest.distance <= distance;
}

import { DoubleSide, Ray, Vector3, type Box3 as ThreeBox } from 'three';
import { INTERSECTED, NOT_INTERSECTED, type MeshBVH } from 'three-mesh-bvh';
import {
  boxCentre,
  boxGap,
  boxOfPoints,
  transformBox,
  uniteBoxes,
  EMPTY_BOX,
  type Box3,
} from '../math/box3.ts';
import { invertAffine, transformPoint, type Mat4 } from '../math/mat4.ts';
import { patchDistance, type NearestPair } from '../math/patch-distance.ts';
import { buildPartBvh } from '../picking/pick-scene.ts';
import { distance, dot, pointAt, type Vec3 } from '../math/vec3.ts';

/** The triangles of a mesh as a tree, and their box. */
export interface MeshTree {
  bvh: MeshBVH;
  box: Box3;
}

/** The mesh of a solid in its own frame, its triangles seen from outside anticlockwise. */
export interface SolidMesh extends MeshTree {
  positions: Float32Array;
  indices: Uint32Array;
  /** Triangles of face f: faceStart[f] … faceStart[f+1]−1. */
  faceStart: Uint32Array;
  /** mm: how far the surface may be from it. */
  chord: number;
}

/** @param mesh triangles in the order of their faces; kept, not copied */
export function solidMesh(
  mesh: Pick<SolidMesh, 'positions' | 'indices' | 'faceStart'>,
  chord: number,
): SolidMesh {
  return { ...mesh, chord, bvh: buildPartBvh({ mesh }), box: boxOfPoints(mesh.positions) };
}

/** Times that a first estimate goes from the one mesh to the nearest place on the other and back. */
const TO_AND_FRO = 6;

/** mm, and the nearest points in A's frame; 0 where the surfaces meet. @param toA places B in A's frame */
export function meshGap(a: MeshTree, b: MeshTree, toA: Mat4): NearestPair {
  const toB = invertAffine(toA);
  let best: NearestPair = {
    distance: Infinity,
    from: boxCentre(a.box),
    to: transformPoint(toA, boxCentre(b.box)),
  };
  let from = boxCentre(a.box);
  for (let i = 0; i < TO_AND_FRO; i++) {
    const to = transformPoint(toA, meshDistance(b, transformPoint(toB, from)).point);
    from = meshDistance(a, to).point;
    best = { distance: distance(from, to), from, to };
  }
  // Nothing further from the other's box than that can be nearer.
  const placed = transformBox(toA, b.box);
  const mine = trianglesNear(a, placed, best.distance);
  const back = transformBox(toB, a.box);
  const theirs = trianglesNear(b, back, best.distance).map((p) => transformPoint(toA, p));
  const found = patchDistance({ triangles: mine }, { triangles: theirs });
  return found && found.distance < best.distance ? found : best;
}

/** Corners of the triangles that come within a distance of a box. */
function trianglesNear({ bvh }: MeshTree, { min, max }: Box3, reach: number): Vec3[] {
  const corners: Vec3[] = [];
  const gap = (box: ThreeBox) => boxGap({ min: box.min.toArray(), max: box.max.toArray() }, { min, max });
  bvh.shapecast({
    intersectsBounds: (box) => (gap(box) <= reach ? INTERSECTED : NOT_INTERSECTED),
    intersectsTriangle: ({ a, b, c }) => {
      corners.push(a.toArray(), b.toArray(), c.toArray());
      return false;
    },
  });
  return corners;
}

/** Where a mesh comes nearest to a point. */
export interface NearestPlace {
  /** mm */
  distance: number;
  point: Vec3;
  triangle: number;
}

/** mm from a point to the mesh, both in its frame. */
export const meshDistance = (mesh: MeshTree, point: Vec3): NearestPlace =>
  nearestWithin(mesh, point, Infinity)!;

/** The same, looking no farther than so many mm; null where there is nothing. */
export function nearestWithin({ bvh }: MeshTree, point: Vec3, most: number): NearestPlace | null {
  if (most <= 0) return null;
  const found = bvh.closestPointToPoint(
    new Vector3(...point),
    { point: new Vector3(), distance: 0, faceIndex: 0 },
    0,
    most,
  );
  return found && found.distance < most
    ? { distance: found.distance, point: found.point.toArray(), triangle: found.faceIndex }
    : null;
}

/**
 * Three directions along nothing that parts are built along; what two of them say counts,
 * for one may meet an edge.
 */
const PROBES: readonly Vec3[] = [
  [0.5311, 0.6213, 0.5762],
  [-0.6127, 0.3391, 0.7138],
  [0.2874, -0.8112, 0.5093],
];

/** Whether a point lies within a closed mesh: whether the first triangle met from it is seen from behind. */
export function isInside(mesh: SolidMesh, point: Vec3): boolean {
  const within = PROBES.filter((way) => {
    const hit = mesh.bvh.raycastFirst(new Ray(new Vector3(...point), new Vector3(...way)), DoubleSide);
    return hit?.face ? dot(hit.face.normal.toArray(), way) > 0 : false;
  });
  return within.length > PROBES.length / 2;
}

/**
 * Faces of both that come within a distance of each other, by their boxes: none that does is left out.
 * @param toA places B in A's frame @param reach mm
 */
export function facesWithin(
  a: SolidMesh,
  b: SolidMesh,
  toA: Mat4,
  reach: number,
): { a: number[]; b: number[] } {
  const [mine, theirs] = [faceBoxes(a), faceBoxes(b).map((box) => transformBox(toA, box))];
  const near = (boxes: Box3[], whole: Box3) =>
    boxes.flatMap((box, f) => (boxGap(box, whole) <= reach ? [f] : []));
  const fa = near(mine, theirs.reduce(uniteBoxes, EMPTY_BOX));
  const fb = near(theirs, a.box);
  const keptOfB = new Set<number>();
  const keptOfA = fa.filter((f) => {
    const met = fb.filter((g) => boxGap(mine[f], theirs[g]) <= reach);
    met.forEach((g) => keptOfB.add(g));
    return met.length > 0;
  });
  return { a: keptOfA, b: [...keptOfB].sort((p, q) => p - q) };
}

function faceBoxes({ positions, indices, faceStart }: SolidMesh): Box3[] {
  return Array.from({ length: faceStart.length - 1 }, (_, f) => {
    const corners: number[] = [];
    for (let i = 3 * faceStart[f]; i < 3 * faceStart[f + 1]; i++)
      corners.push(...pointAt(positions, indices[i]));
    return boxOfPoints(corners);
  });
}

import { BackSide, Ray, Vector3 } from 'three';
import { ARC_STEP, BALL_SETTLED, BELOW_SURFACE } from '../tolerances.ts';
import {
  addScaled,
  cross,
  distance,
  dot,
  length,
  normalize,
  pointAt,
  scale,
  subtract,
  vecOf,
  type Vec3,
} from '../math/vec3.ts';
import { meshDistance, nearestWithin, type SolidMesh } from '../interference/solid-mesh.ts';

/** How thick the material is below a point of a surface, two ways; mm, in the mesh's frame. */
export interface Thickness {
  /** Along the inward normal to where it comes out; null where it does not. */
  along: {
    thickness: number;
    to: Vec3;
    /** Of the mesh, where it comes out. */ triangle: number;
    /** Cosine between the outward normals at both places. */ facing: number;
  } | null;
  /** Diameter of the largest ball within the material that touches the surface there. */
  ball: { diameter: number; centre: Vec3; touches: Vec3 };
  /** Cosine between the outward normals there and where the ball touches: −1 for a wall of even thickness. */
  facing: number;
}

const MOST_STEPS = 60;
/**
 * Cosine of the angle, seen from the ball, within which a mesh's facets are of the surface at the point
 * itself: some steps of a meshed arc.
 */
const BESIDE = Math.cos(4 * ARC_STEP);

/**
 * Thickness of a closed mesh below a point of it. The ball is found by shrinking: it begins as wide as the
 * material along the normal and is made to touch whatever reaches into it, until nothing does (Ma, Bae, Choi:
 * 3D medial axis point approximation, 2012).
 * @param outward unit @param slack mm that a ball may be too wide: with the chord of the mesh, searches over
 * many places are quicker
 */
export function thicknessAt(mesh: SolidMesh, point: Vec3, outward: Vec3, slack = 0): Thickness {
  const inward = scale(outward, -1);
  const size = distance(mesh.box.min, mesh.box.max);
  const start = addScaled(point, inward, size * BELOW_SURFACE);
  // Where it goes out again: triangles seen from within.
  const hit = mesh.bvh.raycastFirst(new Ray(new Vector3(...start), new Vector3(...inward)), BackSide);
  const along = hit
    ? {
        thickness: distance(point, hit.point.toArray()),
        to: hit.point.toArray() as Vec3,
        triangle: hit.faceIndex!,
        facing: dot(hit.face!.normal.toArray() as Vec3, outward),
      }
    : null;
  let radius = (along?.thickness ?? size) / 2;
  let touches = along?.to ?? addScaled(point, inward, size);
  let normal = hit ? (hit.face!.normal.toArray() as Vec3) : outward;
  for (let step = 0; step < MOST_STEPS; step++) {
    const centre = addScaled(point, inward, radius);
    const near = nearestWithin(mesh, centre, radius * (1 - BALL_SETTLED) - slack);
    if (!near) break;
    const chord = subtract(near.point, point);
    const depth = dot(chord, inward);
    // What lies beside the point itself bounds nothing: facets of one surface.
    if (depth <= 0 || dot(subtract(near.point, centre), scale(inward, -1)) > near.distance * BESIDE) break;
    const next = dot(chord, chord) / (2 * depth);
    if (next >= radius) break;
    // From a point to what is nearest leads along the normal, also of an edge that stands into the
    // material, which has many.
    normal = normalize(subtract(near.point, centre));
    [radius, touches] = [next, near.point];
  }
  return {
    along,
    ball: { diameter: 2 * radius, centre: addScaled(point, inward, radius), touches },
    facing: dot(normal, outward),
  };
}

/** Triangles that a search for the largest ball starts from. */
const MOST_STARTS = 200;

/** The largest ball within a closed mesh that is found from its triangles: a lower bound. */
export function largestBall(mesh: SolidMesh): { diameter: number; centre: Vec3 } {
  const count = mesh.indices.length / 3;
  const stride = Math.max(1, Math.floor(count / MOST_STARTS));
  let best = { diameter: 0, centre: mesh.box.min };
  for (let t = 0; t < count; t += stride) {
    const start = middleOf(mesh, t);
    if (!start) continue;
    const { diameter, centre } = thicknessAt(mesh, start.point, start.normal, mesh.chord).ball;
    if (diameter > best.diameter) best = { diameter, centre };
  }
  // What a start's own facet allows is not what the others do.
  return { ...best, diameter: 2 * Math.min(best.diameter / 2, meshDistance(mesh, best.centre).distance) };
}

/** Middle and outward normal of a triangle; null where it has no area. */
export function middleOf(
  { positions, indices }: SolidMesh,
  triangle: number,
): { point: Vec3; normal: Vec3 } | null {
  const [p, q, r] = [0, 1, 2].map((k) => pointAt(positions, indices[3 * triangle + k]));
  const normal = cross(subtract(q, p), subtract(r, p));
  if (length(normal) === 0) return null;
  return { point: vecOf((k) => (p[k] + q[k] + r[k]) / 3), normal: normalize(normal) };
}

import type { PartGeometry } from '../geometry/part-geometry.ts';
import { transformDirection, transformPoint, type Mat4 } from '../math/mat4.ts';
import {
  add,
  cross,
  distance,
  length,
  normalize,
  pointAt,
  scale,
  subtract,
  type Vec3,
} from '../math/vec3.ts';
import type { PickKind } from '../picking/pick-scene.ts';

export interface PlacedPick {
  kind: PickKind;
  index: number;
  /** Where it was picked, in model space; the middle is taken when absent. */
  point?: Vec3;
  geometry: PartGeometry;
  placement: Mat4;
}

/** A direction that belongs to a picked thing, in model space. */
export interface PickDirection {
  /**
   * `normal` is the one of a planar face, `axis` that of a turned face or circle, `along` a straight edge,
   * `tangent plane` the normal at a point of any other face.
   */
  kind: 'normal' | 'axis' | 'along' | 'tangent plane';
  origin: Vec3;
  /** Unit. */
  direction: Vec3;
}

/**
 * The direction of a planar face (outward), a turned face, hole or circle (its axis) or a straight edge; null
 * where there is no single one.
 */
export function directionOfPick(pick: PlacedPick): PickDirection | null {
  const { geometry, placement } = pick;
  const placed = (kind: PickDirection['kind'], origin: Vec3, d: Vec3): PickDirection => ({
    kind,
    origin: transformPoint(placement, origin),
    direction: normalize(transformDirection(placement, d)),
  });
  if (pick.kind === 'face') {
    const face = geometry.faces[pick.index];
    if (face.surface === 'plane') {
      const at = placed('normal', face.origin!, face.axis!);
      return { ...at, origin: pick.point ?? at.origin };
    }
    return face.axis && face.origin && face.surface !== 'sphere'
      ? placed('axis', face.origin, face.axis)
      : null;
  }
  if (pick.kind === 'edge') {
    const edge = geometry.edges[pick.index];
    if (!edge.axis) return null;
    if (edge.curve === 'line') {
      const { start, positions } = geometry.lines;
      return placed('along', add(pointAt(positions, start[pick.index]), geometry.origin), edge.axis);
    }
    return edge.centre ? placed('axis', edge.centre, edge.axis) : null;
  }
  return null;
}

/** The outward normal of a face at a point of it (model space), from the nearest triangle of its mesh. */
export function normalAt(pick: PlacedPick): PickDirection | null {
  if (pick.kind !== 'face' || !pick.point) return null;
  const { mesh, origin } = pick.geometry;
  const corner = (i: number) =>
    transformPoint(pick.placement, add(pointAt(mesh.positions, mesh.indices[i]), origin));
  let best = { away: Infinity, normal: [0, 0, 1] as Vec3 };
  for (let i = 3 * mesh.faceStart[pick.index]; i < 3 * mesh.faceStart[pick.index + 1]; i += 3) {
    const [a, b, c] = [corner(i), corner(i + 1), corner(i + 2)];
    const middle = scale(add(add(a, b), c), 1 / 3);
    // Nearest by plane distance among triangles whose middle is about as near as they are large.
    const flat = cross(subtract(b, a), subtract(c, a));
    const area = length(flat);
    if (area === 0) continue;
    const away =
      distance(middle, pick.point) / Math.max(distance(a, middle), distance(b, middle), distance(c, middle));
    if (away < best.away)
      best = {
        away,
        normal: normalize(transformDirection(pick.placement, pointAt(mesh.normals, mesh.indices[i]))),
      };
  }
  return best.away < Infinity ? { kind: 'tangent plane', origin: pick.point, direction: best.normal } : null;
}

import { boxCentre, boxCorners, type Box3 } from '../math/box3.ts';
import { add, addScaled, dot, frameOf, scale, type Vec3 } from '../math/vec3.ts';

/** How far a reference plane is drawn past the model. */
const MARGIN = 1.12;
/** Of the model's diagonal, to each side. */
const AXIS_REACH = 0.75;
const OWN_AXIS_REACH = 0.45;

/**
 * The corners of a reference plane as it is drawn: as large as the model seen square
 * to it, and a little more.
 */
export function drawnPlane(
  origin: Vec3,
  normal: Vec3,
  box: Box3,
): { middle: Vec3; corners: [Vec3, Vec3, Vec3, Vec3] } {
  const { u, v } = frameOf(normal);
  const middle = addScaled(boxCentre(box), normal, dot(origin, normal) - dot(boxCentre(box), normal));
  const reach = (d: Vec3) =>
    Math.max(...boxCorners(box).map((c) => Math.abs(dot(c, d) - dot(middle, d)))) * MARGIN;
  const [ru, rv] = [reach(u), reach(v)];
  const corner = (a: number, b: number) => add(middle, add(scale(u, a * ru), scale(v, b * rv)));
  return { middle, corners: [corner(-1, -1), corner(1, -1), corner(1, 1), corner(-1, 1)] };
}

/**
 * The ends of a reference axis as it is drawn. @param size mm, the model's diagonal @param own one that the
 * user made is shorter
 */
export function drawnAxis(origin: Vec3, direction: Vec3, size: number, own: boolean): [Vec3, Vec3] {
  const reach = size * (own ? OWN_AXIS_REACH : AXIS_REACH);
  return [addScaled(origin, direction, -reach), addScaled(origin, direction, reach)];
}

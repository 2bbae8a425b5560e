import { add, addScaled, dot, scale, type Vec3 } from '../math/vec3.ts';
import {
  eyeDistance,
  MIN_HEIGHT,
  viewBack,
  viewRight,
  viewUp,
  type Pane,
  type ViewCamera,
} from './view-camera.ts';

/** Share of the pane that stays free on each side when a model is fitted. */
export const FIT_MARGIN = 0.06;

/**
 * How far a shape reaches in a direction (not necessarily of unit length): the largest dot product of its
 * points with it; −Infinity for nothing.
 */
export type Support = (direction: Vec3) => number;

export const supportOfPoints =
  (points: readonly Vec3[]): Support =>
  (d) =>
    points.reduce((far, p) => Math.max(far, dot(p, d)), -Infinity);

/**
 * The same direction, moved and scaled so that the shape's exact outline lies within the pane less the
 * margin, touching it on the tighter side and centred on the other. Unchanged for an empty shape.
 *
 * All conditions are linear in the points, so the support function of the shape answers them.
 * Orthographic: its extent along right and up. Perspective: x − e·z-planes of the frustum; for the eye at
 * (ex, ez) and half-angle tangent t the right side asks x + t·z ≤ ex + t·ez for all points, the left −x + t·z
 * ≤ −ex + t·ez, which add up to the least ez.
 */
export function fitView(c: ViewCamera, pane: Pane, reach: Support, margin = FIT_MARGIN): ViewCamera {
  const [right, up, back] = [viewRight(c), viewUp(c), viewBack(c)];
  const free = 1 - 2 * margin;
  const near = reach(back);
  const far = reach(scale(back, -1));
  if (!Number.isFinite(near) || !Number.isFinite(far)) return c;
  const middle = (near - far) / 2;
  if (c.projection === 'orthographic') {
    const [r, l, u, d] = [right, scale(right, -1), up, scale(up, -1)].map(reach);
    const needed = Math.max((u + d) / free, ((r + l) / free) * (pane.height / pane.width));
    return { ...c, target: at((r - l) / 2, (u - d) / 2, middle), height: Math.max(needed, MIN_HEIGHT * 10) };
  }
  const ty = Math.tan(c.lens / 2) * free;
  const tx = ty * (pane.width / pane.height);
  const [r, l, u, d] = [
    addScaled(right, back, tx),
    addScaled(scale(right, -1), back, tx),
    addScaled(up, back, ty),
    addScaled(scale(up, -1), back, ty),
  ].map(reach);
  const eye = Math.max((r + l) / (2 * tx), (u + d) / (2 * ty), near + MIN_HEIGHT);
  const target = at((r - l) / 2, (u - d) / 2, Math.min(middle, eye - MIN_HEIGHT));
  const height = 2 * Math.tan(c.lens / 2) * (eye - dot(target, back));
  return { ...c, target, height };

  function at(x: number, y: number, z: number): Vec3 {
    return add(add(scale(right, x), scale(up, y)), scale(back, z));
  }
}

/**
 * mm: the least picture height with which a shape's exact outline lies within the pane less the margin while
 * the target stays where it is, from the same linear conditions as `fitView`. −Infinity for an empty shape.
 */
export function heightHolding(c: ViewCamera, pane: Pane, reach: Support, margin = FIT_MARGIN): number {
  const [right, up, back] = [viewRight(c), viewUp(c), viewBack(c)];
  const free = 1 - 2 * margin;
  const beyond = (d: Vec3): number => reach(d) - dot(c.target, d);
  const aspect = pane.width / pane.height;
  const sides: [Vec3, number][] = [
    [right, aspect],
    [scale(right, -1), aspect],
    [up, 1],
    [scale(up, -1), 1],
  ];
  if (c.projection === 'orthographic')
    return Math.max(...sides.map(([side, share]) => (2 * beyond(side)) / (free * share)));
  const tangent = Math.tan(c.lens / 2);
  const distances = sides.map(
    ([side, share]) => beyond(addScaled(side, back, tangent * free * share)) / (tangent * free * share),
  );
  return 2 * tangent * Math.max(...distances, beyond(back) + MIN_HEIGHT);
}

/**
 * The distances from the eye between which a shape lies, for the near and far planes of a perspective; the
 * eye may be within it.
 */
export function depthRange(c: ViewCamera, reach: Support): { near: number; far: number } {
  const back = viewBack(c);
  const eye = dot(c.target, back) + eyeDistance(c);
  return { near: eye - reach(back), far: eye + reach(scale(back, -1)) };
}

import { slerp } from '../math/quaternion.ts';
import { addScaled, subtract } from '../math/vec3.ts';
import type { ViewCamera } from './view-camera.ts';
import { SAME_VIEW } from '../tolerances.ts';

/** A view part of the way from one to another: the shortest turn, even steps of scale. t from 0 to 1. */
export function betweenViews(a: ViewCamera, b: ViewCamera, t: number): ViewCamera {
  if (t >= 1) return b;
  return {
    projection: b.projection,
    target: addScaled(a.target, subtract(b.target, a.target), t),
    orientation: slerp(a.orientation, b.orientation, t),
    height: a.height * (b.height / a.height) ** t,
    lens: a.lens + (b.lens - a.lens) * t,
  };
}

export function sameView(a: ViewCamera, b: ViewCamera): boolean {
  const near = (x: readonly number[], y: readonly number[], size: number) =>
    x.every((v, i) => Math.abs(v - y[i]) <= SAME_VIEW * size);
  const flipped = b.orientation.map((x) => -x);
  return (
    a.projection === b.projection &&
    Math.abs(a.height - b.height) <= SAME_VIEW * a.height &&
    (a.projection === 'orthographic' || Math.abs(a.lens - b.lens) < SAME_VIEW) &&
    near(a.target, b.target, a.height) &&
    (near(a.orientation, b.orientation, 1) || near(a.orientation, flipped, 1))
  );
}

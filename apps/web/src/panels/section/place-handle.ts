import { pixelSizeAt, project, viewBack, type ViewCamera } from '@bathyscope/core/camera';
import {
  addScaled,
  boxCentre,
  cross,
  dot,
  length,
  normalize,
  rotate,
  subtract,
  type Box3,
  type Vec3,
} from '@bathyscope/core/math';
import type { SectionPlane } from '@bathyscope/core/section';

/** px */
export const ARM = 62;
/** px: a normal that looks shorter than this points at the eye; the hand then moves it up and down. */
const FORESHORTENED = 14;

export interface PlacedHandle {
  /** Where the handle sits in the plane, and on the canvas. */
  at: Vec3;
  x: number;
  y: number;
  /** Unit direction of the normal on the canvas, and mm along it for one px. */
  along: readonly [number, number];
  mmPerPx: number;
  /** mm of an arm. */
  arm: number;
  u: Vec3;
  v: Vec3;
}

/** Where the handle of a plane sits: in the middle of what is shown or else seen. Null behind the eye. */
export function placeHandle(
  box: Box3,
  plane: SectionPlane,
  camera: ViewCamera,
  size: { width: number; height: number },
): PlacedHandle | null {
  const { normal } = plane;
  const onPlane = (p: Vec3): Vec3 =>
    addScaled(p, normal, dot(subtract(addScaled(plane.origin, normal, plane.offset), p), normal));
  let at = onPlane(boxCentre(box));
  let s = project(camera, size, at);
  // Panned away, the handle comes along.
  if (s.behind || s.x < ARM || s.y < ARM || s.x > size.width - ARM || s.y > size.height - ARM) {
    at = onPlane(camera.target);
    s = project(camera, size, at);
    if (s.behind) return null;
  }
  const px = pixelSizeAt(camera, size, at);
  const arm = ARM * px;
  const tip = project(camera, size, addScaled(at, normal, arm));
  const [dx, dy] = [tip.x - s.x, tip.y - s.y];
  const seen = Math.hypot(dx, dy);
  const towards = Math.sign(dot(normal, viewBack(camera))) || 1;
  const right = rotate(camera.orientation, [1, 0, 0]);
  const level = addScaled(right, normal, -dot(right, normal));
  const u = length(level) > 1e-3 ? normalize(level) : normalize(cross(normal, viewBack(camera)));
  const flat = seen < FORESHORTENED;
  return {
    at,
    x: s.x,
    y: s.y,
    along: flat ? [0, -towards] : [dx / seen, dy / seen],
    mmPerPx: flat ? px : arm / seen,
    arm,
    u,
    v: cross(normal, u),
  };
}

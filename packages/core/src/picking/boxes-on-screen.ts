import type { Triangle } from 'three';
import { CONTAINED, INTERSECTED, NOT_INTERSECTED } from 'three-mesh-bvh';
import type { ScreenComponent } from '../camera/nearest-on-screen.ts';
import { project, type Pane, type ViewCamera } from '../camera/view-camera.ts';
import { boxCorners, transformBox } from '../math/box3.ts';
import { transformPoint, type Mat4 } from '../math/mat4.ts';
import { toVec3 } from '../math/vec3.ts';
import type { Vec3 } from '../math/vec3.ts';

/** px of a pane. */
export interface ScreenBox {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/**
 * Which components a rectangle of the screen picks: those whose every drawn point lies inside, or, touching,
 * those with a triangle that meets it. What is hidden behind others counts as well, as the trade
 * expects of a window pick.
 */
export function boxesOnScreen(
  camera: ViewCamera,
  pane: Pane,
  box: ScreenBox,
  touching: boolean,
  components: readonly ScreenComponent[],
): number[] {
  return components.flatMap((c, i) => {
    const outline = outlineOf(camera, pane, boxCorners(transformBox(c.placement, c.box)));
    if (outline && liesWithin(outline, box)) return [i];
    if (outline && isApart(outline, box)) return [];
    return (touching ? meets(camera, pane, box, c) : !sticksOut(camera, pane, box, c)) ? [i] : [];
  });
}

/** Whether one rectangle lies within another. */
export const liesWithin = (a: ScreenBox, b: ScreenBox): boolean =>
  a.left >= b.left && a.right <= b.right && a.top >= b.top && a.bottom <= b.bottom;
const isApart = (a: ScreenBox, b: ScreenBox): boolean =>
  a.right < b.left || a.left > b.right || a.bottom < b.top || a.top > b.bottom;

/** The rectangle around points as seen, or null when one lies behind the eye. */
export function outlineOf(camera: ViewCamera, pane: Pane, points: readonly Vec3[]): ScreenBox | null {
  const seen = points.map((p) => project(camera, pane, p));
  if (seen.some((p) => p.behind)) return null;
  const xs = seen.map((p) => p.x);
  const ys = seen.map((p) => p.y);
  return { left: Math.min(...xs), right: Math.max(...xs), top: Math.min(...ys), bottom: Math.max(...ys) };
}

const placedCorners = (
  placement: Mat4,
  b: { min: { toArray(): number[] }; max: { toArray(): number[] } },
): Vec3[] =>
  boxCorners({ min: toVec3(b.min.toArray()), max: toVec3(b.max.toArray()) }).map((p) =>
    transformPoint(placement, p),
  );

function meets(camera: ViewCamera, pane: Pane, box: ScreenBox, { placement, bvh }: ScreenComponent): boolean {
  return bvh.shapecast({
    intersectsBounds: (b) => {
      const outline = outlineOf(camera, pane, placedCorners(placement, b));
      return !outline
        ? INTERSECTED
        : isApart(outline, box)
          ? NOT_INTERSECTED
          : liesWithin(outline, box)
            ? CONTAINED
            : INTERSECTED;
    },
    intersectsTriangle: (t: Triangle, _i: number, contained: boolean) =>
      contained ||
      isSeenIn(
        camera,
        pane,
        box,
        [t.a, t.b, t.c].map((v) => transformPoint(placement, v.toArray())),
      ),
  });
}

function sticksOut(
  camera: ViewCamera,
  pane: Pane,
  box: ScreenBox,
  { placement, bvh }: ScreenComponent,
): boolean {
  return bvh.shapecast({
    intersectsBounds: (b) => {
      const outline = outlineOf(camera, pane, placedCorners(placement, b));
      return outline && liesWithin(outline, box) ? NOT_INTERSECTED : INTERSECTED;
    },
    intersectsTriangle: (t: Triangle) => {
      const outline = outlineOf(
        camera,
        pane,
        [t.a, t.b, t.c].map((v) => transformPoint(placement, v.toArray())),
      );
      return !outline || !liesWithin(outline, box);
    },
  });
}

/** Whether a triangle, or a line of two points, is seen in a rectangle: separating axes in the plane. */
export function isSeenIn(camera: ViewCamera, pane: Pane, box: ScreenBox, corners: readonly Vec3[]): boolean {
  const p = corners.map((c) => project(camera, pane, c));
  if (p.some((q) => q.behind)) return false;
  const rectangle = [
    [box.left, box.top],
    [box.right, box.top],
    [box.right, box.bottom],
    [box.left, box.bottom],
  ];
  const axes = [
    [1, 0],
    [0, 1],
    ...p.map((q, i) => [q.y - p[(i + 1) % p.length].y, p[(i + 1) % p.length].x - q.x]),
  ];
  return axes.every(([x, y]) => {
    const a = p.map((q) => q.x * x + q.y * y);
    const b = rectangle.map(([u, v]) => u * x + v * y);
    return Math.max(...a) >= Math.min(...b) && Math.max(...b) >= Math.min(...a);
  });
}

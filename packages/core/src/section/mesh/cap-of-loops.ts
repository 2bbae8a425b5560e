import type { Point2 } from '../../math/point2.ts';
import earcut from 'earcut';
import { FRAMES } from '../../camera/directions.ts';
import { add, addScaled, cross, dot, normalize, scale, subtract, type Vec3 } from '../../math/vec3.ts';
import type { CutPlane } from './slice-mesh.ts';
import { LEVEL_PLANE } from '../../tolerances.ts';

/**
 * The axes of a plane's drawing: u × v points to the side that is removed, so that the cut is seen the right
 * way round; v is up.
 */
export interface PlaneFrame {
  u: Vec3;
  v: Vec3;
  origin: Vec3;
}

export function planeFrame({ normal, constant, up: axis = 'z' }: CutPlane): PlaneFrame {
  const model = FRAMES[axis];
  // What is up in the model is up in the drawing; of a level cut the back is, as in a view from the top.
  const up = Math.abs(dot(normal, model.up)) < 1 - LEVEL_PLANE ? model.up : subtract([0, 0, 0], model.front);
  const v = normalize(addScaled(up, normal, -dot(up, normal)));
  return { u: cross(v, normal), v, origin: scale(normal, constant) };
}

export const toPlane = (frame: { u: Vec3; v: Vec3 }, p: Vec3): Point2 => [dot(p, frame.u), dot(p, frame.v)];
export const fromPlane = (frame: PlaneFrame, [x, y]: Point2): Vec3 =>
  add(frame.origin, add(scale(frame.u, x), scale(frame.v, y)));

/** Anticlockwise positive, mm². */
export const signedArea = (loop: readonly Point2[]): number =>
  loop.reduce(
    (sum, [x, y], i) => sum + x * loop[(i + 1) % loop.length][1] - loop[(i + 1) % loop.length][0] * y,
    0,
  ) / 2;

/** mm */
export const loopLength = (loop: readonly Point2[]): number =>
  loop.reduce(
    (sum, [x, y], i) =>
      sum + Math.hypot(loop[(i + 1) % loop.length][0] - x, loop[(i + 1) % loop.length][1] - y),
    0,
  );

/** Whether a point lies within a loop, by the even-odd rule. */
export function isWithin([x, y]: Point2, loop: readonly Point2[]): boolean {
  let inside = false;
  for (let i = 0, j = loop.length - 1; i < loop.length; j = i++) {
    const [[xi, yi], [xj, yj]] = [loop[i], loop[j]];
    if (yi > y !== yj > y && x < ((xj - xi) * (y - yi)) / (yj - yi) + xi) inside = !inside;
  }
  return inside;
}

/** Whether a point lies within a region of outer loops and holes. */
export const isWithinLoops = (p: Point2, loops: readonly (readonly Point2[])[]): boolean =>
  loops.reduce((inside, l) => inside !== isWithin(p, l), false);

/** Outer loops (anticlockwise) with the holes (clockwise) that lie in them and in no smaller outer one. */
export function nestLoops(loops: readonly Point2[][]): Point2[][][] {
  const outer = loops
    .filter((l) => signedArea(l) > 0)
    .map((loop) => ({ loop, area: signedArea(loop), holes: [] as Point2[][] }))
    .sort((a, b) => a.area - b.area);
  for (const hole of loops)
    if (signedArea(hole) < 0) outer.find((o) => isWithin(hole[0], o.loop))?.holes.push(hole);
  return outer.map((o) => [o.loop, ...o.holes]);
}

/** Triangles that fill regions with holes: flat xy positions and indices (earcut). */
export function fillLoops(loops: readonly Point2[][]): { positions: number[]; indices: number[] } {
  const positions: number[] = [];
  const indices: number[] = [];
  for (const region of nestLoops(loops)) {
    const base = positions.length / 2;
    const flat = region.flat(2) as number[];
    const holes: number[] = [];
    region.slice(0, -1).reduce((at, loop) => (holes.push(at + loop.length), at + loop.length), 0);
    for (const x of flat) positions.push(x);
    for (const i of earcut(flat, holes)) indices.push(i + base);
  }
  return { positions, indices };
}

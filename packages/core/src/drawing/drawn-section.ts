import { dot, type Vec3 } from '../math/vec3.ts';
import { fillLoops, fromPlane, type PlaneFrame } from '../section/cap-of-loops.ts';
import type { Hatch } from '../section/hatch-patterns.ts';
import { pointsAlong, type PlaneCurve } from '../section/plane-curves.ts';
import type { Combination } from '../section/section-plane.ts';
import type { CutPlane } from '../section/slice-mesh.ts';
import type { Point2 } from './drawing.ts';
import type { ViewChain } from './hidden-lines.ts';

/** What one plane cuts of one component, for the drawing. */
export interface DrawnCap {
  frame: PlaneFrame;
  loops: readonly (readonly PlaneCurve[])[];
  /** Outlines that do not close: drawn, not hatched. */
  open: readonly (readonly PlaneCurve[])[];
  hatch: Hatch;
  /** Distance of the hatch lines, mm in the model; 0 for none. */
  spacing: number;
}

/** A section of the drawn components, in model space. */
export interface DrawnSection {
  planes: readonly CutPlane[];
  combine: Combination;
  caps: readonly DrawnCap[];
}

/** The same planes in view coordinates: what is above them (d > 0) is cut away. */
export type ViewCut = Pick<DrawnSection, 'planes' | 'combine'>;

export const viewCut = ({ planes, combine }: DrawnSection, toView: (p: Vec3) => Vec3): ViewCut => ({ combine, planes: planes.map((plane) => ({ ...plane, normal: toView(plane.normal) })) });

const above = (p: Vec3, { normal, constant }: CutPlane): number => dot(p, normal) - constant;

/** On the removed side or in the plane: there the cut's outline takes the place of what lies in it. */
const isAbove = (p: Vec3, plane: CutPlane): boolean => above(p, plane) > -(plane.within ?? 0);

const between = (a: Vec3, b: Vec3, t: number): Vec3 => [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t, a[2] + (b[2] - a[2]) * t];

/** What a section leaves of a chain of points; it may fall into several. */
export function cutChain(points: readonly Vec3[], { planes, combine }: ViewCut): Vec3[][] {
  const runs: Vec3[][] = [];
  let run: Vec3[] = [];
  const end = () => {
    if (run.length > 1) runs.push(run);
    run = [];
  };
  for (let i = 0; i + 1 < points.length; i++) {
    const [a, b] = [points[i], points[i + 1]];
    const crossings = planes.flatMap((plane) => {
      const [da, db] = [above(a, plane), above(b, plane)];
      return da > 0 !== db > 0 ? [da / (da - db)] : [];
    });
    const stops = [0, ...crossings.sort((p, q) => p - q), 1];
    for (let k = 0; k + 1 < stops.length; k++) {
      if (stops[k + 1] <= stops[k]) continue;
      const middle = between(a, b, (stops[k] + stops[k + 1]) / 2);
      const removed = combine === 'any' ? planes.some((plane) => isAbove(middle, plane)) : planes.every((plane) => isAbove(middle, plane));
      if (removed) end();
      else {
        if (!run.length) run.push(between(a, b, stops[k]));
        run.push(between(a, b, stops[k + 1]));
      }
    }
  }
  end();
  return runs;
}

/** What a section leaves of a triangle, as convex polygons. */
export function cutTriangle(triangle: readonly Vec3[], { planes, combine }: ViewCut): Vec3[][] {
  if (combine === 'any') {
    let left: Vec3[] = [...triangle];
    for (const plane of planes) left = halve(left, plane).below;
    return left.length >= 3 ? [left] : [];
  }
  // What any plane leaves stays: the pieces below each, of what lies above those before it.
  const pieces: Vec3[][] = [];
  let rest: Vec3[] = [...triangle];
  for (const plane of planes) {
    const { below, above: beyond } = halve(rest, plane);
    pieces.push(below);
    rest = beyond;
  }
  return pieces.filter((p) => p.length >= 3);
}

function halve(polygon: readonly Vec3[], plane: CutPlane): { below: Vec3[]; above: Vec3[] } {
  if (polygon.every((p) => isAbove(p, plane))) return { below: [], above: [...polygon] };
  const out = { below: [] as Vec3[], above: [] as Vec3[] };
  polygon.forEach((p, i) => {
    const q = polygon[(i + 1) % polygon.length];
    const [dp, dq] = [above(p, plane), above(q, plane)];
    (dp > 0 ? out.above : out.below).push(p);
    if (dp > 0 === dq > 0) return;
    const crossing = between(p, q, dp / (dp - dq));
    out.below.push(crossing);
    out.above.push(crossing);
  });
  return out;
}

/** rad. Round outlines are followed in steps of this to fill and hatch what they bound. */
const STEP = Math.PI / 36;

const outline = (loops: readonly (readonly PlaneCurve[])[]): Point2[][] => loops.map((l) => l.flatMap((c) => pointsAlong(c, STEP).slice(0, -1)));

/** The triangles of a cap in view coordinates, three corners each: what they hide lies in the cut component or behind it. */
export function capTriangles({ frame, loops }: DrawnCap, toView: (p: Vec3) => Vec3): Vec3[] {
  const { positions, indices } = fillLoops(outline(loops));
  return indices.map((i) => toView(fromPlane(frame, [positions[2 * i], positions[2 * i + 1]])));
}

/** Seen under less than this (sine of the angle), the plane is face on. */
const FACE_ON = 1e-6;

/** The outlines of a cut and its hatch lines. */
export function capChains({ frame, loops, open, hatch, spacing }: DrawnCap, toView: (p: Vec3) => Vec3): ViewChain[] {
  const place = (p: Point2): Vec3 => toView(fromPlane(frame, p));
  const faceOn = Math.hypot(toView(frame.u)[2], toView(frame.v)[2]) < FACE_ON;
  const outlines = [...loops, ...open].flat().map((c): ViewChain => ({
    kind: 'visible', points: pointsAlong(c, c.shape === 'arc' && faceOn ? STEP : STEP / 4).map(place),
    ...(faceOn && c.shape === 'arc' && { circle: { centre: place(c.centre), radius: c.radius } }),
  }));
  const hatches = spacing > 0 ? hatchLines(outline(loops), hatch.angle, spacing).map((ends): ViewChain => ({ kind: 'hatch', points: ends.map(place) })) : [];
  return [...outlines, ...hatches];
}

/** Parallel lines within a region, `spacing` apart, counted from the origin so that all cuts of a part in one plane agree. */
export function hatchLines(loops: readonly Point2[][], angle: number, spacing: number): [Point2, Point2][] {
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const crossings = new Map<number, number[]>();
  for (const loop of loops)
    loop.forEach((p, i) => {
      const q = loop[(i + 1) % loop.length];
      const [hp, hq] = [p[1] * cos - p[0] * sin, q[1] * cos - q[0] * sin].map((h) => h / spacing);
      for (let k = Math.floor(Math.min(hp, hq)) + 1; k <= Math.max(hp, hq); k++) {
        const t = (k - hp) / (hq - hp);
        const along = (p[0] + (q[0] - p[0]) * t) * cos + (p[1] + (q[1] - p[1]) * t) * sin;
        crossings.set(k, [...(crossings.get(k) ?? []), along]);
      }
    });
  return [...crossings].flatMap(([k, met]) => {
    met.sort((a, b) => a - b);
    const at = (along: number): Point2 => [along * cos - k * spacing * sin, along * sin + k * spacing * cos];
    return Array.from({ length: Math.floor(met.length / 2) }, (_, i): [Point2, Point2] => [at(met[2 * i]), at(met[2 * i + 1])]);
  });
}

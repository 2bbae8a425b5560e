import type { Point2 } from '../math/point2.ts';
import type { CutBy } from '../math/plane.ts';
import { FACE_ON } from '../tolerances.ts';
import type { Vec3 } from '../math/vec3.ts';
import { fillLoops, fromPlane, type PlaneFrame } from '../section/mesh/cap-of-loops.ts';
import type { Hatch } from '../section/hatch-patterns.ts';
import { pointsAlong, type PlaneCurve } from '../section/curves/plane-curves.ts';
import type { ViewChain } from './view-chain.ts';

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
export interface DrawnSection extends CutBy {
  caps: readonly DrawnCap[];
}

/** The same planes in view coordinates. */
export const viewCut = ({ planes, combine }: DrawnSection, toView: (p: Vec3) => Vec3): CutBy => ({
  combine,
  planes: planes.map((plane) => ({ ...plane, normal: toView(plane.normal) })),
});

/** rad. Round outlines are followed in steps of this to fill and hatch what they bound. */
const STEP = Math.PI / 36;

const outline = (loops: readonly (readonly PlaneCurve[])[], step = STEP): Point2[][] =>
  loops.map((l) => l.flatMap((c) => pointsAlong(c, step).slice(0, -1)));

/**
 * The triangles of a cut face in model space, three corners each; round outlines are followed in
 * steps of an angle (rad).
 */
export function capTriangles({ frame, loops }: Pick<DrawnCap, 'frame' | 'loops'>, step = STEP): Vec3[] {
  const { positions, indices } = fillLoops(outline(loops, step));
  return indices.map((i) => fromPlane(frame, [positions[2 * i], positions[2 * i + 1]]));
}

/** The outlines of a cut and its hatch lines. */
export function capChains(
  { frame, loops, open, hatch, spacing }: DrawnCap,
  toView: (p: Vec3) => Vec3,
): ViewChain[] {
  const place = (p: Point2): Vec3 => toView(fromPlane(frame, p));
  const faceOn = Math.hypot(toView(frame.u)[2], toView(frame.v)[2]) < FACE_ON;
  const outlines = [...loops, ...open].flat().map((c): ViewChain => ({
    kind: 'visible',
    points: pointsAlong(c, c.shape === 'arc' && faceOn ? STEP : STEP / 4).map(place),
    ...(faceOn && c.shape === 'arc' && { circle: { centre: place(c.centre), radius: c.radius } }),
  }));
  const hatches =
    spacing > 0
      ? hatchLines(outline(loops), hatch.angle, spacing).map((ends): ViewChain => ({
          kind: 'hatch',
          points: ends.map(place),
        }))
      : [];
  return [...outlines, ...hatches];
}

/**
 * Parallel lines within a region, `spacing` apart, counted from the origin so that all cuts of a
 * part in one plane agree.
 */
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
    return Array.from({ length: Math.floor(met.length / 2) }, (_, i): [Point2, Point2] => [
      at(met[2 * i]),
      at(met[2 * i + 1]),
    ]);
  });
}

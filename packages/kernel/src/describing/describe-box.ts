import { type EdgeFacts, type FaceFacts, isCovered, isKnownCurve } from '@bathyscope/core/geometry';
import { type FreeSurface, isFree, type ParametricSurface, placeOnSurface } from '@bathyscope/core/mass';
import {
  type Box3,
  boxOfPoints,
  cross,
  distance,
  EMPTY_BOX,
  highestBetween,
  length,
  toVec3,
  uniteBoxes,
  type Vec3,
} from '@bathyscope/core/math';
import { LEVEL_PLACE, SLOPE_STEP, TINY } from '@bathyscope/core/tolerances';
import type { RawFace, RawLine } from './mesh-shape.ts';
import type { Occt } from '../occt/load.ts';
import { copyXYZ } from '../occt/memory.ts';

/*
 * How far free-form edges and faces reach along the axes: from where the mesh reaches farthest a search goes
 * on, on the curve or surface itself, to where it is level. Whatever could reach farther is searched, so the
 * box is exact but where a search finds nothing.
 */

interface ShapeToBox {
  oc: Occt;
  edgeMap: Occt;
  edges: readonly EdgeFacts[];
  lines: ReadonlyMap<number, RawLine>;
  lineOff: number;
  faces: readonly FaceFacts[];
  surfaces: readonly (ParametricSurface | FreeSurface)[];
  /** As the kernel meshed them. */
  raw: readonly RawFace[];
  /** mm: how far each face's triangles may be off. */
  deviations: readonly number[];
}

/** Sine: where a surface leans by more, no place within a chord of its outline is level. */
const STEEP = 0.1;
/** Of a golden section: to 1e-7 of a piece, where heights differ by the square of that. */
const GOLDEN_STEPS = 34;
const NEWTON_STEPS = 20;

/**
 * The box of a shape's free-form edges and faces where they reach beyond what is known of it.
 * @param known the box of all else
 * @returns within, mm: how far the true one may reach beyond
 */
export function boxWithFreeForms(shape: ShapeToBox, known: Box3): { box: Box3; within: number } {
  const { raw, lines, surfaces } = shape;
  // Points of lines, and of free-form faces as the kernel meshed them, are points of the shape.
  const free = raw.filter((_, f) => isFree(surfaces[f]));
  const met = [...free.map((f) => f.positions), ...[...lines.values()].map((l) => l.positions)];
  const box = met.reduce(
    (all, points) => (points.length ? uniteBoxes(all, boxOfPoints(points)) : all),
    uniteBoxes(known, EMPTY_BOX),
  );
  const [min, max] = [[...box.min], [...box.max]];
  let within = 0;
  for (let k = 0; k < 3; k++)
    for (const sign of [1, -1] as const) {
      const found = reachAlong(shape, k, sign, sign * (sign > 0 ? max : min)[k]);
      (sign > 0 ? max : min)[k] = sign * found.reach;
      within = Math.max(within, found.left);
    }
  return { box: { min: toVec3(min), max: toVec3(max) }, within };
}

/** @param from how far it is known to reach @returns how far it does, and how much farther it may */
function reachAlong(
  shape: ShapeToBox,
  k: number,
  sign: 1 | -1,
  from: number,
): { reach: number; left: number } {
  const { oc, edgeMap, edges, lines, lineOff, faces, surfaces, raw, deviations } = shape;
  let reach = from;
  for (const [e, { positions, parameters }] of lines)
    // Known in closed form, which the box has.
    for (const at of parameters && !(edges[e].accuracy.kind === 'exact' && isKnownCurve(edges[e]))
      ? peaksOfLine(positions, k, sign)
      : [])
      if (sign * positions[3 * at + k] + lineOff >= reach)
        reach = Math.max(reach, highestOfEdge(oc, edgeMap.FindKey(e + 1), parameters!, at, k, sign));
  const open: number[] = [];
  raw.forEach((face, f) => {
    const surface = surfaces[f];
    // Planes, cylinders and cones reach farthest on their edges; spheres and tori are known in closed form.
    if (!isFree(surface)) return;
    const { accuracy } = faces[f];
    // So do those that were recognised, within their deviation.
    if (accuracy.kind === 'recognised') return open.push(reach + accuracy.deviation);
    for (const at of peaksOfMesh(face, k, sign, reach - deviations[f])) {
      const found = topNear(face, surface, at, k, sign, deviations[f]);
      if (found === null) open.push(sign * face.positions[3 * at + k] + deviations[f]);
      else reach = Math.max(reach, found);
    }
  });
  return { reach, left: open.reduce((most, o) => Math.max(most, o - reach), 0) };
}

/** Sine of the angle under which a surface leans from level at a place. */
function slopeAt(surface: ParametricSurface | FreeSurface, u: number, v: number, k: number): number {
  const out = new Float64Array(9);
  placeOnSurface(surface)(u, v, out);
  const normal = cross([out[3], out[4], out[5]], [out[6], out[7], out[8]]);
  const size = length(normal);
  // At a pole the slopes along one parameter are nothing; what is left tells.
  const along = Math.hypot(out[3], out[4], out[5]) > Math.hypot(out[6], out[7], out[8]) ? 3 : 6;
  if (!(size > 0))
    return Math.abs(out[along + k]) / Math.max(Math.hypot(out[along], out[along + 1], out[along + 2]), TINY);
  return Math.sqrt(Math.max(0, 1 - (normal[k] / size) ** 2));
}

/** Whether a point of a mesh is a corner of a side that only one triangle has. */
function isOnOutline({ indices }: RawFace, point: number): boolean {
  const sides = new Map<number, number>();
  for (let t = 0; t < indices.length; t += 3)
    for (let c = 0; c < 3; c++) {
      const [a, b] = [indices[t + c], indices[t + ((c + 1) % 3)]];
      if (a === point) sides.set(b, (sides.get(b) ?? 0) + 1);
      if (b === point) sides.set(a, (sides.get(a) ?? 0) + 1);
    }
  return [...sides.values()].includes(1);
}

/** How high a free-form face reaches near a peak of its mesh; null where that is not found. */
function topNear(
  face: RawFace,
  surface: FreeSurface,
  at: number,
  k: number,
  sign: number,
  deviation: number,
): number | null {
  const start = sign * face.positions[3 * at + k];
  if (!face.uv) return null;
  const [u, v] = [face.uv[2 * at], face.uv[2 * at + 1]];
  const slope = slopeAt(surface, u, v, k);
  // Where it is level already, or falls off from its outline, nothing reaches farther.
  if (slope <= LEVEL_PLACE || (slope > STEEP && isOnOutline(face, at))) return start;
  const top = levelPlace(surface, u, v, k);
  const height = top ? sign * top[k] : -Infinity;
  if (top && height >= start - TINY && height <= start + deviation && isCovered(face, top, k, 2 * deviation))
    return height;
  // Where it is level beyond its outline it falls from there: then the edges tell.
  return top && isOnOutline(face, at) ? start : null;
}

/** Points of a line that are as high as those beside them. */
function peaksOfLine(positions: Float64Array, k: number, sign: number): number[] {
  const count = positions.length / 3;
  const height = (i: number) => (i < 0 || i >= count ? -Infinity : sign * positions[3 * i + k]);
  return Array.from({ length: count }, (_, i) => i).filter(
    (i) => height(i) >= height(i - 1) && height(i) >= height(i + 1),
  );
}

/** So many peaks of a mesh are searched from; the highest first. */
const MOST_PEAKS = 16;

/** Points of a mesh that are as high as those they have a side with, and higher than so much. */
function peaksOfMesh({ positions, indices }: RawFace, k: number, sign: number, least: number): number[] {
  const height = (i: number) => sign * positions[3 * i + k];
  const lower = new Set<number>();
  const met = new Set<number>();
  for (let t = 0; t < indices.length; t += 3)
    for (let c = 0; c < 3; c++) {
      const [a, b] = [indices[t + c], indices[t + ((c + 1) % 3)]];
      for (const i of [a, b]) if (height(i) > least) met.add(i);
      if (height(a) < height(b)) lower.add(a);
      if (height(b) < height(a)) lower.add(b);
    }
  return [...met]
    .filter((i) => !lower.has(i))
    .sort((a, b) => height(b) - height(a))
    .slice(0, MOST_PEAKS);
}

/** How high an edge reaches between the neighbours of a point of its line. */
function highestOfEdge(
  oc: Occt,
  shape: Occt,
  parameters: Float64Array,
  at: number,
  k: number,
  sign: number,
): number {
  const edge = oc.TopoDS.Edge_1(shape);
  const curve = new oc.BRepAdaptor_Curve_2(edge);
  const place = new oc.gp_Pnt_1();
  const xyz = new Float64Array(3);
  const height = (t: number) => {
    curve.D0(t, place);
    copyXYZ(oc, place, xyz, 0);
    return sign * xyz[k];
  };
  const [low, high] = [parameters[Math.max(0, at - 1)], parameters[Math.min(parameters.length - 1, at + 1)]];
  const most = Math.max(height(parameters[at]), highestBetween(height, low, high, GOLDEN_STEPS).value);
  for (const o of [place, curve, edge]) o.delete();
  return most;
}

/**
 * Where a surface is level along an axis, by Newton's method from a place near it;
 * null where it is not found.
 */
function levelPlace(surface: ParametricSurface | FreeSurface, u: number, v: number, k: number): Vec3 | null {
  const at = placeOnSurface(surface);
  const out = new Float64Array(9);
  const slopes = (p: number, q: number): [number, number] => {
    at(p, q, out);
    return [out[3 + k], out[6 + k]];
  };
  let before: Vec3 | null = null;
  for (let step = 0; step < NEWTON_STEPS; step++) {
    const [gu, gv] = slopes(u, v);
    const place: Vec3 = [out[0], out[1], out[2]];
    const [lu, lv] = [Math.hypot(out[3], out[4], out[5]), Math.hypot(out[6], out[7], out[8])];
    if (before && distance(before, place) <= TINY * Math.max(1, distance(place, [0, 0, 0]))) return place;
    before = place;
    const [hu, hv] = [SLOPE_STEP * Math.max(1, Math.abs(u)), SLOPE_STEP * Math.max(1, Math.abs(v))];
    const [uu, uv] = difference(slopes(u + hu, v), slopes(u - hu, v), 2 * hu);
    const [vu, vv] = difference(slopes(u, v + hv), slopes(u, v - hv), 2 * hv);
    const mixed = (uv + vu) / 2;
    const det = uu * vv - mixed * mixed;
    // Level along one parameter altogether, as an extrusion is: the other one decides.
    const [du, dv] =
      Math.abs(det) > TINY * (uu * uu + vv * vv)
        ? [(gu * vv - gv * mixed) / det, (gv * uu - gu * mixed) / det]
        : Math.abs(uu) * lv * lv >= Math.abs(vv) * lu * lu
          ? [uu === 0 ? 0 : gu / uu, 0]
          : [0, vv === 0 ? 0 : gv / vv];
    if (!Number.isFinite(du) || !Number.isFinite(dv)) return null;
    [u, v] = [u - du, v - dv];
  }
  return null;
}

const difference = (a: [number, number], b: [number, number], by: number): [number, number] => [
  (a[0] - b[0]) / by,
  (a[1] - b[1]) / by,
];

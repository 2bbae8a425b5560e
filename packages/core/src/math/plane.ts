import { dot, scale, type Vec3 } from './vec3.ts';

/**
 * Points p with normal · p = constant, the normal of unit length. Above it lies what a cut takes away, below
 * it and in it what stays.
 */
export interface Plane {
  normal: Vec3;
  constant: number;
}

/**
 * What several planes do together: take what lies above any of them, or only what lies
 * above all (a quarter cut).
 */
export type Combination = 'any' | 'all';

/**
 * Planes that cut; how far (mm) from one counts as in it, and then as taken: there the cut's outline takes
 * the place of what lies in it.
 */
export interface CutBy {
  planes: readonly (Plane & { within?: number })[];
  combine: Combination;
}

export const planeThrough = (point: Vec3, normal: Vec3): Plane => ({ normal, constant: dot(normal, point) });

/** Signed, in the direction of the normal. */
export const heightOver = ({ normal, constant }: Plane, p: Vec3): number => dot(normal, p) - constant;

/** The plane that takes what this one leaves. */
export const opposite = <P extends Plane>(plane: P): P => ({
  ...plane,
  normal: scale(plane.normal, -1),
  constant: -plane.constant,
});

/** Moved along its normal, which leaves more. */
export const raised = <P extends Plane>(plane: P, by: number): P => ({
  ...plane,
  constant: plane.constant + by,
});

/** The same plane where points are counted from another one. */
export const countedFrom = <P extends Plane>(plane: P, base: Vec3): P =>
  raised(plane, -dot(plane.normal, base));

/** Whether planes take what `isAbove` says of each; none takes nothing. */
export const isTaken = <P>(
  planes: readonly P[],
  combine: Combination,
  isAbove: (plane: P) => boolean,
): boolean => (combine === 'any' ? planes.some(isAbove) : planes.length > 0 && planes.every(isAbove));

const isAbove = (plane: CutBy['planes'][number], p: Vec3): boolean =>
  heightOver(plane, p) > -(plane.within ?? 0);

/** Whether a point is cut away. */
export const takesPoint = ({ planes, combine }: CutBy, p: Vec3): boolean =>
  isTaken(planes, combine, (plane) => isAbove(plane, p));

/** Share of the way between two points at which the height between them is 0. */
export const crossingOf = (from: number, to: number): number => from / (from - to);

const between = (a: Vec3, b: Vec3, t: number): Vec3 => [
  a[0] + (b[0] - a[0]) * t,
  a[1] + (b[1] - a[1]) * t,
  a[2] + (b[2] - a[2]) * t,
];

/** What planes leave of a chain of points; it may fall into several. */
export function cutChain(points: readonly Vec3[], cut: CutBy): Vec3[][] {
  const runs: Vec3[][] = [];
  let run: Vec3[] = [];
  const end = () => {
    if (run.length > 1) runs.push(run);
    run = [];
  };
  for (let i = 0; i + 1 < points.length; i++) {
    const [a, b] = [points[i], points[i + 1]];
    const crossings = cut.planes.flatMap((plane) => {
      const [da, db] = [heightOver(plane, a), heightOver(plane, b)];
      return da > 0 !== db > 0 ? [crossingOf(da, db)] : [];
    });
    const stops = [0, ...crossings.sort((p, q) => p - q), 1];
    for (let k = 0; k + 1 < stops.length; k++) {
      if (stops[k + 1] <= stops[k]) continue;
      if (takesPoint(cut, between(a, b, (stops[k] + stops[k + 1]) / 2))) end();
      else {
        if (!run.length) run.push(between(a, b, stops[k]));
        run.push(between(a, b, stops[k + 1]));
      }
    }
  }
  end();
  return runs;
}

/** What planes leave of a triangle: triangles, three corners each. */
export function cutTriangle(triangle: readonly Vec3[], { planes, combine }: CutBy): Vec3[] {
  const pieces: Vec3[][] = [];
  let rest: Vec3[] = [...triangle];
  for (const plane of planes) {
    const whole = rest.every((p) => isAbove(plane, p));
    const { below, above } = whole ? { below: [], above: rest } : splitPolygon(rest, plane);
    // What any plane leaves stays: the pieces below each, of what lies above those before it.
    if (combine === 'all') pieces.push(below);
    rest = combine === 'all' ? above : below;
  }
  if (combine === 'any') pieces.push(rest);
  return pieces.flatMap(([first, ...others]) => others.slice(1).flatMap((c, i) => [first, others[i], c]));
}

/** What lies below all planes of a convex polygon: its corners. */
export const belowAll = (corners: readonly Vec3[], planes: readonly Plane[]): readonly Vec3[] =>
  planes.reduce(
    (left, plane) => (left.some((p) => heightOver(plane, p) > 0) ? splitPolygon(left, plane).below : left),
    corners,
  );

/** A convex polygon in two at a plane (I. Sutherland and G. Hodgman, Comm. ACM 17(1), 1974). */
function splitPolygon(polygon: readonly Vec3[], plane: Plane): { below: Vec3[]; above: Vec3[] } {
  const out = { below: [] as Vec3[], above: [] as Vec3[] };
  polygon.forEach((p, i) => {
    const q = polygon[(i + 1) % polygon.length];
    const [dp, dq] = [heightOver(plane, p), heightOver(plane, q)];
    (dp > 0 ? out.above : out.below).push(p);
    if (dp > 0 === dq > 0) return;
    const crossing = between(p, q, crossingOf(dp, dq));
    out.below.push(crossing);
    out.above.push(crossing);
  });
  return out;
}

/** Where the outline of a convex polygon goes up through a plane and where down; null where it does not. */
export function throughPlane(corners: readonly Vec3[], plane: Plane): { up: Vec3; down: Vec3 } | null {
  const heights = corners.map((p) => heightOver(plane, p));
  let [up, down]: [Vec3 | null, Vec3 | null] = [null, null];
  for (let k = 0; k < corners.length; k++) {
    const l = (k + 1) % corners.length;
    if (heights[k] > 0 === heights[l] > 0) continue;
    const at = between(corners[k], corners[l], crossingOf(heights[k], heights[l]));
    if (heights[k] > 0) down = at;
    else up = at;
  }
  return up && down && { up, down };
}

/**
 * The same as `belowAll` for one triangle in flat arrays, without a thing made: for loops over all triangles.
 * @param at where its nine numbers begin @param heights of its corners; what is below 0 stays
 * @param out takes up to four corners, four numbers each: x, y, z and the height @returns how many
 */
export function belowOfTriangle(
  triangles: Float64Array,
  at: number,
  heights: Float64Array,
  out: Float64Array,
): number {
  let n = 0;
  for (let k = 0; k < 3; k++) {
    const l = (k + 1) % 3;
    const [p, q] = [at + 3 * k, at + 3 * l];
    if (heights[k] < 0) {
      for (let c = 0; c < 3; c++) out[4 * n + c] = triangles[p + c];
      out[4 * n++ + 3] = heights[k];
    }
    if (heights[k] < 0 === heights[l] < 0) continue;
    const share = crossingOf(heights[k], heights[l]);
    for (let c = 0; c < 3; c++)
      out[4 * n + c] = triangles[p + c] + share * (triangles[q + c] - triangles[p + c]);
    out[4 * n++ + 3] = 0;
  }
  return n;
}

export type Tetrahedron = readonly [Vec3, Vec3, Vec3, Vec3];

/** What of a tetrahedron lies below a plane, as tetrahedra. */
export function belowOfTetrahedron(tetrahedron: Tetrahedron, plane: Plane): readonly Tetrahedron[] {
  const heights = tetrahedron.map((p) => heightOver(plane, p));
  const on = [0, 1, 2, 3].filter((i) => heights[i] <= 0);
  const off = [0, 1, 2, 3].filter((i) => heights[i] > 0);
  const cut = (i: number, j: number): Vec3 =>
    between(tetrahedron[i], tetrahedron[j], crossingOf(heights[i], heights[j]));
  if (on.length === 4) return [tetrahedron];
  if (on.length === 0) return [];
  if (on.length === 1)
    return [[tetrahedron[on[0]], cut(on[0], off[0]), cut(on[0], off[1]), cut(on[0], off[2])]];
  const [low, high] =
    on.length === 3
      ? [on.map((i) => tetrahedron[i]), on.map((i) => cut(i, off[0]))]
      : [
          [tetrahedron[on[0]], cut(on[0], off[0]), cut(on[0], off[1])],
          [tetrahedron[on[1]], cut(on[1], off[0]), cut(on[1], off[1])],
        ];
  return [
    [low[0], low[1], low[2], high[0]],
    [low[1], low[2], high[0], high[1]],
    [low[2], high[0], high[1], high[2]],
  ];
}

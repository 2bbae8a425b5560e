import { add, cross, dot, frameOf, length, normalize, scale, subtract, type Vec3 } from '../math/vec3.ts';
import { PARALLEL_ANGLE, PATTERN_WITHIN } from '../tolerances.ts';
import type { Hole, HoleStep } from '../geometry/hole.ts';

/**
 * Equal holes side by side; part's own frame, mm and rad. `holes` are in the order of the pattern;
 * `deviation` is how far the worst is off.
 */
export type HolePattern = { holes: number[]; deviation: number } & (
  | {
      kind: 'circle';
      centre: Vec3;
      axis: Vec3;
      pitchDiameter: number;
      /** Between neighbours; null where they are not equal. */ spacing: number | null;
    }
  | { kind: 'row'; direction: Vec3; pitch: number }
  | { kind: 'grid'; directions: [Vec3, Vec3]; counts: [number, number]; pitches: [number, number] }
);

/** Beyond so many equal holes no circle is sought among some of them. */
const MOST_TRIED = 150;

/**
 * The pattern that a hole belongs to, among the equal holes that start in its plane: a full circle of pitch,
 * a grid, a row, or the circle through the most of them. Three holes make a circle only at equal angles, four
 * that are a rectangle a grid.
 * @returns null where it stands alone or the others lie without order
 */
export function patternOf(holes: readonly Hole[], index: number): HolePattern | null {
  const equal = equalHoles(holes, index);
  if (equal.length < 3) return null;
  const { u, v } = frameOf(holes[index].axis);
  const flat = equal.map((h): Flat => ({ hole: h, x: dot(holes[h].start, u), y: dot(holes[h].start, v) }));
  const lift = (x: number, y: number): Vec3 =>
    add(add(scale(u, x), scale(v, y)), scale(holes[index].axis, dot(holes[index].start, holes[index].axis)));
  const way = (x: number, y: number): Vec3 => normalize(add(scale(u, x), scale(v, y)));
  const circle = (members: readonly Flat[]): HolePattern | null => {
    const found = circleOf(members);
    return (
      found && {
        kind: 'circle',
        axis: holes[index].axis,
        centre: lift(found.x, found.y),
        pitchDiameter: 2 * found.radius,
        spacing: found.spacing,
        holes: found.order,
        deviation: found.deviation,
      }
    );
  };
  const whole = circle(flat);
  if (whole?.kind === 'circle' && whole.spacing !== null) return whole;
  return (
    gridOf(flat, way) ??
    rowOf(flat, way) ??
    (flat.length > 4 ? whole : null) ??
    circle(mostOnCircle(flat, index))
  );
}

interface Flat {
  hole: number;
  x: number;
  y: number;
}

/** Of the same diameter, depth and steps, with parallel axes, starting in one plane. */
function equalHoles(holes: readonly Hole[], index: number): number[] {
  const one = holes[index];
  const same = (a: number, b: number) => Math.abs(a - b) <= PATTERN_WITHIN;
  return holes.flatMap((h, i) => {
    if (!same(h.diameter, one.diameter) || !same(h.depth, one.depth) || h.ends !== one.ends) return [];
    if (h.steps.length !== one.steps.length || h.steps.some((s, k) => !sameStep(s, one.steps[k]))) return [];
    if (length(cross(h.axis, one.axis)) > PARALLEL_ANGLE) return [];
    // A through hole may be told from either side.
    const off = dot(subtract(h.start, one.start), one.axis);
    return Math.abs(off) <= PATTERN_WITHIN ||
      (h.ends === 'through' && Math.abs(Math.abs(off) - one.depth) <= PATTERN_WITHIN)
      ? [i]
      : [];
  });
}

/** Alike in all that is told of a step. */
function sameStep(a: HoleStep, b: HoleStep): boolean {
  const near = (x = 0, y = 0) => Math.abs(x - y) <= PATTERN_WITHIN;
  return (
    a.kind === b.kind &&
    near(a.diameter, b.diameter) &&
    near(a.depth, b.depth) &&
    near(a.width, b.width) &&
    Math.abs((a.angle ?? 0) - (b.angle ?? 0)) <= PARALLEL_ANGLE
  );
}

function circleOf(members: readonly Flat[]): {
  x: number;
  y: number;
  radius: number;
  spacing: number | null;
  order: number[];
  deviation: number;
} | null {
  if (members.length < 3) return null;
  const centre = centreOf(members);
  if (!centre) return null;
  const radii = members.map((m) => Math.hypot(m.x - centre.x, m.y - centre.y));
  const radius = radii.reduce((sum, r) => sum + r, 0) / radii.length;
  const deviation = Math.max(...radii.map((r) => Math.abs(r - radius)));
  if (deviation > PATTERN_WITHIN) return null;
  const angled = members
    .map((m) => ({ hole: m.hole, angle: Math.atan2(m.y - centre.y, m.x - centre.x) }))
    .sort((a, b) => a.angle - b.angle);
  const step = (2 * Math.PI) / members.length;
  const gaps = angled.map(
    ({ angle }, i) => (i + 1 < angled.length ? angled[i + 1].angle : angled[0].angle + 2 * Math.PI) - angle,
  );
  const equal = gaps.every((g) => Math.abs(g - step) * radius <= PATTERN_WITHIN);
  if (!equal && members.length < 5) return null;
  return { ...centre, radius, deviation, spacing: equal ? step : null, order: angled.map((a) => a.hole) };
}

/** Least squares (Kåsa), about the middle of the points so that nothing is lost far out. */
function centreOf(members: readonly { x: number; y: number }[]): { x: number; y: number } | null {
  const n = members.length;
  const [mx, my] = [members.reduce((s, m) => s + m.x, 0) / n, members.reduce((s, m) => s + m.y, 0) / n];
  let [xx, xy, yy, xz, yz] = [0, 0, 0, 0, 0];
  for (const m of members) {
    const [x, y] = [m.x - mx, m.y - my];
    const z = x * x + y * y;
    xx += x * x;
    xy += x * y;
    yy += y * y;
    xz += x * z;
    yz += y * z;
  }
  const det = xx * yy - xy * xy;
  if (det <= (xx + yy) ** 2 * FLAT) return null;
  return { x: mx + (xz * yy - yz * xy) / (2 * det), y: my + (yz * xx - xz * xy) / (2 * det) };
}
/** Of the spread: points that lie flatter are on a line. */
const FLAT = 1 / 1e10;

function rowOf(flat: readonly Flat[], way: (x: number, y: number) => Vec3): HolePattern | null {
  const [first, second] = farthest(flat);
  const reach = Math.hypot(second.x - first.x, second.y - first.y);
  const [dx, dy] = [(second.x - first.x) / reach, (second.y - first.y) / reach];
  const along = flat.map((m) => ({
    hole: m.hole,
    at: (m.x - first.x) * dx + (m.y - first.y) * dy,
    off: Math.abs((m.x - first.x) * dy - (m.y - first.y) * dx),
  }));
  along.sort((a, b) => a.at - b.at);
  const pitch = reach / (flat.length - 1);
  const deviation = Math.max(...along.map((m, i) => Math.max(m.off, Math.abs(m.at - i * pitch))));
  return deviation <= PATTERN_WITHIN
    ? { kind: 'row', direction: way(dx, dy), pitch, holes: along.map((m) => m.hole), deviation }
    : null;
}

function farthest(flat: readonly Flat[]): [Flat, Flat] {
  const from = (p: Flat) =>
    flat.reduce((best, m) =>
      Math.hypot(m.x - p.x, m.y - p.y) > Math.hypot(best.x - p.x, best.y - p.y) ? m : best,
    );
  const one = from(flat[0]);
  return [one, from(one)];
}

/** Rows and columns that are square to each other, of two holes or more each way, none missing. */
function gridOf(flat: readonly Flat[], way: (x: number, y: number) => Vec3): HolePattern | null {
  if (flat.length < 4) return null;
  const corner = farthest(flat)[0];
  // One side of the grid runs to the hole next to a corner.
  const near = [...flat].sort(
    (a, b) => Math.hypot(a.x - corner.x, a.y - corner.y) - Math.hypot(b.x - corner.x, b.y - corner.y),
  )[1];
  const step = Math.hypot(near.x - corner.x, near.y - corner.y);
  const [dx, dy] = [(near.x - corner.x) / step, (near.y - corner.y) / step];
  const told = flat.map((m) => ({
    hole: m.hole,
    a: (m.x - corner.x) * dx + (m.y - corner.y) * dy,
    b: -(m.x - corner.x) * dy + (m.y - corner.y) * dx,
  }));
  const [as, bs] = [levels(told.map((t) => t.a)), levels(told.map((t) => t.b))];
  if (!as || !bs || as.count * bs.count !== flat.length || as.count < 2 || bs.count < 2) return null;
  const off = told.map((t) => Math.max(as.off(t.a), bs.off(t.b)));
  const order = [...told].sort((p, q) => as.rank(p.a) - as.rank(q.a) || bs.rank(p.b) - bs.rank(q.b));
  return {
    kind: 'grid',
    directions: [way(dx, dy), way(-dy, dx)],
    counts: [as.count, bs.count],
    pitches: [as.pitch, bs.pitch],
    holes: order.map((t) => t.hole),
    deviation: Math.max(...off),
  };
}

/** Values at equal steps from the least to the greatest; null where they are not. */
function levels(
  values: readonly number[],
): { count: number; pitch: number; off: (x: number) => number; rank: (x: number) => number } | null {
  const sorted = [...values].sort((a, b) => a - b);
  const distinct = sorted.filter((x, i) => i === 0 || x - sorted[i - 1] > PATTERN_WITHIN);
  const low = distinct[0];
  const pitch = (distinct.at(-1)! - low) / Math.max(1, distinct.length - 1);
  const rank = (x: number) => (pitch > 0 ? Math.round((x - low) / pitch) : 0);
  const off = (x: number) => Math.abs(x - low - rank(x) * pitch);
  return sorted.every((x) => off(x) <= PATTERN_WITHIN) ? { count: distinct.length, pitch, off, rank } : null;
}

/** The most of the holes that lie on one circle with a given one. */
function mostOnCircle(flat: readonly Flat[], hole: number): Flat[] {
  const me = flat.find((m) => m.hole === hole)!;
  if (flat.length > MOST_TRIED) return [];
  let best: Flat[] = [];
  for (let i = 0; i < flat.length; i++)
    for (let j = i + 1; j < flat.length; j++) {
      if (flat[i] === me || flat[j] === me) continue;
      const centre = centreOf([me, flat[i], flat[j]]);
      if (!centre) continue;
      const radius = Math.hypot(me.x - centre.x, me.y - centre.y);
      const members = flat.filter(
        (m) => Math.abs(Math.hypot(m.x - centre.x, m.y - centre.y) - radius) <= PATTERN_WITHIN,
      );
      if (members.length > best.length && (members.length > 4 || circleOf(members))) best = members;
    }
  return best;
}

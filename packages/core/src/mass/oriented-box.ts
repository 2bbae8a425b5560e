import type { Point2 } from '../math/point2.ts';
import { rotate, rotationAbout } from '../math/quaternion.ts';
import { boxOfPoints, type Box3 } from '../math/box3.ts';
import { addScaled, cross, dot, frameOf, map3, normalize, scale, type Vec3 } from '../math/vec3.ts';
import { ALONG_AXIS } from '../tolerances.ts';
import { convexHull2 } from './convex-hull-2.ts';

/** A box with axes of its own. mm */
export interface OrientedBox {
  centre: Vec3;
  /** Unit, right-handed; the longest side first. */
  axes: readonly [Vec3, Vec3, Vec3];
  size: Vec3;
}

/**
 * Directions that are tried as the box's own, beside those the shape suggests, spread
 * evenly over a half sphere.
 */
const SPREAD = 300;
/** Of those the best that are turned further until nothing gains. */
const REFINED = 6;
/** Directions in which the outermost points are looked for: those points alone bound the box. */
const OUTER = 3000;
/** rad. Steps of the last turning, coarse to fine. */
const STEPS = [0.1, 0.03, 0.01, 0.003, 0.001, 0.0003];

/**
 * The smallest box about points, within about one per cent: a direction is tried as one axis, the smallest
 * rectangle across it is found exactly (it lies flush with an edge of the hull), and the best are turned on
 * in small steps. The exact one (O'Rourke 1985) takes the cube of the number of hull edges and gains nothing
 * an engineer would see.
 * @param points xyz flat, mm @param hints directions of the shape: normals of faces, axes
 * @throws Error when there is no point
 */
export function orientedBox(points: ArrayLike<number>, hints: readonly Vec3[] = []): OrientedBox {
  if (points.length < 3) throw new Error('There is nothing to put a box about.');
  const outer = outermost(points);
  const tried = [...AXES, ...distinct(hints), ...spread(SPREAD)].map((axis) => ({
    axis,
    volume: acrossOf(outer, axis).volume,
  }));
  tried.sort((a, b) => a.volume - b.volume);
  let best = tried[0];
  for (const start of tried.slice(0, REFINED)) {
    let now = start;
    for (const step of STEPS) {
      for (let gained = true; gained;) {
        gained = false;
        const { u, v } = frameOf(now.axis);
        for (const [du, dv] of [
          [step, 0],
          [-step, 0],
          [0, step],
          [0, -step],
        ]) {
          const axis = normalize(addScaled(addScaled(now.axis, u, du), v, dv));
          const { volume } = acrossOf(outer, axis);
          if (volume < now.volume * (1 - ALONG_AXIS)) [now, gained] = [{ axis, volume }, true];
        }
      }
    }
    if (now.volume < best.volume) best = now;
  }
  return boxAcross(points, best.axis, acrossOf(outer, best.axis).angle);
}

const AXES: readonly Vec3[] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
];

/** Points even over a half sphere (a spiral by the golden angle). */
function spread(count: number): Vec3[] {
  const golden = Math.PI * (3 - Math.sqrt(5));
  return Array.from({ length: count }, (_, i) => {
    const z = (i + 0.5) / count;
    const r = Math.sqrt(1 - z * z);
    return [r * Math.cos(golden * i), r * Math.sin(golden * i), z];
  });
}

/** Directions that are not one another's own or opposite. */
function distinct(hints: readonly Vec3[]): Vec3[] {
  const found: Vec3[] = [];
  for (const h of hints)
    if (found.length < SPREAD && !found.some((f) => Math.abs(dot(f, h)) > 1 - ALONG_AXIS)) found.push(h);
  return found;
}

/** The outermost points in many directions; all of them where there are few. */
function outermost(points: ArrayLike<number>): Vec3[] {
  const all = Array.from({ length: points.length / 3 }, (_, i): Vec3 => [
    points[3 * i],
    points[3 * i + 1],
    points[3 * i + 2],
  ]);
  if (all.length <= OUTER) return all;
  const cells = cellsOf(all, boxOfPoints(points));
  const found = new Set<Vec3>();
  for (const d of [...AXES, ...spread(OUTER / 2)])
    found.add(farthest(cells, d)).add(farthest(cells, scale(d, -1)));
  return [...found];
}

/** Cells along each side of the box that points are sorted into. */
const CELLS = 16;

/** Points that lie together, and the box that they fill: of most of a million none needs to be looked at. */
interface Cell {
  points: Vec3[];
  box: Box3;
}

function cellsOf(all: readonly Vec3[], { min, max }: Box3): Cell[] {
  const cells = new Map<number, Vec3[]>();
  const place = (p: Vec3, k: number) =>
    Math.min(CELLS - 1, Math.floor(((p[k] - min[k]) / (max[k] - min[k] || 1)) * CELLS));
  for (const p of all) {
    const key = (place(p, 0) * CELLS + place(p, 1)) * CELLS + place(p, 2);
    const cell = cells.get(key);
    if (cell) cell.push(p);
    else cells.set(key, [p]);
  }
  return [...cells.values()].map((points) => ({ points, box: boxOfPoints(points.flat()) }));
}

/**
 * The point that lies farthest in a direction: of cells whose box reaches no farther than what
 * is found none is opened.
 */
function farthest(cells: readonly Cell[], d: Vec3): Vec3 {
  const reach = ({ box: { min, max } }: Cell): number => {
    let sum = 0;
    for (let k = 0; k < 3; k++) sum += d[k] * (d[k] > 0 ? max[k] : min[k]);
    return sum;
  };
  const reaches = cells.map(reach);
  let [found, high] = [cells[0].points[0], -Infinity];
  const open = ({ points }: Cell): void => {
    for (const p of points) {
      const h = d[0] * p[0] + d[1] * p[1] + d[2] * p[2];
      if (h > high) [high, found] = [h, p];
    }
  };
  open(cells[reaches.reduce((most, r, i) => (r > reaches[most] ? i : most), 0)]);
  for (const [i, cell] of cells.entries()) if (reaches[i] > high) open(cell);
  return found;
}

/** The smallest box with one given axis: its volume, and by how much it is turned about the axis. */
function acrossOf(points: readonly Vec3[], axis: Vec3): { volume: number; angle: number } {
  const { u, v } = frameOf(axis);
  let [low, high] = [Infinity, -Infinity];
  const flat = points.map((p): Point2 => {
    const h = dot(p, axis);
    low = Math.min(low, h);
    high = Math.max(high, h);
    return [dot(p, u), dot(p, v)];
  });
  const { area, angle } = smallestRectangle(convexHull2(flat));
  return { volume: area * (high - low), angle };
}

/**
 * The smallest rectangle about a convex outline lies flush with one of its sides (Freeman & Shapira 1975).
 */
function smallestRectangle(hull: readonly Point2[]): { area: number; angle: number } {
  let best = { area: Infinity, angle: 0 };
  for (let i = 0; i < hull.length; i++) {
    const [p, q] = [hull[i], hull[(i + 1) % hull.length]];
    const angle = Math.atan2(q[1] - p[1], q[0] - p[0]);
    const [c, s] = [Math.cos(angle), Math.sin(angle)];
    let [x0, x1, y0, y1] = [Infinity, -Infinity, Infinity, -Infinity];
    for (const [x, y] of hull) {
      const [a, b] = [c * x + s * y, c * y - s * x];
      [x0, x1, y0, y1] = [Math.min(x0, a), Math.max(x1, a), Math.min(y0, b), Math.max(y1, b)];
    }
    const area = (x1 - x0) * (y1 - y0);
    if (area < best.area) best = { area, angle };
  }
  return best.area === Infinity ? { area: 0, angle: 0 } : best;
}

/** The box about all points with these axes, the longest side first. */
function boxAcross(points: ArrayLike<number>, axis: Vec3, angle: number): OrientedBox {
  const u = rotate(rotationAbout(axis, angle), frameOf(axis).u);
  const axes = [axis, u, cross(axis, u)];
  const spans = axes.map((a) => {
    let [low, high] = [Infinity, -Infinity];
    for (let i = 0; i < points.length; i += 3) {
      const h = a[0] * points[i] + a[1] * points[i + 1] + a[2] * points[i + 2];
      [low, high] = [Math.min(low, h), Math.max(high, h)];
    }
    return { a, low, high };
  });
  spans.sort((a, b) => b.high - b.low - (a.high - a.low));
  const [x, y] = [spans[0].a, spans[1].a];
  return {
    centre: spans.reduce<Vec3>((sum, { a, low, high }) => addScaled(sum, a, (low + high) / 2), [0, 0, 0]),
    axes: [x, y, cross(x, y)],
    size: map3(spans, ({ low, high }) => high - low),
  };
}

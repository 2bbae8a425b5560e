import { RUN_END, TINY } from '../tolerances.ts';
import type { PartGeometry } from '../geometry/part-geometry.ts';
import { isMirrored, transformPoint, type Mat4 } from '../math/mat4.ts';
import { crossingOf, cutTriangle, type CutBy } from '../math/plane.ts';
import { add, pointAt, type Vec3 } from '../math/vec3.ts';
import { DEPTH_SLACK, EDGE_ON, INSIDE_SLACK, HIDDEN_GAP } from '../tolerances.ts';

/**
 * Whether a triangle is seen edge on, as far as single precision and a turned view can tell. @param turn
 * twice its area in the drawing's plane
 */
const isEdgeOn = (turn: number, a: Vec3, b: Vec3, c: Vec3): boolean =>
  Math.abs(turn) <= EDGE_ON * (squared(a, b) + squared(a, c));

const squared = (a: Vec3, b: Vec3): number => (b[0] - a[0]) ** 2 + (b[1] - a[1]) ** 2 + (b[2] - a[2]) ** 2;

/** The triangles that face the eye, in view coordinates, found by their place in the drawing's plane. */
export class TriangleGrid {
  /** Nine numbers a triangle. */
  private readonly corners: Float64Array;
  private readonly cellStart: Uint32Array;
  private readonly cellItems: Uint32Array;
  private readonly stamp: Uint32Array;
  private query = 0;
  private readonly size: number;
  private readonly low: readonly [number, number];
  private readonly step: number;
  private readonly columns: number;
  private readonly rows: number;

  /**
   * @param cut what of the components is left, in view coordinates; those marked `whole` stay
   * @param caps corners of further triangles, three by three: the cut faces
   */
  static of(
    components: readonly { placement: Mat4; geometry: PartGeometry; whole?: boolean }[],
    toView: (p: Vec3) => Vec3,
    cut?: CutBy,
    caps: readonly Vec3[] = [],
  ): TriangleGrid {
    const corners: number[] = [];
    const addTriangles = (triangles: readonly Vec3[]) => {
      for (let i = 0; i < triangles.length; i += 3)
        addTriangle(triangles[i], triangles[i + 1], triangles[i + 2]);
    };
    const addTriangle = (a: Vec3, b: Vec3, c: Vec3) => {
      const turn = (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);
      if (isEdgeOn(turn, a, b, c)) return;
      for (const p of turn > 0 ? [a, b, c] : [a, c, b]) corners.push(p[0], p[1], p[2]);
    };
    for (const { placement, geometry, whole } of components) {
      const { mesh, origin } = geometry;
      const closed = geometry.bodies.length > 0 && geometry.bodies.every((b) => b.closed);
      const sign = isMirrored(placement) ? -1 : 1;
      const seen = new Float64Array(mesh.positions.length);
      for (let v = 0; v < seen.length / 3; v++)
        seen.set(toView(transformPoint(placement, add(pointAt(mesh.positions, v), origin))), 3 * v);
      for (let t = 0; t < mesh.indices.length; t += 3) {
        const [a, b, c] = [3 * mesh.indices[t], 3 * mesh.indices[t + 1], 3 * mesh.indices[t + 2]];
        const turn =
          (seen[b] - seen[a]) * (seen[c + 1] - seen[a + 1]) -
          (seen[b + 1] - seen[a + 1]) * (seen[c] - seen[a]);
        // Of a closed body the back is always behind its front; seen edge on a triangle hides nothing.
        if (closed && turn * sign < 0) continue;
        const its = (turn > 0 ? [a, b, c] : [a, c, b]).map((i): Vec3 => [seen[i], seen[i + 1], seen[i + 2]]);
        if (isEdgeOn(turn, its[0], its[1], its[2])) continue;
        if (!cut || whole) for (const p of its) corners.push(p[0], p[1], p[2]);
        else addTriangles(cutTriangle(its, cut));
      }
    }
    addTriangles(caps);
    return new TriangleGrid(Float64Array.from(corners));
  }

  private constructor(corners: Float64Array) {
    this.corners = corners;
    const count = corners.length / 9;
    let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
    for (let i = 0; i < corners.length; i += 3) {
      x0 = Math.min(x0, corners[i]);
      x1 = Math.max(x1, corners[i]);
      y0 = Math.min(y0, corners[i + 1]);
      y1 = Math.max(y1, corners[i + 1]);
    }
    const [width, height] = count ? [x1 - x0, y1 - y0] : [1, 1];
    this.size = Math.max(width, height, TINY);
    this.low = count ? [x0, y0] : [0, 0];
    this.step = Math.max(Math.sqrt((width * height) / Math.max(1, count)), this.size / 2000, TINY);
    this.columns = Math.max(1, Math.ceil(width / this.step) + 1);
    this.rows = Math.max(1, Math.ceil(height / this.step) + 1);
    this.stamp = new Uint32Array(count);
    // Counted first, then filled: no lists to grow.
    const start = new Uint32Array(this.columns * this.rows + 1);
    for (let t = 0; t < count; t++) this.cellsOf(t, (cell) => start[cell + 1]++);
    for (let i = 1; i < start.length; i++) start[i] += start[i - 1];
    const next = start.slice();
    this.cellItems = new Uint32Array(start[start.length - 1]);
    for (let t = 0; t < count; t++) this.cellsOf(t, (cell) => (this.cellItems[next[cell]++] = t));
    this.cellStart = start;
  }

  private column = (x: number): number =>
    Math.max(0, Math.min(this.columns - 1, Math.floor((x - this.low[0]) / this.step)));
  private row = (y: number): number =>
    Math.max(0, Math.min(this.rows - 1, Math.floor((y - this.low[1]) / this.step)));

  private cellsOf(t: number, visit: (cell: number) => void): void {
    const c = this.corners.subarray(9 * t, 9 * t + 9);
    const [x0, x1] = [this.column(Math.min(c[0], c[3], c[6])), this.column(Math.max(c[0], c[3], c[6]))];
    const [y0, y1] = [this.row(Math.min(c[1], c[4], c[7])), this.row(Math.max(c[1], c[4], c[7]))];
    for (let y = y0; y <= y1; y++) for (let x = x0; x <= x1; x++) visit(y * this.columns + x);
  }

  /**
   * Where (0…1) a segment is hidden, as disjoint intervals in order. `tolerance` mm in depth: nearer in front
   * counts as on it.
   */
  hiddenIntervals(a: Vec3, b: Vec3, tolerance: number): [number, number][] {
    const found: [number, number][] = [];
    this.query++;
    this.cellsAlong(a, b, (cell) => {
      for (let i = this.cellStart[cell]; i < this.cellStart[cell + 1]; i++) {
        const t = this.cellItems[i];
        if (this.stamp[t] === this.query) continue;
        this.stamp[t] = this.query;
        const hit = this.behind(t, a, b, tolerance);
        if (hit) found.push(hit);
      }
    });
    return unite(found);
  }

  /** Visits the cells that a segment passes, by columns. */
  private cellsAlong(a: Vec3, b: Vec3, visit: (cell: number) => void): void {
    const [p, q] = a[0] <= b[0] ? [a, b] : [b, a];
    const [x0, x1] = [this.column(p[0]), this.column(q[0])];
    const slope = q[0] - p[0] > 0 ? (q[1] - p[1]) / (q[0] - p[0]) : 0;
    for (let x = x0; x <= x1; x++) {
      const left = x === x0 ? p[1] : p[1] + slope * (this.low[0] + x * this.step - p[0]);
      const right = x === x1 ? q[1] : p[1] + slope * (this.low[0] + (x + 1) * this.step - p[0]);
      const [y0, y1] = [this.row(Math.min(left, right)), this.row(Math.max(left, right))];
      for (let y = y0; y <= y1; y++) visit(y * this.columns + x);
    }
  }

  /** Where a segment runs inside a triangle's outline and behind its plane. */
  private behind(t: number, a: Vec3, b: Vec3, tolerance: number): [number, number] | null {
    const c = this.corners;
    const o = 9 * t;
    const inside = INSIDE_SLACK * this.size;
    let [from, to] = [0, 1];
    for (let k = 0; k < 3; k++) {
      const i = o + 3 * k;
      const j = o + 3 * ((k + 1) % 3);
      const [ex, ey] = [c[j] - c[i], c[j + 1] - c[i + 1]];
      const length = Math.hypot(ex, ey);
      // Signed distance to the side, positive inside.
      const da = (ex * (a[1] - c[i + 1]) - ey * (a[0] - c[i])) / length + inside;
      const db = (ex * (b[1] - c[i + 1]) - ey * (b[0] - c[i])) / length + inside;
      if (da <= 0 && db <= 0) return null;
      if (da < 0) from = Math.max(from, crossingOf(da, db));
      if (db < 0) to = Math.min(to, crossingOf(da, db));
    }
    if (to - from < RUN_END) return null;
    const slack = tolerance + DEPTH_SLACK * this.size;
    const over = (s: number) =>
      this.depthAt(o, a[0] + (b[0] - a[0]) * s, a[1] + (b[1] - a[1]) * s) - (a[2] + (b[2] - a[2]) * s);
    const [d0, d1] = [over(from), over(to)];
    // A line that lies on the surface is nowhere clearly behind it; one that is somewhere, is hidden up to
    // where it comes out.
    if (d0 <= slack && d1 <= slack) return null;
    if (d0 < 0) from += (to - from) * crossingOf(d0, d1);
    else if (d1 < 0) to = from + (to - from) * crossingOf(d0, d1);
    return [from, to];
  }

  /** Height of a triangle's plane towards the eye at a point of the drawing. */
  private depthAt(o: number, x: number, y: number): number {
    const c = this.corners;
    const [ux, uy, uz] = [c[o + 3] - c[o], c[o + 4] - c[o + 1], c[o + 5] - c[o + 2]];
    const [vx, vy, vz] = [c[o + 6] - c[o], c[o + 7] - c[o + 1], c[o + 8] - c[o + 2]];
    const det = ux * vy - uy * vx;
    const s = ((x - c[o]) * vy - (y - c[o + 1]) * vx) / det;
    const r = (ux * (y - c[o + 1]) - uy * (x - c[o])) / det;
    return c[o + 2] + s * uz + r * vz;
  }
}

export function unite(intervals: [number, number][]): [number, number][] {
  if (intervals.length < 2) return intervals;
  intervals.sort((p, q) => p[0] - q[0]);
  const out: [number, number][] = [intervals[0]];
  for (const [from, to] of intervals) {
    const last = out[out.length - 1];
    if (from <= last[1] + HIDDEN_GAP) last[1] = Math.max(last[1], to);
    else out.push([from, to]);
  }
  return out;
}

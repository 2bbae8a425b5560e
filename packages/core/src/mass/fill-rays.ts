import { EMPTY_BOX, uniteBoxes, type Box3 } from '../math/box3.ts';
import { isMirrored, transformPoint, type Mat4 } from '../math/mat4.ts';
import { map3, pointAt, toVec3, type Vec3 } from '../math/vec3.ts';
import { SEGMENT_SIZE, type WeightedSegments } from './weighted-segments.ts';
import { LAYER } from '../tolerances.ts';

/*
 * Several solids at once, by rays through their meshes: where they overlap, and which hollows
 * between them are closed.
 */

/** A closed, outward-oriented mesh where it is placed. */
export interface RayMesh {
  positions: ArrayLike<number>;
  indices: ArrayLike<number>;
  place: Mat4;
  /**
   * mm: how far it may lie from the shape, where `round` (one a triangle) is set; nothing of
   * either where it is the shape.
   */
  chord?: number;
  round?: Uint8Array;
}

/** What is counted more than once when volumes of solids are added: to be taken off. mm³, mm⁴. */
export interface Overlap {
  volume: number;
  moment: Vec3;
  /** mm³: what may lie between rays, and between the meshes and the shapes. */
  within: number;
  /** The same as thin pieces, with areas below 0. */
  segments: WeightedSegments;
}

/** A hollow that is closed off from the outside. mm, mm³ */
export interface Hollow {
  volume: number;
  centre: Vec3;
  box: Box3;
  /** mm³: half a cell all over its wall. */
  within: number;
  segments: WeightedSegments;
}

/** Rays along the longest side of the box; others in proportion. */
const RAYS = 192;
/** Cells along the longest side for hollows. */
const CELLS = 128;

interface Crossing {
  at: number;
  /** +1 where the ray goes in, −1 where it comes out. */
  step: number;
}

/** Where rays along one axis of a grid go into and come out of meshes. */
class Rays {
  readonly rows: Crossing[][];
  readonly origin: Vec3;
  readonly cell: number;
  readonly count: readonly [number, number];
  private readonly axes: readonly [number, number, number];

  /** @param along 0, 1 or 2 */
  constructor(box: Box3, cell: number, along: number) {
    this.axes = [(along + 1) % 3, (along + 2) % 3, along];
    this.cell = cell;
    this.origin = box.min;
    const cells = (axis: number) => Math.max(1, Math.ceil((box.max[axis] - box.min[axis]) / cell));
    this.count = [cells(this.axes[0]), cells(this.axes[1])];
    this.rows = Array.from({ length: this.count[0] * this.count[1] }, () => []);
  }

  /** The middle of a ray's cell across it. */
  at(i: number, j: number): [number, number] {
    return [
      this.origin[this.axes[0]] + (i + SHIFTS[0]) * this.cell,
      this.origin[this.axes[1]] + (j + SHIFTS[1]) * this.cell,
    ];
  }

  add({ positions, indices, place }: RayMesh): void {
    const [a, b, c] = this.axes;
    const turn = isMirrored(place) ? -1 : 1;
    const at = new Float64Array(positions.length);
    for (let i = 0; i < positions.length / 3; i++)
      at.set(transformPoint(place, pointAt(positions, i)), 3 * i);
    for (let t = 0; t < indices.length; t += 3) {
      const [p, q, r] = [3 * indices[t], 3 * indices[t + 1], 3 * indices[t + 2]];
      const [px, py, qx, qy, rx, ry] = [at[p + a], at[p + b], at[q + a], at[q + b], at[r + a], at[r + b]];
      const twice = (qx - px) * (ry - py) - (qy - py) * (rx - px);
      if (twice === 0) continue;
      const ray = (x: number, k: 0 | 1) => Math.ceil((x - this.origin[this.axes[k]]) / this.cell - SHIFTS[k]);
      const [i0, i1] = [
        Math.max(0, ray(Math.min(px, qx, rx), 0)),
        Math.min(this.count[0], ray(Math.max(px, qx, rx), 0)),
      ];
      const [j0, j1] = [
        Math.max(0, ray(Math.min(py, qy, ry), 1)),
        Math.min(this.count[1], ray(Math.max(py, qy, ry), 1)),
      ];
      for (let i = i0; i < i1; i++)
        for (let j = j0; j < j1; j++) {
          const [x, y] = this.at(i, j);
          const u = ((qx - px) * (y - py) - (qy - py) * (x - px)) / twice;
          const v = ((rx - qx) * (y - qy) - (ry - qy) * (x - qx)) / twice;
          if (u < 0 || v < 0 || u + v > 1) continue;
          // u weighs r, v weighs p.
          const height = v * at[p + c] + (1 - u - v) * at[q + c] + u * at[r + c];
          // A face that looks along the ray is where it comes out.
          this.rows[i * this.count[1] + j].push({ at: height, step: twice * turn > 0 ? -1 : 1 });
        }
    }
  }

  sorted(i: number, j: number): Crossing[] {
    return this.rows[i * this.count[1] + j].sort((x, y) => x.at - y.at);
  }
}

/**
 * Rays do not run through the middle of cells, nor along their diagonals, where edges of meshes like to lie.
 */
const SHIFTS = [0.4871, 0.5317] as const;

/** What solids have in common, counted as often as there is one too many. */
export function overlapOf(meshes: readonly RayMesh[]): Overlap {
  const box = boxOfMeshes(meshes);
  const longest = Math.max(...box.max.map((x, k) => x - box.min[k]));
  if (!(longest > 0) || meshes.length < 2)
    return { volume: 0, moment: [0, 0, 0], within: 0, segments: new Float64Array(0) };
  const found = [0, 1, 2].map((along) => {
    const rays = new Rays(box, longest / RAYS, along);
    for (const mesh of meshes) rays.add(mesh);
    return overlapAlong(rays, along);
  });
  // The direction whose rays leave the least between them.
  const best = found.reduce((least, f) => (f.between < least.between ? f : least));
  const chords = meshes.map((m) => m.chord ?? 0).sort((p, q) => q - p);
  // No surface is larger than what three directions see of it, each from both sides.
  const surface = found.reduce((sum, f) => sum + 2 * f.seen, 0);
  return {
    volume: best.volume,
    moment: best.moment,
    within: best.between + LAYER * (chords[0] + chords[1]) * surface,
    // Of the upright rays, so large that they are as much as the best found.
    segments: Float64Array.from(found[UPRIGHT].segments, (x, i) =>
      i % SEGMENT_SIZE === SEGMENT_SIZE - 1 ? (-x * best.volume) / (found[UPRIGHT].volume || 1) : x,
    ),
  };
}

/** Rays along Z. */
const UPRIGHT = 2;

interface SeenOverlap {
  volume: number;
  moment: Vec3;
  segments: number[];
  /** mm³: what may lie between rays: within a cell nothing differs more than from one cell to the next. */
  between: number;
  /** mm²: across the rays. */
  seen: number;
}

function overlapAlong(rays: Rays, along: number): SeenOverlap {
  const segments: number[] = [];
  const [columns, rows] = rays.count;
  const depths = new Float64Array(columns * rows);
  let [volume, seen] = [0, 0];
  const moment = [0, 0, 0];
  for (let i = 0; i < columns; i++)
    for (let j = 0; j < rows; j++) {
      let depth = 0;
      let before = 0;
      for (const { at, step } of rays.sorted(i, j)) {
        const piece = Math.max(0, depth - 1) * (at - before) * rays.cell ** 2;
        if (piece) {
          const [x, y] = rays.at(i, j);
          volume += piece;
          depths[i * rows + j] += piece;
          seen += rays.cell ** 2;
          if (along === UPRIGHT) segments.push(x, y, before, at, piece / (at - before));
          moment[(along + 1) % 3] += piece * x;
          moment[(along + 2) % 3] += piece * y;
          moment[along] += (piece * (at + before)) / 2;
        }
        depth += step;
        before = at;
      }
    }
  return { volume, moment: toVec3(moment), segments, between: unevenness(depths, columns, rows), seen };
}

/** By how much each cell differs most from one beside it, in sum; beyond the border there is nothing. */
function unevenness(depths: Float64Array, columns: number, rows: number): number {
  const at = (i: number, j: number) =>
    i < 0 || j < 0 || i >= columns || j >= rows ? 0 : depths[i * rows + j];
  let sum = 0;
  for (let i = 0; i < columns; i++)
    for (let j = 0; j < rows; j++) {
      const here = at(i, j);
      sum += Math.max(
        ...[at(i - 1, j), at(i + 1, j), at(i, j - 1), at(i, j + 1)].map((d) => Math.abs(d - here)),
      );
    }
  return sum;
}

/**
 * Hollows that are closed off from the outside by the solids: a flood from outside through cells that no
 * solid fills does not come there. Gaps narrower than a cell count as closed; hollows a few
 * cells wide are not told.
 * @returns the hollows, the largest first, and the size of a cell
 */
export function hollowsOf(meshes: readonly RayMesh[]): { hollows: Hollow[]; cell: number } {
  const box = boxOfMeshes(meshes);
  const longest = Math.max(...box.max.map((x, k) => x - box.min[k]));
  if (!(longest > 0)) return { hollows: [], cell: 0 };
  const cell = longest / CELLS;
  // A cell of nothing all round, so that the flood goes round everything.
  const wide: Box3 = {
    min: map3(box.min, (x) => x - 1.5 * cell),
    max: map3(box.max, (x) => x + 1.5 * cell),
  };
  const rays = new Rays(wide, cell, 2);
  for (const mesh of meshes) rays.add(mesh);
  const [nx, ny] = rays.count;
  const nz = Math.ceil((wide.max[2] - wide.min[2]) / cell);
  const OUTSIDE = 1;
  const SOLID = 2;
  const state = new Uint8Array(nx * ny * nz);
  const index = (i: number, j: number, k: number) => (i * ny + j) * nz + k;
  for (let i = 0; i < nx; i++)
    for (let j = 0; j < ny; j++) {
      let depth = 0;
      let from = 0;
      for (const { at, step } of rays.sorted(i, j)) {
        if (depth > 0)
          for (
            let k = Math.max(0, Math.ceil((from - wide.min[2]) / cell - 0.5));
            k < nz && wide.min[2] + (k + 0.5) * cell < at;
            k++
          )
            state[index(i, j, k)] = SOLID;
        depth += step;
        from = at;
      }
    }
  const around = [ny * nz, -ny * nz, nz, -nz, 1, -1];
  const open = new Int32Array(state.length);
  const flood = (start: number, visit: (cell: number, i: number, j: number, k: number) => void) => {
    let left = 0;
    open[left++] = start;
    state[start] = OUTSIDE;
    while (left) {
      const at = open[--left];
      const k = at % nz;
      const j = Math.floor(at / nz) % ny;
      const i = Math.floor(at / (ny * nz));
      visit(at, i, j, k);
      const inside = [i < nx - 1, i > 0, j < ny - 1, j > 0, k < nz - 1, k > 0];
      for (let n = 0; n < 6; n++) {
        const next = at + around[n];
        if (!inside[n] || state[next] !== 0) continue;
        state[next] = OUTSIDE;
        open[left++] = next;
      }
    }
  };
  flood(0, () => {});
  const hollows: Hollow[] = [];
  for (let start = 0; start < state.length; start++) {
    if (state[start] !== 0) continue;
    let count = 0;
    let wall = 0;
    const sum = [0, 0, 0];
    const low = [Infinity, Infinity, Infinity];
    const high = [-Infinity, -Infinity, -Infinity];
    const cells: number[] = [];
    flood(start, (at, i, j, k) => {
      count++;
      cells.push(at);
      [sum[0], sum[1], sum[2]] = [sum[0] + i, sum[1] + j, sum[2] + k];
      [low[0], low[1], low[2]] = [Math.min(low[0], i), Math.min(low[1], j), Math.min(low[2], k)];
      [high[0], high[1], high[2]] = [Math.max(high[0], i), Math.max(high[1], j), Math.max(high[2], k)];
      for (const step of around) if (state[at + step] === SOLID) wall++;
    });
    const place = (x: readonly number[], shift: number) =>
      map3(x, (n, k) => wide.min[k] + (n + shift) * cell);
    hollows.push({
      volume: count * cell ** 3,
      centre: place(
        sum.map((s) => s / count),
        0.5,
      ),
      box: { min: place(low, 0), max: place(high, 1) },
      within: (wall * cell ** 3) / 2,
      segments: segmentsOf(cells, [ny, nz], cell, wide.min, rays),
    });
  }
  // What is not larger than its bound is what rays leave between walls that touch.
  return { hollows: hollows.filter((h) => h.volume > h.within).sort((a, b) => b.volume - a.volume), cell };
}

/** Cells that stand on one another as one piece. */
function segmentsOf(
  cells: number[],
  [ny, nz]: readonly [number, number],
  cell: number,
  min: Vec3,
  rays: Rays,
): WeightedSegments {
  const segments: number[] = [];
  const sorted = cells.sort((a, b) => a - b);
  let from = 0;
  while (from < sorted.length) {
    const column = Math.floor(sorted[from] / nz);
    let to = from + 1;
    while (to < sorted.length && sorted[to] === sorted[to - 1] + 1 && Math.floor(sorted[to] / nz) === column)
      to++;
    const [x, y] = rays.at(Math.floor(column / ny), column % ny);
    const low = min[2] + (sorted[from] % nz) * cell;
    segments.push(x, y, low, low + (to - from) * cell, cell * cell);
    from = to;
  }
  return Float64Array.from(segments);
}

function boxOfMeshes(meshes: readonly RayMesh[]): Box3 {
  return meshes.reduce((all, { positions, place }) => {
    const min = [Infinity, Infinity, Infinity];
    const max = [-Infinity, -Infinity, -Infinity];
    for (let i = 0; i < positions.length / 3; i++)
      transformPoint(place, pointAt(positions, i)).forEach((x, k) => {
        min[k] = Math.min(min[k], x);
        max[k] = Math.max(max[k], x);
      });
    return uniteBoxes(all, { min: toVec3(min), max: toVec3(max) });
  }, EMPTY_BOX);
}

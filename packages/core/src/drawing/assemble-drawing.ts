import type { Point2 } from '../math/point2.ts';
import { FULL_TURN, DRAWN_NEAR, DRAWN_NOTHING, ROUNDING } from '../tolerances.ts';
import { boxOfCurves, type DrawnCurve, type Drawing, type LineKind } from './drawing.ts';
import type { Stretch } from './view-chain.ts';
import { DRAWN_PARALLEL } from '../tolerances.ts';

/*
 * From stretches of chains to the curves of a drawing: what lies on a line that is drawn already is left out,
 * straight pieces of one line are joined, arcs stay arcs, the rest becomes polylines.
 */

/** Lines nearer than this many tolerances lie on each other. */
const ON_EACH_OTHER = 0.02;

interface Piece {
  a: Point2;
  b: Point2;
}

/** Columns that a row of cells may have at most: cells are numbered row by row. */
const COLUMNS = 1 << 20;

/** Straight pieces by place, to find those that a new piece would run over. */
class DrawnPieces {
  private readonly cells = new Map<number, number[]>();
  private readonly pieces: Piece[] = [];
  /** Of each piece the number of the last question that met it. */
  private readonly asked: number[] = [];
  private question = 0;
  private readonly cell: number;
  private readonly near: number;

  constructor(cell: number, near: number) {
    this.cell = cell;
    this.near = near;
  }

  /** Visits the cells that a piece passes or comes near, some of them twice. */
  private cellsOf({ a, b }: Piece, visit: (cell: number) => void): void {
    const { cell, near } = this;
    const [p, q] = a[0] <= b[0] ? [a, b] : [b, a];
    const [x0, x1] = [Math.floor((p[0] - near) / cell), Math.floor((q[0] + near) / cell)];
    const slope = q[0] - p[0] > near ? (q[1] - p[1]) / (q[0] - p[0]) : 0;
    const [low, high] = [Math.min(p[1], q[1]), Math.max(p[1], q[1])];
    for (let x = x0; x <= x1; x++) {
      let [from, to] = [low, high];
      if (slope !== 0) {
        // Where the piece is within this column, a little wider on both sides.
        const [left, right] = [
          p[1] + slope * (x * cell - near - p[0]),
          p[1] + slope * ((x + 1) * cell + near - p[0]),
        ];
        from = Math.max(low, Math.min(left, right));
        to = Math.min(high, Math.max(left, right));
      }
      const [y0, y1] = [Math.floor((from - near) / cell), Math.floor((to + near) / cell)];
      for (let y = y0; y <= y1; y++) visit(y * COLUMNS + x);
    }
  }

  add(piece: Piece): void {
    const index = this.pieces.push(piece) - 1;
    this.asked.push(0);
    this.cellsOf(piece, (cell) => {
      const list = this.cells.get(cell);
      if (!list) this.cells.set(cell, [index]);
      else if (list[list.length - 1] !== index) list.push(index);
    });
  }

  /** What of a piece (0…1) is not on a drawn one. */
  free(piece: Piece): [number, number][] {
    const [ax, ay] = piece.a;
    const [dx, dy] = [piece.b[0] - ax, piece.b[1] - ay];
    const length = Math.hypot(dx, dy);
    if (length === 0) return [];
    const [ux, uy] = [dx / length, dy / length];
    const covered: [number, number][] = [];
    const question = ++this.question;
    this.cellsOf(piece, (cell) => {
      const list = this.cells.get(cell);
      if (!list) return;
      for (const index of list) {
        if (this.asked[index] === question) continue;
        this.asked[index] = question;
        const { a, b } = this.pieces[index];
        const [ox, oy] = [b[0] - a[0], b[1] - a[1]];
        const size = Math.hypot(ox, oy);
        if (size === 0 || Math.abs(ox * uy - oy * ux) > Math.max(DRAWN_PARALLEL * size, this.near)) continue;
        const [offA, offB] = [
          Math.abs((a[0] - ax) * uy - (a[1] - ay) * ux),
          Math.abs((b[0] - ax) * uy - (b[1] - ay) * ux),
        ];
        if (Math.min(offA, offB) > this.near) continue;
        const [s, t] = [
          ((a[0] - ax) * ux + (a[1] - ay) * uy) / length,
          ((b[0] - ax) * ux + (b[1] - ay) * uy) / length,
        ];
        covered.push(s < t ? [s, t] : [t, s]);
      }
    });
    return subtractIntervals(covered, this.near / length);
  }
}

/** 0…1 less the covered intervals; leftovers shorter than `least` are dropped. */
function subtractIntervals(covered: [number, number][], least: number): [number, number][] {
  covered.sort((p, q) => p[0] - q[0]);
  const out: [number, number][] = [];
  let at = 0;
  for (const [from, to] of covered) {
    if (from - at > least) out.push([at, Math.min(1, from)]);
    at = Math.max(at, to);
    if (at >= 1) return out;
  }
  if (1 - at > least) out.push([at, 1]);
  return out;
}

const ORDER: LineKind[] = ['visible', 'smooth', 'hidden', 'hatch'];

/**
 * Visible lines first: where a hidden one runs over a visible one, the visible one is drawn (ISO 128-2,
 * priority of coinciding lines).
 */
export function assembleDrawing(stretches: readonly Stretch[], tolerance: number): Drawing {
  const points = stretches.flatMap((s) => s.points);
  const size = points.length ? Math.max(extent(points, 0), extent(points, 1)) : 1;
  const near = Math.max(ON_EACH_OTHER * tolerance, size * DRAWN_NEAR);
  // About one piece a cell where lines are spread evenly; long lines pass as many
  // cells as there are in a row.
  const drawn = new DrawnPieces(
    Math.max(size / Math.max(100, Math.min(2000, Math.sqrt(points.length) * 2)), near * 10),
    near,
  );
  const curves = ORDER.flatMap((kind) => {
    const bent: DrawnCurve[] = [];
    const straight: Piece[] = [];
    for (const stretch of stretches) if (stretch.kind === kind) place(stretch, drawn, near, bent, straight);
    return [
      ...joinStraight(straight, near).map((p): DrawnCurve => ({ kind, shape: 'line', from: p.a, to: p.b })),
      ...bent,
    ];
  });
  return { curves, tolerance, box: boxOfCurves(curves) };
}

function extent(points: readonly Point2[], k: 0 | 1 | number): number {
  let [low, high] = [Infinity, -Infinity];
  for (const p of points) {
    low = Math.min(low, p[k]);
    high = Math.max(high, p[k]);
  }
  return high - low;
}

function place(
  stretch: Stretch,
  drawn: DrawnPieces,
  near: number,
  bent: DrawnCurve[],
  straight: Piece[],
): void {
  const runs = freeRuns(stretch.points, drawn, near);
  for (const run of runs) {
    if (stretch.circle) bent.push(arcOf(run, stretch.circle, stretch.kind));
    else if (isStraight(run, near)) straight.push({ a: run[0], b: run[run.length - 1] });
    else if (foldsBack(run, near)) straight.push(spanOf(run));
    else bent.push({ kind: stretch.kind, shape: 'polyline', points: run });
    for (let i = 0; i + 1 < run.length; i++) drawn.add({ a: run[i], b: run[i + 1] });
  }
}

/** The parts of a chain that no drawn line covers, each as a chain of its own. */
function freeRuns(points: readonly Point2[], drawn: DrawnPieces, near: number): Point2[][] {
  const runs: Point2[][] = [];
  let current: Point2[] | null = null;
  for (let i = 0; i + 1 < points.length; i++) {
    const piece = { a: points[i], b: points[i + 1] };
    if (Math.hypot(piece.b[0] - piece.a[0], piece.b[1] - piece.a[1]) <= near * DRAWN_NOTHING) continue;
    const free = drawn.free(piece);
    if (!free.length) current = null;
    for (const [from, to] of free) {
      const at = (t: number): Point2 => [
        piece.a[0] + (piece.b[0] - piece.a[0]) * t,
        piece.a[1] + (piece.b[1] - piece.a[1]) * t,
      ];
      if (!current || from > 0) runs.push((current = [at(from)]));
      current.push(at(to));
      if (to < 1) current = null;
    }
  }
  return runs;
}

function isStraight(run: readonly Point2[], near: number): boolean {
  if (run.length === 2) return true;
  return farFromChord(run) <= near && !turnsBack(run);
}

/** A circle seen edge on runs along one line and back. */
const foldsBack = (run: readonly Point2[], near: number): boolean =>
  farFromChord([spanOf(run).a, ...run, spanOf(run).b]) <= near;

function farFromChord(run: readonly Point2[]): number {
  const [a, b] = [run[0], run[run.length - 1]];
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
  if (length === 0) return Infinity;
  return Math.max(
    ...run.map((p) => Math.abs((p[0] - a[0]) * (b[1] - a[1]) - (p[1] - a[1]) * (b[0] - a[0])) / length),
  );
}

function turnsBack(run: readonly Point2[]): boolean {
  const [a, b] = [run[0], run[run.length - 1]];
  let last = -Infinity;
  return run.some((p) => {
    const along = (p[0] - a[0]) * (b[0] - a[0]) + (p[1] - a[1]) * (b[1] - a[1]);
    const back = along < last;
    last = along;
    return back;
  });
}

/** The two points of a chain that are furthest apart along its longer extent. */
function spanOf(run: readonly Point2[]): Piece {
  const k = extent(run, 0) >= extent(run, 1) ? 0 : 1;
  const sorted = [...run].sort((p, q) => p[k] - q[k]);
  return { a: sorted[0], b: sorted[sorted.length - 1] };
}

function arcOf(
  run: readonly Point2[],
  circle: { centre: Point2; radius: number },
  kind: LineKind,
): DrawnCurve {
  const angle = (p: Point2) => Math.atan2(p[1] - circle.centre[1], p[0] - circle.centre[0]);
  let sweep = 0;
  for (let i = 0; i + 1 < run.length; i++) {
    const d = angle(run[i + 1]) - angle(run[i]);
    sweep += d - 2 * Math.PI * Math.round(d / (2 * Math.PI));
  }
  const start = angle(sweep >= 0 ? run[0] : run[run.length - 1]);
  const turn = Math.min(2 * Math.PI, Math.abs(sweep));
  return {
    kind,
    shape: 'arc',
    centre: circle.centre,
    radius: circle.radius,
    from: start,
    to: start + (turn > FULL_TURN ? 2 * Math.PI : turn),
  };
}

/** Joins pieces of one line that touch or overlap. */
function joinStraight(pieces: readonly Piece[], near: number): Piece[] {
  const lines = new Map<string, { ux: number; uy: number; off: number; spans: [number, number][] }>();
  for (const { a, b } of pieces) {
    let [ux, uy] = [b[0] - a[0], b[1] - a[1]];
    const length = Math.hypot(ux, uy);
    if (length === 0) continue;
    [ux, uy] = [ux / length, uy / length];
    if (ux < -ROUNDING || (Math.abs(ux) <= ROUNDING && uy < 0)) [ux, uy] = [-ux, -uy];
    const off = a[1] * ux - a[0] * uy;
    const [s, t] = [a[0] * ux + a[1] * uy, b[0] * ux + b[1] * uy];
    const line = lines.get(keyOf(ux, uy, off, near)) ?? { ux, uy, off, spans: [] };
    line.spans.push([Math.min(s, t), Math.max(s, t)]);
    lines.set(keyOf(ux, uy, off, near), line);
  }
  return [...lines.values()].flatMap(({ ux, uy, off, spans }) => {
    spans.sort((p, q) => p[0] - q[0]);
    const joined: [number, number][] = [];
    for (const [from, to] of spans) {
      const last = joined[joined.length - 1];
      if (last && from <= last[1] + near) last[1] = Math.max(last[1], to);
      else joined.push([from, to]);
    }
    const at = (s: number): Point2 => [s * ux - off * uy, s * uy + off * ux];
    return joined.map(([from, to]) => ({ a: at(from), b: at(to) }));
  });
}

const keyOf = (ux: number, uy: number, off: number, near: number): string =>
  `${Math.round(Math.atan2(uy, ux) * 1e5)},${Math.round(off / (near * 10))}`;

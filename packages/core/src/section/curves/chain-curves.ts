import type { Point2 } from '../../math/point2.ts';
import { TINY } from '../../tolerances.ts';
import {
  curveLength,
  endOf,
  pointAtShare,
  pointsAlong,
  reverseCurve,
  signedAreaOf,
  startOf,
  type PlaneCurve,
} from './plane-curves.ts';
import { isWithinCurves } from './within-curves.ts';
import { NEAR_END } from '../../tolerances.ts';

const near = (a: Point2, b: Point2, within: number): boolean =>
  Math.hypot(a[0] - b[0], a[1] - b[1]) <= within;

/**
 * Puts curves that meet end to end into loops, whatever way each runs, and turns them so that outer loops go
 * anticlockwise and holes clockwise, by how deep each is nested. Where outlines touch, a loop turns back at
 * the place rather than crossing the other.
 * @param within how near two ends must be to be one, mm
 */
export function chainCurves(
  curves: readonly PlaneCurve[],
  within: number,
): {
  loops: PlaneCurve[][];
  open: PlaneCurve[][];
  /** mm: the widest gap that was joined. */
  gap: number;
} {
  const left = [...curves];
  const loops: PlaneCurve[][] = [];
  const open: PlaneCurve[][] = [];
  let gap = 0;
  for (let first = left.pop(); first; first = left.pop()) {
    const chain = [first];
    for (;;) {
      const end = endOf(chain.at(-1)!);
      if (near(end, startOf(chain[0]), within)) break;
      const next = takeNext(left, chain.at(-1)!, within);
      if (next) {
        chain.push(next);
        continue;
      }
      // Nothing goes on from its end: perhaps something comes before it.
      const before = takeNext(left, reverseCurve(chain[0]), within);
      if (!before) break;
      chain.unshift(reverseCurve(before));
    }
    const closes = near(endOf(chain.at(-1)!), startOf(chain[0]), within);
    (closes ? loops : open).push(chain);
    chain.forEach((curve, i) => {
      const next = chain[(i + 1) % chain.length];
      if (i + 1 < chain.length || closes) gap = Math.max(gap, distance(endOf(curve), startOf(next)));
    });
  }
  return { loops: orientLoops(loops.filter((l) => Math.abs(signedAreaOf(l)) > 0)), open, gap };
}

const distance = (a: Point2, b: Point2): number => Math.hypot(a[0] - b[0], a[1] - b[1]);

/** rad. The direction in which a curve leaves its start. */
function leaving(c: PlaneCurve): number {
  const [from, to] = [startOf(c), c.shape === 'polyline' ? c.points[1] : pointAtShare(c, NEAR_END)];
  return Math.atan2(to[1] - from[1], to[0] - from[0]);
}

/**
 * Takes out what goes on from a curve's end, running away from it. Of several the one that turns back most,
 * always to the same side.
 */
function takeNext(curves: PlaneCurve[], last: PlaneCurve, within: number): PlaneCurve | null {
  const end = endOf(last);
  const back = leaving(reverseCurve(last));
  let best: { index: number; curve: PlaneCurve; turn: number; away: number } | null = null;
  curves.forEach((curve, index) => {
    for (const c of [curve, reverseCurve(curve)]) {
      const away = distance(startOf(c), end);
      if (away > within) continue;
      const turn = (leaving(c) - back + 4 * Math.PI) % (2 * Math.PI);
      // Ends that clearly lie nearer are meant; among those at one place the turn decides.
      if (!best || away < best.away / 4 || (away <= best.away * 4 + TINY && turn < best.turn))
        best = { index, curve: c, turn, away };
    }
  });
  const found = best as { index: number; curve: PlaneCurve } | null;
  if (!found) return null;
  curves.splice(found.index, 1);
  return found.curve;
}

/**
 * Shares of a curve at which its loop is asked for what it lies in: odd ones, so that where
 * outlines touch few are met.
 */
const PROBES = [0.5, 0.381966, 0.618034, 0.236068, 0.763932];
/** Curves of a loop, the longest, that are asked. */
const PROBED = 3;

/**
 * Turns loops so that those at an even depth go anticlockwise. Loops may touch and never cross, so almost any
 * point of a loop tells what the loop lies in; most of several decide.
 */
export function orientLoops(loops: readonly PlaneCurve[][]): PlaneCurve[][] {
  const boxes = loops.map(boxOf);
  return loops.map((loop, i) => {
    const probes = [...loop]
      .map((curve) => ({ curve, length: curveLength(curve) }))
      .sort((a, b) => b.length - a.length)
      .slice(0, PROBED)
      .flatMap(({ curve }) => PROBES.map((share) => pointAtShare(curve, share)));
    const depth = loops.filter((other, j) => {
      if (j === i) return false;
      const inside = probes.filter((p) => isInBox(p, boxes[j]) && isWithinCurves(p, other)).length;
      return 2 * inside > probes.length;
    }).length;
    return signedAreaOf(loop) > 0 === (depth % 2 === 0) ? loop : [...loop].reverse().map(reverseCurve);
  });
}

type Box2 = readonly [number, number, number, number];

/** A little wide: what is followed in steps reaches further than its points. */
function boxOf(loop: readonly PlaneCurve[]): Box2 {
  const box = [Infinity, Infinity, -Infinity, -Infinity];
  for (const c of loop)
    for (const [x, y] of pointsAlong(c)) {
      box[0] = Math.min(box[0], x);
      box[1] = Math.min(box[1], y);
      box[2] = Math.max(box[2], x);
      box[3] = Math.max(box[3], y);
    }
  const margin = 0.02 * Math.max(box[2] - box[0], box[3] - box[1]);
  return [box[0] - margin, box[1] - margin, box[2] + margin, box[3] + margin];
}

const isInBox = ([x, y]: Point2, [x0, y0, x1, y1]: Box2): boolean => x >= x0 && x <= x1 && y >= y0 && y <= y1;

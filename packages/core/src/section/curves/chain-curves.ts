import type { Point2 } from '../../drawing/drawing.ts';
import { endOf, pointsAlong, reverseCurve, signedAreaOf, startOf, type PlaneCurve } from './plane-curves.ts';
import { isWithin } from '../mesh/cap-of-loops.ts';

const near = (a: Point2, b: Point2, within: number): boolean => Math.hypot(a[0] - b[0], a[1] - b[1]) <= within;

/**
 * Puts curves that meet end to end into loops, whatever way each runs, and turns them so that outer loops go
 * anticlockwise and holes clockwise, by how deep each is nested.
 * @param within how near two ends must be to be one, mm
 */
export function chainCurves(curves: readonly PlaneCurve[], within: number): { loops: PlaneCurve[][]; open: PlaneCurve[][] } {
  const left = [...curves];
  const loops: PlaneCurve[][] = [];
  const open: PlaneCurve[][] = [];
  for (let first = left.pop(); first; first = left.pop()) {
    const chain = [first];
    for (;;) {
      const end = endOf(chain.at(-1)!);
      if (near(end, startOf(chain[0]), within)) break;
      const i = nearestEnd(left, end, within);
      if (i >= 0) {
        const [next] = left.splice(i, 1);
        chain.push(near(startOf(next), end, within) ? next : reverseCurve(next));
        continue;
      }
      // Nothing goes on from its end: perhaps something comes before it.
      const start = startOf(chain[0]);
      const j = nearestEnd(left, start, within);
      if (j < 0) break;
      const [before] = left.splice(j, 1);
      chain.unshift(near(endOf(before), start, within) ? before : reverseCurve(before));
    }
    (near(endOf(chain.at(-1)!), startOf(chain[0]), within) ? loops : open).push(chain);
  }
  return { loops: orient(loops.filter((l) => Math.abs(signedAreaOf(l)) > 0)), open };
}

function nearestEnd(curves: readonly PlaneCurve[], at: Point2, within: number): number {
  let [best, away] = [-1, within];
  curves.forEach((c, i) => {
    for (const p of [startOf(c), endOf(c)]) {
      const d = Math.hypot(p[0] - at[0], p[1] - at[1]);
      if (d <= away) [best, away] = [i, d];
    }
  });
  return best;
}

function orient(loops: readonly PlaneCurve[][]): PlaneCurve[][] {
  const drawn = loops.map((l) => l.flatMap((c) => pointsAlong(c).slice(0, -1)));
  return loops.map((loop, i) => {
    const probe = pointsAlong(loop[0], Math.PI / 7);
    const at: Point2 = [(probe[0][0] + probe[1][0]) / 2, (probe[0][1] + probe[1][1]) / 2];
    const depth = drawn.filter((other, j) => j !== i && isWithin(at, other)).length;
    return signedAreaOf(loop) > 0 === (depth % 2 === 0) ? loop : [...loop].reverse().map(reverseCurve);
  });
}

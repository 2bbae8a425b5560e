import { TABLE_DIAMETER } from '../tolerances.ts';
import type { Hole } from '../geometry/hole.ts';

/** What a hole may be for, and by which rule. */
export interface LikelyUse {
  use: string;
  rule: string;
}

/**
 * Nominal diameter; coarse pitch (ISO 261) and its drill (ISO 2306); clearance holes fine, medium, coarse
 * (ISO 273). Values from memory, mm.
 */
const THREADS: readonly (readonly [
  d: number,
  pitch: number,
  drill: number,
  fine: number,
  medium: number,
  coarse: number,
])[] = [
  [1.6, 0.35, 1.25, 1.7, 1.8, 2],
  [2, 0.4, 1.6, 2.2, 2.4, 2.6],
  [2.5, 0.45, 2.05, 2.7, 2.9, 3.1],
  [3, 0.5, 2.5, 3.2, 3.4, 3.6],
  [4, 0.7, 3.3, 4.3, 4.5, 4.8],
  [5, 0.8, 4.2, 5.3, 5.5, 5.8],
  [6, 1, 5, 6.4, 6.6, 7],
  [8, 1.25, 6.8, 8.4, 9, 10],
  [10, 1.5, 8.5, 10.5, 11, 12],
  [12, 1.75, 10.2, 13, 13.5, 14.5],
  [14, 2, 12, 15, 15.5, 16.5],
  [16, 2, 14, 17, 17.5, 18.5],
  [18, 2.5, 15.5, 19, 20, 21],
  [20, 2.5, 17.5, 21, 22, 24],
  [22, 2.5, 19.5, 23, 24, 26],
  [24, 3, 21, 25, 26, 28],
  [27, 3, 24, 28, 30, 32],
  [30, 3.5, 26.5, 31, 33, 35],
  [36, 4, 32, 37, 39, 42],
];

/** Counterbores for socket heads (ISO 4762), mm; common practice, from memory. */
const SOCKET_HEADS: ReadonlyMap<number, number> = new Map([
  [3, 6.5],
  [4, 8],
  [5, 10],
  [6, 11],
  [8, 15],
  [10, 18],
  [12, 20],
  [16, 26],
  [20, 33],
]);

const SERIES = ['fine', 'medium', 'coarse'] as const;
const is = (a: number, b: number): boolean => Math.abs(a - b) <= TABLE_DIAMETER;
/** From so wide on bores of whole millimetres are likely to be fitted. */
const LEAST_FIT = 3;

/**
 * What a hole is likely for, the likeliest first; offered, never asserted. Empty where no rule knows its
 * diameter. What a screw goes through is open at both ends, and the hole of a washer is the washer's own.
 */
export function likelyFor({
  diameter,
  steps,
  ends,
  ofRing,
}: Pick<Hole, 'diameter' | 'steps'> & Partial<Pick<Hole, 'ends' | 'ofRing'>>): LikelyUse[] {
  if (ofRing) return [];
  const sunk = steps.find((s) => s.kind === 'counterbore');
  const flared = steps.some((s) => s.kind === 'countersink');
  /** A head that sits in the counterbore says more than a diameter that two rules know. */
  const seated: LikelyUse[] = [];
  const uses = THREADS.flatMap(([d, pitch, drill, ...clearances]): LikelyUse[] => {
    const series =
      ends === 'blind' || ends === 'closed' ? undefined : SERIES.find((_, i) => is(diameter, clearances[i]));
    const head = sunk && SOCKET_HEADS.has(d) && is(sunk.diameter, SOCKET_HEADS.get(d)!);
    if (series && head)
      seated.push({ use: `clearance hole for M${d}, socket head`, rule: `ISO 273, ${series}; ISO 4762` });
    return [
      ...(series && !head
        ? [
            {
              use: `clearance hole for M${d}${flared ? ', countersunk head' : ''}`,
              rule: `ISO 273, ${series}`,
            },
          ]
        : []),
      ...(is(diameter, drill) && !sunk
        ? [{ use: `tapping drill for M${d}`, rule: `ISO 261, coarse pitch ${pitch}` }]
        : []),
    ];
  });
  const whole = Math.round(diameter);
  if (!uses.length && !seated.length && is(diameter, whole) && whole >= LEAST_FIT)
    uses.push({ use: `fit bore of ${whole}`, rule: 'a whole number of millimetres' });
  return [...seated, ...uses];
}

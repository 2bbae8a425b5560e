import type { Box3 } from '../../math/box3.ts';

/** How a part's cuts are hatched. */
export interface Hatch {
  /** rad from the plane's first axis. */
  angle: number;
  /** Distance of the lines relative to the usual one. */
  spacing: number;
}

/** ISO 128-3:2020, hatching of cuts: thin lines at 45°; where parts meet they differ in direction, then in spacing. */
export const HATCHES: readonly Hatch[] = [1, 0.7, 1.4, 2].flatMap((spacing) =>
  [Math.PI / 4, -Math.PI / 4].map((angle) => ({ angle, spacing })),
);

/** mm. Boxes nearer than this are taken for neighbours. */
const NEIGHBOURS = 0.5;

/**
 * A hatch for each part, the same wherever it is cut, such that parts with touching components differ as long as there
 * are patterns left. Greedy by the number of neighbours; a part that touches itself keeps one pattern, as practice has it.
 * @param boxes of the components, in model space
 * @returns index into `HATCHES` by part
 */
export function hatchPatterns(components: readonly { part: number; box: Box3 }[]): Map<number, number> {
  const neighbours = new Map<number, Set<number>>();
  const note = (a: number, b: number) => (neighbours.get(a) ?? neighbours.set(a, new Set()).get(a)!).add(b);
  for (const { part } of components) if (!neighbours.has(part)) neighbours.set(part, new Set());
  const sorted = [...components].sort((a, b) => a.box.min[0] - b.box.min[0]);
  sorted.forEach((a, i) => {
    for (let j = i + 1; j < sorted.length && sorted[j].box.min[0] <= a.box.max[0] + NEIGHBOURS; j++) {
      const b = sorted[j];
      if (a.part === b.part || [1, 2].some((k) => b.box.min[k] > a.box.max[k] + NEIGHBOURS || a.box.min[k] > b.box.max[k] + NEIGHBOURS))
        continue;
      note(a.part, b.part);
      note(b.part, a.part);
    }
  });
  const chosen = new Map<number, number>();
  const order = [...neighbours.keys()].sort((a, b) => neighbours.get(b)!.size - neighbours.get(a)!.size || a - b);
  for (const part of order) {
    const taken = [...neighbours.get(part)!].flatMap((n) => chosen.get(n) ?? []);
    const free = HATCHES.findIndex((_, i) => !taken.includes(i));
    chosen.set(part, free >= 0 ? free : part % HATCHES.length);
  }
  return chosen;
}

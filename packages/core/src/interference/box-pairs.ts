import { isEmptyBox, type Box3 } from '../math/box3.ts';

/**
 * All pairs of boxes that come within a distance of each other: sweep along the axis in which they are spread
 * widest, so that the cost grows with the boxes that lie side by side, not with all pairs.
 * @param reach mm @returns indices, the smaller first, in order
 */
export function boxPairs(boxes: readonly Box3[], reach = 0): [number, number][] {
  const along = widestSpread(boxes);
  const order = boxes.map((_, i) => i).filter((i) => !isEmptyBox(boxes[i]));
  order.sort((i, j) => boxes[i].min[along] - boxes[j].min[along]);
  const pairs: [number, number][] = [];
  let open: number[] = [];
  for (const i of order) {
    open = open.filter((j) => boxes[j].max[along] + reach >= boxes[i].min[along]);
    for (const j of open) if (meet(boxes[i], boxes[j], reach)) pairs.push(i < j ? [i, j] : [j, i]);
    open.push(i);
  }
  return pairs.sort((p, q) => p[0] - q[0] || p[1] - q[1]);
}

const meet = (a: Box3, b: Box3, reach: number): boolean =>
  [0, 1, 2].every((k) => a.min[k] <= b.max[k] + reach && b.min[k] <= a.max[k] + reach);

/** Axis along which the middles of boxes vary most. */
function widestSpread(boxes: readonly Box3[]): number {
  const variance = [0, 1, 2].map((k) => {
    const middles = boxes.filter((b) => !isEmptyBox(b)).map((b) => (b.min[k] + b.max[k]) / 2);
    const mean = middles.reduce((sum, x) => sum + x, 0) / (middles.length || 1);
    return middles.reduce((sum, x) => sum + (x - mean) ** 2, 0);
  });
  return variance.indexOf(Math.max(...variance));
}

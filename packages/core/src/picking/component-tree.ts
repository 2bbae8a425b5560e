import type { Box3 } from '../math/box3.ts';
import type { Vec3 } from '../math/vec3.ts';

/**
 * A binary tree of boxes over many components: which of them a ray may meet, without asking each.
 * Built once, flat arrays.
 */
export class ComponentTree {
  /** Six numbers a node. */
  private readonly bounds: Float64Array;
  /** Right child of an inner node, or −1 − first item of a leaf. The left child follows its parent. */
  private readonly link: Int32Array;
  private readonly count: Int32Array;
  private readonly items: Uint32Array;
  private used = 0;

  constructor(boxes: readonly Box3[]) {
    const n = Math.max(1, boxes.length);
    this.bounds = new Float64Array(12 * n);
    this.link = new Int32Array(2 * n);
    this.count = new Int32Array(2 * n);
    this.items = Uint32Array.from(boxes, (_, i) => i);
    if (boxes.length) this.build(boxes, 0, boxes.length);
  }

  private build(boxes: readonly Box3[], from: number, to: number): void {
    const node = this.used++;
    const b = this.bounds
      .subarray(6 * node, 6 * node + 6)
      .fill(Infinity, 0, 3)
      .fill(-Infinity, 3, 6);
    for (let i = from; i < to; i++)
      for (let k = 0; k < 3; k++) {
        b[k] = Math.min(b[k], boxes[this.items[i]].min[k]);
        b[3 + k] = Math.max(b[3 + k], boxes[this.items[i]].max[k]);
      }
    if (to - from <= 4) {
      this.link[node] = -1 - from;
      this.count[node] = to - from;
      return;
    }
    const axis = [0, 1, 2].reduce((best, k) => (b[3 + k] - b[k] > b[3 + best] - b[best] ? k : best), 0);
    const middle = (i: number) => boxes[i].min[axis] + boxes[i].max[axis];
    this.items.subarray(from, to).sort((p, q) => middle(p) - middle(q));
    const half = (from + to) >> 1;
    this.build(boxes, from, half);
    this.link[node] = this.used;
    this.build(boxes, half, to);
  }

  /** Calls `visit` with the index of every component whose box the ray meets, in no order. */
  alongRay(origin: Vec3, direction: Vec3, visit: (index: number) => void): void {
    if (!this.used) return;
    const stack = [0];
    while (stack.length) {
      const node = stack.pop()!;
      if (!this.meets(node, origin, direction)) continue;
      if (this.link[node] < 0) {
        const first = -1 - this.link[node];
        for (let i = first; i < first + this.count[node]; i++) visit(this.items[i]);
      } else stack.push(this.link[node], node + 1);
    }
  }

  private meets(node: number, o: Vec3, d: Vec3): boolean {
    let [near, far] = [-Infinity, Infinity];
    for (let k = 0; k < 3; k++) {
      const [low, high] = [this.bounds[6 * node + k], this.bounds[6 * node + 3 + k]];
      if (d[k] === 0) {
        if (o[k] < low || o[k] > high) return false;
        continue;
      }
      const a = (low - o[k]) / d[k];
      const b = (high - o[k]) / d[k];
      near = Math.max(near, Math.min(a, b));
      far = Math.min(far, Math.max(a, b));
    }
    return near <= far;
  }
}

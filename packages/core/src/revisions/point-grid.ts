import type { Vec3 } from '../math/vec3.ts';
import { addTo } from '../tables/grouped.ts';

/** Things by where they are, to be found within a distance. */
export class PointGrid<T> {
  private readonly cells = new Map<string, T[]>();
  private readonly cell: number;

  /** @param slack mm: how far what is looked for may lie from where it is looked for */
  constructor(private readonly slack: number) {
    this.cell = Math.max(LEAST_CELL, CELL_OF_SLACK * slack);
  }

  /** In several cells where it lies near a border. */
  add(at: Vec3, thing: T): void {
    const sides = at.map((x) => [...new Set([this.index(x - this.slack), this.index(x + this.slack)])]);
    for (const x of sides[0])
      for (const y of sides[1])
        for (const z of sides[2]) {
          addTo(this.cells, `${x} ${y} ${z}`, thing);
        }
  }

  /** All that lies within the slack, and what lies a little farther. */
  near(at: Vec3): readonly T[] {
    return this.cells.get(at.map((x) => this.index(x)).join(' ')) ?? NOTHING;
  }

  private index = (x: number): number => Math.floor(x / this.cell);
}

const NOTHING: readonly never[] = [];
/** mm, the least side of a cell: far above what is one place. */
const LEAST_CELL = 1;
const CELL_OF_SLACK = 4;

import type { Vec3 } from '@bathyscope/core/math';
import type { Occt } from './load.ts';
import { takeXYZ } from './shapes.ts';

export interface LeastDistance {
  /** mm; 0 when they touch or run into each other. */
  distance: number;
  /** The two nearest points. */
  from: Vec3;
  to: Vec3;
}

/**
 * The exact least distance of two shapes by the kernel's extrema search (BRepExtrema_DistShapeShape). @throws
 * Error where it finds none
 */
export function nearestOfShapes(oc: Occt, one: Occt, two: Occt): LeastDistance {
  const search = new oc.BRepExtrema_DistShapeShape_1();
  const progress = new oc.Message_ProgressRange_1();
  try {
    search.LoadS1(one);
    search.LoadS2(two);
    if (!search.Perform(progress) || search.NbSolution() < 1)
      throw new Error('The kernel found no least distance between these two.');
    return {
      distance: search.Value() as number,
      from: takeXYZ(search.PointOnShape1(1)),
      to: takeXYZ(search.PointOnShape2(1)),
    };
  } finally {
    search.delete();
    progress.delete();
  }
}

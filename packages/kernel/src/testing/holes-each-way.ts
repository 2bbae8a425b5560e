import type { Hole, HoleStep } from '@bathyscope/core/geometry';
import { describeCurve } from '../describing/describe-edges.ts';
import { describePart } from '../describing/describe-part.ts';
import type { LoadedKernel, Occt } from '../occt/load.ts';
import { explore, ShapeType } from '../occt/shapes.ts';
import type { MadeSolids } from './made-solids.ts';

export const WAYS: [string, number, (made: MadeSolids, shape: Occt) => Occt][] = [
  ['as it is', 1, (_, s) => s],
  ['as B-splines', 1, (made, s) => made.asSplines(s)],
  ['a thousandth', 1e-3, (made, s) => made.scaled(s, 1e-3)],
  ['turned', 1, (made, s) => made.moved(made.turned(s, [1, 2, 3], 0.7), [300, -200, 100])],
];

export type ExpectedHole = Pick<Hole, 'diameter' | 'depth' | 'ends'> & {
  steps?: (Partial<HoleStep> & Pick<HoleStep, 'kind'>)[];
  opensInto?: number;
};

const rounded = (x: number) => Number(x.toPrecision(6));

/** The holes of a shape in each way it is written; lengths in mm of the shape as made. */
export const holesEachWay = (
  kernel: LoadedKernel,
  made: MadeSolids,
  make: () => Occt,
): { how: string; said: ExpectedHole[] }[] =>
  WAYS.map(([how, factor, write]) => ({
    how,
    said: describePart(kernel.oc, write(made, make()))
      .holes.map((h): ExpectedHole => ({
        diameter: rounded(h.diameter / factor),
        depth: rounded(h.depth / factor),
        ends: h.ends,
        steps: h.steps.map(({ kind, diameter, depth, angle, width, side }) => ({
          kind,
          side,
          diameter: rounded(diameter / factor),
          depth: rounded(depth / factor),
          ...(angle !== undefined && { angle: rounded((angle * 180) / Math.PI) }),
          ...(width !== undefined && { width: rounded(width / factor) }),
        })),
        opensInto: h.opensInto.length,
      }))
      .sort((a, b) => b.diameter - a.diameter || b.depth - a.depth),
  }));

/** Rounds the circles of a radius at a height. */
export function roundRims(
  oc: Occt,
  shape: Occt,
  at: (centreZ: number, radius: number) => boolean,
  radius: number,
): Occt {
  const fillet = new oc.BRepFilletAPI_MakeFillet(shape, oc.ChFi3d_FilletShape.ChFi3d_Rational);
  const seen = new Set<number>();
  explore(oc, shape, ShapeType.edge, (e) => {
    const edge = oc.TopoDS.Edge_1(e);
    const { curve, centre, radius: own } = describeCurve(oc, edge);
    const key = edge.HashCode(1e9) as number;
    if (curve !== 'circle' || seen.has(key) || !at(centre![2], own!)) return;
    seen.add(key);
    fillet.Add_2(radius, edge);
  });
  return fillet.Shape();
}

import type { CurveKind, EdgeFacts } from '@bathyscope/core/geometry';
import type { Vec3 } from '@bathyscope/core/math';
import { recogniseCurve } from '@bathyscope/core/recognise';
import type { Occt } from '../occt/load.ts';
import { className } from '../occt/memory.ts';
import { takeXYZ } from '../occt/shapes.ts';

export type CurveFacts = Pick<
  EdgeFacts,
  'curve' | 'accuracy' | 'length' | 'centre' | 'axis' | 'radius' | 'minorRadius' | 'major' | 'arcAngle'
>;

const SAMPLES = 32;

/**
 * The exact curve of an edge; a line or circle hidden in a free-form curve is recognised.
 * Lengths by adaptive quadrature.
 */
export function describeCurve(oc: Occt, edge: Occt): CurveFacts {
  const curve = new oc.BRepAdaptor_Curve_2(edge);
  try {
    const length = oc.GCPnts_AbscissaPoint.Length_1(curve) as number;
    return { ...byType(curve, curveClass(oc, edge), length), length };
  } finally {
    curve.delete();
  }
}

/** The class of the curve under an edge, without its prefix; the adaptor's own kind has no binding. */
export function curveClass(oc: Occt, edge: Occt): string {
  const handle = oc.BRep_Tool.Curve_2(edge, { current: 0 }, { current: 0 });
  const name = handle.IsNull() ? '' : className(oc, handle.get()).replace('Geom_', '');
  handle.delete();
  return name;
}

function byType(curve: Occt, type: string, length: number): Omit<CurveFacts, 'length'> {
  const exact = { kind: 'exact' } as const;
  if (type === 'Line') {
    const line = curve.Line();
    const axis = takeXYZ(line.Direction());
    line.delete();
    return { curve: 'line', accuracy: exact, axis };
  }
  if (type === 'Circle' || type === 'Ellipse') {
    const conic = type === 'Circle' ? curve.Circle() : curve.Ellipse();
    const centre = takeXYZ(conic.Location());
    const axisObject = conic.Axis();
    const axis = takeXYZ(axisObject.Direction());
    axisObject.delete();
    const round = type === 'Circle';
    const radius = (round ? conic.Radius() : conic.MajorRadius()) as number;
    const minorRadius = round ? undefined : (conic.MinorRadius() as number);
    const xAxis = round ? null : conic.XAxis();
    const major = xAxis && takeXYZ(xAxis.Direction());
    xAxis?.delete();
    conic.delete();
    if (round) return { curve: 'circle', accuracy: exact, centre, axis, radius, arcAngle: length / radius };
    return { curve: 'ellipse', accuracy: exact, centre, axis, radius, minorRadius, major: major! };
  }
  if (type === 'Hyperbola' || type === 'Parabola')
    return { curve: type.toLowerCase() as CurveKind, accuracy: exact };
  const found = recogniseCurve(sampleCurve(curve));
  if (!found) return { curve: 'freeform', accuracy: exact };
  const accuracy = { kind: 'recognised', deviation: found.deviation } as const;
  if (found.kind === 'line') return { curve: 'line', accuracy, axis: found.axis };
  return {
    curve: 'circle',
    accuracy,
    centre: found.centre,
    axis: found.axis,
    radius: found.radius,
    arcAngle: length / found.radius,
  };
}

function sampleCurve(curve: Occt): Vec3[] {
  const [from, to] = [curve.FirstParameter() as number, curve.LastParameter() as number];
  return Array.from({ length: SAMPLES + 1 }, (_, i) =>
    takeXYZ(curve.Value(from + ((to - from) * i) / SAMPLES)),
  );
}

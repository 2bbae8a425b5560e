import type { CutLayer } from '@bathyscope/core/drawing';
import type { Point2 } from '@bathyscope/core/math';
import { HATCHES, reverseCurve, type PlaneCurve } from '@bathyscope/core/section';
import DxfParser from 'dxf-parser';
import { writeCutDxf } from './write-cut-dxf.ts';

/* What dxf-parser 1.1.2, an independent reader, finds in a section's drawing. */
const Q = Math.PI / 2;
const line = (from: Point2, to: Point2): PlaneCurve => ({ shape: 'line', from, to });
const layer = (name: string, loops: PlaneCurve[][], open: PlaneCurve[][] = []): CutLayer => ({
  name,
  colour: [0.5, 0.5, 0.5],
  hatch: HATCHES[0],
  thickness: 9,
  loops,
  open,
});

const read = (layers: CutLayer[]) => new DxfParser().parseSync(writeCutDxf(layers))!;

test('lines, arcs, circles and ellipses arrive as such, in millimetres, each component on its layer', () => {
  const rounded: PlaneCurve[] = [
    line([0, 0], [40, 0]),
    { shape: 'arc', centre: [40, 10], radius: 10, from: -Q, to: Q },
    line([40, 20], [0, 20]),
    line([0, 20], [0, 0]),
  ];
  const hole: PlaneCurve = { shape: 'arc', centre: [40, 10], radius: 4, from: 0, to: 2 * Math.PI };
  const ellipse: PlaneCurve = {
    shape: 'ellipse',
    centre: [5, 6],
    major: [3, 4],
    ratio: 0.5,
    from: 0,
    to: 2 * Math.PI,
  };
  const free: PlaneCurve = {
    shape: 'polyline',
    points: [
      [0, 0],
      [1, 2],
      [3, 3],
    ],
    tolerance: 1e-4,
  };
  const dxf = read([
    layer('Valve body', [rounded, [reverseCurve(hole)]]),
    layer('Bolt: M8', [[ellipse]], [[free]]),
  ]);
  expect(dxf.header['$INSUNITS']).toBe(4);
  expect(Object.keys(dxf.tables.layer.layers)).toEqual(expect.arrayContaining(['Valve_body', 'Bolt_M8']));
  type Entity = {
    type: string;
    layer: string;
    startAngle?: number;
    endAngle?: number;
    radius?: number;
    center?: { x: number; y: number };
    majorAxisEndPoint?: { x: number; y: number };
    axisRatio?: number;
    vertices?: { x: number; y: number }[];
  };
  const entities = dxf.entities as unknown as Entity[];
  const of = (type: string) => entities.filter((e) => e.type === type);
  expect(of('LINE').map((e) => e.layer)).toEqual(['Valve_body', 'Valve_body', 'Valve_body']);
  expect(of('LINE')[0].vertices).toMatchObject([
    { x: 0, y: 0 },
    { x: 40, y: 0 },
  ]);
  const [arc] = of('ARC');
  expect(arc).toMatchObject({ radius: 10, center: { x: 40, y: 10 } });
  // Anticlockwise from three quarters of a turn to one.
  expect(Math.cos(arc.startAngle!)).toBeCloseTo(0, 9);
  expect(Math.sin(arc.startAngle!)).toBeCloseTo(-1, 9);
  expect(Math.sin(arc.endAngle!)).toBeCloseTo(1, 9);
  expect(of('CIRCLE')).toMatchObject([{ radius: 4, center: { x: 40, y: 10 }, layer: 'Valve_body' }]);
  expect(of('ELLIPSE')).toMatchObject([
    { center: { x: 5, y: 6 }, majorAxisEndPoint: { x: 3, y: 4 }, axisRatio: 0.5, layer: 'Bolt_M8' },
  ]);
  expect(of('LWPOLYLINE')[0].vertices).toHaveLength(3);
});

test('an arc run through clockwise, or of a mirrored component, is the same arc', () => {
  const arc: PlaneCurve = { shape: 'arc', centre: [1, 2], radius: 5, from: 0.3, to: 2.1 };
  const angles = (c: PlaneCurve) => {
    const [{ startAngle, endAngle }] = read([layer('a', [[c, line([0, 0], [1, 1])]])])
      .entities as unknown as {
      startAngle: number;
      endAngle: number;
    }[];
    return [startAngle, endAngle];
  };
  const [from, to] = angles(arc);
  expect(from).toBeCloseTo(0.3, 9);
  expect(to).toBeCloseTo(2.1, 9);
  expect(angles(reverseCurve(arc))).toEqual([from, to]);
});

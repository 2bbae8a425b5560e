import { layerNames, wholeTurnDegrees, type CutLayer } from '@bathyscope/core/drawing';
import type { PlaneCurve } from '@bathyscope/core/section';
import { FULL_TURN } from '@bathyscope/core/tolerances';
import { Colors, DxfWriter, point2d, point3d, Units } from '@tarikjabiri/dxf';

const COLOURS = [
  Colors.White,
  Colors.Red,
  Colors.Green,
  Colors.Blue,
  Colors.Cyan,
  Colors.Magenta,
  Colors.Yellow,
];

/**
 * A section's outlines as DXF in millimetres at 1:1, a layer for each component; lines, arcs, circles and
 * ellipses as such.
 */
export function writeCutDxf(layers: readonly CutLayer[]): string {
  const dxf = new DxfWriter();
  dxf.setUnits(Units.Millimeters);
  layerNames(layers).forEach((layerName, i) => {
    dxf.addLayer(layerName, COLOURS[i % COLOURS.length], 'Continuous');
    for (const curve of [...layers[i].loops, ...layers[i].open].flat()) add(dxf, curve, { layerName });
  });
  return dxf.stringify();
}

function add(dxf: DxfWriter, curve: PlaneCurve, on: { layerName: string }): void {
  const at = ([x, y]: readonly [number, number]) => point3d(x, y, 0);
  if (curve.shape === 'line') return void dxf.addLine(at(curve.from), at(curve.to), on);
  if (curve.shape === 'polyline')
    return void dxf.addLWPolyline(
      curve.points.map(([x, y]) => ({ point: point2d(x, y) })),
      on,
    );
  // The format runs anticlockwise.
  const sense = curve.shape === 'ellipse' && curve.ratio < 0 ? -1 : 1;
  const [from, to] = (curve.to - curve.from) * sense > 0 ? [curve.from, curve.to] : [curve.to, curve.from];
  const full = Math.abs(curve.to - curve.from) > FULL_TURN;
  if (curve.shape === 'ellipse')
    return void dxf.addEllipse(
      at(curve.centre),
      at(curve.major),
      Math.abs(curve.ratio),
      full ? 0 : sense * from,
      full ? 2 * Math.PI : sense * to,
      on,
    );
  if (full) dxf.addCircle(at(curve.centre), curve.radius, on);
  else dxf.addArc(at(curve.centre), curve.radius, wholeTurnDegrees(from), wholeTurnDegrees(to), on);
}

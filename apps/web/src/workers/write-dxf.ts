import { ISO_128_LINES, plainCurves, type Drawing, type LineKind } from '@bathyscope/core';
import { Colors, DxfWriter, point2d, point3d, Units } from '@tarikjabiri/dxf';

/** Line widths of the layers in hundredths of a millimetre, as the format wants them. */
const COLOURS: Record<LineKind, number> = { visible: Colors.White, hidden: Colors.Blue, smooth: Colors.Cyan, hatch: Colors.Green };

/** A drawing as DXF in millimetres at 1:1, a layer for each line kind; lines, arcs and circles as such. */
export function writeDxf(drawing: Drawing): string {
  const dxf = new DxfWriter();
  dxf.setUnits(Units.Millimeters);
  dxf.addLType('DASHED', 'Dashed __ __ __', [ISO_128_LINES.hidden.dash[0], -ISO_128_LINES.hidden.dash[1]]);
  for (const kind of Object.keys(ISO_128_LINES) as LineKind[])
    dxf.addLayer(ISO_128_LINES[kind].layer, COLOURS[kind], kind === 'hidden' ? 'DASHED' : 'Continuous');
  const on = (kind: LineKind) => ({ layerName: ISO_128_LINES[kind].layer });
  const at = (p: readonly [number, number]) => point3d(p[0], p[1], 0);
  const { lines, circles, arcs, polylines } = plainCurves(drawing);
  for (const l of lines) dxf.addLine(at(l.from), at(l.to), on(l.kind));
  for (const c of circles) dxf.addCircle(at(c.centre), c.radius, on(c.kind));
  for (const a of arcs) dxf.addArc(at(a.centre), a.radius, a.fromDegrees, a.toDegrees, on(a.kind));
  for (const p of polylines)
    dxf.addLWPolyline(
      p.points.map((q) => ({ point: point2d(q[0], q[1]) })),
      on(p.kind),
    );
  return dxf.stringify();
}

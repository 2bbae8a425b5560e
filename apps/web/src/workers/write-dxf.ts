import { ISO_128_LINES, plainCurves, type Drawing, type LineKind } from '@bathyscope/core/drawing';
import {
  Colors,
  DxfWriter,
  point2d,
  point3d,
  TextHorizontalAlignment,
  TextVerticalAlignment,
  Units,
} from '@tarikjabiri/dxf';

/** Line widths of the layers in hundredths of a millimetre, as the format wants them. */
const COLOURS: Record<LineKind, number> = {
  visible: Colors.White,
  hidden: Colors.Blue,
  smooth: Colors.Cyan,
  hatch: Colors.Green,
};

const DIMENSIONS = 'DIMENSIONS';

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
  for (const { lines: all, arrows, text } of drawing.dimensions ?? []) {
    dxf.addLayer(DIMENSIONS, Colors.Magenta, 'Continuous');
    const layer = { layerName: DIMENSIONS };
    for (const [p, q] of all) dxf.addLine(at(p), at(q), layer);
    // An arrowhead is a line that grows from nothing to its width.
    for (const [tip, p, q] of arrows)
      dxf.addLWPolyline(
        [
          {
            point: point2d(tip[0], tip[1]),
            startingWidth: 0,
            endWidth: Math.hypot(p[0] - q[0], p[1] - q[1]),
          },
          { point: point2d((p[0] + q[0]) / 2, (p[1] + q[1]) / 2) },
        ],
        layer,
      );
    dxf.addText(at(text.at), text.height, text.value, {
      ...layer,
      horizontalAlignment: TextHorizontalAlignment.Center,
      verticalAlignment: TextVerticalAlignment.Middle,
      secondAlignmentPoint: at(text.at),
    });
  }
  return dxf.stringify();
}

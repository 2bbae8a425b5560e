import type { Point2 } from '../math/point2.ts';
import { FULL_TURN } from '../tolerances.ts';
import {
  ISO_128_LINES,
  pointOnArc,
  type Drawing,
  type DrawingDimension,
  type DrawnCurve,
  type LineKind,
} from './drawing.ts';
import { escapeXml, svgNumber as n, svgSheet, type SheetMap } from './svg-sheet.ts';

export interface SheetOptions {
  /** Paper to model: 0.5 for 1:2. */
  scale: number;
  title: string;
}

/** A drawing as SVG at true scale: sizes in mm of paper, one group a line kind, lines and arcs as such. */
export function writeSvg(drawing: Drawing, { scale, title }: SheetOptions): string {
  const kinds: LineKind[] = ['hatch', 'hidden', 'smooth', 'visible'];
  return svgSheet(
    { box: drawing.box, scale, title, about: `polylines within ${n(drawing.tolerance)} mm of the curve` },
    (map) => [
      ...kinds.flatMap((kind) => {
        const curves = drawing.curves.filter((c) => c.kind === kind);
        if (!curves.length) return [];
        const { width, dash, layer } = ISO_128_LINES[kind];
        return [
          `<g id="${layer}" stroke-width="${width}"${dash.length ? ` stroke-dasharray="${dash.join(' ')}"` : ''}>`,
          ...curves.map((c) => element(c, map)),
          '</g>',
        ];
      }),
      ...dimensionElements(drawing.dimensions ?? [], map),
    ],
  );
}

function dimensionElements(dimensions: readonly DrawingDimension[], { x, y, scale }: SheetMap): string[] {
  if (!dimensions.length) return [];
  const point = ([px, py]: Point2) => `${n(x(px))} ${n(y(py))}`;
  return [
    `<g id="DIMENSIONS" stroke-width="${ISO_128_LINES.smooth.width}">`,
    ...dimensions.flatMap(({ lines, arrows, text: { value, at, height } }) => [
      ...lines.map(([p, q]) => `<path d="M${point(p)}L${point(q)}"/>`),
      ...arrows.map((corners) => `<path d="M${corners.map(point).join('L')}Z" fill="#000" stroke="none"/>`),
      `<text x="${n(x(at[0]))}" y="${n(y(at[1]))}" font-size="${n(height * scale)}" font-family="sans-serif" text-anchor="middle" dominant-baseline="central" fill="#000" stroke="none">${escapeXml(value)}</text>`,
    ]),
    '</g>',
  ];
}

function element(c: DrawnCurve, { x, y, scale }: SheetMap): string {
  if (c.shape === 'line')
    return `<line x1="${n(x(c.from[0]))}" y1="${n(y(c.from[1]))}" x2="${n(x(c.to[0]))}" y2="${n(y(c.to[1]))}"/>`;
  if (c.shape === 'polyline')
    return `<polyline points="${c.points.map((p) => `${n(x(p[0]))},${n(y(p[1]))}`).join(' ')}"/>`;
  const r = c.radius * scale;
  if (c.to - c.from > FULL_TURN)
    return `<circle cx="${n(x(c.centre[0]))}" cy="${n(y(c.centre[1]))}" r="${n(r)}"/>`;
  const [a, b] = [pointOnArc(c, c.from), pointOnArc(c, c.to)];
  // Anticlockwise with y up is the other way round with y down.
  return `<path d="M${n(x(a[0]))} ${n(y(a[1]))}A${n(r)} ${n(r)} 0 ${c.to - c.from > Math.PI ? 1 : 0} 0 ${n(x(b[0]))} ${n(y(b[1]))}"/>`;
}

import { ISO_128_LINES, pointOnArc, type Drawing, type DrawnCurve, type LineKind } from './drawing.ts';

/** mm of paper around the drawing. */
const MARGIN = 5;

export interface SheetOptions {
  /** Paper to model: 0.5 for 1:2. */
  scale: number;
  title: string;
}

const n = (x: number): string => String(Math.round(x * 1e5) / 1e5);

/** A drawing as SVG at true scale: sizes in mm of paper, one group a line kind, lines and arcs as such. */
export function writeSvg(drawing: Drawing, { scale, title }: SheetOptions): string {
  const { box } = drawing;
  const [width, height] = [(box.maxX - box.minX) * scale + 2 * MARGIN, (box.maxY - box.minY) * scale + 2 * MARGIN];
  const x = (v: number) => (v - box.minX) * scale + MARGIN;
  const y = (v: number) => (box.maxY - v) * scale + MARGIN;
  const kinds: LineKind[] = ['hidden', 'smooth', 'visible'];
  const groups = kinds.flatMap((kind) => {
    const curves = drawing.curves.filter((c) => c.kind === kind);
    if (!curves.length) return [];
    const { width: line, dash, layer } = ISO_128_LINES[kind];
    return [`<g id="${layer}" stroke-width="${line}"${dash.length ? ` stroke-dasharray="${dash.join(' ')}"` : ''}>`, ...curves.map((c) => element(c, x, y, scale)), '</g>'];
  });
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<svg xmlns="http://www.w3.org/2000/svg" width="${n(width)}mm" height="${n(height)}mm" viewBox="0 0 ${n(width)} ${n(height)}" fill="none" stroke="#000" stroke-linecap="round" stroke-linejoin="round">`,
    `<title>${escape(title)}</title>`,
    `<desc>Scale ${scale >= 1 ? `${n(scale)}:1` : `1:${n(1 / scale)}`}, polylines within ${n(drawing.tolerance)} mm of the curve</desc>`,
    ...groups, '</svg>', '',
  ].join('\n');
}

const escape = (text: string): string => text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);

function element(c: DrawnCurve, x: (v: number) => number, y: (v: number) => number, scale: number): string {
  if (c.shape === 'line') return `<line x1="${n(x(c.from[0]))}" y1="${n(y(c.from[1]))}" x2="${n(x(c.to[0]))}" y2="${n(y(c.to[1]))}"/>`;
  if (c.shape === 'polyline') return `<polyline points="${c.points.map((p) => `${n(x(p[0]))},${n(y(p[1]))}`).join(' ')}"/>`;
  const r = c.radius * scale;
  if (c.to - c.from > 2 * Math.PI - 1e-6) return `<circle cx="${n(x(c.centre[0]))}" cy="${n(y(c.centre[1]))}" r="${n(r)}"/>`;
  const [a, b] = [pointOnArc(c, c.from), pointOnArc(c, c.to)];
  // Anticlockwise with y up is the other way round with y down.
  return `<path d="M${n(x(a[0]))} ${n(y(a[1]))}A${n(r)} ${n(r)} 0 ${c.to - c.from > Math.PI ? 1 : 0} 0 ${n(x(b[0]))} ${n(y(b[1]))}"/>`;
}

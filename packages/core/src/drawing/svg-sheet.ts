import type { Drawing } from './drawing.ts';

/** mm of paper around a drawing. */
const MARGIN = 5;

/** A figure in SVG: six places, never −0. */
export const svgNumber = (x: number): string => String(Math.round(x * 1e6) / 1e6 + 0);

/**
 * What no XML document may hold (XML 1.0, 2.2 Char): most control characters, halves of surrogate pairs,
 * U+FFFE and U+FFFF.
 */
const NO_XML = /[^\t\n\r\u0020-\ud7ff\ue000-\ufffd\u{10000}-\u{10ffff}]/gu;

/** Text of any origin as XML can hold it. */
export const xmlText = (text: string): string => text.replace(NO_XML, '\ufffd');

export const escapeXml = (text: string): string =>
  xmlText(text).replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);

/** From model to paper, mm: x to the right, y down. */
export interface SheetMap {
  x: (v: number) => number;
  y: (v: number) => number;
  scale: number;
}

/**
 * A drawing on paper as an SVG document: sizes in mm, black lines without fill.
 * @param scale paper to model: 0.5 for 1:2
 * @param about what is said beside the scale
 * @param draw the elements, in the map given
 */
export function svgSheet(
  { box, scale, title, about }: { box: Drawing['box']; scale: number; title: string; about: string },
  draw: (map: SheetMap) => string[],
): string {
  const [width, height] = [
    (box.maxX - box.minX) * scale + 2 * MARGIN,
    (box.maxY - box.minY) * scale + 2 * MARGIN,
  ].map(svgNumber);
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}mm" height="${height}mm" viewBox="0 0 ${width} ${height}" fill="none" stroke="#000" stroke-linecap="round" stroke-linejoin="round">`,
    `<title>${escapeXml(title)}</title>`,
    `<desc>Scale ${scale >= 1 ? `${svgNumber(scale)}:1` : `1:${svgNumber(1 / scale)}`}, ${about}</desc>`,
    ...draw({ scale, x: (v) => (v - box.minX) * scale + MARGIN, y: (v) => (box.maxY - v) * scale + MARGIN }),
    '</svg>',
    '',
  ].join('\n');
}

import type { Point2 } from '../math/point2.ts';
import { ISO_128_LINES, type Drawing } from './drawing.ts';
import { escapeXml, svgNumber as n, svgSheet, type SheetMap } from './svg-sheet.ts';
import type { Vec3 } from '../math/vec3.ts';
import type { Hatch } from '../section/hatch-patterns.ts';
import { endOf, pointsAlong, startOf, toleranceOf, type PlaneCurve } from '../section/curves/plane-curves.ts';

/** One component's cut in the drawing of a section. */
export interface CutLayer {
  name: string;
  /** sRGB 0–1 */
  colour: Vec3;
  hatch: Hatch;
  /** Mean wall thickness: twice the area over the perimeter, mm. */
  thickness: number;
  /** Outer loops anticlockwise, holes clockwise; mm. */
  loops: PlaneCurve[][];
  /** Outlines that do not close. */
  open: PlaneCurve[][];
}

export interface CutSheet {
  title: string;
  /** Paper to model: 0.5 for 1:2. */
  scale: number;
  hatched: boolean;
}

/**
 * Relative to the distance of the hatch lines: a mean wall thinner than this is
 * filled (ISO 128-3, thin cuts).
 */
const THIN = 0.8;
const HATCH_SPACING = 2.5;

/**
 * Whether a cut is too thin to be hatched, where its hatch lines lie `spacing` mm
 * apart at the usual distance.
 */
export const isThin = (
  { thickness, hatch }: Pick<CutLayer, 'thickness' | 'hatch'>,
  spacing: number,
): boolean => thickness < THIN * spacing * hatch.spacing;

/**
 * Distance of a cut's hatch lines in the model, mm, on paper of a scale; where it is too thin
 * for them the lines touch.
 */
export const hatchDistance = (cut: Pick<CutLayer, 'thickness' | 'hatch'>, scale: number): number =>
  (isThin(cut, HATCH_SPACING / scale) ? ISO_128_LINES.hatch.width : HATCH_SPACING * cut.hatch.spacing) /
  scale;

/**
 * The box of a drawing of cuts, mm; round curves taken in steps of 1°, so that it holds them
 * within 4e-5 of their radius.
 */
export function boxOfLayers(layers: readonly CutLayer[]): Drawing['box'] {
  const box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
  for (const { loops, open } of layers)
    for (const curve of [...loops, ...open].flat())
      for (const [x, y] of pointsAlong(curve, Math.PI / 180)) {
        box.minX = Math.min(box.minX, x);
        box.minY = Math.min(box.minY, y);
        box.maxX = Math.max(box.maxX, x);
        box.maxY = Math.max(box.maxY, y);
      }
  return box.minX <= box.maxX ? box : { minX: 0, minY: 0, maxX: 0, maxY: 0 };
}

/**
 * Distinct names that exchange formats take: no characters that DXF forbids in layers, no two
 * alike, also but for capitals.
 */
export function layerNames(layers: readonly { name: string }[]): string[] {
  const used = new Set<string>();
  return layers.map(({ name }) => {
    const plain = [...name.replace(NO_LAYER, '_')].slice(0, 200).join('') || 'component';
    let distinct = plain;
    for (let n = 2; used.has(distinct.toLowerCase()); n++) distinct = `${plain}_${n}`;
    used.add(distinct.toLowerCase());
    return distinct;
  });
}

/**
 * What DXF forbids in names of layers; control characters and halves of pairs, which
 * would end a line or a file.
 */
const NO_LAYER = /[<>/\\":;?*|=`',\s\p{Control}\p{Surrogate}]+/gu;

/**
 * The SVG path of curves that follow each other, in the given mapping of model to paper (y turned over).
 * Lines, arcs and ellipses as such.
 */
export function pathOf(curves: readonly PlaneCurve[], { x, y, scale }: SheetMap, closed: boolean): string {
  const at = (p: Point2) => `${n(x(p[0]))} ${n(y(p[1]))}`;
  const parts = [`M${at(startOf(curves[0]))}`];
  for (const c of curves) {
    if (c.shape === 'line') parts.push(`L${at(c.to)}`);
    else if (c.shape === 'polyline') parts.push(...c.points.slice(1).map((p) => `L${at(p)}`));
    else parts.push(...arcs(c, at, scale));
  }
  return parts.join('') + (closed ? 'Z' : '');
}

/** SVG draws no full turn with one arc: two halves. */
function arcs(
  c: PlaneCurve & { shape: 'arc' | 'ellipse' },
  at: (p: Point2) => string,
  scale: number,
): string[] {
  const run = c.to - c.from;
  const halves = Math.abs(run) > Math.PI ? 2 : 1;
  const major = c.shape === 'arc' ? c.radius : Math.hypot(...c.major);
  const minor = c.shape === 'arc' ? c.radius : major * Math.abs(c.ratio);
  const tilt = c.shape === 'arc' ? 0 : (-Math.atan2(c.major[1], c.major[0]) * 180) / Math.PI;
  // Anticlockwise with y up is the other way round with y down; a negative ratio turns it once more.
  const sweep = run > 0 === (c.shape === 'arc' || c.ratio > 0) ? 0 : 1;
  return Array.from(
    { length: halves },
    (_, i) =>
      `A${n(major * scale)} ${n(minor * scale)} ${n(tilt)} 0 ${sweep} ${at(endOf({ ...c, to: c.from + (run * (i + 1)) / halves }))}`,
  );
}

const hex = (c: Vec3): string =>
  `#${c
    .map((v) =>
      Math.round(Math.max(0, Math.min(1, v)) * 255)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;
/**
 * The cut as SVG at true scale in mm of paper: a group for each component, outlines wide, hatches narrow (ISO
 * 128-2, ISO 128-3).
 */
export function writeCutSvg(layers: readonly CutLayer[], { title, scale, hatched }: CutSheet): string {
  const names = layerNames(layers);
  const tolerance = Math.max(0, ...layers.map((l) => toleranceOf([...l.loops, ...l.open].flat())));
  const pattern = ({ hatch: { angle, spacing } }: CutLayer, i: number) => {
    const step = n(HATCH_SPACING * spacing);
    return `<pattern id="hatch${i}" patternUnits="userSpaceOnUse" width="${step}" height="${step}" patternTransform="rotate(${n((-angle * 180) / Math.PI)})"><line x1="0" y1="0" x2="${step}" y2="0" stroke="#000" stroke-width="${ISO_128_LINES.hatch.width}"/></pattern>`;
  };
  const about = tolerance ? `polylines within ${n(tolerance)} mm of the curve` : 'all curves exact';
  return svgSheet({ box: boxOfLayers(layers), scale, title, about }, (map) => [
    ...(hatched ? ['<defs>', ...layers.map(pattern), '</defs>'] : []),
    ...layers.flatMap((layer, i) => [
      `<g id="${escapeXml(names[i])}" stroke-width="${ISO_128_LINES.visible.width}" data-colour="${hex(layer.colour)}">`,
      ...(layer.loops.length
        ? [
            `<path fill-rule="evenodd"${hatched ? ` fill="${isThin(layer, HATCH_SPACING / scale) ? '#000' : `url(#hatch${i})`}"` : ''} d="${layer.loops.map((l) => pathOf(l, map, true)).join('')}"/>`,
          ]
        : []),
      ...layer.open.map((l) => `<path d="${pathOf(l, map, false)}"/>`),
      '</g>',
    ]),
  ]);
}

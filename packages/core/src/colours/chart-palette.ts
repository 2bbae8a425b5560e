import { map3, type Vec3 } from '../math/vec3.ts';

/** sRGB 0–1 of #rrggbb. */
export const fromHex = (hex: string): Vec3 => map3([1, 3, 5], (i) => parseInt(hex.slice(i, i + 2), 16) / 255);

/**
 * Muted colours of a printed chart, for parts that have none of their own; ordered so that neighbours in it
 * differ in hue and lightness.
 */
export const CHART_PALETTE: readonly Vec3[] = [
  '#c2a36b',
  '#7fa59c',
  '#a56a52',
  '#8b93a8',
  '#b6b38a',
  '#5f8196',
  '#b58f9f',
  '#7d8f6a',
].map(fromHex);

/**
 * The colour of a part without one: the same each time, and another than that of the parts listed next to it.
 */
export const partColour = (part: number): Vec3 => CHART_PALETTE[part % CHART_PALETTE.length];

/** The colour of most of a part's surface, where its file colours faces; none where most of it has none. */
export function mostOf(
  faceColours: Readonly<Record<number, Vec3>> | undefined,
  geometry: { faces: readonly { area: number }[] } | undefined,
): Vec3 | undefined {
  if (!faceColours || !geometry) return undefined;
  const areas = new Map<string, { colour: Vec3 | undefined; area: number }>();
  geometry.faces.forEach(({ area }, i) => {
    const colour = faceColours[i] as Vec3 | undefined;
    const key = colour?.join() ?? '';
    const known = areas.get(key);
    if (known) known.area += area;
    else areas.set(key, { colour, area });
  });
  return [...areas.values()].reduce((most, a) => (a.area > most.area ? a : most), {
    colour: undefined as Vec3 | undefined,
    area: 0,
  }).colour;
}

/**
 * The colour a component is drawn in: its own on the screen, else the file's, else one
 * of the palette. sRGB 0–1.
 */
export const componentColour = (
  { part, colour }: { part: number; colour?: Vec3 },
  shown?: { colour?: Vec3 },
): Vec3 => shown?.colour ?? colour ?? partColour(part);

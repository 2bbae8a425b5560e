import { fromHex } from '../colours/chart-palette.ts';
import type { Vec3 } from '../math/vec3.ts';
import { lookOfMaterial } from './material-look.ts';
import type { MaterialFamily } from './materials.ts';

/*
 * The colour a material has of itself, for parts whose file gives none. Common
 * practice; no standard says one.
 */

/** The first whose words are in the name; sRGB of a clean, machined or moulded surface. */
const BY_NAME: readonly (readonly [RegExp, string])[] = [
  [/copper-nickel|cuni/i, '#b9a596'],
  [/\bcopper\b/i, '#c98a66'],
  [/\bbrass\b/i, '#cdb469'],
  [/bronze|gunmetal/i, '#b8925c'],
  [/cast iron/i, '#6d7073'],
  [/stainless|duplex|\b[aA][24]-\d+/i, '#b4b9bd'],
  [/alumini?um/i, '#c3c7ca'],
  [/titanium/i, '#a19d99'],
  [/magnesium|zinc/i, '#aeb2b3'],
  [/\blead\b|tungsten/i, '#7d8187'],
  [/nickel|inconel|monel/i, '#b3afa6'],
  [/\bsilver\b|\btin\b/i, '#cfd0cd'],
  [/\bgold\b/i, '#d9b756'],
  [/steel|\biron/i, '#979da3'],
  [/\bpeek\b/i, '#c2ab87'],
  [/\bpei\b/i, '#c08a3d'],
  [/\bpolyimide\b/i, '#8d5a34'],
  [/\bpa ?\d|nylon/i, '#e3dcc8'],
  [/\bpvc-u\b|\bpvc$/i, '#8f979c'],
  [/\bpvc foam\b|polyurethane foam/i, '#d9cfa5'],
  [/\bpc\b|pmma/i, '#cfdde0'],
  [/epoxy|cast polyurethane|polyurethane, cast/i, '#c9a866'],
  [/syntactic/i, '#d3a35c'],
  [/silicone|\bvmq\b/i, '#c9c8c2'],
  [/natural rubber/i, '#b08a5c'],
  [/fr-?4|circuit board/i, '#5c7f5a'],
  [/glass fibre/i, '#bfc6a6'],
  [/carbon fibre|silicon carbide/i, '#3b3d40'],
  [/paper laminate/i, '#8f6844'],
  [/silicon nitride|concrete/i, '#8c8c88'],
  [/alumina|zirconia/i, '#e9e4d6'],
  [/glass|silica|sapphire|quartz/i, '#cfe3e2'],
  [/spruce|birch/i, '#dcc394'],
  [/\boak\b/i, '#b08d5e'],
  [/\bbeech\b/i, '#c99f74'],
  [/oil/i, '#c7a64b'],
  [/water/i, '#9fc4d2'],
];

/** What is left of each look; null where nothing is known. */
const BY_LOOK = {
  plain: null,
  metal: '#a3a8ac',
  polymer: '#dddbd3',
  rubber: '#34373a',
  glass: '#cfe3e2',
} as const;

const HEXES = [
  ...new Set([...BY_NAME.map(([, hex]) => hex), ...Object.values(BY_LOOK).filter((hex) => hex !== null)]),
];

/** All tones there are, sRGB 0–1. */
export const MATERIAL_TONES: readonly Vec3[] = HEXES.map(fromHex);

/** The number of a material's tone in `MATERIAL_TONES`; −1 where nothing is known of how it looks. */
export function toneOfMaterial(name: string, family?: MaterialFamily): number {
  const look = lookOfMaterial(name, family);
  if (look === 'plain') return -1;
  return HEXES.indexOf(BY_NAME.find(([words]) => words.test(name))?.[1] ?? BY_LOOK[look]!);
}

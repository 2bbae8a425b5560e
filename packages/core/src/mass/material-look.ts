import type { MaterialFamily } from './materials.ts';

/** How a material looks under light: `plain` where nothing is known of it. */
export type MaterialLook = 'plain' | 'metal' | 'polymer' | 'rubber' | 'glass';

export const MATERIAL_LOOKS: readonly MaterialLook[] = ['plain', 'metal', 'polymer', 'rubber', 'glass'];

const OF_FAMILY: Readonly<Record<MaterialFamily, MaterialLook>> = {
  Steel: 'metal',
  'Stainless steel': 'metal',
  'Cast iron': 'metal',
  Aluminium: 'metal',
  'Copper alloy': 'metal',
  Titanium: 'metal',
  'Other metal': 'metal',
  Polymer: 'polymer',
  Elastomer: 'rubber',
  Composite: 'polymer',
  'Glass and ceramic': 'glass',
  Foam: 'rubber',
  Wood: 'polymer',
  Fluid: 'glass',
};

/** Words and short names of the trade, for materials that only a file names. */
const BY_NAME: readonly (readonly [RegExp, MaterialLook])[] = [
  [/\b(nbr|fkm|epdm|hnbr|ffkm|cr|vmq|rubber|elastomer|neoprene|silicone)\b/i, 'rubber'],
  [/\b(glass|sapphire|quartz|silica|borosilicate)\b/i, 'glass'],
  [
    /\b(steel|iron|alumini?um|titanium|bronze|brass|copper|nickel|zinc|lead|tungsten|magnesium|inconel|monel|alloy)\b/i,
    'metal',
  ],
  [
    /\b(peek|pom|pa ?\d*|pe(-\w+)?|pp|pvc|ptfe|pc|abs|pmma|petp?|pps|pi|nylon|acetal|plastics?|polymer|epoxy|resin|wood|ply)\b/i,
    'polymer',
  ],
];

/** The look of a material by its family, else by its name. */
export function lookOfMaterial(name: string, family?: MaterialFamily): MaterialLook {
  if (family)
    return family === 'Glass and ceramic' && !/glass|silica|sapphire/i.test(name)
      ? 'polymer'
      : OF_FAMILY[family];
  return BY_NAME.find(([words]) => words.test(name))?.[1] ?? 'plain';
}

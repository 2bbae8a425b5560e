import { partColour, type Occurrence, type Vec3 } from '@bathyscope/core';

/** The colour a component is drawn in, for the swatch beside its name; none for assemblies. */
export function partColourOf(occurrence: Occurrence, own?: Vec3): string | null {
  if (occurrence.part === undefined) return null;
  const [r, g, b] = (own ?? occurrence.colour ?? partColour(occurrence.part)).map((x) => Math.round(x * 255));
  return `rgb(${r} ${g} ${b})`;
}

import { componentColour } from '@bathyscope/core/colours';
import type { Vec3 } from '@bathyscope/core/math';
import type { Occurrence } from '@bathyscope/core/model';
import type { ComponentState } from '@bathyscope/core/visibility';

/** sRGB 0–1 as the page writes it. */
export const cssColour = (colour: Vec3): string => `rgb(${colour.map((x) => Math.round(x * 255)).join(' ')})`;

/** The colour a component is drawn in, for the swatch beside its name; none for assemblies. */
export const partColourOf = ({ part, colour }: Occurrence, state?: ComponentState): string | null =>
  part === undefined ? null : cssColour(componentColour({ part, colour }, state));

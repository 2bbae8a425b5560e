import type { ReferenceSystem } from '@bathyscope/core/math';
import { planePosition, type SectionPlane } from '@bathyscope/core/section';

/**
 * What the figure of a plane's place is called and where it is counted from; mm. @param system of one's own
 * that figures are told in
 */
export function placeOf(
  plane: SectionPlane,
  system?: ReferenceSystem,
): { name: string; at: number; counted: string } {
  const { axis, at } = planePosition(plane, system);
  if (axis !== null)
    return {
      name: 'XYZ'[axis],
      at,
      counted: `The coordinate along ${system ? 'the reference system’s' : 'the model’s'} ${'XYZ'[axis]}`,
    };
  const counted =
    plane.from?.kind === 'face' ? 'counted from the chosen face' : 'counted from where the plane was made';
  return { name: 'Offset', at, counted };
}

import { planePosition, type SectionPlane } from '@bathyscope/core';

/** What the figure of a plane's place is called and where it is counted from; mm. */
export function placeOf(plane: SectionPlane): { name: string; at: number; counted: string } {
  const { axis, at } = planePosition(plane);
  if (axis !== null) return { name: 'XYZ'[axis], at, counted: `The coordinate along the model’s ${'XYZ'[axis]}` };
  const counted = plane.from?.kind === 'face' ? 'counted from the chosen face' : 'counted from where the plane was made';
  return { name: 'Offset', at, counted };
}

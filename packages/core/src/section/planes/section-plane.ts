import { z } from 'zod';
import { ALMOST_ALONG, FLUSH_RELATIVE } from '../../tolerances.ts';
import {
  add,
  addScaled,
  cross,
  dot,
  frameOf,
  length,
  normalize,
  scale,
  subtract,
  vecOf,
  type Vec3,
} from '../../math/vec3.ts';
import { boxCentre, boxDiagonal, boxSize, isEmptyBox, type Box3 } from '../../math/box3.ts';
import { planeThrough, type Combination } from '../../math/plane.ts';
import { rotate, rotationAbout } from '../../math/quaternion.ts';
import type { UpAxis } from '../../camera/directions.ts';
import { anything, isNotFalse, isTrue, label, listOf, vector } from '../../model/described.ts';
import { isValues } from '../../tables/own.ts';
import { fromOf, type Reference } from '../../references/reference.ts';
import type { CutPlane } from '../mesh/slice-mesh.ts';
import { UNIT_LENGTH } from '../../tolerances.ts';

/**
 * One plane that cuts the model. What lies on the side its normal points to is removed;
 * flipped, the other side.
 */
export interface SectionPlane {
  id: string;
  name: string;
  /** A point it went through when it was made; the offset is counted from there along the normal. */
  origin: Vec3;
  /** Unit. */
  normal: Vec3;
  /** mm */
  offset: number;
  flipped: boolean;
  on: boolean;
  /** What it was made from. */
  from?: Reference;
}

/** All planes of a section, and whether they cut at all. */
export interface Section {
  planes: SectionPlane[];
  on: boolean;
  combine: Combination;
}

export const NO_SECTION: Section = { planes: [], on: true, combine: 'any' };
export const MAX_PLANES = 6;

/** The planes that cut now. */
export const cuttingPlanes = ({ planes, on }: Section): SectionPlane[] =>
  on ? planes.filter((p) => p.on) : [];

/** The normal towards what is removed. */
export const removedSide = (p: SectionPlane): Vec3 => (p.flipped ? scale(p.normal, -1) : p.normal);

export function cutPlaneOf(p: SectionPlane, within = 0, up: UpAxis = 'z'): CutPlane {
  return { ...planeThrough(addScaled(p.origin, p.normal, p.offset), removedSide(p)), within, up };
}

/**
 * How far from a plane a point of the model may seem to be that lies in it, mm: drawing and meshes are in
 * single precision (2⁻²⁴ of a coordinate, counted from the middle of what lies far away), and a few such
 * errors add up on the way to the screen.
 */
export const flushWithin = (model: Box3): number =>
  isEmptyBox(model)
    ? 0
    : FLUSH_RELATIVE * (boxDiagonal(model) + Math.min(boxDiagonal(model), length(boxCentre(model))));

/**
 * Turned by an angle (rad) about an axis through a point of the plane, which stays where it is; the offset
 * stays as counted.
 */
export function tiltPlane(plane: SectionPlane, about: Vec3, axis: Vec3, angle: number): SectionPlane {
  const normal = normalize(rotate(rotationAbout(axis, angle), plane.normal));
  return { ...plane, normal, origin: addScaled(about, normal, -plane.offset) };
}

/** Where a plane is: through a point, square to a unit normal that points to what it removes. */
export interface PlanePlace {
  origin: Vec3;
  normal: Vec3;
  /** What it is made from. */
  from?: Reference;
}

/**
 * A slab around a middle plane: what lies further from it than half the thickness (mm) is
 * removed. Combined by "any".
 */
export const slabPlanes = ({ origin, normal }: PlanePlace, thickness: number): PlanePlace[] => [
  { origin: addScaled(origin, normal, thickness / 2), normal },
  { origin: addScaled(origin, normal, -thickness / 2), normal: scale(normal, -1) },
];

/**
 * A quarter cut: of the quarters around a point the one is removed that lies towards both directions.
 * Combined by "all".
 */
export const quarterPlanes = (origin: Vec3, a: Vec3, b: Vec3): PlanePlace[] => [
  { origin, normal: a },
  { origin, normal: b },
];

/** A box: what lies outside is removed. Combined by "any". */
export function boxPlanes(box: Box3): PlanePlace[] {
  const centre = boxCentre(box);
  const half = scale(boxSize(box), 0.5);
  return [0, 1, 2].flatMap((k) =>
    [1, -1].map((sign): PlanePlace => {
      const normal = vecOf((i) => (i === k ? sign : 0));
      return { origin: addScaled(centre, normal, half[k]), normal };
    }),
  );
}

/**
 * Through an axis, turned about it by an angle (rad) from where the eye looks straight at it; without an eye
 * direction from an arbitrary start.
 */
export function planeThroughAxis(origin: Vec3, axis: Vec3, angle: number, towardsEye?: Vec3): PlanePlace {
  const across = towardsEye ? subtract(towardsEye, scale(axis, dot(towardsEye, axis))) : ([0, 0, 0] as Vec3);
  const start = length(across) > ALMOST_ALONG ? normalize(across) : frameOf(axis).u;
  return {
    origin,
    normal: normalize(add(scale(start, Math.cos(angle)), scale(cross(axis, start), Math.sin(angle)))),
  };
}

/** A section from stored values; planes that are incomplete are left out. */
export function readSection(values: unknown): Section {
  return section.parse(isValues(values) ? values : {});
}

const plane = z
  .object({
    id: label(),
    name: label(),
    origin: vector,
    normal: vector.refine((n) => Math.abs(Math.hypot(...n) - 1) < UNIT_LENGTH),
    offset: z.number(),
    flipped: isTrue,
    on: isNotFalse,
    from: anything,
  })
  .transform(({ from, ...rest }): SectionPlane => ({ ...rest, ...fromOf(from) }));

const section = z.object({
  on: isNotFalse,
  combine: z.enum(['any', 'all']).catch('any'),
  planes: listOf(plane, MAX_PLANES),
});

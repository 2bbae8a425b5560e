import { addScaled, dot, scale, type Vec3 } from '../math/vec3.ts';
import type { ClipPlane } from '../picking/pick-scene.ts';
import type { CutPlane } from './slice-mesh.ts';

/** One plane that cuts the model. What lies on the side its normal points to is removed; flipped, the other side. */
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
}

export const MAX_PLANES = 6;

/** The normal towards what is removed. */
export const removedSide = (p: SectionPlane): Vec3 => (p.flipped ? scale(p.normal, -1) : p.normal);

export function cutPlaneOf(p: SectionPlane): CutPlane {
  const normal = removedSide(p);
  return { normal, constant: dot(addScaled(p.origin, p.normal, p.offset), normal) };
}

/** For drawing and picking: points with normal · p + constant < 0 are cut away. */
export function clipPlaneOf(p: SectionPlane): ClipPlane {
  const { normal, constant } = cutPlaneOf(p);
  return { normal: scale(normal, -1), constant };
}

const isVec = (v: unknown): v is Vec3 => Array.isArray(v) && v.length === 3 && v.every((x) => Number.isFinite(x));

/** Section planes from stored values; what is incomplete is left out. */
export function readSection(values: unknown): SectionPlane[] {
  if (!Array.isArray(values)) return [];
  return values.slice(0, MAX_PLANES).flatMap((v: Record<string, unknown> | null) =>
    v && isVec(v['origin']) && isVec(v['normal']) && Math.abs(Math.hypot(...v['normal']) - 1) < 1e-6 && Number.isFinite(v['offset'])
      ? [{ id: String(v['id']), name: String(v['name']).slice(0, 200), origin: v['origin'], normal: v['normal'], offset: v['offset'] as number, flipped: v['flipped'] === true, on: v['on'] !== false }]
      : []);
}

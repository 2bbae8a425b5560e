import type { Point2 } from '../math/point2.ts';
import { ROUNDING, TINY } from '../tolerances.ts';

/** Figures of a cut face in its own plane; x and y as the plane's axes, mm. */
export interface SectionProperties {
  /** mm² */
  area: number;
  /** mm, of all loops. */
  perimeter: number;
  centroid: Point2;
  /** Second moments about the centroid, mm⁴: ∫y² dA, ∫x² dA. */
  ix: number;
  iy: number;
  /** Product of inertia about the centroid, ∫xy dA, mm⁴. */
  ixy: number;
  /** Largest and smallest second moment, mm⁴. */
  principal: readonly [number, number];
  /** rad from x to the axis of the largest second moment, in (−π/2, π/2]. */
  principalAngle: number;
  /** Polar moment about the centroid, mm⁴. */
  polar: number;
  /** Radii of gyration about the centroid's x and y, mm. */
  radiusX: number;
  radiusY: number;
}

/**
 * Area, centroid and second moments of a region bounded by loops, outer ones anticlockwise and holes
 * clockwise, by Green's theorem over the edges (Steger, On the calculation of arbitrary moments of polygons,
 * TU München FGBV-96-05).
 * Taken about the first point, so that a section far from the origin loses no digits.
 * @returns null when the loops enclose no area
 */
export function sectionProperties(loops: readonly (readonly Point2[])[]): SectionProperties | null {
  const base = loops[0]?.[0];
  if (!base) return null;
  let [a, sx, sy, xx, yy, xy, perimeter] = [0, 0, 0, 0, 0, 0, 0];
  for (const loop of loops)
    loop.forEach((p, i) => {
      const q = loop[(i + 1) % loop.length];
      const [x0, y0, x1, y1] = [p[0] - base[0], p[1] - base[1], q[0] - base[0], q[1] - base[1]];
      const cross = x0 * y1 - x1 * y0;
      perimeter += Math.hypot(x1 - x0, y1 - y0);
      a += cross;
      sx += (x0 + x1) * cross;
      sy += (y0 + y1) * cross;
      xx += (x0 * x0 + x0 * x1 + x1 * x1) * cross;
      yy += (y0 * y0 + y0 * y1 + y1 * y1) * cross;
      xy += (x0 * y1 + 2 * x0 * y0 + 2 * x1 * y1 + x1 * y0) * cross;
    });
  return finish(base, {
    area: a / 2,
    sx: sx / 6,
    sy: sy / 6,
    xx: xx / 12,
    yy: yy / 12,
    xy: xy / 24,
    perimeter,
  });
}

/** The figures about the centroid from integrals about a base point: ∫x, ∫y, ∫x², ∫y², ∫xy over the area. */
export function finish(
  base: Point2,
  {
    area,
    sx,
    sy,
    xx,
    yy,
    xy,
    perimeter,
  }: Record<'area' | 'sx' | 'sy' | 'xx' | 'yy' | 'xy' | 'perimeter', number>,
): SectionProperties | null {
  if (!(area > 0)) return null;
  const [cx, cy] = [sx / area, sy / area];
  return {
    area,
    perimeter,
    centroid: [base[0] + cx, base[1] + cy],
    ...aboutAxes(area, yy - area * cy * cy, xx - area * cx * cx, xy - area * cx * cy),
  };
}

/** The figures of several regions together, about their common centroid; null when there are none. */
export function combineSections(sections: readonly SectionProperties[]): SectionProperties | null {
  const [area, perimeter] = [
    sections.reduce((sum, s) => sum + s.area, 0),
    sections.reduce((sum, s) => sum + s.perimeter, 0),
  ];
  if (!(area > 0)) return null;
  const mean = (k: 0 | 1) => sections.reduce((sum, s) => sum + s.area * s.centroid[k], 0) / area;
  const centroid: Point2 = [mean(0), mean(1)];
  const moved = sections.map((s) => aboutPoint(s, centroid));
  const sum = (key: 'ix' | 'iy' | 'ixy') => moved.reduce((total, m) => total + m[key], 0);
  return { area, perimeter, centroid, ...aboutAxes(area, sum('ix'), sum('iy'), sum('ixy')) };
}

function aboutAxes(area: number, ix: number, iy: number, ixy: number) {
  const middle = (ix + iy) / 2;
  const radius = Math.hypot((ix - iy) / 2, ixy);
  // The moment about an axis turned by φ is middle + (ix − iy)/2·cos 2φ − ixy·sin 2φ.
  const half = radius <= TINY * middle ? 0 : Math.atan2(-ixy, (ix - iy) / 2) / 2;
  // −π/2 is the same axis as π/2, and rounding must not choose between them.
  const angle = half < -Math.PI / 2 + ROUNDING ? half + Math.PI : half;
  return {
    ix,
    iy,
    ixy,
    principal: [middle + radius, middle - radius] as const,
    principalAngle: angle,
    polar: ix + iy,
    radiusX: Math.sqrt(ix / area),
    radiusY: Math.sqrt(iy / area),
  };
}

/** The second moments about another point (mm, in the plane): Steiner's theorem. */
export function aboutPoint(s: SectionProperties, point: Point2): { ix: number; iy: number; ixy: number } {
  const [dx, dy] = [s.centroid[0] - point[0], s.centroid[1] - point[1]];
  return { ix: s.ix + s.area * dy * dy, iy: s.iy + s.area * dx * dx, ixy: s.ixy + s.area * dx * dy };
}

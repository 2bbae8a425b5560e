import type { Fact } from '../facts/describe-pick.ts';
import { cross, distance, dot, length, normalize, subtract, vecOf, type Vec3 } from '../math/vec3.ts';
import { ROUNDING } from '../tolerances.ts';
import type { DimensionShape } from './dimension-shape.ts';
import { at, fact } from './pair-rule.ts';

/**
 * What three points measure: the angle at the second; the circle through them and the area between. Null
 * where two are one.
 */
export function measureThreePoints(
  a: Vec3,
  b: Vec3,
  c: Vec3,
): { lead: Fact; rows: Fact[]; dimension: DimensionShape } | null {
  const [p, q] = [subtract(a, b), subtract(c, b)];
  if (length(p) <= ROUNDING || length(q) <= ROUNDING) return null;
  const n = cross(p, q);
  const twice = length(n);
  const angle = Math.atan2(twice, dot(p, q));
  const flat = twice <= ROUNDING * length(p) * length(q);
  return {
    lead: fact('Angle at the second', 'angle', angle),
    rows: flat
      ? []
      : [...circleRows(b, p, q, n), { label: 'Area between', value: { kind: 'area', value: twice / 2 } }],
    dimension: { kind: 'angle', at: b, ways: [normalize(p), normalize(q)], angle, reach: 0 },
  };
}

/**
 * The circumcircle of a triangle, from a corner and the two sides that leave it (E. W. Weisstein, MathWorld,
 * “Circumcenter”, in vectors).
 */
function circleRows(b: Vec3, p: Vec3, q: Vec3, n: Vec3): Fact[] {
  const [pp, qq, nn] = [dot(p, p), dot(q, q), dot(n, n)];
  const side = cross(
    vecOf((k) => pp * q[k] - qq * p[k]),
    n,
  );
  const centre = vecOf((k) => b[k] + side[k] / (2 * nn));
  return [
    fact('Circle through them', 'length', 2 * distance(centre, b), undefined, 'Ø'),
    at('– centre', centre),
  ];
}

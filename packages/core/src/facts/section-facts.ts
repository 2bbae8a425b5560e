import { fromPlane, type PlaneFrame } from '../section/mesh/cap-of-loops.ts';
import type { SectionProperties } from '../section/section-properties.ts';
import type { Fact } from './describe-pick.ts';

/**
 * The figures of a cut, declared once: the panel, what is said of a picked cut face and
 * `bin/inspect --section` walk this list. mm, mm², mm⁴, rad; the centroid in the model.
 * @param about second moments about another point than the centroid, by the same axes
 */
export function sectionFacts(
  p: SectionProperties,
  frame: PlaneFrame,
  about: Pick<SectionProperties, 'ix' | 'iy' | 'ixy'> = p,
): Fact[] {
  const length = (label: string, value: number, note?: string): Fact => ({
    label,
    value: { kind: 'length', value },
    ...(note && { note }),
  });
  const moment = (label: string, value: number, note: string): Fact => ({
    label,
    value: { kind: 'second moment', value },
    note,
  });
  const { ix, iy, ixy } = about;
  return [
    { label: 'Area', value: { kind: 'area', value: p.area } },
    length('Perimeter', p.perimeter),
    {
      label: 'Centroid',
      value: { kind: 'point', value: fromPlane(frame, p.centroid) },
      note: 'X Y Z in the model',
    },
    moment('Ix', ix, '∫y² dA'),
    moment('Iy', iy, '∫x² dA'),
    moment('Ixy', ixy, 'Product of inertia, ∫xy dA'),
    moment('Polar moment', ix + iy, 'Ix + Iy'),
    length('Radius of gyration x', Math.sqrt(ix / p.area), '√(Ix / A)'),
    length('Radius of gyration y', Math.sqrt(iy / p.area), '√(Iy / A)'),
    moment('I1, largest', p.principal[0], 'About the centroid'),
    moment('I2, smallest', p.principal[1], 'About the centroid'),
    { label: 'Axis of I1 from x', value: { kind: 'angle', value: p.principalAngle } },
  ];
}

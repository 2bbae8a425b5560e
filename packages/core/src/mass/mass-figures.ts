import type { Vec3 } from '../math/vec3.ts';
import { PLAIN_UNITS } from '../units/plain-units.ts';
import type { Matrix3 } from './combine-mass.ts';
import type { SetMass } from './set-mass.ts';

/* The figures of what was weighed, declared once: whoever shows, saves or prints them walks this list. */

export interface MassFigure {
  /**
   * Where it stands: the total with what it leaves out, the whole, the tensor of inertia,
   * or what follows from that.
   */
  group: 'total' | 'whole' | 'tensor' | 'inertia';
  /** What all its values are called together. */
  label: string;
  quantity: 'mass' | 'count' | 'volume' | 'area' | 'length' | 'inertia';
  values: readonly { name: string; value: number }[];
  /** What stands beside it for who asks. */
  note?: string;
}

export interface ToldSo {
  /** mm; where the centre of gravity is told otherwise than in the model's axes. */
  centreOfGravity?: Vec3;
  /**
   * The tensor of inertia that is to be told, minus the products off its diagonal; null where there is none.
   */
  tensor?: Matrix3 | null;
  /** Products of inertia as they stand in the tensor, −∫xy dm, or plain, +∫xy dm. */
  products?: 'tensor' | 'plain';
  /** Whether it is one side of a section. */
  cut?: boolean;
}

const AXES = ['x', 'y', 'z'];

/** What is known of a set. kg, mm, kg·mm²; each with the unit of its quantity ({@link unitOfFigure}). */
export function massFigures(
  { known, noDensity, noVolume, assumed }: SetMass,
  told: ToldSo = {},
): MassFigure[] {
  const partly = noDensity + noVolume > 0;
  const one = (
    group: MassFigure['group'],
    name: string,
    quantity: MassFigure['quantity'],
    value: number,
    more = {},
  ): MassFigure => ({
    group,
    label: name,
    quantity,
    values: [{ name, value }],
    ...more,
  });
  const counts = [
    ...(noDensity ? [one('total', 'Components without a material', 'count', noDensity)] : []),
    ...(noVolume ? [one('total', 'Components without a volume', 'count', noVolume)] : []),
  ];
  if (!known) return counts;
  const { tensor, products = 'tensor' } = told;
  const sign = products === 'tensor' ? 1 : -1;
  const numbered = (name: string, values: readonly number[]) =>
    values.map((value, k) => ({ name: `${name} ${k + 1}`, value }));
  return [
    one('total', partly ? 'Known mass' : 'Mass', 'mass', known.mass),
    ...counts,
    ...(assumed.count ? [one('total', 'Of it by an assumed density', 'mass', assumed.mass)] : []),
    one('whole', 'Volume', 'volume', known.volume, partly && { label: 'Volume of what is known' }),
    one('whole', 'Surface', 'area', known.area, {
      ...(partly && { label: 'Surface of it' }),
      ...(told.cut && { note: 'With what the section cuts' }),
    }),
    {
      group: 'whole',
      label: 'Centre of gravity',
      quantity: 'length',
      values: (told.centreOfGravity ?? known.centreOfGravity).map((value, k) => ({
        name: `Centre of gravity ${AXES[k]}`,
        value,
      })),
    },
    ...(tensor
      ? [
          {
            group: 'tensor' as const,
            label: 'Tensor of inertia',
            quantity: 'inertia' as const,
            values: tensor.flatMap((row, i) =>
              row
                .slice(i)
                .map((x, j) => ({ name: `I${AXES[i]}${AXES[i + j]}`, value: j === 0 ? x : sign * x })),
            ),
          },
        ]
      : []),
    {
      group: 'inertia',
      label: 'Principal I₁ I₂ I₃',
      quantity: 'inertia',
      values: numbered('Principal moment', known.principal.moments),
    },
    {
      group: 'inertia',
      label: 'Radii of gyration',
      quantity: 'length',
      values: numbered('Radius of gyration', known.radiiOfGyration),
    },
  ];
}

export const unitOfFigure = ({ quantity }: MassFigure): string => PLAIN_UNITS[quantity];

/** One value a line, for programs: its name, the value and its unit. */
export const figureList = (figures: readonly MassFigure[]): { name: string; value: number; unit: string }[] =>
  figures.flatMap((figure) =>
    figure.values.map(({ name, value }) => ({ name, value, unit: unitOfFigure(figure) })),
  );

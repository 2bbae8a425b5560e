import { figureList, inertiaIn, massFigures, type MassFigure, type SetMass } from '@bathyscope/core/mass';
import type { PartMass } from '../workspace/mass/chosen-mass.ts';
import { inertiaSystem } from '../workspace/mass/mass-in-system.ts';
import type { Workspace } from '../workspace/workspace.ts';

/* What was weighed as tables: plain numbers in kg and mm, whatever is shown. */

const plain = (n: number | null | undefined): string =>
  n === null || n === undefined ? '' : String(Number(n.toPrecision(7)));

/** Headings of a bill's columns whose cells are numbers. */
export const BILL_NUMBERS: ReadonlySet<string> = new Set([
  'Item',
  'Quantity',
  'Density, kg/m³',
  'Each, kg',
  'Total, kg',
]);

/**
 * The parts with what they weigh; as a bill of materials with item numbers, without what nobody needs to buy.
 */
export function billRows(parts: readonly PartMass[], kind: 'parts' | 'bill'): string[][] {
  const bill = kind === 'bill';
  const named = bill ? inBillOrder(parts) : parts;
  return [
    [
      ...(bill ? ['Item'] : []),
      'Part',
      'Quantity',
      'Material',
      'Density, kg/m³',
      'Each, kg',
      'Total, kg',
      'Note',
    ],
    ...named.map(({ name, count, material, typed, assumed, each, total, open, scaled }, i) => [
      ...(bill ? [String(i + 1)] : []),
      name,
      String(count),
      typed ? '' : (material?.name ?? ''),
      typed ? '' : plain(material?.density),
      plain(each),
      plain(total),
      [
        typed && 'mass typed in',
        assumed && 'density assumed',
        !typed && open,
        scaled,
        !typed && !open && !material && !assumed && 'no material',
      ]
        .filter(Boolean)
        .join('; '),
    ]),
  ];
}

export const inBillOrder = (parts: readonly PartMass[]): PartMass[] =>
  [...parts].sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }));

/** The figures of a set as they are told here, in the model's axes. */
function figuresNow(ws: Workspace, weighed: SetMass): MassFigure[] {
  const { about, products, set } = ws.mass.getState();
  const system = weighed.known && inertiaSystem(ws, about, weighed.known.centreOfGravity);
  return massFigures(weighed, {
    tensor: system && inertiaIn(weighed.known!, system),
    products,
    cut: set === 'kept',
  });
}

/** The figures of a set, one a row, with their units. */
export const massRows = (ws: Workspace, weighed: SetMass): string[][] =>
  figureList(figuresNow(ws, weighed)).map(({ name, value, unit }) => [name, plain(value), unit]);

/** All that is known, for other programs. Lengths in mm, masses in kg. */
export function massJson(
  ws: Workspace,
  { weighed, parts }: { weighed: SetMass; parts: readonly PartMass[] },
): string {
  const { set, about, products, assumed } = ws.mass.getState();
  const { detail } = ws.model.getState();
  const { known } = weighed;
  const system = known && inertiaSystem(ws, about, known.centreOfGravity);
  return JSON.stringify(
    {
      model: detail?.name,
      revision: detail?.revision,
      set,
      units: { length: 'mm', mass: 'kg', density: 'kg/m³', inertia: 'kg·mm²' },
      productsOfInertia: products === 'tensor' ? 'as in the tensor: −∫xy dm' : 'plain: +∫xy dm',
      assumedDensity: assumed,
      ...weighed,
      figures: figureList(figuresNow(ws, weighed)),
      known: known && { ...known, inertiaAbout: system && { ...system, tensor: inertiaIn(known, system) } },
      parts: parts.map(({ name, count, material, typed, each, total, open, assumed: guessed, paths }) => ({
        name,
        quantity: count,
        material,
        typed,
        assumed: guessed,
        each,
        total,
        problem: open,
        components: paths,
      })),
    },
    null,
    2,
  );
}

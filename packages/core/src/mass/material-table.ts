import { readQuantity } from '../units/read-quantity.ts';
import { MATERIALS } from './materials.ts';
import { readDensity } from './read-density.ts';
import type { TypedMass } from './set-mass.ts';

/** What a table gives to a part: what it is made of, or what it weighs. */
export interface GivenByTable {
  material: { name: string; density: number } | null;
  typed: TypedMass | null;
}

/** A table of materials that cannot be used, with a sentence that names the row. */
export class BadMaterialTable extends Error {
  override name = 'BadMaterialTable';
}

const COLUMNS = 'Its first row names the columns: Part, and Material or Density or Mass';

/**
 * A table that gives materials, densities or masses to parts by name: columns Part, Material (a name or id of
 * the library), Density (`7850`, `7.85 g/cm³`), Mass (`0.35 kg`), in any order and case; what
 * else it has is passed over.
 * @param rows the first names the columns @returns by part name in lower case @throws BadMaterialTable
 */
export function readMaterialTable(rows: readonly (readonly string[])[]): Map<string, GivenByTable> {
  const head = (rows[0] ?? []).map((c) => c.trim().toLowerCase());
  const column = (name: string) =>
    head.findIndex((h) => h === name || h.startsWith(`${name},`) || h.startsWith(`${name} (`));
  const [part, material, density, mass] = ['part', 'material', 'density', 'mass'].map(column);
  if (part < 0) throw new BadMaterialTable(`The table of materials has no column “Part”. ${COLUMNS}.`);
  if (material < 0 && density < 0 && mass < 0)
    throw new BadMaterialTable(`The table of materials gives nothing to its parts. ${COLUMNS}.`);
  const found = new Map<string, GivenByTable>();
  rows.slice(1).forEach((row, i) => {
    const cell = (at: number) => (at < 0 ? '' : (row[at] ?? '').trim());
    const name = cell(part);
    if (!name && row.every((c) => !c.trim())) return;
    const where = `Row ${i + 2} of the table of materials`;
    if (!name) throw new BadMaterialTable(`${where} names no part.`);
    found.set(name.toLowerCase(), {
      material: materialIn(cell(material), cell(density), where),
      typed: massIn(cell(mass), where),
    });
  });
  return found;
}

function materialIn(name: string, density: string, where: string): GivenByTable['material'] {
  if (density) {
    const read = readDensity(density);
    if ('wrong' in read) throw new BadMaterialTable(`${where}: ${read.wrong}`);
    if ('either' in read)
      throw new BadMaterialTable(
        `${where}: ${density} may be ${read.either[0]} kg/m³ or ${read.either[1]} kg/m³. Write the unit beside it.`,
      );
    return { name: name || `${read.density} kg/m³`, density: read.density };
  }
  if (!name) return null;
  const wanted = name.toLowerCase();
  const known = MATERIALS.find((m) => m.id === wanted || m.name.toLowerCase() === wanted);
  if (!known)
    throw new BadMaterialTable(`${where}: the library has no material “${name}”. Give its density as well.`);
  return { name: known.name, density: known.density };
}

function massIn(mass: string, where: string): TypedMass | null {
  if (!mass) return null;
  const read = readQuantity(mass, 'mass', 1);
  if ('wrong' in read || !(read.value > 0))
    throw new BadMaterialTable(`${where}: “${mass}” is no mass, such as 0.35 kg or 350 g.`);
  return { kg: read.value, at: null };
}

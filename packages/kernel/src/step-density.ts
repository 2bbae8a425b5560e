/*
 * Densities straight from the text of a STEP file. The kernel's reader scales them wrongly for some units, and its
 * writer notes g³·cm² where it means g/cm³; both are put right here.
 */

const entities = (text: string, type: string): Map<string, string> => {
  const found = new Map<string, string>();
  for (const m of text.matchAll(new RegExp(`(#\\d+)\\s*=\\s*${type}\\s*\\(([^;]*)\\)\\s*;`, 'g'))) found.set(m[1], m[2]);
  return found;
};

const references = (body: string | undefined): string[] => body?.match(/#\d+/g) ?? [];

/**
 * Density of every material that the file gives one, by material name, kg/m³.
 * Follows material name and density to the product they both describe (ISO 10303-45 material property representation).
 */
export function readDensities(text: string): Map<string, number> {
  const densities = new Map<string, number>();
  if (!text.includes('density')) return densities;
  const properties = entities(text, 'PROPERTY_DEFINITION');
  const representations = entities(text, 'REPRESENTATION');
  const measures = entities(text, 'MEASURE_REPRESENTATION_ITEM');
  const names = entities(text, 'DESCRIPTIVE_REPRESENTATION_ITEM');

  const byTarget = new Map<string, { name?: string; density?: number }>();
  for (const body of entities(text, 'PROPERTY_DEFINITION_REPRESENTATION').values()) {
    const [property, representation] = references(body);
    const target = references(properties.get(property)).at(-1);
    if (!target) continue;
    const entry = byTarget.get(target) ?? {};
    for (const item of references(representations.get(representation))) {
      const name = /^\s*'([^']*)'/.exec(names.get(item) ?? '');
      if (name && /material name/.test(representations.get(representation)!)) entry.name = name[1];
      const density = measures.has(item) && /^\s*'density/.test(representations.get(representation)!) ? measureInKgPerM3(text, measures.get(item)!) : null;
      if (density) entry.density = density;
    }
    byTarget.set(target, entry);
  }
  for (const { name, density } of byTarget.values()) if (name !== undefined && density) densities.set(name, density);
  return densities;
}

function measureInKgPerM3(text: string, measure: string): number | null {
  const value = Number(/MEASURE\s*\(\s*([-+0-9.eE]+)\s*\)/.exec(measure)?.[1]);
  const unit = references(measure).at(-1);
  if (!(value > 0) || !unit) return null;
  const entity = (id: string) => new RegExp(`${id}\\s*=\\s*([^;]*);`).exec(text)?.[1] ?? '';
  let factor = 1;
  const exponents: number[] = [];
  for (const element of references(entity(unit))) {
    const body = entity(element);
    const exponent = Number(/,\s*([-+0-9.eE]+)\s*\)\s*$/.exec(body)?.[1]);
    const base = entity(references(body)[0] ?? '#0');
    const isMass = base.includes('MASS_UNIT');
    exponents.push(exponent);
    factor *= (isMass ? massInKg(base) : lengthInM(base)) ** exponent;
  }
  if (exponents.length !== 2) return null;
  // g³·cm²: the known slip for g/cm³.
  if (exponents[0] === 3 && exponents[1] === 2) return value * 1000;
  return value * factor;
}

const SI_FACTOR: Record<string, number> = { KILO: 1e3, CENTI: 1e-2, MILLI: 1e-3, MICRO: 1e-6, DECI: 1e-1, MEGA: 1e6 };
const siPrefix = (unit: string): number => SI_FACTOR[/SI_UNIT\s*\(\s*\.(\w+)\./.exec(unit)?.[1] ?? ''] ?? 1;
const massInKg = (unit: string): number => (/'pound/i.test(unit) ? 0.45359237 : siPrefix(unit) * 1e-3);
const lengthInM = (unit: string): number => (/'inch/i.test(unit) ? 0.0254 : /'f(oo|ee)t/i.test(unit) ? 0.3048 : siPrefix(unit));

/*
 * Densities straight from the text of a STEP file. The kernel's reader scales them wrongly for some units,
 * and its writer notes g³·cm² where it means g/cm³; both are put right here.
 */

import type { StepFacts } from './step-statements.ts';

/** What densities are read from, besides units. */
export const DENSITY_TYPES = [
  'PROPERTY_DEFINITION',
  'PROPERTY_DEFINITION_REPRESENTATION',
  'REPRESENTATION',
  'MEASURE_REPRESENTATION_ITEM',
  'DESCRIPTIVE_REPRESENTATION_ITEM',
  'DERIVED_UNIT',
  'DERIVED_UNIT_ELEMENT',
] as const;

/**
 * References of a statement that are followed: those of materials have a handful, and a hostile
 * one shall not cost more.
 */
const FOLLOWED = 64;

const references = (body: string | undefined): string[] => body?.match(/#\d+/g)?.slice(0, FOLLOWED) ?? [];

/**
 * Density of every material that the file gives one, by material name, kg/m³.
 * Follows material name and density to the product they both describe (ISO 10303-45 material property
 * representation).
 */
export function readDensities({ byType, complex }: StepFacts): Map<string, number> {
  const densities = new Map<string, number>();
  const entities = (type: (typeof DENSITY_TYPES)[number]) => byType.get(type)!;
  const [properties, representations] = [entities('PROPERTY_DEFINITION'), entities('REPRESENTATION')];
  const [measures, names] = [
    entities('MEASURE_REPRESENTATION_ITEM'),
    entities('DESCRIPTIVE_REPRESENTATION_ITEM'),
  ];
  const unitOf = (id: string) =>
    entities('DERIVED_UNIT').get(id) ?? entities('DERIVED_UNIT_ELEMENT').get(id) ?? complex.get(id) ?? '';

  // Each representation is read once, however many refer to it.
  const said = new Map<string, { name?: string; density?: number }>();
  const saidBy = (representation: string) => {
    const known = said.get(representation);
    if (known) return known;
    const body = representations.get(representation);
    const title = quoted(body) ?? '';
    const found: { name?: string; density?: number } = {};
    for (const item of references(body)) {
      if (title.includes('material name')) found.name ??= quoted(names.get(item));
      if (title.startsWith('density') && measures.has(item))
        found.density ??= measureInKgPerM3(measures.get(item)!, unitOf) ?? undefined;
    }
    said.set(representation, found);
    return found;
  };
  const byTarget = new Map<string, { name?: string; density?: number }>();
  for (const body of entities('PROPERTY_DEFINITION_REPRESENTATION').values()) {
    const [property, representation] = references(body);
    const target = references(properties.get(property)).at(-1);
    if (target && representation)
      byTarget.set(target, { ...byTarget.get(target), ...saidBy(representation) });
  }
  for (const { name, density } of byTarget.values())
    if (name !== undefined && density) densities.set(name, density);
  return densities;
}

/** The first string of a statement's body. */
const quoted = (body: string | undefined): string | undefined => /^\s*\(\s*'([^']*)'/.exec(body ?? '')?.[1];

const DIGITS = 12;

function measureInKgPerM3(measure: string, unitOf: (id: string) => string): number | null {
  const value = Number(/MEASURE\s*\(\s*([-+0-9.eE]+)\s*\)/.exec(measure)?.[1]);
  const unit = references(measure).at(-1);
  if (!(value > 0) || !unit) return null;
  let factor = 1;
  const exponents: number[] = [];
  for (const element of references(unitOf(unit))) {
    const body = unitOf(element);
    const exponent = Number(/,\s*([-+0-9.eE]+)\s*\)\s*$/.exec(body)?.[1]);
    const base = unitOf(references(body)[0] ?? '#0');
    const isMass = base.includes('MASS_UNIT');
    exponents.push(exponent);
    factor *= (isMass ? massInKg(base) : lengthInM(base)) ** exponent;
  }
  if (exponents.length !== 2) return null;
  // g³·cm²: the known slip for g/cm³.
  if (exponents[0] === 3 && exponents[1] === 2) return value * 1000;
  // Powers of units round; no file says more digits than these.
  return Number((value * factor).toPrecision(DIGITS));
}

const SI_FACTOR: Record<string, number> = {
  KILO: 1e3,
  CENTI: 0.01,
  MILLI: 0.001,
  MICRO: 0.000001,
  DECI: 0.1,
  MEGA: 1e6,
};
const siPrefix = (unit: string): number => SI_FACTOR[/SI_UNIT\s*\(\s*\.(\w+)\./.exec(unit)?.[1] ?? ''] ?? 1;
const massInKg = (unit: string): number => (/'pound/i.test(unit) ? 0.45359237 : siPrefix(unit) * 0.001);
const lengthInM = (unit: string): number =>
  /'inch/i.test(unit) ? 0.0254 : /'f(oo|ee)t/i.test(unit) ? 0.3048 : siPrefix(unit);

import { MATERIALS } from './materials.ts';
import { lookOfMaterial } from './material-look.ts';
import { MATERIAL_TONES, toneOfMaterial } from './material-tone.ts';

/* Common practice: what the materials look like in the hand. */

const tone = (name: string) =>
  MATERIAL_TONES[toneOfMaterial(name, MATERIALS.find((m) => m.name === name)?.family)];
const light = ([r, g, b]: readonly number[]) => (r + g + b) / 3;
const yellow = ([r, g, b]: readonly number[]) => (r + g) / 2 - b;

test('every material of the library whose look is known has a colour, and they differ as they do in the hand', () => {
  for (const { name, family } of MATERIALS)
    expect([name, toneOfMaterial(name, family) >= 0]).toEqual([
      name,
      lookOfMaterial(name, family) !== 'plain',
    ]);
  expect(yellow(tone('Brass CuZn37'))).toBeGreaterThan(0.2);
  expect(Math.abs(yellow(tone('Steel S235 (1.0038)')))).toBeLessThan(0.06);
  expect(tone('Copper, Cu-ETP')[0] - tone('Copper, Cu-ETP')[1]).toBeGreaterThan(0.15);
  expect(yellow(tone('Copper-nickel CuNi10Fe1Mn'))).toBeLessThan(0.15);
  const order = [
    'NBR',
    'Grey cast iron EN-GJL-250',
    'Steel S235 (1.0038)',
    'Stainless steel 1.4404 (316L)',
    'Aluminium 6082',
    'POM-C',
  ];
  const lights = order.map((name) => light(tone(name)));
  expect([...lights].sort((a, b) => a - b)).toEqual(lights);
});

test('a material that only a file names is known by its words; one that is not has none', () => {
  expect(toneOfMaterial('Nickel aluminium bronze CC333G')).toBe(
    toneOfMaterial('Tin bronze CuSn8', 'Copper alloy'),
  );
  expect(toneOfMaterial('Stainless steel A4-80')).toBe(
    toneOfMaterial('Stainless steel 1.4404 (316L)', 'Stainless steel'),
  );
  expect(toneOfMaterial('Zylonite')).toBe(-1);
});

import { createRequire } from 'node:module';
import { MATERIALS } from './materials.ts';

/*
 * Densities against sources outside the project: pure metals against the data of the registry package
 * periodic-table, water against the equation of state of seawater EOS-80 (Fofonoff & Millard, Unesco
 * technical papers in marine science 44, 1983; coefficients from memory, held by the check values of that
 * paper), air against the gas law.
 */
const { symbols } = createRequire(__filename)('periodic-table') as {
  symbols: Record<string, { density: number }>;
};

const library = (id: string) => MATERIALS.find((m) => m.id === id)!;
const within = (id: string, density: number) => {
  const { density: ours, spread } = library(id);
  expect([id, Math.abs(ours - density) <= spread]).toEqual([id, true]);
};

const powers = (x: number, ...terms: number[]): number => terms.reduceRight((sum, c) => sum * x + c, 0);

/** kg/m³ of sea water. @param s practical salinity @param t °C @param p bar above the surface's */
function seawater(s: number, t: number, p: number): number {
  const r = s ** 1.5;
  const surface =
    powers(t, 999.842594, 6.793952e-2, -9.09529e-3, 1.001685e-4, -1.120083e-6, 6.536332e-9) +
    s * powers(t, 8.24493e-1, -4.0899e-3, 7.6438e-5, -8.2467e-7, 5.3875e-9) +
    r * powers(t, -5.72466e-3, 1.0227e-4, -1.6546e-6) +
    4.8314e-4 * s * s;
  const bulk =
    powers(t, 19652.21, 148.4206, -2.327105, 1.360477e-2, -5.155288e-5) +
    s * powers(t, 54.6746, -0.603459, 1.09987e-2, -6.167e-5) +
    r * powers(t, 7.944e-2, 1.6483e-2, -5.3009e-4) +
    p *
      (powers(t, 3.239908, 1.43713e-3, 1.16092e-4, -5.77905e-7) +
        s * powers(t, 2.2838e-3, -1.0981e-5, -1.6078e-6) +
        1.91075e-4 * r) +
    p *
      p *
      (powers(t, 8.50935e-5, -6.12293e-6, 5.2787e-8) + s * powers(t, -9.9348e-7, 2.0816e-8, 9.1697e-10));
  return surface / (1 - p / bulk);
}

test.each([
  [0, 5, 0, 999.96675],
  [0, 25, 1000, 1037.90204],
  [35, 5, 0, 1027.67547],
  [35, 25, 0, 1023.34306],
  [35, 5, 1000, 1069.48914],
])('the equation of state gives its published check value at S = %d, %d °C, %d bar', (s, t, p, density) => {
  expect(seawater(s, t, p)).toBeCloseTo(density, 4);
});

test('fresh, sea and deep water and air lie within their spread of the equations of state', () => {
  within('fresh-water', seawater(0, 20, 0));
  within('sea-water', seawater(35, 15, 0));
  // 6,000 m are 6,110 dbar at middle latitudes; deep water has 34.7 and 2 °C.
  within('sea-water-deep', seawater(34.7, 2, 611));
  within('air', (101_325 * 0.0289652) / (8.314462618 * 293.15));
});

test.each([
  ['copper', 'Cu'],
  ['ti2', 'Ti'],
  ['nickel', 'Ni'],
  ['lead', 'Pb'],
  ['tin', 'Sn'],
  ['silver', 'Ag'],
  ['gold', 'Au'],
  ['al', 'Al'],
])('%s has the density of its element within its spread', (id, symbol) => {
  within(id, 1000 * Number(symbols[symbol].density));
});

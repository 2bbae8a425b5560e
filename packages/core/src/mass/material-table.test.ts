import { lookOfMaterial } from './material-look.ts';
import { BadMaterialTable, readMaterialTable } from './material-table.ts';

test('a table gives materials by name or id, densities and masses, in any order of columns', () => {
  const found = readMaterialTable([
    ['Note', 'Density, kg/m³', 'PART', 'Material', 'Mass'],
    ['', '', 'Spool', '1.4462', ''],
    ['', '1150', 'Potting', '', ''],
    ['bought', '', 'Motor', '', '350 g'],
    ['', '', '', '', ''],
  ]);
  expect(Object.fromEntries(found)).toEqual({
    spool: { material: { name: 'Duplex steel 1.4462', density: 7800 }, typed: null },
    potting: { material: { name: '1150 kg/m³', density: 1150 }, typed: null },
    motor: { material: null, typed: { kg: expect.closeTo(0.35, 12) as number, at: null } },
  });
});

test.each([
  [[['Name', 'Material']], /no column “Part”/],
  [[['Part', 'Colour']], /gives nothing/],
  [[], /no column “Part”/],
  [
    [
      ['Part', 'Material'],
      ['Spool', 'unobtainium'],
    ],
    /Row 2.*no material “unobtainium”/,
  ],
  [
    [
      ['Part', 'Density'],
      ['Spool', '7.85'],
    ],
    /Row 2.*7.85 kg\/m³ or 7850 kg\/m³/,
  ],
  [
    [
      ['Part', 'Density'],
      ['Spool', '-1'],
    ],
    /Row 2.*above 0/,
  ],
  [
    [
      ['Part', 'Mass'],
      ['Spool', 'heavy'],
    ],
    /Row 2.*no mass/,
  ],
  [
    [
      ['Part', 'Mass'],
      ['', '1 kg'],
    ],
    /Row 2.*names no part/,
  ],
])('a table %j is refused with its sentence', (rows, why) => {
  expect(() => readMaterialTable(rows)).toThrow(BadMaterialTable);
  expect(() => readMaterialTable(rows)).toThrow(why);
});

test('materials look as their family does, those of a file as their name says', () => {
  expect(lookOfMaterial('Aluminium 6082', 'Aluminium')).toBe('metal');
  expect(lookOfMaterial('Alumina 99.5 %', 'Glass and ceramic')).toBe('polymer');
  expect(
    [
      'Stainless steel A4-80',
      'NBR 70',
      'PEEK',
      'Sapphire',
      'Titanium Ti-6Al-4V',
      'Nickel aluminium bronze CC333G',
      'Zylonite',
    ].map((n) => lookOfMaterial(n)),
  ).toEqual(['metal', 'rubber', 'polymer', 'glass', 'metal', 'metal', 'plain']);
});

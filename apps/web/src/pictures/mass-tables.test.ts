import exceljs from 'exceljs';
import { openedBlocks } from '../testing/opened-models.ts';
import { chosenMass } from '../workspace/mass/chosen-mass.ts';
import { giveMaterial } from '../workspace/mass/given-materials.ts';
import { BILL_NUMBERS, billRows, massJson, massRows } from './mass-tables.ts';
import { writeXlsx } from './write-xlsx.ts';

function opened() {
  const ws = openedBlocks();
  giveMaterial(ws, [0], '6082');
  return ws;
}

test('a bill of materials numbers its items, and says of what nothing is known; as a workbook its numbers are numbers', async () => {
  const rows = billRows(opened().derived.of(chosenMass).parts, 'bill');
  expect(rows[0]).toEqual([
    'Item',
    'Part',
    'Quantity',
    'Material',
    'Density, kg/m³',
    'Each, kg',
    'Total, kg',
    'Note',
  ]);
  expect(rows[1]).toEqual(['1', 'Part 0', '2', 'Aluminium 6082', '2700', '0.0162', '0.0324', '']);
  expect(rows[2].slice(0, 3)).toEqual(['2', 'Part 1', '1']);
  expect(rows[2][7]).toContain('no volume');
  const book = new exceljs.Workbook();
  await book.xlsx.load(await writeXlsx('Bill', rows, BILL_NUMBERS));
  const [sheet] = book.worksheets;
  expect(sheet.getCell('G2').value).toBe(0.0324);
  expect(sheet.getCell('B3').value).toBe('Part 1');
  expect(sheet.getRow(1).font.bold).toBe(true);
});

test('figures and JSON: units said, products of inertia with the sign that is chosen, what is missing counted', () => {
  const ws = opened();
  ws.mass.setState({ about: 'origin' });
  const product = () =>
    Number(massRows(ws, ws.derived.of(chosenMass).weighed).find(([name]) => name === 'Ixy')![1]);
  // Two blocks about the origin: −Σ m x y with x = 5 and 105, y = 10.
  expect(product()).toBeCloseTo(-0.0162 * (5 + 105) * 10, 6);
  ws.mass.setState({ products: 'plain' });
  expect(product()).toBeCloseTo(0.0162 * (5 + 105) * 10, 6);
  const rows = massRows(ws, ws.derived.of(chosenMass).weighed);
  expect(rows[0]).toEqual(['Known mass', '0.0324', 'kg']);
  expect(rows).toContainEqual(['Components without a volume', '1', '']);
  const json = JSON.parse(massJson(ws, ws.derived.of(chosenMass))) as {
    known: { mass: number; inertiaAbout: { tensor: number[][] } };
    units: { mass: string };
    figures: { name: string; value: number; unit: string }[];
    parts: { problem: string | null }[];
  };
  expect(json.known.mass).toBeCloseTo(0.0324, 12);
  expect(json.known.inertiaAbout.tensor[0][1]).toBeCloseTo(-17.82, 6);
  expect(json.units.mass).toBe('kg');
  // The same figures in every way out: what is declared is told by all.
  expect(json.figures.map(({ name, unit }) => [name, unit])).toEqual(
    rows.map(([name, , unit]) => [name, unit]),
  );
  expect(json.figures).toContainEqual({ name: 'Volume', value: expect.closeTo(12000, 6), unit: 'mm³' });
  expect(json.parts.filter((p) => p.problem)).toHaveLength(1);
});

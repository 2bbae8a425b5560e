import { writeCutSvg, writeSvg, type CutLayer } from '@bathyscope/core/drawing';
import { HATCHES, type PlaneCurve } from '@bathyscope/core/section';
import DxfParser from 'dxf-parser';
import exceljs from 'exceljs';
import { parse } from 'papaparse';
import { SaxesParser } from 'saxes';
import { fileName } from './export-file.ts';
import { writeCsv } from './save-csv.ts';
import { writeCutDxf } from './write-cut-dxf.ts';
import { writeXlsx } from './write-xlsx.ts';

/*
 * Names from outside in all that goes out, read again by readers that are none of ours. What a spreadsheet
 * works out: OWASP, CSV Injection.
 */
const HOSTILE = [
  '00450',
  '1E10',
  '1.50',
  '0x1F',
  'Infinity',
  '-5',
  '=1+1',
  '+1',
  '@SUM(A1)',
  '-1+2',
  '=HYPERLINK("http://nowhere.test","x")\nsecond line',
  '\t=1+1',
  '\r\n=1+1',
  '＝1+1',
  'a,"b";c',
  'two\nlines',
  '</title><script>alert(1)</script>',
  '"><g onload="x',
  ']]>&amp;<!--',
  'bell\u0007and\u0000nil',
  'escape\u001b[2J',
  'half\ud800',
  'no character\ufffe\uffff',
  '__proto__',
  '  0\nSECTION\n  2\nENTITIES',
  '../../etc/passwd',
  'x'.repeat(500),
  '😀'.repeat(150),
  '',
];
const isFormula = (cell: string): boolean =>
  /^[=+@＝＋＠－\t\r\n]/.test(cell) || (cell.startsWith('-') && Number.isNaN(Number(cell)));
/** As XML holds it. */
const inXml = (text: string): string =>
  // eslint-disable-next-line no-control-regex
  text.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]|\p{Surrogate}/gu, '\ufffd');

test('CSV: every cell is what it was, and none is worked out by a spreadsheet', () => {
  const rows = [['Part', 'Quantity'], ...HOSTILE.map((name, i) => [name, String(-i)])];
  const { data } = parse<string[]>(writeCsv(rows).slice(1));
  expect(data).toHaveLength(rows.length);
  for (const [i, [name, count]] of data.entries()) {
    expect(isFormula(name)).toBe(false);
    expect(name).toBe(isFormula(rows[i][0]) ? `'${rows[i][0]}` : rows[i][0]);
    expect(count).toBe(rows[i][1]);
  }
});

test('XLSX: a column of names holds texts, whatever they look like, and one of numbers numbers', async () => {
  const rows = [['Part', 'Quantity'], ...HOSTILE.map((name, i) => [name, String(i)])];
  const book = new exceljs.Workbook();
  await book.xlsx.load(await writeXlsx('Bill', rows, new Set(['Quantity'])));
  const [sheet] = book.worksheets;
  HOSTILE.forEach((name, i) => {
    // XML reads the ends of lines as one character.
    expect([sheet.getCell(i + 2, 1).text.replace(/\r\n?/g, '\n'), sheet.getCell(i + 2, 2).value]).toEqual([
      inXml(name).replace(/\r\n?/g, '\n'),
      i,
    ]);
    expect(sheet.getCell(i + 2, 1).formula).toBeUndefined();
  });
});

const line: PlaneCurve = { shape: 'line', from: [0, 0], to: [9, 0] };
const layersOf = (names: readonly string[]): CutLayer[] =>
  names.map((name) => ({
    name,
    colour: [0, 0, 0],
    hatch: HATCHES[0],
    thickness: 9,
    loops: [[line]],
    open: [],
  }));

test('SVG is well-formed XML that holds the name as text, of drawings and of cuts', () => {
  for (const name of HOSTILE) {
    const box = { minX: 0, minY: 0, maxX: 9, maxY: 9 };
    const svgs = [
      writeSvg({ curves: [], tolerance: 0, box }, { scale: 1, title: name }),
      writeCutSvg(layersOf([name, name]), { title: name, scale: 1, hatched: true }),
    ];
    for (const svg of svgs) {
      const elements = new Set<string>();
      let title = '';
      const parser = new SaxesParser();
      parser.on('opentag', (tag) => elements.add(tag.name));
      parser.on('text', (text) => (title ||= text.trim()));
      parser.write(svg).close();
      expect(elements.has('script')).toBe(false);
      expect(title.startsWith(inXml(name).replace(/\r\n?/g, '\n').trim())).toBe(true);
    }
  }
});

test('DXF: a layer for each name, no two alike, and nothing in a name ends a line', () => {
  const names = [...HOSTILE, 'plate', 'Plate', 'Plate_2', 'PLATE'];
  const dxf = new DxfParser().parseSync(writeCutDxf(layersOf(names)))!;
  const layers = dxf.entities.map((e) => e.layer);
  expect(dxf.entities).toHaveLength(names.length);
  expect(new Set(layers.map((l) => l.toLowerCase())).size).toBe(names.length);
});

test('names of files are no ways', () => {
  for (const name of HOSTILE)
    expect(fileName(name, 'bill', 'csv')).not.toMatch(/[\\/:*?"<>|\u0000-\u001f]|^\.\.[\\/]/); // eslint-disable-line no-control-regex
});

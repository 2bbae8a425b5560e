import exceljs from 'exceljs';

const WIDEST = 50;
const MARGIN = 2;

/** Rows as a workbook of one sheet; what is a number is one, the first row stands bold and still. */
export async function writeXlsx(name: string, rows: readonly (readonly string[])[]): Promise<ArrayBuffer> {
  const book = new exceljs.Workbook();
  const sheet = book.addWorksheet(name, { views: [{ state: 'frozen', ySplit: 1 }] });
  for (const [r, row] of rows.entries())
    sheet.addRow(row.map((cell) => (r > 0 && cell !== '' && Number.isFinite(Number(cell)) ? Number(cell) : cell)));
  sheet.getRow(1).font = { bold: true };
  for (const [c] of rows[0].entries())
    sheet.getColumn(c + 1).width = Math.min(WIDEST, MARGIN + Math.max(...rows.map((row) => row[c]?.length ?? 0)));
  return (await book.xlsx.writeBuffer()) as unknown as ArrayBuffer;
}

import exceljs from 'exceljs';

const WIDEST = 50;
const MARGIN = 2;

/** A column of pictures (PNG), one a row beneath the head. */
export interface PictureColumn {
  column: number;
  /** px */
  width: number;
  height: number;
  pictures: readonly Blob[];
}

/** Rows as a workbook of one sheet; what is a number is one, the first row stands bold and still. */
export async function writeXlsx(name: string, rows: readonly (readonly string[])[], shown?: PictureColumn): Promise<ArrayBuffer> {
  const book = new exceljs.Workbook();
  const sheet = book.addWorksheet(name, { views: [{ state: 'frozen', ySplit: 1 }] });
  for (const [r, row] of rows.entries())
    sheet.addRow(row.map((cell) => (r > 0 && cell !== '' && Number.isFinite(Number(cell)) ? Number(cell) : cell)));
  sheet.getRow(1).font = { bold: true };
  for (const [c] of rows[0].entries())
    sheet.getColumn(c + 1).width = Math.min(WIDEST, MARGIN + Math.max(...rows.map((row) => row[c]?.length ?? 0)));
  if (shown) await addPictures(book, sheet, shown);
  return (await book.xlsx.writeBuffer()) as unknown as ArrayBuffer;
}

/** A sheet counts heights in points of 1/72 inch and widths in digits of about 7 px. */
const POINTS = 72 / 96;
const DIGIT = 7;

async function addPictures(
  book: exceljs.Workbook,
  sheet: exceljs.Worksheet,
  { column, width, height, pictures }: PictureColumn,
): Promise<void> {
  sheet.getColumn(column + 1).width = width / DIGIT + 1;
  for (const [i, picture] of pictures.entries()) {
    sheet.getRow(i + 2).height = height * POINTS + 2;
    const id = book.addImage({ buffer: await picture.arrayBuffer(), extension: 'png' });
    sheet.addImage(id, { tl: { col: column + 0.05, row: i + 1.02 }, ext: { width, height } });
  }
}

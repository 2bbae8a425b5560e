import { xmlText } from '@bathyscope/core/drawing';
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

/**
 * Rows as a workbook of one sheet, whose first row stands bold and still.
 * @param numbers headings of the columns that hold numbers: in others “00450” and “1E10” are names
 */
export async function writeXlsx(
  name: string,
  rows: readonly (readonly string[])[],
  numbers: ReadonlySet<string>,
  shown?: PictureColumn,
): Promise<ArrayBuffer> {
  const book = new exceljs.Workbook();
  const sheet = book.addWorksheet(name, { views: [{ state: 'frozen', ySplit: 1 }] });
  for (const [r, row] of rows.entries())
    sheet.addRow(
      row.map((cell, c) => (r > 0 && numbers.has(rows[0][c]) && cell !== '' ? Number(cell) : xmlText(cell))),
    );
  sheet.getRow(1).font = { bold: true };
  for (const [c] of rows[0].entries())
    sheet.getColumn(c + 1).width = Math.min(
      WIDEST,
      MARGIN + Math.max(...rows.map((row) => row[c]?.length ?? 0)),
    );
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

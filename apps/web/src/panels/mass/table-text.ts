import { significant } from '@bathyscope/core/units';

const DIGITS = 5;
/**
 * Of the largest: what is less turns the axes by less than 1e-7 rad, which is nil to
 * the eye and to a balance.
 */
const NOTHING = 1e7;

/** Numbers of one table to five digits each; what is rounding beside the largest is nil. */
export function tableText(values: readonly number[]): string[] {
  const largest = Math.max(...values.map(Math.abs));
  return values.map((v) => {
    if (Math.abs(v) * NOTHING <= largest) return '0';
    // Without groups: letters of a table are all of one width.
    return significant(v, DIGITS).replace(/\u2009/g, '');
  });
}

/**
 * Texts of one column, filled up on the right so that in letters of one width, flush right, their decimal
 * points stand under one another.
 */
export function alignPoints(texts: readonly string[]): string[] {
  const behind = texts.map((t) => (t.includes('.') ? t.length - t.indexOf('.') : 0));
  const most = Math.max(...behind);
  return texts.map((t, i) => t + '\u00a0'.repeat(most - behind[i]));
}

/** Days for which what was deleted lies in the bin, where nothing else is set. */
const USUAL = 30;

/** Days for which what was deleted lies in the bin: BATHYSCOPE_BIN_DAYS. @throws Error for what is no number of days */
export function binDays(said = process.env['BATHYSCOPE_BIN_DAYS']): number {
  if (said === undefined || said === '') return USUAL;
  const days = Number(said);
  if (!(days >= 1 && days <= 3650))
    throw new Error(`BATHYSCOPE_BIN_DAYS is “${said}”: it is how many days deleted things can be put back, from 1 to 3650.`);
  return days;
}

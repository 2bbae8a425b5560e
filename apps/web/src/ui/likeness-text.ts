import type { Likeness } from '@bathyscope/contracts';

const counted = (n: number): string => (n === 1 ? '1 part' : `${n} parts`);

/**
 * What speaks for a file being the next revision of something: “the same name at the top, 14 of its 15
 * parts”. Empty where nothing does.
 */
export function commonText({ sameRoot, common, before }: Likeness): string {
  const parts = common === before ? `all ${counted(before)}` : `${common} of ${counted(before)}`;
  return [sameRoot && 'the same name at the top', common > 0 && (before === 1 ? 'the same part' : parts)]
    .filter(Boolean)
    .join(' and ');
}

const unitText = (unit: string | null): string => (unit ? `“${unit}”` : 'no unit');

/** What speaks against it, as sentences; empty where nothing does. */
export function doubtText(like: Likeness, name: string): string {
  const { sameRoot, common, parts, before, lengthUnit, unitBefore, to } = like;
  return [
    common === 0 &&
      `It has ${sameRoot ? 'no part' : 'nothing'} in common with revision ${to}: is this really “${name}”?`,
    common > 0 && parts === 1 && before > 1 && `It is one part, where revision ${to} had ${before}.`,
    lengthUnit !== unitBefore &&
      `Its file states ${unitText(lengthUnit)}, that of revision ${to} ${unitText(unitBefore)}: look at the sizes.`,
  ]
    .filter(Boolean)
    .join(' ');
}

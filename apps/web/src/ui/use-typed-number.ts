import { readQuantity, type FieldKind } from '@bathyscope/core/units';
import { useState } from 'react';

export interface TypedNumberOptions {
  kind: FieldKind;
  /** What is in force: mm, rad, s, or the number. */
  value: number;
  /** One of the field's unit, inside. */
  one: number;
  /** Behind the figures that say what was understood. */
  unit: string;
  decimals: number;
  /** What is wrong with a value, as a sentence. */
  check?: (value: number) => string | null;
}

export interface TypedNumber {
  /** As typed, or the value in force. */
  text: string;
  typing: boolean;
  /** What would be taken; null when what is typed is wrong. */
  value: number | null;
  /** What was understood, when it had to be worked out, or what is wrong. */
  note: { text: string; wrong: boolean } | null;
  type: (text: string) => void;
  /** Back to the value in force. */
  forget: () => void;
}

/** A number while it is typed. What is wrong stays where it is, with what is wrong about it. */
export function useTypedNumber({ kind, value, one, unit, decimals, check }: TypedNumberOptions): TypedNumber {
  const [typed, setTyped] = useState<string | null>(null);
  const shown = (value / one).toFixed(decimals);
  const rest = { type: setTyped, forget: () => setTyped(null) };
  if (typed === null || typed === shown)
    return { text: typed ?? shown, typing: typed !== null, value, note: null, ...rest };
  const read = readQuantity(typed, kind, one);
  const wrong = 'wrong' in read ? read.wrong : (check?.(read.value) ?? null);
  if (wrong !== null || 'wrong' in read)
    return { text: typed, typing: true, value: null, note: { text: wrong!, wrong: true }, ...rest };
  const note = read.worked
    ? { text: `= ${(read.value / one).toFixed(decimals)} ${unit}`, wrong: false }
    : null;
  return { text: typed, typing: true, value: read.value, note, ...rest };
}

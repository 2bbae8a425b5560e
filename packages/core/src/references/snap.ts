import type { ComponentPath } from '../model/structure.ts';

/** What a point is of a thing: what is named beside the cursor. */
export type SnapKind = 'midpoint' | 'centre' | 'quadrant' | 'intersection' | 'on edge' | 'on face';

/** Which point of a thing is meant: of an edge or face of a part, or of an outline or face of a cut. */
export interface Snap {
  kind: SnapKind;
  on: 'edge' | 'face' | 'outline' | 'cap';
  /** The number of a quadrant. */
  which?: number;
  /** The other edge of an intersection. */
  with?: { component: ComponentPath; index: number };
}

const KINDS: readonly SnapKind[] = ['midpoint', 'centre', 'quadrant', 'intersection', 'on edge', 'on face'];

/** What a snap is called beside the cursor and in the list of what is measured. */
export const snapName = ({ kind, on }: Snap): string => {
  if (kind === 'on edge') return on === 'outline' ? 'on cut edge' : kind;
  return kind === 'on face' && on === 'cap' ? 'on cut face' : kind;
};

/** A snap from stored values, without the other edge; null for what no version ever wrote. */
export function readSnap(values: unknown): Omit<Snap, 'with'> | null {
  const { kind, on, which } = (typeof values === 'object' && values !== null ? values : {}) as Record<
    string,
    unknown
  >;
  const found = KINDS.find((k) => k === kind);
  const of = (['edge', 'face', 'outline', 'cap'] as const).find((o) => o === on);
  return found && of
    ? { kind: found, on: of, ...(Number.isInteger(which) && { which: which as number }) }
    : null;
}

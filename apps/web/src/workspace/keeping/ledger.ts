import { valueText, type Fact, type PickFacts } from '@bathyscope/core/facts';
import {
  keptKind,
  limitsOf,
  writtenFigure,
  toleranceText,
  verdictOf,
  type KeptFigure,
  type KeptKind,
} from '@bathyscope/core/ledger';
import type { Moved } from '@bathyscope/core/measure';
import type { LengthUnit } from '@bathyscope/core/units';
import { ledgerEntry, type LedgerEntry } from '@bathyscope/contracts/records';
import type { Picked } from '../../state/selection-store.ts';
import { allFigures } from '../measuring/all-figures.ts';
import { whereOf } from '../measuring/figures.ts';
import { added, changed, changeRecords, kept } from './records.ts';
import { pickOf, referenceTo, resolve } from '../measuring/references.ts';
import { recordById } from '../../state/record-store.ts';
import { perform } from '../perform.ts';
import type { Workspace } from '../workspace.ts';

/* Measurements that are kept: changed so that it can be undone, and computed anew whenever they are shown. */

/** @param change a field of undefined is taken away */
export const changeKept = (
  ws: Workspace,
  figure: KeptFigure,
  what: string,
  change: Partial<LedgerEntry>,
): void => changeRecords(ws, `${what} of “${figure.name}”`, [changed(ws, ledgerEntry, figure, change)]);

/**
 * The figure that is kept among all of a thing: the one of its label, else the leading
 * one, if it is one number.
 */
export function figureOf({ main, rows }: PickFacts, label: string): Fact | null {
  const facts = [...(main ? [main] : []), ...rows].filter((f) => keptKind(f.value));
  return facts.find((f) => f.label === label) ?? facts[0] ?? null;
}

/** Key of the dimension of what is picked. */
export const leadKey = (items: readonly Picked[]): string =>
  `lead ${items.map(({ kind, component, index, plane, datum, snap }) => [kind, component, index, plane, datum, snap?.kind, snap?.which].join(' ')).join(', ')}`;

/** Whether a kept figure is drawn: as it was decided, else where one made it oneself. */
export function isKeptDrawn(ws: Workspace, id: string): boolean {
  const { drawn, hidden } = ws.ledger.getState();
  if (drawn.includes(id)) return true;
  return !hidden.includes(id) && isOwn(recordById(ws.records.getState(), ledgerEntry.name, id));
}

/** What is not stored yet was made here. */
const isOwn = (record: ReturnType<typeof recordById>): boolean => record?.author?.you !== false;

/** Has a kept figure drawn from now on, or not. */
export function drawKept(ws: Workspace, { id, name }: KeptFigure, on: boolean): void {
  const { drawn, hidden } = ws.ledger.getState();
  const without = (ids: readonly string[]) => ids.filter((other) => other !== id);
  perform(ws, `${on ? 'draw' : 'do not draw'} “${name}”`, ws.ledger, {
    drawn: on ? [...without(drawn), id] : without(drawn),
    hidden: on ? without(hidden) : [...without(hidden), id],
  });
}

/** By how much a dimension is moved, where it is the one that was moved last. */
export function movedBy(ws: Workspace, key: string): Moved | undefined {
  const { moved } = ws.ledger.getState();
  return moved?.key === key ? moved.by : undefined;
}

/** Keeps the leading figure of picked things, or another of theirs. @throws Error with a sentence */
export async function keepFigure(ws: Workspace, items: readonly Picked[], label = ''): Promise<KeptFigure> {
  const fact = figureOf((await allFigures(ws, items)).facts, label);
  if (!fact)
    throw new Error('There is no figure to keep here: it must be a length, an angle, an area or a volume.');
  const moved = movedBy(ws, leadKey(items));
  const where = [...new Set(items.map((i) => whereOf(ws, i).split(' · ')[0]))].join(' to ');
  const entry: LedgerEntry = {
    name: `${fact.label || 'Figure'}, ${where}`.slice(0, 120),
    of: items.map((i) => referenceTo(ws, i)),
    figure: fact.label,
    was: numberOf(fact),
    revision: ws.model.getState().detail!.revision,
    ...(moved && { moved }),
  };
  const made = added(ws, ledgerEntry, entry);
  changeRecords(ws, `keep “${entry.name}”`, [made]);
  return { ...entry, id: made.id };
}

export const numberOf = (fact: Fact): number => fact.value.value as number;

/** What a kept figure is of, as picks; null where one of them is lost. */
export function itemsOf(ws: Workspace, { of }: KeptFigure): Picked[] | null {
  const items = of.map((r) => pickOf(ws, r));
  return items.every((i) => i !== null) ? items : null;
}

export const isLost = (ws: Workspace, { of }: KeptFigure): boolean =>
  of.some((r) => resolve(ws, r).status === 'lost');

/** Nominal value and tolerance as one would write them; empty where there are none. */
export function wantedText(
  { nominal, tolerance }: Pick<KeptFigure, 'nominal' | 'tolerance'>,
  kind: KeptKind,
  unit: LengthUnit,
): string {
  const say = (value: number) => writtenFigure(value, kind, unit);
  return [nominal === undefined ? '' : say(nominal), tolerance ? toleranceText(tolerance, say) : '']
    .filter(Boolean)
    .join(' ');
}

/** The ledger as rows of a table, computed anew. */
export async function ledgerRows(ws: Workspace, unit: LengthUnit): Promise<string[][]> {
  const figures = kept(ws, ledgerEntry);
  const rows = await Promise.all(
    figures.map(async (entry): Promise<string[]> => {
      const items = itemsOf(ws, entry);
      const found = items && (await allFigures(ws, items).catch(() => null));
      const fact = found && figureOf(found.facts, entry.figure);
      if (!fact) return [entry.name, entry.figure, '', '', '', '', '', 'lost', ''];
      const kind = keptKind(fact.value)!;
      const { unit: shown } = valueText(fact.value, unit);
      const plain = (value: number) => plainText({ ...fact, value: { kind, value } }, unit);
      const bounds = limitsOf(entry);
      return [
        entry.name,
        fact.label,
        plain(numberOf(fact)),
        shown,
        entry.nominal === undefined ? '' : plain(entry.nominal),
        bounds ? plain(bounds.least) : '',
        bounds ? plain(bounds.greatest) : '',
        verdictOf(entry, numberOf(fact)) ?? '',
        howGood(found.facts, fact),
      ];
    }),
  );
  return [
    ['Name', 'Figure', 'Value', 'Unit', 'Nominal', 'Least', 'Greatest', 'Verdict', 'Accuracy'],
    ...rows,
  ];
}

/** A row that is less certain than the leading figure says so itself. */
const howGood = ({ main, accuracy }: PickFacts, fact: Fact): string =>
  (fact !== main && fact.note) || accuracy?.kind || '';

/** A number that other programs read: no prefix, no spaces within, a plain minus. */
const plainText = (fact: Fact, unit: LengthUnit): string =>
  valueText(fact.value, unit)
    .text.replace(/[Ø□R]\s*/g, '')
    .replace(/[\u2009\s]/g, '')
    .replace('−', '-');

import { keptKind, valueText, type DrawnDimension, type Fact, type KeptFigure } from '@bathyscope/core';
import { samePick, type Picked } from '../state/selection-store.ts';
import { unitStyleOf } from '../state/settings-store.ts';
import { allFigures, type AllFigures } from './all-figures.ts';
import { figureOf, itemsOf, wantedText } from './ledger.ts';
import { pickOf } from './references.ts';
import type { Workspace } from './workspace.ts';

/** A figure as it stands at a dimension. */
export function sayFigure(ws: Workspace, { value }: Fact): string {
  const { text, unit } = valueText(value, unitStyleOf(ws.profile.getState()));
  return `${text} ${unit}`.trim();
}

/** Kept figures that are drawn: not those switched off, nor those that are picked, which are drawn anyway. */
export function keptShown(ws: Workspace): KeptFigure[] {
  const { hidden } = ws.ledger.getState();
  const { picked } = ws.selection.getState();
  return ws.preference.getState().figures.filter((f) => !hidden.includes(f.id) && !(picked.length > 1 && isOf(ws, f, picked)));
}

function isOf(ws: Workspace, { of }: KeptFigure, picked: readonly Picked[]): boolean {
  const items = of.map((r) => pickOf(ws, r));
  return items.length === picked.length && items.every((item) => picked.some((p) => samePick(p, item)));
}

/** How a kept figure is drawn: between its ends where its leading figure has any, else pointed to; with its tolerance. */
export function drawnKept(ws: Workspace, kept: KeptFigure, found: AllFigures | null | undefined): DrawnDimension[] {
  const fact = found && figureOf(found.facts, kept.figure);
  if (!found || !fact) return [];
  const tolerance = wantedText({ tolerance: kept.tolerance }, keptKind(fact.value)!, ws.profile.getState().unit);
  const drawn = {
    key: kept.id,
    text: [sayFigure(ws, fact), tolerance].filter(Boolean).join(' '),
    ...(kept.colour && { colour: kept.colour }),
  };
  const ends = kept.figure === found.facts.main?.label ? found.dimension : null;
  if (ends) return [{ ...drawn, kind: 'dimension', ends }];
  return found.at ? [{ ...drawn, kind: 'pointed', ends: [found.at, found.at] }] : [];
}

/** All that is drawn now, for pictures and drawings: of two picked things, and what is kept. */
export async function dimensionsNow(ws: Workspace): Promise<DrawnDimension[]> {
  const { picked } = ws.selection.getState();
  const between = picked.length === 2 ? await allFigures(ws, picked).catch(() => null) : null;
  const kept = await Promise.all(
    keptShown(ws).map(async (k) => {
      const items = itemsOf(ws, k);
      return drawnKept(ws, k, items && (await allFigures(ws, items).catch(() => null)));
    }),
  );
  const main = between?.facts.main;
  return [
    ...(between?.dimension && main
      ? [{ key: 'lead', kind: 'dimension' as const, ends: between.dimension, text: sayFigure(ws, main) }]
      : []),
    ...kept.flat(),
  ];
}

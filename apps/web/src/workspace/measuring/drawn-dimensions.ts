import { ledgerEntry } from '@bathyscope/contracts/records';
import { kept } from '../keeping/records.ts';
import { valueText, type Fact, type PickFacts } from '@bathyscope/core/facts';
import { keptKind, type KeptFigure } from '@bathyscope/core/ledger';
import type { DimensionShape, DrawnDimension, Moved } from '@bathyscope/core/measure';
import { samePick, type Picked } from '../../state/selection-store.ts';
import { unitStyleOf } from '../../state/settings-store.ts';
import { allFigures, placeOf, type AllFigures } from './all-figures.ts';
import {
  changeKept,
  figureOf,
  isKeptDrawn,
  itemsOf,
  leadKey,
  movedBy,
  wantedText,
} from '../keeping/ledger.ts';
import { threePoints } from './measured.ts';
import { pickOf } from './references.ts';
import { derived } from '../derived/derived.ts';
import { thinnestPlace, wallAtPick } from './walls.ts';
import type { Workspace } from '../workspace.ts';

/** A figure as it stands at a dimension. */
export function sayFigure(ws: Workspace, { value }: Fact): string {
  const { text, unit } = valueText(value, unitStyleOf(ws.profile.getState()));
  return `${text} ${unit}`.trim();
}

/** Kept figures that are drawn; not those that are picked, which are drawn anyway. */
export function keptShown(ws: Workspace): KeptFigure[] {
  const { picked } = ws.selection.getState();
  return kept(ws, ledgerEntry).filter(
    (f) => isKeptDrawn(ws, f.id) && !(isDrawn(ws, picked) && isOf(ws, f, picked)),
  );
}

function isOf(ws: Workspace, { of }: KeptFigure, picked: readonly Picked[]): boolean {
  const items = of.map((r) => pickOf(ws, r));
  return items.length === picked.length && items.every((item) => picked.some((p) => samePick(p, item)));
}

/**
 * How a kept figure is drawn: between its ends where its leading figure has any, else
 * pointed to; with its tolerance.
 */
export function drawnKept(
  ws: Workspace,
  kept: KeptFigure,
  found: AllFigures | null | undefined,
): DrawnDimension[] {
  const fact = found && figureOf(found.facts, kept.figure);
  if (!found || !fact) return [];
  // What it should be stands apart from what it is.
  const wanted = kept.tolerance && wantedText(kept, keptKind(fact.value)!, ws.profile.getState().unit);
  const moved = movedBy(ws, kept.id) ?? kept.moved;
  const drawn = {
    key: kept.id,
    text: sayFigure(ws, fact) + (wanted ? ` (${wanted})` : ''),
    ...(kept.colour && { colour: kept.colour }),
    ...(moved && { moved }),
  };
  const shape = fact.label === leadOf(found.facts, found.dimension)?.label ? found.dimension : between(fact);
  if (shape) return [{ ...drawn, ...shape }];
  return found.at ? [{ ...drawn, kind: 'pointed', ends: [found.at, found.at] }] : [];
}

const between = ({ ends }: Fact): DimensionShape | null => (ends ? { kind: 'dimension', ends } : null);

/** The row of figures under the cursor: where it is measured, the place that it tells, or what it is of. */
export const drawnPointed = derived('the figure that is pointed to', (ws): DrawnDimension[] => {
  const { pointed } = ws.measure.getState();
  const [first] = ws.selection.getState().picked;
  if (!pointed || !first) return [];
  const text = `${pointed.label} ${sayFigure(ws, pointed)}`;
  // In its place, not beside it: there the leading figure stands.
  if (pointed.ends) return [{ key: 'pointed', kind: 'least', ends: pointed.ends, text }];
  if (pointed.value.kind === 'point') {
    const at = pointed.value.value;
    return [{ key: 'pointed', kind: 'place', ends: [at, at], text: pointed.label }];
  }
  const at = placeOf(ws, first);
  return at ? [{ key: 'pointed', kind: 'pointed', ends: [at, at], text }] : [];
});

/** The figure that a dimension shows: the leading one, or of a straight edge its length. */
const leadOf = (facts: PickFacts, shape: DimensionShape | null): Fact | null =>
  facts.main ?? (shape ? (facts.rows.find((r) => r.value.kind === 'length') ?? null) : null);

/** The dimension of one picked thing, or between two, with the text of their leading figure. */
export function drawnLead(
  ws: Workspace,
  items: readonly Picked[],
  facts: PickFacts,
  shape: DimensionShape | null,
): DrawnDimension[] {
  const lead = leadOf(facts, shape);
  const key = leadKey(items);
  const moved = movedBy(ws, key);
  return lead && shape ? [{ key, text: sayFigure(ws, lead), ...shape, ...(moved && { moved }) }] : [];
}

/** Sets where a dimension stands while it is dragged; at the end of it, that of a kept figure is kept. */
export function moveDimension(ws: Workspace, key: string, by: Moved, done: boolean): void {
  const figure = kept(ws, ledgerEntry).find((f) => f.id === key);
  ws.ledger.setState({ moved: done && figure ? null : { key, by } });
  if (done && figure) changeKept(ws, figure, 'place', { moved: by });
}

/** All that is drawn now, for pictures and drawings: of two picked things, and what is kept. */
export async function dimensionsNow(ws: Workspace): Promise<DrawnDimension[]> {
  const { picked } = ws.selection.getState();
  const between = isDrawn(ws, picked) ? await allFigures(ws, picked).catch(() => null) : null;
  const kept = await Promise.all(
    keptShown(ws).map(async (k) => {
      const items = itemsOf(ws, k);
      return drawnKept(ws, k, items && (await allFigures(ws, items).catch(() => null)));
    }),
  );
  return [...(between ? drawnLead(ws, picked, between.facts, between.dimension) : []), ...kept.flat()];
}

/**
 * Two picked things, or three points, are measured in every task, one alone where that is what one is about.
 */
export const isDrawn = (ws: Workspace, picked: readonly Picked[]): boolean =>
  picked.length === 2 ||
  threePoints(ws, picked) !== null ||
  (picked.length === 1 && ws.profile.getState().task === 'measure' && ws.measure.getState().tab !== 'wall');

/** The wall where a face was clicked, and the thinnest place of what is mapped. */
export const drawnWalls = derived('the walls that are drawn', (ws): DrawnDimension[] => {
  if (ws.measure.getState().tab !== 'wall' || ws.profile.getState().task !== 'measure') return [];
  const { picked } = ws.selection.getState();
  const say = (value: number) => sayFigure(ws, { label: '', value: { kind: 'length', value } });
  const wall = picked.length === 1 ? wallAtPick(ws, picked[0]) : null;
  const thinnest = thinnestPlace(ws);
  const main = wall && typeof wall !== 'string' ? wall.facts.main?.value.value : undefined;
  return [
    ...(wall && typeof wall !== 'string' && wall.along
      ? [{ key: 'wall', kind: 'least' as const, ends: wall.along, text: say(main as number) }]
      : []),
    ...(thinnest
      ? [
          {
            key: 'thinnest',
            kind: 'place' as const,
            ends: thinnest.ends,
            text: `thinnest ${say(thinnest.thickness)}`,
          },
        ]
      : []),
  ];
});

/** The clash that was chosen from the list, for as long as nothing is picked. */
export const drawnClash = derived('the clash that is drawn', (ws): DrawnDimension[] => {
  const { shown } = ws.interference.getState();
  if (!shown || 'failed' in shown || !shown.clash) return [];
  const depth: Fact = { label: 'Depth', value: { kind: 'length', value: shown.clash.depth } };
  return [
    { key: 'clash', kind: 'place', ends: [shown.from, shown.from], text: `${sayFigure(ws, depth)} deep` },
  ];
});

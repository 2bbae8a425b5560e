import type { PickFacts } from '@bathyscope/core/facts';
import { normalize, subtract, type Vec3 } from '@bathyscope/core/math';
import type { DimensionShape } from '@bathyscope/core/measure';
import type { Picked } from '../../state/selection-store.ts';
import { pointOfPick } from '../picking/snap-picks.ts';
import { distanceFacts, distanceOf, figuresOfOne } from './figures.ts';
import { areWhole, interferenceFacts, interferencePair } from './interferences.ts';
import { figuresOfMany, measuredShape, pairFacts, pairOf, threePoints } from './measured.ts';
import type { Workspace } from '../workspace.ts';

/** What picked things measure, with all that has to be asked for, and where that is drawn. */
export interface AllFigures {
  facts: PickFacts;
  /** What the leading figure is drawn as; else the least distance. */
  dimension: DimensionShape | null;
  /** A place of the first thing, for figures that have no dimension. */
  at: Vec3 | null;
}

/** @throws Error with a sentence, where it cannot be measured */
export async function allFigures(ws: Workspace, items: readonly Picked[]): Promise<AllFigures> {
  const at = placeOf(ws, items[0]);
  if (items.length > 2)
    return { facts: figuresOfMany(ws, items), dimension: threePoints(ws, items)?.dimension ?? null, at };
  if (items.length === 1) {
    const facts = figuresOfOne(ws, items[0]);
    if (!facts) throw new Error('It is not there any more.');
    return { facts, dimension: dimensionOfOne(ws, items[0]), at };
  }
  const pair = pairOf(ws, items);
  const facts = pairFacts(ws, items, pair, await leastOf(ws, items));
  const ends = ['From', 'To'].map(
    (label) => facts.rows.find((r) => r.label === label)?.value.value as Vec3 | undefined,
  );
  const least =
    !pair?.lead && ends[0] && ends[1]
      ? { kind: 'dimension' as const, ends: [ends[0], ends[1]] as const }
      : null;
  return { facts, dimension: pair?.dimension ?? least, at };
}

/**
 * What the leading figure of one thing is drawn as: a diameter, an arc's radius, the
 * length of a straight edge.
 */
export function dimensionOfOne(ws: Workspace, item: Picked): DimensionShape | null {
  const shape = measuredShape(ws, item);
  if (shape?.kind === 'line' && shape.ends) return { kind: 'dimension', ends: shape.ends };
  if (shape?.kind === 'sphere')
    return { kind: 'round', centre: shape.origin, axis: null, radius: shape.radius, towards: null };
  if ((shape?.kind !== 'circle' && shape?.kind !== 'turned') || shape.radius === null) return null;
  const middle =
    item.kind === 'edge'
      ? pointOfPick(ws, { ...item, kind: 'point', snap: { kind: 'midpoint', on: 'edge' } })?.at
      : undefined;
  return {
    kind: 'round',
    centre: shape.origin,
    axis: shape.axis,
    radius: shape.radius,
    towards: middle ? normalize(subtract(middle, shape.origin)) : null,
  };
}

async function leastOf(ws: Workspace, items: readonly Picked[]): Promise<PickFacts | null> {
  if (areWhole(ws, items)) {
    const [interference] = await ws.source.ask('interference', {
      pairs: [interferencePair(items)],
      how: 'exact',
    });
    if ('failed' in interference) throw new Error(`It could not be measured: ${interference.failed}.`);
    return interferenceFacts(interference);
  }
  const found = distanceOf(ws, items);
  if ('facts' in found) return found.facts;
  return 'ask' in found ? distanceFacts(await ws.source.ask('distance', found.ask), { kind: 'exact' }) : null;
}

/** A place of a picked thing, for what is said of it. */
export function placeOf(ws: Workspace, item: Picked): Vec3 | null {
  const shape = measuredShape(ws, item);
  if (!shape) return item.point ?? null;
  if (shape.kind === 'point') return shape.at;
  return 'origin' in shape ? shape.origin : (item.point ?? null);
}

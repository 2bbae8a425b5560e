import { fitView, type Support } from '@bathyscope/core/camera';
import {
  boxCentre,
  boxDiagonal,
  boxOfPoints,
  dot,
  length,
  multiply,
  transformPoint,
  type Vec3,
} from '@bathyscope/core/math';
import type { Reference } from '@bathyscope/core/references';
import { modelBox } from '../shown/components.ts';
import { fittedToPicked } from '../view/camera-targets.ts';
import { Matching } from './matching.ts';
import type { LookedUp } from './look-up.ts';
import { activePane } from '../view/panes.ts';
import { pickOf } from '../measuring/references.ts';
import { turnTo } from '../view/turn-view.ts';
import type { Workspace } from '../workspace.ts';

/* Where something was on the revision that it was kept on, and where it is now: shown one after the other. */

/** Of the model's size: the radius around a place that is seen with it. */
const AROUND = 0.2;

/**
 * Draws the outlines of what something was made of, where it was. @throws Error with a sentence when the old
 * revision cannot be had
 */
export async function showOldPlace(ws: Workspace, looked: LookedUp): Promise<void> {
  const lines = (
    await Promise.all(looked.was.map((reference) => oldLines(ws, looked.madeOn, reference)))
  ).flat();
  if (!lines.length)
    throw new Error(
      `Where “${looked.title}” was cannot be shown: revision ${looked.madeOn} is not there any more, or it had no place.`,
    );
  ws.selection.getState().pick([]);
  ws.lookedUp.setState({ old: { record: looked.id, revision: looked.madeOn, lines } });
  const { camera, size } = activePane(ws);
  // With enough around it to see where on the model it is.
  const box = boxOfPoints(lines.flat(2));
  const around = Math.max(boxDiagonal(box) / 2, AROUND * boxDiagonal(modelBox(ws)));
  const reach: Support = (d) => dot(boxCentre(box), d) + around * length(d);
  turnTo(ws, fitView(camera, size, reach));
}

/** Picks what something is made of now. */
export function showNewPlace(ws: Workspace, { references }: LookedUp): void {
  ws.lookedUp.setState({ old: null });
  const items = references.flatMap((r) => pickOf(ws, r) ?? []);
  if (!items.length) return;
  ws.selection.getState().pick(items);
  turnTo(ws, fittedToPicked(ws, activePane(ws).camera, items));
}

async function oldLines(ws: Workspace, revision: number, reference: Reference): Promise<Vec3[][]> {
  const other = ws.carried.from.others.get(revision);
  const occurrence = other?.byPath.get(reference.component);
  const hash =
    occurrence?.part === undefined ? null : other!.detail.structure.parts[occurrence.part].geometry;
  if (!occurrence || !hash) return [];
  const container = await ws.source.geometry(hash, new AbortController().signal);
  const matching = new Matching();
  try {
    const lines = await matching.ask('outline', { container, ...thingOf(reference) }, [container]);
    const { motion } = other!.matched;
    const place = motion ? multiply(motion, occurrence.placement) : occurrence.placement;
    return lines.map((line) => line.map((p) => transformPoint(place, p)));
  } finally {
    matching.end();
  }
}

/** Of a whole component all of its edges are shown, of what has none in the container the same. */
function thingOf(reference: Reference): {
  thing: 'face' | 'edge' | 'vertex' | 'body' | 'component';
  index: number;
} {
  if (
    !('index' in reference) ||
    reference.kind === 'cap' ||
    reference.kind === 'outline' ||
    reference.kind === 'corner'
  )
    return { thing: 'component', index: 0 };
  const { kind, index } = reference;
  return { thing: kind === 'point' ? (reference.snap.on === 'face' ? 'face' : 'edge') : kind, index };
}

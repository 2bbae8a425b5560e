import { viewBack, viewRight, viewUp } from '@bathyscope/core/camera';
import type { PickFacts } from '@bathyscope/core/facts';
import type { ReferenceSystem } from '@bathyscope/core/math';
import { factsIn, NoSystem, systemOf } from '@bathyscope/core/measure';
import { referenceSystem, type ReferenceSystem as KeptSystem } from '@bathyscope/contracts/records';
import type { Picked } from '../../state/selection-store.ts';
import { measuredShape } from './measured.ts';
import { activePane } from '../view/panes.ts';
import { kept } from '../keeping/records.ts';
import { pickOf, referenceTo } from './references.ts';
import type { Workspace } from '../workspace.ts';

/* Axes that figures are told in. */

/** A system from picked things: origin, X, which side Y lies on. @throws NoSystem with a sentence */
export function systemOfPicks(ws: Workspace, items: readonly Picked[]): ReferenceSystem {
  const shapes = items.slice(0, 3).map((item) => {
    const shape = measuredShape(ws, item);
    if (!shape) throw new NoSystem('What this was made of is not in the model any more.');
    return shape;
  });
  return systemOf(shapes[0], shapes[1], shapes[2]);
}

export const keepSystem = (ws: Workspace, items: readonly Picked[], name: string): KeptSystem => ({
  name,
  of: items.slice(0, 3).map((i) => referenceTo(ws, i)),
});

/** The system that figures are told in; null for the model's own axes, also where one's own is lost. */
export function systemNow(ws: Workspace): ReferenceSystem | null {
  const { displaySystem } = ws.measure.getState();
  if (displaySystem === 'model') return null;
  if (displaySystem === 'view') {
    const { camera } = activePane(ws);
    return { origin: [0, 0, 0], x: viewRight(camera), y: viewUp(camera), z: viewBack(camera) };
  }
  const own = kept(ws, referenceSystem).find((s) => s.id === displaySystem);
  const items = own?.of.map((r) => pickOf(ws, r));
  if (!items?.length || items.includes(null)) return null;
  try {
    return systemOfPicks(ws, items as Picked[]);
  } catch (error) {
    if (error instanceof NoSystem) return null;
    throw error;
  }
}

/**
 * The reference system of one's own that figures are told in; undefined where they are told in the model's
 * axes or the view's.
 */
export const ownSystem = (ws: Workspace): ReferenceSystem | undefined =>
  ws.measure.getState().displaySystem === 'view' ? undefined : (systemNow(ws) ?? undefined);

/** Facts in the axes in force; in the view's also the distance as it is seen. */
export function displayedFacts(ws: Workspace, facts: PickFacts): PickFacts {
  const system = systemNow(ws);
  if (!system) return facts;
  const told = factsIn(system, facts);
  const [dx, dy] = ['dX', 'dY'].map(
    (label) => told.rows.find((r) => r.label === label)?.value.value as number | undefined,
  );
  if (ws.measure.getState().displaySystem !== 'view' || dx === undefined || dy === undefined) return told;
  return {
    ...told,
    rows: [...told.rows, { label: 'As seen', value: { kind: 'length', value: Math.hypot(dx, dy) } }],
  };
}

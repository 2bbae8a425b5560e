import { zoomWindow } from '@bathyscope/core/camera';
import { samePick, type Picked } from '../../state/selection-store.ts';
import { activePane, paneAt } from '../../workspace/view/panes.ts';
import { closePickList, walkPickList } from '../../workspace/picking/pick-list.ts';
import { record } from '../../workspace/perform.ts';
import { pickInRectangle } from '../../workspace/picking/pick-in-box.ts';
import { pickAt, SAME_PLACE } from '../../workspace/picking/picking.ts';
import { turnTo } from '../../workspace/view/turn-view.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { acceptSection } from '../cut/section-changes.ts';
import { offerPick } from '../run-command.ts';
import { setVisible } from '../show/visibility-commands.ts';

/* What a click in the scene does. Pixels are those of the canvas. */

/** A click that picks, or adds to what is picked. */
export function clickAt(ws: Workspace, x: number, y: number, add: boolean): void {
  const { pick } = ws.selection.getState();
  const { list } = ws.pickList.getState();
  if (list && Math.hypot(x - list.x, y - list.y) <= SAME_PLACE) {
    walkPickList(ws, 1);
    return pick([list.items[(list.at + 1) % list.items.length]]);
  }
  closePickList(ws);
  clickOn(ws, pickAt(ws, x, y), add);
}

/**
 * A click on a thing, wherever it is shown: in the scene or in a drawing of a cut; null for a
 * click beside everything.
 */
export function clickOn(ws: Workspace, hit: Picked | null, add: boolean): void {
  const { pick, toggle, picked } = ws.selection.getState();
  if (hit && offerPick(ws, hit)) return;
  // While peeking a click brings a component back.
  if (hit && ws.visibility.getState().peeking) return record(ws, setVisible(ws, [hit.component], true));
  if (!hit) return add ? undefined : pick([]);
  if (add) return toggle(hit);
  acceptSection(ws);
  // A second click on the same thing widens the pick to its component.
  const again = picked.length === 1 && hit.datum === undefined && samePick(picked[0], hit);
  pick([again ? { kind: 'component', component: hit.component, index: 0 } : hit]);
}

/**
 * Opens the menu for what is under the cursor, which is picked unless it was. @param page where
 * it opens, px of the page
 */
export function openMenuAt(ws: Workspace, x: number, y: number, page: { x: number; y: number }): void {
  const hit = pickAt(ws, x, y);
  const { picked, pick } = ws.selection.getState();
  if (
    hit &&
    !picked.some((p) => samePick(p, hit) || (p.kind === 'component' && p.component === hit.component))
  )
    pick([hit]);
  ws.menu.setState({ open: { ...page, on: hit ? 'thing' : 'space' } });
}

/**
 * Picks what a drawn rectangle holds: drawn to the right what lies fully inside, to the left what it touches.
 */
export function pickInBox(
  ws: Workspace,
  from: { x: number; y: number },
  to: { x: number; y: number },
  add: boolean,
): void {
  const found = pickInRectangle(ws, from, to, to.x < from.x);
  const before = add ? ws.selection.getState().picked : [];
  const had = new Set(before.map(keyOf));
  ws.selection.getState().pick([...before, ...found.filter((f) => !had.has(keyOf(f)))]);
}

const keyOf = ({ kind, component, index, plane, datum }: Picked): string =>
  `${kind} ${index} ${plane ?? ''} ${datum ?? ''} ${component}`;

/** Zooms to a drawn rectangle, and ends the mode that asked for it. */
export function zoomToWindow(
  ws: Workspace,
  from: { x: number; y: number },
  to: { x: number; y: number },
): void {
  const a = paneAt(ws, from.x, from.y);
  const { camera, size } = activePane(ws);
  const box = {
    x: a.x + Math.min(0, to.x - from.x),
    y: a.y + Math.min(0, to.y - from.y),
    width: Math.abs(to.x - from.x),
    height: Math.abs(to.y - from.y),
  };
  turnTo(ws, zoomWindow(camera, size, box));
  ws.mode.setState({ leftDrag: null });
}

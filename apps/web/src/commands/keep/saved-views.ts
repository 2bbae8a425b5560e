import { RECALL_ALL, savedView, type SavedView } from '@bathyscope/contracts/records';
import { v4 as uuid } from 'uuid';
import { copyText } from './copy-text.ts';
import { type Inverse } from '../../state/history-store.ts';
import type { Of } from '../../state/record-store.ts';
import { currentState, lastState, recallState } from '../../workspace/keeping/view-states.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { patchedBy } from '../../workspace/perform.ts';
import { mainPane } from '../../workspace/view/panes.ts';
import { added, changed, changeRecords, kept, moved, removed } from '../../workspace/keeping/records.ts';

/* What can be done with saved views, which are records like all that is kept of the model. */

type View = Of<SavedView>;

const THUMB = { width: 224, height: 144 };

/** The saved views of the model, in their order. */
export const savedViews = (ws: Workspace): readonly View[] => kept(ws, savedView);

/** The view that a number key recalls: of two that came to it at once the last. */
export const viewInSlot = (ws: Workspace, slot: number): View | undefined =>
  savedViews(ws)
    .filter((view) => view.slot === slot)
    .at(-1);

/** A slot is taken from the view that had it. */
const emptied = (ws: Workspace, slot: number | null | undefined) =>
  slot
    ? savedViews(ws).flatMap((view) =>
        view.slot === slot ? [changed(ws, savedView, view, { slot: null })] : [],
      )
    : [];

/** What is seen now, and on which revision. */
const seenNow = (ws: Workspace): Pick<SavedView, 'state' | 'revision'> => ({
  state: { ...currentState(ws) },
  revision: ws.model.getState().detail?.revision ?? 1,
});

/** Takes the picture of a view, and stores it as soon as the view itself is. */
async function keepPicture(ws: Workspace, id: string): Promise<void> {
  const { scene } = ws.scene.getState();
  if (!scene) return;
  const png = await scene.picture({ camera: mainPane(ws).camera, ...THUMB, background: null });
  await new Promise<void>((resolve) => {
    const isStored = () => !ws.records.getState().unsent.has(id);
    if (isStored()) return resolve();
    const off = ws.records.subscribe(() => {
      if (!isStored()) return;
      off();
      resolve();
    });
  });
  await ws.source.records.setPicture(id, png);
}

function freeName(ws: Workspace): string {
  const names = new Set(savedViews(ws).map((v) => v.name));
  let n = names.size + 1;
  while (names.has(`View ${n}`)) n++;
  return `View ${n}`;
}

/** Saves what is seen now as a new view. */
export function saveView(ws: Workspace, slot: number | null = null): void {
  const [id, name] = [uuid(), freeName(ws)];
  const view = { name, slot, recall: RECALL_ALL, ...seenNow(ws) };
  changeRecords(ws, `save “${name}”`, [...emptied(ws, slot), added(ws, savedView, view, id)]);
  ws.savedViews.setState({ current: id });
  ws.notify(`Saved as “${name}”${slot ? `, key ${slot}` : ''}.`, { id: 'saved-view' });
  keepPicture(ws, id).catch(ws.notify.failed);
}

const change = (ws: Workspace, name: string, view: View, values: Partial<SavedView>): void =>
  changeRecords(ws, name, [...emptied(ws, values.slot), changed(ws, savedView, view, values)]);

export const renameView = (ws: Workspace, view: View, name: string): void =>
  change(ws, `rename “${view.name}”`, view, { name });
export const setSlot = (ws: Workspace, view: View, slot: number | null): void =>
  change(ws, `slot of “${view.name}”`, view, { slot });
export const setRecall = (ws: Workspace, view: View, recall: SavedView['recall']): void =>
  change(ws, `what “${view.name}” recalls`, view, { recall });

const undo = (ws: Workspace) => ({ label: 'Undo', onClick: () => ws.history.getState().undo() });

/** Puts what is seen now in the place of a saved view. */
export function overwriteView(ws: Workspace, view: View): void {
  change(ws, `replace “${view.name}”`, view, seenNow(ws));
  ws.savedViews.setState({ current: view.id });
  ws.notify(`“${view.name}” is now this view.`, { id: 'saved-view', action: undo(ws) });
  keepPicture(ws, view.id).catch(ws.notify.failed);
}

export function removeView(ws: Workspace, view: View): void {
  changeRecords(ws, `delete view “${view.name}”`, [removed(ws, savedView, view)]);
  ws.notify(`“${view.name}” was deleted.`, { id: 'saved-view', action: undo(ws) });
}

/** Moves a view to the place of another. */
export function moveView(ws: Workspace, id: string, over: string): void {
  const views = savedViews(ws);
  const view = views.find((v) => v.id === id);
  const to = views.findIndex((v) => v.id === over);
  if (view && to >= 0) changeRecords(ws, `move “${view.name}”`, [moved(ws, savedView, view, to)]);
}

/**
 * Recalls what the view is set to recall. What it changes of the display can be undone;
 * the camera has its trail.
 */
export function recallView(ws: Workspace, view: View): Inverse | void {
  const state = lastState(view.state);
  if (!state)
    return void ws.notify(
      `“${view.name}” was saved by another version of Bathyscope, which alone can show it. Load the page anew.`,
      {
        id: 'newer',
      },
    );
  const inverse = patchedBy(`recall “${view.name}”`, [ws.visibility, ws.style, ws.section, ws.ledger], () =>
    recallState(ws, state, view.recall),
  );
  ws.savedViews.setState({ current: view.id });
  return inverse;
}

/** Recalls from a click: what a command would record is recorded here. */
export function showSavedView(ws: Workspace, view: View): void {
  const inverse = recallView(ws, view);
  if (inverse) ws.history.getState().record(inverse);
}

/** Copies a link that opens a state for a colleague, whatever their browser remembers. */
export async function copyLink(ws: Workspace, document: object = currentState(ws)): Promise<void> {
  try {
    const address = `${location.origin}${await ws.source.states.createLink(document)}`;
    if (await copyText(address))
      ws.notify('The link is on the clipboard. It opens exactly this view.', { id: 'link' });
    else
      ws.notify(address, {
        id: 'link',
        description: 'Copy this link; the browser did not allow the clipboard.',
        duration: 20_000,
      });
  } catch (error) {
    ws.notify.failed(error);
  }
}

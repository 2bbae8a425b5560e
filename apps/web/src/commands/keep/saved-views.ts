import type { SavedView } from '@bathyscope/contracts';
import { arrayMove } from '@dnd-kit/sortable';
import { toast } from '../../ui/notices.ts';
import { copyText } from './copy-text.ts';
import { type Inverse } from '../../state/history-store.ts';
import { currentState, recallState } from '../../workspace/view-states.ts';
import type { SavedViewChange } from '../../workspace/source.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { patchedBy } from '../../workspace/perform.ts';
import { mainPane } from '../../workspace/panes.ts';
import { replaceView } from '../../workspace/replace-view.ts';

/* What can be done with saved views; each tells the server and keeps the store in step. */

const THUMB = { width: 224, height: 144 };

const say = (error: unknown): void => void toast.error(error instanceof Error ? error.message : String(error));

async function takePicture(ws: Workspace, view: SavedView): Promise<SavedView> {
  const { scene } = ws.scene.getState();
  if (!scene) return view;
  const png = await scene.picture({ camera: mainPane(ws).camera, ...THUMB, background: null });
  return ws.source.states.setViewThumbnail(view.id, png);
}

function freeName(ws: Workspace): string {
  const names = new Set(ws.savedViews.getState().views.map((v) => v.name));
  let n = names.size + 1;
  while (names.has(`View ${n}`)) n++;
  return `View ${n}`;
}

/** Saves what is seen now as a new view. */
export async function saveView(ws: Workspace, slot?: number): Promise<void> {
  try {
    const made = await ws.source.states.saveView({ name: freeName(ws), document: currentState(ws), ...(slot && { slot }) });
    ws.savedViews.setState(({ views }) => ({
      // The list that was asked for when the change was heard of may hold it already.
      views: [...views.filter((v) => v.id !== made.id).map((v) => (slot && v.slot === slot ? { ...v, slot: null } : v)), made],
      current: made.id,
    }));
    replaceView(ws, await takePicture(ws, made));
    toast(`Saved as “${made.name}”${slot ? `, key ${slot}` : ''}.`, { id: 'saved-view' });
  } catch (error) {
    say(error);
  }
}

async function change(ws: Workspace, view: SavedView, values: SavedViewChange): Promise<void> {
  try {
    replaceView(ws, await ws.source.states.changeView(view.id, values));
  } catch (error) {
    say(error);
  }
}

export const renameView = (ws: Workspace, view: SavedView, name: string): Promise<void> => change(ws, view, { name });
export const setSlot = (ws: Workspace, view: SavedView, slot: number | null): Promise<void> => change(ws, view, { slot });
export const setRecall = (ws: Workspace, view: SavedView, recall: SavedView['recall']): Promise<void> => change(ws, view, { recall });

/** Puts what is seen now in the place of a saved view. */
export async function overwriteView(ws: Workspace, view: SavedView): Promise<void> {
  const before = view.document;
  await change(ws, view, { document: currentState(ws) });
  replaceView(ws, await takePicture(ws, view).catch(() => view));
  ws.savedViews.setState({ current: view.id });
  toast(`“${view.name}” is now this view.`, {
    id: 'saved-view',
    action: { label: 'Undo', onClick: () => void change(ws, view, { document: before }) },
  });
}

export async function removeView(ws: Workspace, view: SavedView): Promise<void> {
  try {
    await ws.source.states.removeView(view.id);
  } catch (error) {
    return say(error);
  }
  ws.savedViews.setState(({ views }) => ({ views: views.filter((v) => v.id !== view.id) }));
  const restore = async () => {
    await ws.source.states.restoreView(view.id);
    ws.savedViews.setState({ views: await ws.source.states.views() });
  };
  ws.history.getState().record({
    name: `delete view “${view.name}”`,
    undo: () => void restore().catch(say),
    redo: () =>
      void ws.source.states
        .removeView(view.id)
        .then(() => ws.savedViews.setState(({ views }) => ({ views: views.filter((v) => v.id !== view.id) })), say),
  });
  toast(`“${view.name}” was deleted.`, { id: 'saved-view', action: { label: 'Undo', onClick: () => ws.history.getState().undo() } });
}

/** Moves a view to the place of another. */
export function moveView(ws: Workspace, id: string, over: string): void {
  const { views } = ws.savedViews.getState();
  const index = (wanted: string) => views.findIndex((v) => v.id === wanted);
  if (index(id) < 0 || index(over) < 0) return;
  const next = arrayMove(views, index(id), index(over));
  ws.savedViews.setState({ views: next });
  void ws.source.states.orderViews(next.map((v) => v.id)).catch(say);
}

/** Recalls what the view is set to recall. What it changes of the display can be undone; the camera has its trail. */
export function recallView(ws: Workspace, view: SavedView): Inverse | void {
  const inverse = patchedBy(`recall “${view.name}”`, [ws.visibility, ws.style, ws.section, ws.ledger], () =>
    recallState(ws, view.document, view.recall),
  );
  ws.savedViews.setState({ current: view.id });
  return inverse;
}

/** Recalls from a click: what a command would record is recorded here. */
export function showSavedView(ws: Workspace, view: SavedView): void {
  const inverse = recallView(ws, view);
  if (inverse) ws.history.getState().record(inverse);
}

/** Copies a link that opens a state for a colleague, whatever their browser remembers. */
export async function copyLink(ws: Workspace, document = currentState(ws)): Promise<void> {
  try {
    const address = `${location.origin}${await ws.source.states.createLink(document)}`;
    if (await copyText(address)) toast('The link is on the clipboard. It opens exactly this view.', { id: 'link' });
    else toast(address, { id: 'link', description: 'Copy this link; the browser did not allow the clipboard.', duration: 20_000 });
  } catch (error) {
    say(error);
  }
}

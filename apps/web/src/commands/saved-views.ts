import type { SavedView } from '@bathyscope/contracts';
import { arrayMove } from '@dnd-kit/sortable';
import { toast } from 'sonner';
import { api } from '../api/api.ts';
import { mainPane } from '../stores/camera-store.ts';
import { historyStore, type Inverse } from '../stores/history-store.ts';
import { modelStore } from '../stores/model-store.ts';
import { replaceView, savedViewStore } from '../stores/saved-view-store.ts';
import { sceneStore } from '../stores/scene-store.ts';
import { visibilityStore } from '../stores/visibility-store.ts';
import { currentState, recallState } from '../workspace/view-states.ts';

/* What can be done with saved views; each tells the server and keeps the store in step. */

const THUMB = { width: 224, height: 144 };

const modelId = (): string => modelStore.getState().detail!.id;
const say = (error: unknown): void => void toast.error(error instanceof Error ? error.message : String(error));

async function takePicture(view: SavedView): Promise<SavedView> {
  const { scene } = sceneStore.getState();
  if (!scene) return view;
  const png = await scene.view.picture({ camera: mainPane().camera, ...THUMB, background: null });
  return api.setViewThumbnail(modelId(), view.id, png);
}

function freeName(): string {
  const names = new Set(savedViewStore.getState().views.map((v) => v.name));
  let n = names.size + 1;
  while (names.has(`View ${n}`)) n++;
  return `View ${n}`;
}

/** Saves what is seen now as a new view. */
export async function saveView(slot?: number): Promise<void> {
  try {
    const made = await api.saveView(modelId(), { name: freeName(), document: currentState(), ...(slot && { slot }) });
    savedViewStore.setState(({ views }) => ({ views: [...views.map((v) => (slot && v.slot === slot ? { ...v, slot: null } : v)), made], current: made.id }));
    replaceView(await takePicture(made));
    toast(`Saved as “${made.name}”${slot ? `, key ${slot}` : ''}.`, { id: 'saved-view' });
  } catch (error) {
    say(error);
  }
}

async function change(view: SavedView, values: Parameters<typeof api.changeView>[2]): Promise<void> {
  try {
    replaceView(await api.changeView(modelId(), view.id, values));
  } catch (error) {
    say(error);
  }
}

export const renameView = (view: SavedView, name: string): Promise<void> => change(view, { name });
export const setSlot = (view: SavedView, slot: number | null): Promise<void> => change(view, { slot });
export const setRecall = (view: SavedView, recall: SavedView['recall']): Promise<void> => change(view, { recall });

/** Puts what is seen now in the place of a saved view. */
export async function overwriteView(view: SavedView): Promise<void> {
  const before = view.document;
  await change(view, { document: currentState() });
  replaceView(await takePicture(view).catch(() => view));
  savedViewStore.setState({ current: view.id });
  toast(`“${view.name}” is now this view.`, { id: 'saved-view', action: { label: 'Undo', onClick: () => void change(view, { document: before }) } });
}

export async function removeView(view: SavedView): Promise<void> {
  try {
    await api.removeView(modelId(), view.id);
  } catch (error) {
    return say(error);
  }
  savedViewStore.setState(({ views }) => ({ views: views.filter((v) => v.id !== view.id) }));
  const restore = async () => {
    await api.restoreView(modelId(), view.id);
    savedViewStore.setState({ views: await api.savedViews(modelId()) });
  };
  historyStore.getState().record({ name: `delete view “${view.name}”`, undo: () => void restore().catch(say), redo: () => void api.removeView(modelId(), view.id).then(() => savedViewStore.setState(({ views }) => ({ views: views.filter((v) => v.id !== view.id) })), say) });
  toast(`“${view.name}” was deleted.`, { id: 'saved-view', action: { label: 'Undo', onClick: () => historyStore.getState().undo() } });
}

/** Moves a view to the place of another. */
export function moveView(id: string, over: string): void {
  const { views } = savedViewStore.getState();
  const index = (wanted: string) => views.findIndex((v) => v.id === wanted);
  if (index(id) < 0 || index(over) < 0) return;
  const next = arrayMove(views, index(id), index(over));
  savedViewStore.setState({ views: next });
  void api.orderViews(modelId(), next.map((v) => v.id)).catch(say);
}

/** Recalls what the view is set to recall. A change of visibility can be undone; the camera has its trail. */
export function recallView(view: SavedView): Inverse | void {
  const before = visibilityStore.getState().states;
  recallState(view.document, view.recall);
  savedViewStore.setState({ current: view.id });
  const after = visibilityStore.getState().states;
  if (JSON.stringify(before) === JSON.stringify(after)) return;
  const { set } = visibilityStore.getState();
  return { name: `visibility of view “${view.name}”`, undo: () => set(before), redo: () => set(after) };
}

/** Recalls from a click: what a command would record is recorded here. */
export function showSavedView(view: SavedView): void {
  const inverse = recallView(view);
  if (inverse) historyStore.getState().record(inverse);
}

/** Copies a link that opens a state for a colleague, whatever their browser remembers. */
export async function copyLink(document = currentState()): Promise<void> {
  try {
    const { id } = await api.createLink(modelId(), document);
    const address = `${location.origin}/models/${modelId()}/at/${id}`;
    await navigator.clipboard.writeText(address).then(
      () => toast('The link is on the clipboard. It opens exactly this view.', { id: 'link' }),
      () => toast(address, { id: 'link', description: 'Copy this link; the browser did not allow the clipboard.', duration: 20_000 }),
    );
  } catch (error) {
    say(error);
  }
}

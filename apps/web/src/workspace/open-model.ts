import { loadLibrary } from './library.ts';
import type { KeptState } from '@bathyscope/contracts';
import { mergeKept } from '@bathyscope/core';
import { ApiError } from '../api/api.ts';
import { toast } from '../ui/notices.ts';
import type { ModelPreference } from '../state/preference-store.ts';
import { loadGeometry } from './load-geometry.ts';
import { joinTabs, startKeeping, type Kept } from './keeping.ts';
import { stopPlayers } from './players.ts';
import { changesPutTo, lastState, readPreference } from './read-preference.ts';
import { currentState, restoreState } from './view-states.ts';
import type { Workspace } from './workspace.ts';
import { keepTrails } from './trail.ts';

/** Loads the model of a workspace's source, brings back its state, and keeps it from then on. @returns what closes it */
export function openModel(ws: Workspace): () => void {
  const stop = new AbortController();
  let stopKeeping = () => {};
  load(ws, stop.signal).then(
    (kept) => {
      if (!stop.signal.aborted) stopKeeping = keepModel(ws, kept);
    },
    (error: unknown) => stop.signal.aborted || ws.model.getState().fail(error instanceof Error ? error.message : String(error)),
  );
  return () => {
    stop.abort();
    stopPlayers(ws.players);
    stopKeeping();
    ws.model.getState().clear();
  };
}

/** @returns what is kept of the model, as it is stored */
async function load(ws: Workspace, signal: AbortSignal): Promise<Record<string, unknown> | null> {
  const { source } = ws;
  ws.model.getState().clear();
  const [detail, first, preference, views] = await Promise.all([
    source.structure(),
    source.states.first(),
    source.states.preferences(),
    source.states.views(),
  ]);
  signal.throwIfAborted();
  if (detail.state !== 'ready')
    throw new Error(`“${detail.name}” is still being converted. Come back to it from the shelf when it is done.`);
  ws.model.getState().begin(detail);
  const parts = await loadGeometry(source, detail, ws.model.getState().setProgress, signal);
  // The state first, so that the first frame is already the right one.
  ws.model.setState({ parts });
  ws.preference.setState(readPreference(preference));
  ws.camera.getState().setUpAxis(ws.preference.getState().upAxis);
  ws.savedViews.setState({ views, current: null });
  restoreState(ws, lastState(first.document));
  void loadLibrary(ws).catch((error: Error) => toast.error(`Own materials could not be read: ${error.message}`, { id: 'library' }));
  ws.model.getState().finish(parts);
  sayRevision(first, detail.revision);
  return preference;
}

/** Says so when what is shown was made on another revision of the model. */
function sayRevision({ document, revision }: KeptState, now: number): void {
  if (document && revision !== now)
    toast(`This view was made on revision ${revision}; the model is at revision ${now}. What has changed may look otherwise.`, {
      id: 'revision',
    });
}

/** Keeps what is changed, and takes over or offers what another tab has kept of the same model. */
function keepModel(ws: Workspace, opened: Record<string, unknown> | null): () => void {
  const { states } = ws.source;
  /** As it is stored, with what only another version knows. */
  let stored = opened;
  // What is taken over is not told again.
  let taking = false;
  const takePreferences = (values: ModelPreference) => {
    taking = true;
    ws.preference.setState(values);
    taking = false;
  };
  const take = async (kept: Kept) => {
    if (kept === 'state') return offerState(ws);
    const [views, preferences] = await Promise.all([states.views(), states.preferences()]);
    if (kept !== 'views') return takePreferences(readPreference((stored = preferences)));
    taking = true;
    ws.savedViews.setState({ views });
    taking = false;
  };
  const tabs = joinTabs(ws.model.getState().detail!.id, (kept) => void take(kept).catch(() => {}));
  const keeping = startKeeping(
    ws,
    {
      state: () =>
        states.saveLast(currentState(ws)).catch((error: unknown) => {
          // A newer version's stands there: said, and not tried again.
          if (!(error instanceof ApiError) || error.status !== 409) throw error;
          toast(error.message, { id: 'newer' });
        }),
      preferences: async () => {
        const sent = { ...ws.preference.getState() };
        const put = changesPutTo(stored, sent);
        const merged = await states.savePreferences(put);
        stored = merged ?? put;
        // What was changed here while it was sent stays, and is sent next.
        if (merged) takePreferences(mergeKept(sent, { ...ws.preference.getState() }, readPreference(merged)) as ModelPreference);
      },
    },
    tabs,
  );
  const later = () => keeping.stateChanged();
  const off = [
    ws.camera.subscribe((now, before) => void (now.panes !== before.panes && later())),
    ws.visibility.subscribe(later),
    ws.style.subscribe(later),
    ws.reference.subscribe(later),
    ws.ledger.subscribe(later),
    ws.section.subscribe(later),
    keepTrails(ws),
    ws.preference.subscribe(() => void (taking || keeping.preferencesChanged())),
    ws.savedViews.subscribe((now, before) => void (now.views !== before.views && !taking && tabs.tell('views'))),
  ];
  return () => {
    off.forEach((f) => f());
    keeping.close();
  };
}

/** Another tab has kept another state. This one stays as it is until it is asked to follow. */
function offerState(ws: Workspace): void {
  toast('This model was changed in another tab.', {
    id: 'other-tab',
    action: {
      label: 'Show it as there',
      onClick: () =>
        void ws.source.states.first().then(
          ({ document }) => restoreState(ws, lastState(document)),
          () => {},
        ),
    },
  });
}

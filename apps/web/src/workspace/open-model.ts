import { messageOf } from '@bathyscope/core/tables';
import { startCutting } from './cutting/cutting.ts';
import { carryOver, isBehind, stateHere } from './revisions/carry-over.ts';
import { nothingCarried } from './revisions/other-revisions.ts';
import { loadLibrary } from './keeping/library.ts';
import type { KeptState } from '@bathyscope/contracts';
import { ApiError } from '../api/api.ts';
import { lookUp, type LookedUp } from './revisions/look-up.ts';
import { loadGeometry } from './source/load-geometry.ts';
import { joinTabs, startKeeping } from './keeping/keeping.ts';
import { stopPlayers } from './players.ts';
import { keepRecords, loadRecords } from './keeping/keep-records.ts';
import { upAxisOf } from './view/camera-targets.ts';
import { currentState, lastState, restoreState } from './keeping/view-states.ts';
import type { Workspace } from './workspace.ts';
import { keepTrails } from './view/trail.ts';

/**
 * Loads the model of a workspace's source, brings back its state, and keeps it from then
 * on. @returns what closes it
 */
export function openModel(ws: Workspace): () => void {
  const stop = new AbortController();
  let stopKeeping = () => {};
  load(ws, stop.signal).then(
    () => {
      if (!stop.signal.aborted && ws.source.can.keep) stopKeeping = keepModel(ws);
    },
    (error: unknown) => stop.signal.aborted || ws.model.getState().fail(messageOf(error)),
  );
  return () => {
    stop.abort();
    stopPlayers(ws.players);
    stopKeeping();
    ws.model.getState().clear();
  };
}

/** ms that a model waits to be shown until all that is kept of it is looked up. */
const PATIENCE = 2000;

async function load(ws: Workspace, signal: AbortSignal): Promise<void> {
  const { source } = ws;
  ws.model.getState().clear();
  const [detail, first, records] = await Promise.all([
    source.structure(),
    source.states.first(),
    loadRecords(source),
  ]);
  signal.throwIfAborted();
  if (detail.state !== 'ready')
    throw new Error(
      `“${detail.name}” is still being converted. Come back to it from the shelf when it is done.`,
    );
  ws.model.getState().begin(detail);
  const state = lastState(first.document);
  ws.carried.from = {
    ...nothingCarried(),
    states: state ? [{ revision: first.revision, document: state }] : [],
  };
  // The revision that the state is of is compared while the model is still loaded.
  void carryOver(ws);
  const parts = await loadGeometry(source, detail, ws.model.getState().setProgress, signal);
  // The state first, so that the first frame is already the right one.
  ws.model.setState({ parts });
  // After the model: what is kept is looked up in it as soon as it is seen. Of many revisions the rest comes
  // while one looks at it.
  ws.records.setState(records);
  const looked = carryOver(ws);
  await Promise.race([looked, new Promise((done) => setTimeout(done, PATIENCE))]);
  signal.throwIfAborted();
  ws.camera.getState().setUpAxis(upAxisOf(ws));
  ws.savedViews.setState({ current: null });
  restoreState(ws, stateHere(ws, state, first.revision));
  void loadLibrary(ws).catch((error: Error) =>
    ws.notify.error(`Own materials could not be read: ${error.message}`, { id: 'library' }),
  );
  ws.players.cutting = startCutting(ws);
  ws.model.getState().finish(parts);
  void looked.then(() => signal.aborted || sayRevision(ws, first, detail.revision));
}

/**
 * Says so when what is shown was made on another revision of the model, and what of
 * that is not there as it was.
 */
function sayRevision(ws: Workspace, { document, revision }: KeptState, now: number): void {
  const others = lookUp(ws).filter(({ aside }) => !aside);
  const count = (status: LookedUp['status']) => others.filter((kept) => kept.status === status).length;
  const [probably, lost] = [count('probably found'), count('lost')];
  const became = [probably && `${probably} only probably found`, lost && `${lost} lost`]
    .filter(Boolean)
    .join(' and ');
  const kept = became && `Of ${others.length} kept things ${became}.`;
  const view =
    document &&
    revision !== now &&
    `This view was made on revision ${revision}; this is revision ${now}. What has changed may look otherwise.`;
  const look = { label: 'Go through them', onClick: () => ws.lookedUp.setState({ open: true }) };
  if (kept || view)
    ws.notify([view, kept].filter(Boolean).join(' '), { id: 'revision', ...(kept && { action: look }) });
}

/** Keeps what is changed, and takes over or offers what another tab has kept of the same model. */
function keepModel(ws: Workspace): () => void {
  const { states, model } = ws.source;
  const tabs = joinTabs(model, () => offerState(ws));
  const records = keepRecords(ws, () => keeping.tell());
  const keeping = startKeeping(
    ws,
    () =>
      states.saveLast(currentState(ws)).catch((error: unknown) => {
        // A newer version's stands there: said, and not tried again.
        if (!(error instanceof ApiError) || error.status !== 409) throw error;
        ws.notify(error.message, { id: 'newer' });
      }),
    records,
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
    ws.records.subscribe(() => void (isBehind(ws) && carryOver(ws))),
    // Whoever turns the model up: what is seen stays, Home is another.
    ws.records.subscribe(
      () =>
        void (ws.camera.getState().upAxis !== upAxisOf(ws) && ws.camera.getState().setUpAxis(upAxisOf(ws))),
    ),
  ];
  return () => {
    off.forEach((f) => f());
    keeping.close();
  };
}

/** Another tab has kept another state. This one stays as it is until it is asked to follow. */
function offerState(ws: Workspace): void {
  ws.notify('This model was changed in another tab.', {
    id: 'other-tab',
    action: {
      label: 'Show it as there',
      onClick: () =>
        void ws.source.states.first().then(
          ({ document, revision }) => restoreState(ws, stateHere(ws, lastState(document), revision)),
          () => {},
        ),
    },
  });
}

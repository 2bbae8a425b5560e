import { type Picked } from '../state/selection-store.ts';
import { NOT_WAITING } from '../state/player-stores.ts';
import type { Inverse } from '../state/history-store.ts';
import type { Command } from './command.ts';
import type { Workspace } from '../workspace/workspace.ts';

/**
 * Runs a command. If what it needs is picked it acts on that; otherwise it waits for one pick and ends;
 * started a second time while it waits, it repeats until Esc. Every other command ends one that waits, but
 * for those that help to pick.
 */
export function runCommand(ws: Workspace, command: Command): void {
  const waiting = waitingCommand(ws);
  const refusal = command.refusal?.(ws) ?? null;
  if (refusal) {
    ws.notify(refusal, { id: 'refusal' });
    return;
  }
  if (!command.keepsMode) ws.mode.setState({ leftDrag: null });
  if (command.needs === 'nothing') {
    if (waiting && !(command.keepsMode && command.group === 'Picking')) ws.waiting.setState(NOT_WAITING);
    act(ws, command, []);
    return;
  }
  const { picked } = ws.selection.getState();
  const fitting = fittingItems(ws, command, picked);
  if (fitting.length >= (command.count ?? 1)) {
    ws.waiting.setState(NOT_WAITING);
    act(ws, command, fitting);
    return;
  }
  if (picked.length && !fitting.length && command.wants) ws.notify(command.wants, { id: 'refusal' });
  if (waiting?.id === command.id) ws.waiting.setState({ repeating: true });
  else ws.waiting.setState({ waiting: command, repeating: false, collected: fitting });
}

/** Gives a pick to the command that waits for one. @returns false when none does */
export function offerPick(ws: Workspace, item: Picked): boolean {
  const { repeating, collected } = ws.waiting.getState();
  const waiting = waitingCommand(ws);
  if (!waiting) return false;
  const fitting = fittingItems(ws, waiting, [item]);
  if (!fitting.length) {
    // What was clicked does not fit: say what would, and go on waiting.
    if (waiting.wants) ws.notify(waiting.wants, { id: 'refusal' });
    return true;
  }
  const all = [...collected, ...fitting];
  if (all.length < (waiting.count ?? 1)) {
    ws.waiting.setState({ collected: all });
    ws.selection.getState().pick(all);
    return true;
  }
  ws.waiting.setState(repeating ? { collected: [] } : NOT_WAITING);
  if (collected.length) ws.selection.getState().pick([]);
  act(ws, waiting, all);
  return true;
}

/** @returns false when no command was waiting */
export function stopWaiting(ws: Workspace): boolean {
  if (!ws.waiting.getState().waiting) return false;
  ws.waiting.setState(NOT_WAITING);
  return true;
}

/** A command for components takes any picked thing for the component it belongs to, each once. */
function fittingItems(ws: Workspace, command: Command, items: readonly Picked[]): Picked[] {
  if (command.needs !== 'components') return items.filter((i) => command.fits?.(i, ws) ?? true);
  return [...new Set(items.filter((i) => i.datum === undefined).map((i) => i.component))].map(
    (component) => ({
      kind: 'component',
      component,
      index: 0,
    }),
  );
}

function act(ws: Workspace, command: Command, items: Picked[]): void {
  const { picked } = ws.selection.getState();
  const inverse = command.run(ws, items);
  if (inverse) ws.history.getState().record(withPick(ws, inverse, picked));
}

/** Undone, what was picked before is picked again, as far as it is there. */
function withPick(ws: Workspace, inverse: Inverse, picked: readonly Picked[]): Inverse {
  return {
    ...inverse,
    undo: () => {
      const changed = inverse.undo();
      const { byPath } = ws.model.getState();
      ws.selection.getState().pick(picked.filter((p) => p.datum !== undefined || byPath.has(p.component)));
      return changed;
    },
  };
}

/** Only commands are ever set to wait. */
const waitingCommand = (ws: Workspace): Command | null => ws.waiting.getState().waiting as Command | null;

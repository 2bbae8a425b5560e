import { toast } from 'sonner';
import { createStore } from 'zustand/vanilla';
import { historyStore } from '../stores/history-store.ts';
import { modeStore } from '../stores/mode-store.ts';
import { selectionStore, type Picked } from '../stores/selection-store.ts';
import type { Command } from './command.ts';

interface WaitingState {
  /** The command that waits for a pick. */
  waiting: Command | null;
  /** Started twice: it goes on after each pick, until Esc. */
  repeating: boolean;
  /** What was clicked for it so far, where it takes several. */
  collected: Picked[];
}

const IDLE: WaitingState = { waiting: null, repeating: false, collected: [] };

export const waitingStore = createStore<WaitingState>()(() => IDLE);

/**
 * Runs a command. If what it needs is picked it acts on that; otherwise it waits for one pick and ends; started a
 * second time while it waits, it repeats until Esc. Every other command ends one that waits.
 */
export function runCommand(command: Command): void {
  const { waiting } = waitingStore.getState();
  const refusal = command.refusal?.() ?? null;
  if (refusal) {
    toast(refusal, { id: 'refusal' });
    return;
  }
  if (!command.keepsMode) modeStore.setState({ leftDrag: null });
  if (command.needs === 'nothing') {
    if (waiting && !command.keepsMode) waitingStore.setState(IDLE);
    act(command, []);
    return;
  }
  const { picked } = selectionStore.getState();
  const fitting = fittingItems(command, picked);
  if (fitting.length >= (command.count ?? 1)) {
    waitingStore.setState(IDLE);
    act(command, fitting);
    return;
  }
  if (picked.length && !fitting.length && command.wants) toast(command.wants, { id: 'refusal' });
  if (waiting?.id === command.id) waitingStore.setState({ repeating: true });
  else waitingStore.setState({ waiting: command, repeating: false, collected: fitting });
}

/** Gives a pick to the command that waits for one. @returns false when none does */
export function offerPick(item: Picked): boolean {
  const { waiting, repeating, collected } = waitingStore.getState();
  if (!waiting) return false;
  const fitting = fittingItems(waiting, [item]);
  if (!fitting.length) {
    // What was clicked does not fit: say what would, and go on waiting.
    if (waiting.wants) toast(waiting.wants, { id: 'refusal' });
    return true;
  }
  const all = [...collected, ...fitting];
  if (all.length < (waiting.count ?? 1)) {
    waitingStore.setState({ collected: all });
    selectionStore.getState().pick(all);
    return true;
  }
  waitingStore.setState(repeating ? { collected: [] } : IDLE);
  if (collected.length) selectionStore.getState().pick([]);
  act(waiting, all);
  return true;
}

/** @returns false when no command was waiting */
export function stopWaiting(): boolean {
  if (!waitingStore.getState().waiting) return false;
  waitingStore.setState(IDLE);
  return true;
}

/** A command for components takes any picked thing for the component it belongs to, each once. */
function fittingItems(command: Command, items: readonly Picked[]): Picked[] {
  if (command.needs !== 'components') return items.filter((i) => command.fits?.(i) ?? true);
  return [...new Set(items.map((i) => i.component))].map((component) => ({ kind: 'component', component, index: 0 }));
}

function act(command: Command, items: Picked[]): void {
  const inverse = command.run(items);
  if (inverse) historyStore.getState().record(inverse);
}

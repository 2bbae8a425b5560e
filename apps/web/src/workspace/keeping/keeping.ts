import type { RecordKeeping } from './keep-records.ts';
import type { Workspace } from '../workspace.ts';

/** ms without a change after which what was changed is kept. */
const KEEP_AFTER = 800;
/** ms before a save that failed is tried again; twice as long each time. */
const FIRST_PAUSE = 2000;
const LONGEST_PAUSE = 30_000;

/** Keeps one thing: changes are gathered, and a save that fails is tried again until it succeeds. */
class Keeper {
  private timer: ReturnType<typeof setTimeout> | undefined;
  private pause = 0;
  /** Of the newest change; a save that ends after it was of an older one. */
  private change = 0;
  private kept = 0;
  private readonly save: () => Promise<void>;
  private readonly onSettled: () => void;

  constructor(save: () => Promise<void>, onSettled: () => void) {
    this.save = save;
    this.onSettled = onSettled;
  }

  get failing(): boolean {
    return this.pause > 0;
  }

  get pending(): boolean {
    return this.kept !== this.change;
  }

  later(): void {
    this.change++;
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.now(), this.pause || KEEP_AFTER);
  }

  async now(): Promise<void> {
    clearTimeout(this.timer);
    if (!this.pending) return;
    const mine = this.change;
    try {
      await this.save();
      this.kept = mine;
      this.pause = 0;
    } catch {
      this.pause = Math.min(LONGEST_PAUSE, 2 * this.pause || FIRST_PAUSE);
      clearTimeout(this.timer);
      this.timer = setTimeout(() => void this.now(), this.pause);
    }
    this.onSettled();
  }
}

/** Where tabs of one browser meet that show the same model. */
export interface TabChannel {
  /** That the state was kept. */
  tell: () => void;
  close: () => void;
}

/** @param hear told when another tab has kept its state */
export function joinTabs(modelId: string, hear: () => void): TabChannel {
  if (typeof BroadcastChannel === 'undefined') return { tell: () => {}, close: () => {} };
  const channel = new BroadcastChannel(`bathyscope ${modelId}`);
  channel.onmessage = hear;
  return { tell: () => channel.postMessage('state'), close: () => channel.close() };
}

export interface Keeping {
  /** The state of the model has changed. */
  stateChanged: () => void;
  /** Says whether something is not kept yet. */
  tell: () => void;
  /** Saves what waits, and ends. */
  close: () => void;
}

/** Keeps the state of the model on the screen, and with it what is kept of the model. */
export function startKeeping(
  ws: Workspace,
  save: () => Promise<void>,
  records: RecordKeeping,
  tabs: TabChannel,
): Keeping {
  const tell = () => ws.keeping.setState({ unsaved: state.failing || records.failing() });
  const state: Keeper = new Keeper(() => save().then(() => tabs.tell()), tell);
  const now = () => {
    void state.now();
    records.now();
  };
  const ask = (event: BeforeUnloadEvent) => {
    if (ws.keeping.getState().unsaved) event.preventDefault();
  };
  window.addEventListener('pagehide', now);
  window.addEventListener('online', now);
  window.addEventListener('beforeunload', ask);
  return {
    stateChanged: () => state.later(),
    tell,
    close: () => {
      void state.now();
      records.close();
      window.removeEventListener('pagehide', now);
      window.removeEventListener('online', now);
      window.removeEventListener('beforeunload', ask);
      tabs.close();
    },
  };
}

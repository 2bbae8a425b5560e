import type { MassJob } from '../workers/mass-work.ts';
import type { ClashCheck } from '@bathyscope/contracts';
import type { SectionPlane } from '@bathyscope/core/section';

/** What keeps the cut of the section as the section is. */
export interface Cutting {
  /** Asks the kernel for all of it, however much that is. */
  askExact(): void;
  stop(): void;
}

/** What moves by itself in a workspace; whatever is under way is ended by what comes next. */
export interface Players {
  /** Counts turns of the view: a turn goes on while the count is its own. */
  turn: number;
  sweepFrame: number;
  /** The change that a sweep is, one step back for all of it. */
  sweepDrag: { move: (planes: SectionPlane[]) => void; end: () => void } | null;
  tourTimer: ReturnType<typeof setTimeout> | undefined;
  tourStop: AbortController;
  /** When a plane was stepped last: quick steps are one change. */
  lastStep: number;
  /** The check of clashes that is under way. */
  interferenceRun: { check: ClashCheck | null } | null;
  wallWorker: Worker | null;
  massWorkers: Map<MassJob, Worker>;
  cutting: Cutting | null;
}

export const createPlayers = (): Players => ({
  turn: 0,
  sweepFrame: 0,
  sweepDrag: null,
  tourTimer: undefined,
  tourStop: new AbortController(),
  lastStep: 0,
  interferenceRun: null,
  wallWorker: null,
  massWorkers: new Map(),
  cutting: null,
});

/** Ends whatever moves by itself. */
export function stopPlayers(players: Players): void {
  players.turn++;
  cancelAnimationFrame(players.sweepFrame);
  clearTimeout(players.tourTimer);
  players.tourStop.abort();
  players.interferenceRun = null;
  players.wallWorker?.terminate();
  for (const worker of players.massWorkers.values()) worker.terminate();
  players.massWorkers.clear();
  players.cutting?.stop();
  players.cutting = null;
}

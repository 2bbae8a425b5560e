import type { GaveUp, Places, QuestionName } from '@bathyscope/kernel';

/** One subtask of a question, which one thread answers. */
export interface Subtask {
  name: QuestionName;
  asked: object;
  places: Places;
  /** ms, counted from the start of the work. */
  limit: number;
  /** Higher goes first. */
  priority: number;
  /** Who asks: of the same priority askers take turns. */
  asker: string;
  /** Fires when nobody waits for the answer any more. */
  signal: AbortSignal;
  /** Fetches a stored shape, brotli. */
  shapeOf(hash: string): Promise<Uint8Array>;
}

/** The subtask came to nothing. */
export class SubtaskFailed extends Error {
  readonly why: GaveUp;

  constructor(why: GaveUp) {
    super(why);
    this.why = why;
  }
}

/** Answers subtasks of questions: threads of this process, or a process of its own. */
export abstract class Answerer {
  /** Starts what answers, so that the first question need not wait for it. */
  abstract warm(): void;
  /** @throws SubtaskFailed, KernelRefusal with a sentence, AbortError, or an error of `shapeOf` */
  abstract ask(subtask: Subtask): Promise<unknown>;
}

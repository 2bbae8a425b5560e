import type { GaveUp } from '@bathyscope/kernel';
import type { Subtask } from './answerer.ts';

/** What of a subtask goes to another process. */
export type SentSubtask = Omit<Subtask, 'signal' | 'shapeOf'>;

/** What the process of the questions is told. */
export type ToQuestions =
  | { type: 'ask'; id: number; subtask: SentSubtask }
  /** Nobody waits for it any more. */
  | { type: 'leave'; id: number }
  /** A shape that was asked for; null where it could not be had. */
  | { type: 'shape'; call: number; bytes: Uint8Array | null };

export type Outcome =
  | { type: 'answer'; answer: unknown }
  | { type: 'gave up'; why: GaveUp }
  | { type: 'refused'; sentence: string; cause: string }
  | { type: 'left' }
  | { type: 'fault'; words: string };

/** What it tells. `rss`: bytes of its memory. */
export type FromQuestions =
  | { type: 'shape'; id: number; call: number; hash: string }
  | { type: 'end'; id: number; outcome: Outcome; rss: number };

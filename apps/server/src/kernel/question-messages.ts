import type { GaveUp } from '@bathyscope/kernel';
import type { Piece } from './answerer.ts';

/** What of a piece goes to another process. */
export type SentPiece = Omit<Piece, 'signal' | 'shapeOf'>;

/** What the process of the questions is told. */
export type ToQuestions =
  | { type: 'ask'; id: number; piece: SentPiece }
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
  { type: 'shape'; id: number; call: number; hash: string } | { type: 'end'; id: number; outcome: Outcome; rss: number };

import type { Knex } from 'knex';
import type { Problem } from '@bathyscope/contracts';

/** A job as its handler sees it while it runs. */
export interface RunningJob {
  subject: string;
  /** Aborted when the job is cancelled, its lease is lost, or the process ends. */
  signal: AbortSignal;
  /** @param share 0–1 */
  progress(stage: string, share: number): void;
}

/**
 * Stores the result, in the transaction that marks the job as done; may be called again when
 * that transaction failed.
 */
export type Finish = (trx: Knex.Transaction) => Promise<void>;

/**
 * One kind of long computation. A new one is a class like this, a line in `job-kinds.module.ts`, and what
 * stands for its result in `job-results.ts`.
 */
export interface JobKind<Input = unknown> {
  readonly kind: string;
  /**
   * Computes. What it stores on the way must be claimed as it is stored, and storing
   * it twice must do no harm.
   * @throws JobRefused when it will never succeed, with a sentence; other errors are faults and tried again
   */
  run(input: Input, job: RunningJob): Promise<Finish>;
  /** What the user is told when it was given up. */
  givenUp: Pick<Problem, 'title' | 'detail'>;
}

/** The job will never succeed; the sentence says why and what to do. */
export class JobRefused extends Error {
  override name = 'JobRefused';
}

/** Injection token of all kinds. */
export const JOB_KINDS = 'JOB_KINDS';

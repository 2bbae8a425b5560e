/**
 * Lanes of the queue: files, short files, whatever else takes long, and what nobody waits for. Each worker
 * runs one job of each at a time, so that no file waits for a check, and no short one for a long one.
 */
export const LANES = ['run_job', 'run_short', 'run_beside', 'run_again'] as const;
export type Lane = (typeof LANES)[number];

/** Bytes up to which a file is a short one: they take seconds, or are damaged. */
const SHORT = 2 * 1024 * 1024;
export const isShort = (size: number): boolean => size <= SHORT;

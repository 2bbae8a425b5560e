import fc from 'fast-check';

/**
 * Property tests draw the same cases at every run, so that a commit is good or not; `PROPERTY_SEED` (a whole
 * number) draws others, `PROPERTY_RUNS` more of them.
 */
const number = (name: string, otherwise: number) =>
  process.env[name] ? Number(process.env[name]) : otherwise;

fc.configureGlobal({ seed: number('PROPERTY_SEED', 20261127), numRuns: number('PROPERTY_RUNS', 100) });

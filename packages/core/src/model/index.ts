export * from './structure.ts';
export { summariseModel, type ModelCounts, type ModelSummary } from './summarise-model.ts';
export { partKeys } from './part-keys.ts';

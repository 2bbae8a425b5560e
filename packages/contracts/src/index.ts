export { encodeGeometry, decodeGeometry, ContainerError } from './geometry-container.ts';
export type * from './responses.ts';
export type { ExactCut, LeastDistanceAnswered, QuestionName, Questions } from '@bathyscope/kernel/questions';

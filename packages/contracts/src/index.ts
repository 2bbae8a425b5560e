export {
  encodeGeometry,
  decodeGeometry,
  geometryHead,
  ContainerError,
  type GeometryHead,
} from './geometry-container.ts';
export { PAGE_HEADER } from './page-header.ts';
export type * from './responses.ts';
export type { ExactCut, LeastDistanceAnswered, QuestionName, Questions } from '@bathyscope/kernel/questions';

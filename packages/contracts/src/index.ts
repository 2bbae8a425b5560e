export { encodeGeometry, decodeGeometry, ContainerError } from './geometry-container.ts';
export type * from './responses.ts';

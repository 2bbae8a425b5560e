export * from './component-states.ts';
export { neighboursWithin, type PlacedMesh } from './neighbours.ts';

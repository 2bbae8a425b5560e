export * from './vec3.ts';
export type { Point2 } from './point2.ts';
export * from './mat4.ts';
export { patchDistance, piecesIn, type NearestPair, type Patch } from './patch-distance.ts';
export * from './box3.ts';
export { highestBetween } from './golden-section.ts';
export { distanceToSegment } from './segment-distance.ts';
export { symmetricEigen } from './eigen.ts';
export {
  cutChain,
  cutTriangle,
  heightOver,
  isTaken,
  opposite,
  planeThrough,
  raised,
  takesPoint,
  type Combination,
  type CutBy,
  type Plane,
} from './plane.ts';
export * from './quaternion.ts';
export * from './axes.ts';

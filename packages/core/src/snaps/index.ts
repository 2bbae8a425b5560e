export { derivedPoints, pointOnEdge, pointOnFace, type DerivedPoint } from './derived-points.ts';
export { crossingOfEdges, snapPoints, type SnapHit } from './snap-points.ts';

export type * from './part-geometry.ts';
export { withinOf, worstOf, type Accuracy, type SumAccuracy } from './accuracy.ts';
export { boxWithin, exactBox, isCovered, isKnownCurve, knownBox } from './exact-box.ts';
export { ringMesh, type RingMesh } from './ring-mesh.ts';
export { facesOfHole, type Hole, type HoleStep, type HoleStepKind } from './hole.ts';
export { placedBox, placedBoxKnown } from './placed-box.ts';

export * from './mesh/cap-of-loops.ts';
export * from './curves/chain-curves.ts';
export * from './curves/curves-of-loop.ts';
export * from './pick-cut.ts';
export * from './curves/straighten.ts';
export * from './mesh/clip-loops.ts';
export { cutComponents, planeInPart, type ComponentCut, type CutInput } from './mesh/cut-components.ts';
export { cutsAgree, judgeCut, type ExactLoops, type JudgedCut } from './cuts-agree.ts';
export * from './hatch-patterns.ts';
export * from './planes/left-whole.ts';
export * from './curves/plane-curves.ts';
export { ontoPlane, traceCut, type TracedCut } from './curves/trace-cut.ts';
export * from './planes/plane-position.ts';
export * from './planes/section-plane.ts';
export {
  aboutPoint,
  combineSections,
  sectionProperties,
  type SectionProperties,
} from './section-properties.ts';
export { sliceMesh, type CutPlane, type MeshSlice } from './mesh/slice-mesh.ts';
export * from './planes/suggest-whole.ts';

export { compileKernel, loadKernel, KERNEL_VERSION, type LoadedKernel } from './occt/load.ts';
export { selfTest } from './self-test.ts';
export { convertStep, type ConvertedGeometry, type ConvertedModel, type ConvertHooks, type ConvertStage } from './convert-step.ts';
export { describePart, DEFAULT_MESH, type MeshSettings } from './describe-part.ts';
export { checkStepFrame, FRAME_HEAD, FRAME_TAIL, ModelFileError } from './step-text.ts';
export { ShapeSession, type LeastDistance, type PlacedShape } from './shape-session.ts';
export { cuttingFrame, type CuttingFrame, type ShapeSection } from './section-shape.ts';
export { inspectFile, type Inspection } from './inspect.ts';

export { compileKernel, loadKernel, KERNEL_VERSION, type LoadedKernel } from './occt/load.ts';
export { converterVersion } from './converter-version.ts';
export { selfTest } from './self-test.ts';
export {
  convertStep,
  type ConvertedGeometry,
  type ConvertedModel,
  type ConvertHooks,
  type ConvertStage,
} from './reading/convert-step.ts';
export { describePart } from './describing/describe-part.ts';
export { DEFAULT_MESH, type MeshSettings } from './describing/mesh-shape.ts';
export { ModelFileError } from './reading/step-text.ts';
export { HEAD, modelName, readerOf, READERS, TAIL, type Reader } from './reading/readers/index.ts';
export { QuestionRefusal, ShapeSession } from './shapes/shape-session.ts';
export {
  QUESTIONS,
  type GaveUp,
  type Placed,
  type Places,
  type Question,
  type QuestionName,
  type Questions,
} from './questions/index.ts';
export { inspectModel, openModelFile, type Inspection } from './inspect/inspect.ts';

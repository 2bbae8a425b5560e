export { compileKernel, loadKernel, KERNEL_VERSION, type LoadedKernel } from './occt/load.ts';
export { selfTest } from './self-test.ts';
export { convertStep, type ConvertedGeometry, type ConvertedModel, type ConvertHooks, type ConvertStage } from './convert-step.ts';
export { describePart, DEFAULT_MESH, type MeshSettings } from './describe-part.ts';
export { ModelFileError } from './step-text.ts';
export { HEAD, modelName, readerOf, READERS, TAIL, type Reader } from './readers/index.ts';
export { QuestionRefusal, ShapeSession } from './shape-session.ts';
export { QUESTIONS, type GaveUp, type Placed, type Places, type Question, type QuestionName, type Questions } from './questions/index.ts';
export { inspectFile, type Inspection } from './inspect.ts';

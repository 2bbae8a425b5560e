import os from 'node:os';
import { parentPort, workerData } from 'node:worker_threads';
import { brotliCompressSync, brotliDecompressSync, constants } from 'node:zlib';
import { encodeGeometry } from '@bathyscope/contracts';
import type { PartGeometry } from '@bathyscope/core/geometry';
import { summariseModel } from '@bathyscope/core/model';
import {
  converterVersion,
  loadKernel,
  modelName,
  readerOf,
  ModelFileError,
  QUESTIONS,
  QuestionRefusal,
  selfTest,
  ShapeSession,
  type ConvertedGeometry,
  type Question,
} from '@bathyscope/kernel';
import type {
  ConvertOutcome,
  KernelEnd,
  KernelReply,
  KernelRequest,
  KernelRole,
  StoredGeometry,
} from './messages.ts';

/* A thread that holds one kernel instance. A thin shell: each message is one call into the kernel package. */

const port = parentPort!;
const reply = (message: KernelReply): void => port.postMessage(message);

/** Level 5 packs geometry to within a few per cent of the best at a tenth of its time. */
const compress = (bytes: Uint8Array): Uint8Array =>
  brotliCompressSync(bytes, {
    params: { [constants.BROTLI_PARAM_QUALITY]: 5, [constants.BROTLI_PARAM_SIZE_HINT]: bytes.byteLength },
  });

const { module, role } = workerData as { module: WebAssembly.Module; role: KernelRole };
// Of this thread alone, where the system counts by threads: what nobody waits for takes what others leave.
if (role === 'background') os.setPriority(os.constants.priority.PRIORITY_BELOW_NORMAL);
const kernel = await loadKernel(module);
selfTest(kernel);
const session = new ShapeSession(kernel);
const heap = (): number => kernel.oc.HEAPU8.byteLength as number;

function convert(request: Extract<KernelRequest, { type: 'convert' }>): KernelEnd {
  const geometries = new Map<string, PartGeometry>();
  const model = readerOf(request.fileName).read(kernel, request.bytes, modelName(request.fileName), {
    onProgress: (stage, share) => reply({ type: 'progress', stage, share }),
    onGeometry: (converted) => {
      geometries.set(converted.hash, converted.geometry);
      reply({ type: 'geometry', geometry: store(converted) });
    },
  });
  const outcome: ConvertOutcome = {
    format: model.format,
    schema: model.schema,
    lengthUnit: model.lengthUnit,
    structure: model.structure,
    summary: summariseModel(model.structure, (part) =>
      geometries.get(model.structure.parts[part].geometry!)!,
    ),
    warnings: model.warnings,
    converter: converterVersion(),
  };
  return { type: 'converted', outcome, heap: heap() };
}

function store({ hash, geometry, shape }: ConvertedGeometry): StoredGeometry {
  const raw = encodeGeometry(geometry);
  return {
    hash,
    triangles: geometry.mesh.indices.length / 3,
    rawSize: raw.byteLength,
    container: compress(raw),
    shape: shape && compress(shape),
  };
}

function answer({ name, asked, places, shapes }: Extract<KernelRequest, { type: 'ask' }>): KernelEnd {
  for (const [hash, bytes] of shapes) session.load(hash, brotliDecompressSync(bytes));
  const question = QUESTIONS[name] as unknown as Question<object, unknown>;
  return {
    type: 'answered',
    answer: question.answer(asked, places, session),
    held: session.hashes(),
    heap: heap(),
  };
}

port.on('message', (request: KernelRequest) => {
  try {
    reply(request.type === 'convert' ? convert(request) : answer(request));
  } catch (error) {
    if (error instanceof ModelFileError)
      reply({ type: 'refused', sentence: error.message, cause: error.cause ?? '' });
    else if (error instanceof QuestionRefusal) reply({ type: 'refused', sentence: error.message, cause: '' });
    // The kernel's own exceptions are numbers; what comes from its memory is no ordinary error either.
    else
      reply({
        type: 'failed',
        message:
          error instanceof Error ? (error.stack ?? error.message) : `kernel exception ${String(error)}`,
        broken: !(error instanceof Error) || error instanceof WebAssembly.RuntimeError,
      });
  }
});
reply({ type: 'ready', ...(role !== 'questions' && { converter: converterVersion() }) });

import { parentPort, workerData } from 'node:worker_threads';
import { brotliCompressSync, brotliDecompressSync, constants } from 'node:zlib';
import { encodeGeometry } from '@bathyscope/contracts';
import { summariseModel, type PartGeometry } from '@bathyscope/core';
import { convertStep, loadKernel, ModelFileError, selfTest, ShapeSession, type ConvertedGeometry } from '@bathyscope/kernel';
import type { ConvertOutcome, KernelReply, KernelRequest, StoredGeometry } from './messages.ts';

/* A worker thread that holds one kernel instance. A thin shell: each message is one call into the kernel package. */

const port = parentPort!;
const reply = (message: KernelReply): void => port.postMessage(message);

/** Level 5 packs geometry to within a few per cent of the best at a tenth of its time. */
const compress = (bytes: Uint8Array): Uint8Array =>
  brotliCompressSync(bytes, { params: { [constants.BROTLI_PARAM_QUALITY]: 5, [constants.BROTLI_PARAM_SIZE_HINT]: bytes.byteLength } });

const kernel = await loadKernel((workerData as { module: WebAssembly.Module }).module);
selfTest(kernel);
const session = new ShapeSession(kernel);

function convert(request: Extract<KernelRequest, { type: 'convert' }>): void {
  const geometries = new Map<string, PartGeometry>();
  const model = convertStep(kernel, request.bytes, request.name, {
    onProgress: (stage, done, total) => reply({ type: 'progress', id: request.id, stage, done, total }),
    onGeometry: (converted) => {
      geometries.set(converted.hash, converted.geometry);
      reply({ type: 'geometry', id: request.id, geometry: store(converted) });
    },
  });
  const outcome: ConvertOutcome = {
    format: model.format,
    schema: model.schema,
    lengthUnit: model.lengthUnit,
    structure: model.structure,
    summary: summariseModel(model.structure, (part) => geometries.get(model.structure.parts[part].geometry!)!),
    warnings: model.warnings,
  };
  reply({ type: 'converted', id: request.id, outcome, heap: kernel.oc.HEAPU8.byteLength as number });
}

function store({ hash, geometry, shape }: ConvertedGeometry): StoredGeometry {
  const raw = encodeGeometry(geometry);
  return { hash, triangles: geometry.mesh.indices.length / 3, rawSize: raw.byteLength, container: compress(raw), shape: compress(shape) };
}

function answer(request: KernelRequest): void {
  if (request.type === 'convert') convert(request);
  else if (request.type === 'load') reply({ type: 'loaded', id: request.id, evicted: session.load(request.hash, brotliDecompressSync(request.shape)) });
  else if (request.type === 'section') reply({ type: 'section', id: request.id, result: session.section(request.hash, request.frame) });
  else reply({ type: 'distance', id: request.id, result: session.leastDistance(request.a, request.b) });
}

port.on('message', (request: KernelRequest) => {
  try {
    answer(request);
  } catch (error) {
    const message = error instanceof Error ? error.message : `The geometry kernel failed (${String(error)}).`;
    reply({ type: 'error', id: request.id, message, user: error instanceof ModelFileError });
  }
});
reply({ type: 'ready' });

import type { ModelDetail } from '@bathyscope/contracts';
import { bvhGeometry } from '@bathyscope/core';
import { MeshBVH } from 'three-mesh-bvh';
import type { LoadedPart } from '../stores/model-store.ts';
import type { GeometryReply } from './geometry-worker.ts';
import { startGeometryWorker } from './start-geometry-worker.ts';

const WORKERS = 2;

/** Loads the geometry of every part once, two at a time. @throws Error with a sentence when one cannot be had */
export async function loadGeometry(detail: ModelDetail, onProgress: (share: number) => void, signal: AbortSignal): Promise<Map<number, LoadedPart>> {
  const hashes = [...new Set(detail.structure.parts.flatMap((p) => (p.geometry ? [p.geometry] : [])))];
  const loaded = new Map<string, LoadedPart>();
  const waiting = [...hashes];
  const workers = Array.from({ length: Math.min(WORKERS, hashes.length) }, startGeometryWorker);
  try {
    await Promise.all(workers.map(async (worker) => {
      for (let hash = waiting.shift(); hash && !signal.aborted; hash = waiting.shift()) {
        loaded.set(hash, await ask(worker, hash));
        onProgress(loaded.size / hashes.length);
      }
    }));
  } finally {
    workers.forEach((w) => w.terminate());
  }
  signal.throwIfAborted();
  return new Map(detail.structure.parts.flatMap((p, i) => (p.geometry ? [[i, loaded.get(p.geometry)!] as const] : [])));
}

function ask(worker: Worker, hash: string): Promise<LoadedPart> {
  return new Promise((resolve, reject) => {
    worker.onmessage = ({ data }: MessageEvent<GeometryReply>) => {
      if ('error' in data) reject(new Error(data.error));
      else resolve({ geometry: data.geometry, bvh: MeshBVH.deserialize(data.bvh, bvhGeometry(data.geometry), { setIndex: false }) });
    };
    worker.onerror = (e) => reject(new Error(e.message || 'The geometry could not be prepared.'));
    worker.postMessage({ hash });
  });
}

import type { ModelDetail } from '@bathyscope/contracts';
import { bvhGeometry } from '@bathyscope/core/picking';
import { MeshBVH } from 'three-mesh-bvh';
import type { LoadedPart } from '../../state/model-store.ts';
import type { ModelSource } from './source.ts';
import type { GeometryReply } from '../../workers/geometry-worker.ts';
import { startGeometryWorker } from '../../workers/start-geometry-worker.ts';

const WORKERS = 2;
/** How often a geometry is asked for before it is said that it cannot be had, and ms between. */
const TRIES = 3;
const PAUSE = 700;

/**
 * Loads the geometry of every part once, two at a time. @throws Error with a sentence when one cannot be had
 */
export async function loadGeometry(
  source: ModelSource,
  detail: ModelDetail,
  onProgress: (share: number) => void,
  signal: AbortSignal,
): Promise<Map<number, LoadedPart>> {
  const hashes = [...new Set(detail.structure.parts.flatMap((p) => (p.geometry ? [p.geometry] : [])))];
  const loaded = new Map<string, LoadedPart>();
  const waiting = [...hashes];
  const slots = Array.from({ length: Math.min(WORKERS, hashes.length) }, () => new Preparing());
  try {
    await Promise.all(
      slots.map(async (slot) => {
        for (let hash = waiting.shift(); hash && !signal.aborted; hash = waiting.shift()) {
          loaded.set(
            hash,
            await again(TRIES, signal, async () => slot.prepare(await source.geometry(hash!, signal))),
          );
          onProgress(loaded.size / hashes.length);
        }
      }),
    );
  } finally {
    slots.forEach((s) => s.end());
  }
  signal.throwIfAborted();
  return new Map(
    detail.structure.parts.flatMap((p, i) => (p.geometry ? [[i, loaded.get(p.geometry)!] as const] : [])),
  );
}

async function again<T>(tries: number, signal: AbortSignal, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (tries <= 1 || signal.aborted) throw error;
    await new Promise((done) => setTimeout(done, PAUSE));
    return again(tries - 1, signal, work);
  }
}

/** A worker that prepares one geometry at a time; one that crashed is replaced. */
class Preparing {
  private worker: Worker | null = null;

  prepare(container: ArrayBuffer): Promise<LoadedPart> {
    const worker = (this.worker ??= startGeometryWorker());
    return new Promise((resolve, reject) => {
      worker.onmessage = ({ data }: MessageEvent<GeometryReply>) => {
        if ('error' in data) reject(new Error(data.error));
        else
          resolve({
            geometry: data.geometry,
            bvh: MeshBVH.deserialize(data.bvh, bvhGeometry(data.geometry), { setIndex: false }),
          });
      };
      worker.onerror = (e) => {
        this.end();
        reject(new Error(e.message || 'The geometry could not be prepared.'));
      };
      worker.postMessage({ container }, [container]);
    });
  }

  end(): void {
    this.worker?.terminate();
    this.worker = null;
  }
}

import type { PartGeometry } from '@bathyscope/core/geometry';
import type { Combination } from '@bathyscope/core/math';
import { planeFrame, type SectionPlane } from '@bathyscope/core/section';
import { MeshBVH } from 'three-mesh-bvh';
import type { PlaneCut } from '../../state/cut-store.ts';
import { storedPlacement } from '../picking/placed-points.ts';
import type { CapBuffers, SectionJob, SectionReply } from '../../workers/section-work.ts';
import { startSectionWorker } from '../../workers/start-section-worker.ts';
import type { Workspace } from '../workspace.ts';
import { cutOf } from './section-now.ts';

/** What cutting needs of a part: the worker gets a copy, and that shall be no larger than it must. */
const meshOnly = (part: PartGeometry): PartGeometry => ({
  ...part,
  faces: [],
  edges: [],
  holes: [],
  bodies: [],
  vertices: new Float64Array(),
  lines: { positions: new Float32Array(), start: new Uint32Array() },
  mesh: { ...part.mesh, normals: new Float32Array() },
});

export interface CutResult {
  planes: (PlaneCut & { buffers: CapBuffers })[];
  combine: Combination;
  /** Components kept whole that are seen. */
  whole: number[];
  /** Without the caps' triangles; the same comes whole when nothing newer is wanted. */
  outlinesOnly: boolean;
}

interface Wish {
  planes: readonly SectionPlane[];
  combine: Combination;
  include: Uint8Array;
}

/** ms. Triangles that take longer are left out while new wishes keep coming. */
const SMOOTH = 40;

/**
 * Has the model cut in a worker. One cut is under way at a time; of wishes that come
 * meanwhile only the newest counts.
 */
export class SectionCutter {
  private readonly ws: Workspace;
  private readonly onCut: (result: CutResult) => void;
  private readonly onCrash: () => void;
  private worker: Worker | null = null;
  private underWay: (Wish & { id: number; outlinesOnly: boolean }) | null = null;
  private next: Wish | null = null;
  private lastId = 0;
  private filling = 0;
  private crashes = 0;

  /** @param onCrash told when a cut came to nothing */
  constructor(ws: Workspace, onCut: (result: CutResult) => void, onCrash: () => void = () => {}) {
    this.ws = ws;
    this.onCut = onCut;
    this.onCrash = onCrash;
  }

  cut(planes: readonly SectionPlane[], combine: Combination, include: Uint8Array): void {
    this.next = { planes, combine, include };
    this.start(this.underWay !== null);
  }

  /** Forgets what is under way: there is nothing to cut. */
  stop(): void {
    this.next = null;
    this.underWay = null;
  }

  private start(hurried: boolean): void {
    if (this.underWay || !this.next) return;
    const wish = this.next;
    this.next = null;
    this.underWay = { ...wish, id: ++this.lastId, outlinesOnly: hurried && this.filling > SMOOTH };
    const job: SectionJob = {
      type: 'cut',
      id: this.lastId,
      planes: wish.planes.map((plane) => cutOf(this.ws, plane)),
      combine: wish.combine,
      include: wish.include,
      outlinesOnly: this.underWay.outlinesOnly,
    };
    this.running().postMessage(job);
  }

  private running(): Worker {
    if (this.worker) return this.worker;
    const worker = startSectionWorker();
    const { components, parts } = this.ws.model.getState();
    const used = [...new Set(components.map((c) => c.part))];
    worker.postMessage({
      type: 'model',
      parts: used.map((part) => ({
        part,
        geometry: meshOnly(parts.get(part)!.geometry),
        bvh: { ...MeshBVH.serialize(parts.get(part)!.bvh, { cloneBuffers: false }), index: null },
      })),
      components: components.map(({ part, placement }) => ({
        part,
        placement,
        stored: storedPlacement(placement, parts.get(part)!.geometry.origin),
      })),
    });
    worker.onmessage = ({ data }: MessageEvent<SectionReply>) => this.reply(data);
    worker.onerror = () => this.crashed(worker);
    this.worker = worker;
    return worker;
  }

  /** A fresh worker tries the same cut once more; then it is left as it was until the next change. */
  private crashed(worker: Worker): void {
    worker.terminate();
    if (this.worker !== worker) return;
    this.worker = null;
    const wish = this.underWay;
    this.underWay = null;
    if (this.crashes++ === 0 && wish) this.next ??= wish;
    else this.onCrash();
    this.start(false);
  }

  private reply({ id, planes, filling, whole }: SectionReply): void {
    const done = this.underWay;
    if (done?.id !== id) return this.start(false);
    this.underWay = null;
    this.crashes = 0;
    if (!done.outlinesOnly) this.filling = filling;
    else this.next ??= done;
    this.onCut({
      combine: done.combine,
      whole,
      outlinesOnly: done.outlinesOnly,
      planes: planes.map(({ cuts, buffers }, i) => {
        const cut = cutOf(this.ws, done.planes[i]);
        return { plane: done.planes[i], cut, frame: planeFrame(cut), cuts, buffers };
      }),
    });
    this.start(this.next !== done);
  }

  dispose(): void {
    this.worker?.terminate();
  }
}

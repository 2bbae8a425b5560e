import { Injectable, type OnApplicationShutdown, type OnModuleInit } from '@nestjs/common';
import { compileKernel, type ConvertStage, type CuttingFrame, type LeastDistance, type PlacedShape, type ShapeSection } from '@bathyscope/kernel';
import { KernelThread } from './kernel-thread.ts';
import type { ConvertOutcome, StoredGeometry } from './messages.ts';

/** Bytes. A thread whose heap grew past this is replaced after its job: the kernel's memory never shrinks. */
const RECYCLE_HEAP = 1_500_000_000;

export interface ConversionHooks {
  onProgress(stage: ConvertStage, done: number, total: number): void;
  onGeometry(geometry: StoredGeometry): void;
}

/**
 * The kernel's threads: one converts, one answers questions, so that a question never waits for a conversion.
 * Knows which shapes the questioning thread holds, and loads the missing ones on demand.
 */
@Injectable()
export class KernelService implements OnModuleInit, OnApplicationShutdown {
  private converter!: KernelThread;
  private questioner!: KernelThread;
  private readonly held = new Set<string>();

  async onModuleInit(): Promise<void> {
    const module = await compileKernel();
    this.converter = new KernelThread(module);
    this.questioner = new KernelThread(module, () => this.held.clear());
    this.converter.warm();
  }

  async onApplicationShutdown(): Promise<void> {
    await Promise.all([this.converter?.stop(), this.questioner?.stop()]);
  }

  async convert(bytes: Uint8Array, name: string, hooks: ConversionHooks): Promise<ConvertOutcome> {
    let outcome!: ConvertOutcome;
    let heap = 0;
    await this.converter.ask({ type: 'convert', bytes, name }, (reply) => {
      if (reply.type === 'progress') hooks.onProgress(reply.stage, reply.done, reply.total);
      if (reply.type === 'geometry') hooks.onGeometry(reply.geometry);
      if (reply.type !== 'converted') return false;
      outcome = reply.outcome;
      heap = reply.heap;
      return true;
    });
    if (heap > RECYCLE_HEAP) await this.stopConversion();
    return outcome;
  }

  /** Ends whatever is being converted; the caller's `convert` fails with KernelStopped. */
  async stopConversion(): Promise<void> {
    await this.converter.stop();
    this.converter.warm();
  }

  /** Exact least distance; `shapeOf` fetches a stored shape that the thread does not hold yet. */
  async distance(a: PlacedShape, b: PlacedShape, shapeOf: (hash: string) => Promise<Uint8Array>): Promise<LeastDistance> {
    for (const hash of new Set([a.hash, b.hash])) await this.load(hash, shapeOf);
    let result!: LeastDistance;
    await this.questioner.ask({ type: 'distance', a, b }, (reply) => {
      if (reply.type === 'distance') result = reply.result;
      return true;
    });
    return result;
  }

  /**
   * The exact curves of a cut. A cut that takes longer than `limit` ms is given up, with the thread that computes it:
   * the kernel cannot be interrupted otherwise.
   * @throws KernelStopped when it took too long
   */
  async section(hash: string, frame: CuttingFrame, limit: number, shapeOf: (hash: string) => Promise<Uint8Array>): Promise<ShapeSection> {
    await this.load(hash, shapeOf);
    let result!: ShapeSection;
    const timer = setTimeout(() => {
      this.held.clear();
      void this.questioner.stop();
    }, limit);
    try {
      await this.questioner.ask({ type: 'section', hash, frame }, (reply) => {
        if (reply.type === 'section') result = reply.result;
        return true;
      });
    } finally {
      clearTimeout(timer);
    }
    return result;
  }

  private async load(hash: string, shapeOf: (hash: string) => Promise<Uint8Array>): Promise<void> {
    if (this.held.has(hash)) return;
    const shape = await shapeOf(hash);
    await this.questioner.ask({ type: 'load', hash, shape }, (reply) => {
      if (reply.type === 'loaded') reply.evicted.forEach((old) => this.held.delete(old));
      return true;
    });
    this.held.add(hash);
  }
}

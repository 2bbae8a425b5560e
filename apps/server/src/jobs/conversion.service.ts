import { Injectable } from '@nestjs/common';
import { GeometriesRepository } from '../geometries/geometries.repository.ts';
import { KernelService } from '../kernel/kernel.service.ts';
import { ModelsRepository } from '../models/models.repository.ts';
import { SourcesRepository } from '../models/sources.repository.ts';
import type { ConvertInput } from './jobs.repository.ts';

export type ConversionProgress = (stage: string, progress: number) => void;

/** Share of the progress bar that each stage ends at: measured on the public assemblies, meshing takes most of the time. */
const STAGE_END = { reading: 0.15, transferring: 0.3, meshing: 0.95 } as const;

/** Turns a stored source file into a model with geometry. */
@Injectable()
export class ConversionService {
  constructor(
    private readonly kernel: KernelService,
    private readonly sources: SourcesRepository,
    private readonly geometries: GeometriesRepository,
    private readonly models: ModelsRepository,
  ) {}

  async run(input: ConvertInput, name: string, onProgress: ConversionProgress): Promise<void> {
    const bytes = await this.sources.read(input.fileHash);
    const stored: Promise<void>[] = [];
    const hashes: string[] = [];
    const outcome = await this.kernel.convert(bytes, name.replace(/\.\w+$/, ''), {
      onProgress: (stage, done, total) => {
        const start = stage === 'reading' ? 0.02 : stage === 'transferring' ? STAGE_END.reading : STAGE_END.transferring;
        onProgress(stage, start + (STAGE_END[stage] - start) * (done / Math.max(1, total)));
      },
      onGeometry: (geometry) => {
        hashes.push(geometry.hash);
        stored.push(this.geometries.store(geometry));
      },
    });
    await Promise.all(stored);
    await this.models.complete(input.revisionId, outcome, hashes);
  }

  stop(): Promise<void> {
    return this.kernel.stopConversion();
  }

  /** Removes a model that came to nothing, its source and geometry, unless something else uses them. */
  async discard(input: ConvertInput, modelId: string | null): Promise<void> {
    if (modelId) await this.models.removeForGood(modelId);
    await this.sources.removeUnused(input.fileHash);
    await this.geometries.removeUnused();
  }
}

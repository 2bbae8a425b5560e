import { Injectable } from '@nestjs/common';
import { patiently } from '../database/failures.ts';
import { GeometriesRepository } from '../geometries/geometries.repository.ts';
import type { Finish, JobKind, RunningJob } from '../jobs/job-kind.ts';
import { JobRefused } from '../jobs/job-kind.ts';
import type { ConvertInput } from '../jobs/job-results.ts';
import { ConverterService } from '../kernel/converter.service.ts';
import { KernelRefusal } from '../kernel/kernel-thread.ts';
import type { StoredGeometry } from '../kernel/messages.ts';
import { ModelsRepository } from '../models/models.repository.ts';
import { SourcesRepository } from '../storage/sources.repository.ts';

/**
 * Share of the progress bar that each stage ends at: measured on the public assemblies,
 * meshing takes most of the time.
 */
const STAGES = { reading: [0.02, 0.15], transferring: [0.15, 0.3], meshing: [0.3, 0.95] } as const;

/** Seconds that a database which is away is waited for, so that what was computed is not lost. */
const PATIENCE = 60;

/** Turns a stored source file into a model with geometry. */
@Injectable()
export class ConvertJob implements JobKind<ConvertInput> {
  readonly kind = 'convert';
  readonly givenUp = {
    title: 'The file could not be opened',
    detail:
      'The conversion failed again and again and was given up. The file may be too large or damaged for the geometry kernel; export it again, if possible in smaller pieces.',
  };

  constructor(
    private readonly converter: ConverterService,
    private readonly sources: SourcesRepository,
    private readonly geometries: GeometriesRepository,
    private readonly models: ModelsRepository,
  ) {}

  run(input: ConvertInput, job: RunningJob): Promise<Finish> {
    return this.convert(input, job);
  }

  /** @param how in a thread of its own, which takes what others leave, where nobody waits for it */
  async convert({ revisionId, fileHash }: ConvertInput, job: RunningJob, how?: 'again'): Promise<Finish> {
    const bytes = await patiently(PATIENCE, () => this.sources.read(fileHash));
    const stop = new AbortController();
    const store = new Storing(
      (geometry) => patiently(PATIENCE, () => this.geometries.store(geometry, revisionId)),
      (error) => stop.abort(error),
    );
    try {
      const outcome = await this.converter.convert(
        bytes,
        job.subject,
        (news) => {
          if (news.type === 'geometry') return store.add(news.geometry);
          const [start, end] = STAGES[news.stage];
          job.progress(news.stage, start + (end - start) * news.share);
        },
        AbortSignal.any([job.signal, stop.signal]),
        undefined,
        how,
      );
      const hashes = await store.all();
      return (trx) => this.models.complete(trx, revisionId, outcome, hashes);
    } catch (error) {
      // What went wrong with the database is what stopped the kernel, not the other way round.
      if (stop.signal.aborted) throw stop.signal.reason;
      throw error instanceof KernelRefusal ? new JobRefused(error.message) : error;
    }
  }
}

/** Geometries on their way into the database; the first that cannot be stored is told at once. */
class Storing {
  private readonly hashes: string[] = [];
  private readonly running: Promise<void>[] = [];
  private readonly store: (geometry: StoredGeometry) => Promise<void>;
  private readonly onFault: (error: unknown) => void;

  constructor(store: (geometry: StoredGeometry) => Promise<void>, onFault: (error: unknown) => void) {
    this.store = store;
    this.onFault = onFault;
  }

  add(geometry: StoredGeometry): void {
    this.hashes.push(geometry.hash);
    this.running.push(this.store(geometry).catch(this.onFault));
  }

  async all(): Promise<string[]> {
    await Promise.all(this.running);
    return this.hashes;
  }
}

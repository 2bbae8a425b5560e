import { promisify } from 'node:util';
import { brotliDecompress } from 'node:zlib';
import { Injectable } from '@nestjs/common';
import { decodeGeometry, type ClashCheck, type Questions } from '@bathyscope/contracts';
import { boxPairs } from '@bathyscope/core/interference';
import { transformBox, type Box3 } from '@bathyscope/core/math';
import { ChecksRepository, type CheckRow } from '../storage/checks.repository.ts';
import { patiently } from '../database/failures.ts';
import { GeometriesRepository } from '../geometries/geometries.repository.ts';
import { JobRefused, type Finish, type JobKind, type RunningJob } from '../jobs/job-kind.ts';
import type { ClashesInput } from '../jobs/job-results.ts';
import { ModelDocuments } from '../models/model-documents.ts';
import { ProblemException } from '../problems/problem.ts';
import { QuestionsService } from '../questions/questions.service.ts';

/** Pairs asked at once: each goes to a thread of its own. */
const AT_ONCE = 4;
/** ms between notes of what is found so far. */
const NOTED = 1000;
/** Seconds that a database which is away is waited for. */
const PATIENCE = 60;

const unpack = promisify(brotliDecompress);
type Pair = Questions['interference']['asked']['pairs'][number];

/**
 * Finds what of a model clashes with what, pair by pair of components whose boxes meet. Interrupted, it goes
 * on where it was.
 */
@Injectable()
export class ClashesJob implements JobKind<ClashesInput> {
  readonly kind = 'clashes';
  readonly givenUp = {
    title: 'The check was given up',
    detail:
      'Finding the clashes failed again and again and was given up. Check fewer components at a time: hide the others, or pick some.',
  };

  constructor(
    private readonly checks: ChecksRepository,
    private readonly documents: ModelDocuments,
    private readonly geometries: GeometriesRepository,
    private readonly questions: QuestionsService,
  ) {}

  async run({ checkId }: ClashesInput, job: RunningJob): Promise<Finish> {
    const check = await patiently(PATIENCE, () => this.checks.find(checkId));
    if (!check) throw new JobRefused('The check is not there any more.');
    try {
      const pairs = await this.pairsOf(check);
      const found = [...check.found];
      let noted = 0;
      for (let done = check.done; done < pairs.length; done += AT_ONCE) {
        job.signal.throwIfAborted();
        found.push(...(await this.interferences(check, pairs.slice(done, done + AT_ONCE), job.signal)));
        const now = Math.min(pairs.length, done + AT_ONCE);
        job.progress('checking', now / pairs.length);
        if (Date.now() - noted < NOTED) continue;
        noted = Date.now();
        await patiently(PATIENCE, () => this.checks.note(checkId, { pairs: pairs.length, done: now, found }));
      }
      return (trx) => this.checks.complete(trx, checkId, { pairs: pairs.length, found });
    } catch (error) {
      throw error instanceof ProblemException ? new JobRefused(error.message) : error;
    }
  }

  /** Components whose boxes meet, in an order that is the same each time. */
  private async pairsOf({ model_id, revision, among, wanted }: CheckRow): Promise<Pair[]> {
    const places = await this.documents.placesOf(model_id, revision);
    const paths = among ?? [...places.keys()];
    const boxes = new Map<string, Box3>();
    for (const hash of new Set(paths.map((p) => places.get(p)!.hash)))
      boxes.set(hash, await this.boxOf(hash));
    const placed = paths.map((p) => transformBox(places.get(p)!.placement, boxes.get(places.get(p)!.hash)!));
    const some = wanted && new Set(wanted);
    return boxPairs(placed)
      .map(([i, j]) => ({ a: paths[i], b: paths[j] }))
      .filter(({ a, b }) => !some || some.has(a) || some.has(b));
  }

  private async boxOf(hash: string): Promise<Box3> {
    const packed = await patiently(PATIENCE, () => this.geometries.container(hash));
    if (!packed) throw new JobRefused('A part of the model is not there any more.');
    return decodeGeometry(await unpack(packed)).box;
  }

  /** Those that touch, clash or are not known; what the kernel gives up the meshes answer. */
  private async interferences(
    { id, model_id, revision }: CheckRow,
    pairs: Pair[],
    signal: AbortSignal,
  ): Promise<ClashCheck['found']> {
    const ask = (of: Pair[], how: 'quick' | 'mesh') =>
      this.questions.ask(id, model_id, revision, 'interference', { pairs: of, how }, signal) as Promise<
        ClashCheck['found']
      >;
    const found = await ask(pairs, 'quick');
    const failed = found.filter((f) => 'failed' in f).map(({ a, b }) => ({ a, b }));
    const byMesh = failed.length ? await ask(failed, 'mesh') : [];
    return found
      .map((f) => ('failed' in f ? (byMesh.find((m) => m.a === f.a && m.b === f.b) ?? f) : f))
      .filter((f) => 'failed' in f || f.relation !== 'gap');
  }
}

import { createHash } from 'node:crypto';
import { Inject, Injectable } from '@nestjs/common';
import type { UploadOutcome, UploadResult } from '@bathyscope/contracts';
import { HEAD, ModelFileError, modelName, readerOf, TAIL, type Reader } from '@bathyscope/kernel';
import type { Request } from 'express';
import type { Knex } from 'knex';
import type { Readable } from 'node:stream';
import { lockFile } from '../database/lock-file.ts';
import { KNEX } from '../database/database.module.ts';
import { jobView, JobsRepository } from '../jobs/jobs.repository.ts';
import { isShort } from '../process/lanes.ts';
import { INSTALLATION } from '../database/migrations.ts';
import { ModelsRepository } from '../models/models.repository.ts';
import { RevisionsRepository } from '../models/revisions.repository.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { BlobsRepository, CHUNK } from '../storage/blobs.repository.ts';
import { requireRoom } from './disk-room.ts';
import { receiveFiles, refusal, uploadLimit, type FileStream } from './receive-files.ts';
import { SourcesRepository } from '../storage/sources.repository.ts';
import { UploadSlots } from './upload-slots.ts';

// eslint-disable-next-line no-control-regex
const CONTROLS = /[\u0000-\u001f\u007f]/g;

/** The last part of whatever path a name carries, without control characters, at most 200 long. */
export function safeFileName(name: string | undefined): string {
  const last = (name ?? '').split(/[\\/]/).at(-1) ?? '';
  const clean = last.replace(CONTROLS, '').trim().replace(/^\.+/, '');
  // By characters, so that none is cut in half.
  return Array.from(clean).slice(-200).join('') || 'Unnamed.step';
}

/** Bytes that are in the database, and what they are. */
interface Received {
  blobId: string;
  size: number;
  hash: string;
}

/**
 * Takes files in. Bytes go straight from the wire into rows, hashed and checked on the way, with no
 * connection held while more are awaited; one short transaction then makes them a
 * model with a conversion job.
 */
@Injectable()
export class UploadsService {
  private readonly slots = new UploadSlots();

  constructor(
    @Inject(KNEX) private readonly knex: Knex,
    private readonly models: ModelsRepository,
    private readonly jobs: JobsRepository,
    private readonly blobs: BlobsRepository,
    private readonly sources: SourcesRepository,
    private readonly revisions: RevisionsRepository,
  ) {}

  /**
   * The files of a multipart request. @param revisionOf the model that they are revisions of @param profile
   * whose they are; null of a script's: then the installation's @throws ProblemException with a sentence when
   * none of them was taken
   */
  async receive(request: Request, profile: string | null, revisionOf?: string): Promise<UploadResult> {
    const gone = new AbortController();
    request.once('close', () => !request.complete && gone.abort());
    await requireRoom(Number(request.headers['content-length'] ?? 0));
    const slot = await this.slots.take(profile ?? request.ip ?? '', gone.signal);
    try {
      const outcomes = await receiveFiles(
        request,
        (stream, name) => this.take(stream, name, profile ?? INSTALLATION, revisionOf),
        slot.moved,
      );
      const refused = outcomes.flatMap((o) => (o instanceof ProblemException ? [o] : []));
      const [first, ...others] = outcomes.flatMap((o) => (o instanceof ProblemException ? [] : [o]));
      if (!first)
        throw (
          refused[0] ?? refusal('The request carries no file. Choose a STEP file and send it again.', 400)
        );
      return {
        ...first,
        others: [...others, ...refused.map((r): UploadOutcome => ({ refused: r.problem }))],
      };
    } finally {
      slot.release();
    }
  }

  /** Stores one stream as a model with a conversion job, or finds the model that already has these bytes. */
  async take(
    stream: FileStream,
    rawName: string | undefined,
    owner = INSTALLATION,
    revisionOf?: string,
  ): Promise<Omit<UploadResult, 'others'>> {
    const fileName = safeFileName(rawName);
    const reader = this.readerFor(fileName);
    const received = await this.store(stream, fileName, reader);
    const { modelId, job } = await this.adopt(received, fileName, owner, revisionOf);
    const model = await this.models.listItem(modelId);
    if (!model) throw refusal('The model was deleted while its file arrived. Send it again.', 409);
    return { model, job, duplicate: job === null };
  }

  private readerFor(fileName: string): Reader {
    try {
      return readerOf(fileName);
    } catch (error) {
      throw error instanceof ModelFileError ? refusal(error.message, 415) : error;
    }
  }

  /**
   * What was received as a model, or as the next revision of one, which shows its present one until this is
   * ready. Equal bytes are one model, also when they arrive at the same moment.
   */
  private async adopt(
    { hash, size, blobId }: Received,
    fileName: string,
    owner: string,
    revisionOf: string | undefined,
  ) {
    const adopted = this.knex.transaction(async (trx) => {
      await lockFile(trx, hash);
      if (revisionOf) await this.requireOther(trx, revisionOf, hash, fileName);
      const existing = revisionOf ? undefined : await this.models.findByFile(trx, hash);
      if (existing) {
        await this.jobs.ask(trx, existing, 'convert', owner);
        return { modelId: existing, job: null, used: false };
      }
      const used = await this.sources.adopt(trx, hash, size, blobId);
      const { modelId, revisionId } = revisionOf
        ? {
            modelId: revisionOf,
            revisionId: await this.revisions.add(trx, owner, revisionOf, fileName, hash),
          }
        : await this.models.create(trx, owner, modelName(fileName), fileName, hash);
      const input = { revisionId, fileHash: hash };
      const lane = isShort(size) ? 'run_short' : 'run_job';
      const job = await this.jobs.create(trx, {
        kind: 'convert',
        subject: fileName,
        modelId,
        input,
        asker: owner,
        lane,
      });
      return { modelId, job: jobView(job), used };
    });
    // Should anything else fail, the bytes are collected by age.
    const outcome = await adopted.catch((error: unknown) =>
      error instanceof ProblemException ? error : Promise.reject(error as Error),
    );
    if (outcome instanceof ProblemException || !outcome.used) await this.blobs.remove(blobId).catch(() => {});
    if (outcome instanceof ProblemException) throw outcome;
    return outcome;
  }

  /** A revision is another file than those that there are. */
  private async requireOther(
    trx: Knex.Transaction,
    modelId: string,
    hash: string,
    fileName: string,
  ): Promise<void> {
    if (!(await this.revisions.inTurn(trx, modelId))) throw notFound('model');
    const same = await this.revisions.withFile(trx, modelId, hash);
    if (same !== undefined)
      throw refusal(
        `“${fileName}” is, byte for byte, revision ${same} of this model. Open that one; nothing was added.`,
        409,
      );
  }

  private async store(stream: FileStream, fileName: string, reader: Reader): Promise<Received> {
    const blobId = await this.blobs.create();
    try {
      return { blobId, ...(await this.receiveBytes(stream, blobId, reader)) };
    } catch (error) {
      await this.blobs.remove(blobId).catch(() => {});
      if (error instanceof ModelFileError) throw refusal(`“${fileName}”: ${error.message}`);
      throw error;
    }
  }

  private async receiveBytes(
    stream: FileStream,
    blobId: string,
    reader: Reader,
  ): Promise<{ size: number; hash: string }> {
    const digest = createHash('sha256');
    let [size, position, lines] = [0, 0, 1];
    let head = Buffer.alloc(0);
    let tail = Buffer.alloc(0);
    for await (const chunk of inChunks(stream, CHUNK)) {
      digest.update(chunk);
      size += chunk.length;
      for (let at = chunk.indexOf(10); at >= 0; at = chunk.indexOf(10, at + 1)) lines++;
      if (head.length < HEAD) head = Buffer.concat([head, chunk.subarray(0, HEAD)]).subarray(0, HEAD);
      tail = Buffer.from(Buffer.concat([tail, chunk.subarray(-TAIL)]).subarray(-TAIL));
      await this.blobs.append(blobId, position++, chunk);
    }
    if (stream.truncated)
      throw refusal(
        `The file is larger than ${Math.round(uploadLimit() / 1024 / 1024)} MB, the limit of this server. Ask whoever runs it to raise BATHYSCOPE_MAX_UPLOAD_MB, or split the model.`,
        413,
      );
    reader.check(head, tail, size, () => lines);
    return { size, hash: digest.digest('hex') };
  }
}

/** The bytes of a stream in pieces of at least the given size, but for the last. */
async function* inChunks(stream: Readable, size: number): AsyncGenerator<Buffer> {
  let pending: Buffer[] = [];
  let length = 0;
  for await (const piece of stream as AsyncIterable<Buffer>) {
    pending.push(piece);
    length += piece.length;
    if (length < size) continue;
    yield Buffer.concat(pending);
    pending = [];
    length = 0;
  }
  if (length) yield Buffer.concat(pending);
}

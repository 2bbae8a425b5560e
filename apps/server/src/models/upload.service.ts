import { createHash } from 'node:crypto';
import { Inject, Injectable } from '@nestjs/common';
import type { UploadResult } from '@bathyscope/contracts';
import { checkStepFrame, FRAME_HEAD, FRAME_TAIL, ModelFileError } from '@bathyscope/kernel';
import busboy from 'busboy';
import type { Request } from 'express';
import type { Knex } from 'knex';
import type { Readable } from 'node:stream';
import { KNEX } from '../database/database.module.ts';
import { LOCAL_OWNER } from '../database/migrations.ts';
import { JobsRepository } from '../jobs/jobs.repository.ts';
import { JobsService } from '../jobs/jobs.service.ts';
import { ProblemException } from '../problems/problem.ts';
import { ModelsRepository } from './models.repository.ts';
import { CHUNK } from './sources.repository.ts';

const STEP_NAME = /\.(step|stp|p21)$/i;

/** Bytes; larger files are refused while they stream in. */
export const uploadLimit = (): number => Number(process.env['BATHYSCOPE_MAX_UPLOAD_MB'] ?? 500) * 1024 * 1024;

const refuse = (detail: string, status = 422): ProblemException => new ProblemException(status, 'The file was not taken', detail);

/** The last part of whatever path a name carries, without control characters, at most 200 long. */
export function safeFileName(name: string | undefined): string {
  const last = (name ?? '').split(/[\\/]/).at(-1) ?? '';
  // eslint-disable-next-line no-control-regex
  const clean = last.replace(/[\u0000-\u001f\u007f]/g, '').trim().replace(/^\.+/, '');
  return clean.slice(-200) || 'Unnamed.step';
}

/** Takes files in: straight from the wire into rows of the database, hashed and checked on the way, in one transaction. */
@Injectable()
export class UploadService {
  constructor(
    @Inject(KNEX) private readonly knex: Knex,
    private readonly models: ModelsRepository,
    private readonly jobs: JobsRepository,
    private readonly jobsService: JobsService,
  ) {}

  /** The first file of a multipart request. @throws ProblemException with a sentence; nothing is kept then */
  async receive(request: Request): Promise<UploadResult> {
    return new Promise((resolve, reject) => {
      let parser: busboy.Busboy;
      try {
        parser = busboy({ headers: request.headers, defParamCharset: 'utf8', limits: { fileSize: uploadLimit(), files: 1 } });
      } catch {
        reject(refuse('The request carries no file. Send one as multipart/form-data in a field named “file”.', 400));
        return;
      }
      let taken = false;
      parser.on('file', (_field, stream, info) => {
        taken = true;
        this.take(stream, info.filename).then(resolve, (error) => {
          stream.resume();
          reject(error);
        });
      });
      parser.on('close', () => {
        if (!taken) reject(refuse('The request carries no file. Choose a STEP file and send it again.', 400));
      });
      parser.on('error', () => reject(refuse('The upload broke off. Send the file again.', 400)));
      request.on('aborted', () => parser.destroy(new Error('aborted')));
      request.pipe(parser);
    });
  }

  /** Stores one stream as a model with a conversion job, or finds the model that already has these bytes. */
  async take(stream: Readable & { truncated?: boolean }, rawName: string | undefined): Promise<UploadResult> {
    const fileName = safeFileName(rawName);
    if (!STEP_NAME.test(fileName)) {
      stream.resume();
      throw refuse(`“${fileName}” is not a STEP file. This version opens .step, .stp and .p21 files; export the model as STEP (AP203, AP214 or AP242).`, 415);
    }
    const outcome = await this.knex.transaction((trx) => this.store(trx, stream, fileName));
    const model = (await this.models.list()).find((m) => m.id === outcome.modelId)!;
    return { model, duplicate: outcome.job === null, job: outcome.job && this.jobsService.announce(outcome.job) };
  }

  private async store(trx: Knex.Transaction, stream: Readable & { truncated?: boolean }, fileName: string) {
    const temporary = `incoming-${crypto.randomUUID()}`;
    await trx('source_file').insert({ hash: temporary, owner_id: LOCAL_OWNER, size: 0 });
    const { size, hash } = await this.receiveChunks(trx, stream, temporary);

    const existing = await this.models.findByFile(trx, hash);
    const known = await trx('source_file').where({ hash }).first('hash');
    if (existing || known) await trx('source_file').where({ hash: temporary }).delete();
    if (existing) return { modelId: existing, job: null };
    if (!known) {
      await trx('source_file').insert({ hash, owner_id: LOCAL_OWNER, size });
      await trx('source_chunk').where({ hash: temporary }).update({ hash });
      await trx('source_file').where({ hash: temporary }).delete();
    }
    const { modelId, revisionId } = await this.models.create(trx, fileName.replace(STEP_NAME, ''), fileName, hash);
    const job = await this.jobs.create(trx, fileName, modelId, { revisionId, fileHash: hash });
    return { modelId, job };
  }

  private async receiveChunks(trx: Knex.Transaction, stream: Readable & { truncated?: boolean }, key: string): Promise<{ size: number; hash: string }> {
    const digest = createHash('sha256');
    let [size, position, lines] = [0, 0, 1];
    let head = Buffer.alloc(0);
    let tail = Buffer.alloc(0);
    let pending: Buffer[] = [];
    let pendingSize = 0;
    const flush = async () => {
      if (!pendingSize) return;
      await trx('source_chunk').insert({ hash: key, position: position++, bytes: Buffer.concat(pending) });
      pending = [];
      pendingSize = 0;
    };
    for await (const piece of stream as AsyncIterable<Buffer>) {
      digest.update(piece);
      size += piece.length;
      for (const byte of piece) if (byte === 10) lines++;
      if (head.length < FRAME_HEAD) head = Buffer.concat([head, piece]).subarray(0, FRAME_HEAD);
      tail = Buffer.concat([tail, piece]).subarray(-FRAME_TAIL);
      pending.push(piece);
      pendingSize += piece.length;
      if (pendingSize >= CHUNK) await flush();
    }
    if (stream.truncated)
      throw refuse(`The file is larger than ${Math.round(uploadLimit() / 1024 / 1024)} MB, the limit of this server. Ask whoever runs it to raise BATHYSCOPE_MAX_UPLOAD_MB, or split the model.`, 413);
    await flush();
    try {
      checkStepFrame(head.toString('latin1'), tail.toString('latin1'), () => lines);
    } catch (error) {
      throw error instanceof ModelFileError ? refuse(error.message) : error;
    }
    return { size, hash: digest.digest('hex') };
  }
}

import { isDeepStrictEqual } from 'node:util';
import type { KeptRecord, RecordAnswer, RecordChange } from '@bathyscope/contracts';
import { lifted, RECORD_KINDS } from '@bathyscope/contracts/records';
import { Injectable } from '@nestjs/common';
import { ModelsService } from '../models/models.service.ts';
import { requirePng } from '../models/require-png.ts';
import { notFound } from '../problems/problem.ts';
import { RecordsRepository, type StoredRecord, type Wanted } from './records.repository.ts';

/** Of one model, those in the bin included. */
const MOST_RECORDS = 50_000;

type Decision = 'insert' | 'update' | 'same' | 'changed' | { refused: string };

const NO_ROOM = {
  refused: `A model keeps at most ${MOST_RECORDS.toLocaleString('en')} records. Delete some for good, from the bin.`,
};

/**
 * What is kept of models, by a registry of kinds: what a kind describes is checked, what it does not know is
 * kept as it came.
 */
@Injectable()
export class RecordsService {
  constructor(
    private readonly models: ModelsService,
    private readonly records: RecordsRepository,
  ) {}

  async pages(modelId: string, wanted: Wanted, me: string | null): Promise<AsyncGenerator<string[]>> {
    await this.models.require(modelId);
    return this.records.pages(modelId, wanted, me);
  }

  async find(modelId: string, id: string, me: string | null): Promise<KeptRecord> {
    await this.models.require(modelId);
    const record = (await this.records.named(modelId, [id], me)).get(id);
    if (!record) throw notFound('record');
    return record;
  }

  /**
   * Stores changes, each for itself, new ones as made on a revision, or the newest; all that were stored are
   * when this returns.
   */
  async change(
    author: string,
    modelId: string,
    changes: readonly RecordChange[],
    madeOn?: number,
  ): Promise<RecordAnswer[]> {
    const newest = await this.models.require(modelId);
    const revision = madeOn ?? newest;
    const ids = changes.map(({ id }) => id);
    return this.records.inTurn(modelId, async (trx) => {
      const stored = await this.records.stored(trx, ids);
      const wanted = changes.map((change) => decide(modelId, change, stored.get(change.id)));
      let room = wanted.includes('insert') ? MOST_RECORDS - (await this.records.count(trx, modelId)) : 0;
      const decisions = wanted.map((decision): Decision =>
        decision !== 'insert' || room-- > 0 ? decision : NO_ROOM,
      );
      await this.records.insert(
        trx,
        author,
        modelId,
        revision,
        changes.filter((_, i) => decisions[i] === 'insert'),
      );
      await this.records.update(
        trx,
        author,
        changes.filter((_, i) => decisions[i] === 'update'),
      );
      const now = await this.records.named(modelId, ids, author, trx);
      return changes.map(({ id }, i): RecordAnswer => {
        const decision = decisions[i];
        const record = now.get(id) ?? null;
        if (typeof decision === 'object')
          return { id, outcome: 'refused', record, problem: decision.refused };
        return { id, outcome: decision === 'changed' ? 'changed' : 'stored', record };
      });
    });
  }

  async picture(modelId: string, id: string): Promise<Buffer> {
    await this.models.require(modelId);
    const png = await this.records.picture(modelId, id);
    if (!png) throw notFound('picture');
    return png;
  }

  async setPicture(modelId: string, id: string, body: unknown): Promise<void> {
    await this.models.require(modelId);
    if (!(await this.records.setPicture(modelId, id, requirePng(body)))) throw notFound('record');
  }

  async purge(modelId: string, id: string): Promise<void> {
    await this.models.require(modelId);
    if (!(await this.records.purge(modelId, id))) throw notFound('record in the bin');
  }
}

/** What becomes of a change, by what is stored. */
function decide(modelId: string, change: RecordChange, stored: StoredRecord | undefined): Decision {
  if (stored && (stored.model_id !== modelId || stored.kind !== change.kind))
    return { refused: 'This identifier belongs to another thing already. Make it anew.' };
  const kind = RECORD_KINDS.get(change.kind);
  if (!kind)
    return {
      refused: `This server knows no “${change.kind}”. It is of another version than the page: load the page anew.`,
    };
  if (stored && isSame(change, stored)) return 'same';
  if (
    stored &&
    (stored.version > Math.min(kind.version, change.version) ||
      (!change.deleted && kind.isNewer?.(stored.document, change.document)))
  )
    return {
      refused:
        'What is kept here was made by a newer version of Bathyscope, and stays as it is. Load the page anew.',
    };
  if (change.version > kind.version)
    return {
      refused: `This “${change.kind}” is of a newer version of Bathyscope than the server. Start the newer one.`,
    };
  if (!change.deleted && kind.read(lifted(kind, change.version, change.document)) === null)
    return { refused: `This is no “${change.kind}”: its document lacks what one must have.` };
  // What was deleted for good meanwhile comes back with whoever changes it.
  if (!stored) return 'insert';
  return change.match === stored.rev ? 'update' : 'changed';
}

const isSame = (change: RecordChange, stored: StoredRecord): boolean =>
  change.deleted === (stored.deleted_at !== null) &&
  change.position === stored.position &&
  change.version === stored.version &&
  (change.madeOn ?? stored.made_on) === stored.made_on &&
  isDeepStrictEqual(change.document, stored.document);

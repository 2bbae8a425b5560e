import { promisify } from 'node:util';
import { brotliCompress, constants } from 'node:zlib';
import { Injectable } from '@nestjs/common';
import { componentsOf, listOccurrences, type ModelStructure } from '@bathyscope/core/model';
import type { Placed } from '@bathyscope/kernel';
import { LRUCache } from 'lru-cache';
import { notFound } from '../problems/problem.ts';
import { ModelsRepository } from './models.repository.ts';

const pack = promisify(brotliCompress);
/** Level 4 packs a structure to a tenth in a few hundredths of a second. */
const LEVEL = { params: { [constants.BROTLI_PARAM_QUALITY]: 4 } };

/** Bytes kept at hand of each kind. */
const KEPT = 64 * 1024 * 1024;
/** Bytes that a component takes in memory, roughly. */
const COMPONENT = 500;

interface Document {
  etag: string;
  body: Buffer;
}

/**
 * Models as they are sent, and what is read out of their structures; each is made once, and anew where a
 * revision was converted again.
 */
@Injectable()
export class ModelDocuments {
  private readonly documents = new LRUCache<string, Buffer>({
    maxSize: KEPT,
    sizeCalculation: (b) => Math.max(1, b.length),
  });
  private readonly places = new LRUCache<string, ReadonlyMap<string, Placed>>({
    maxSize: KEPT,
    sizeCalculation: (m) => 1 + m.size * COMPONENT,
  });
  private readonly making = new Map<string, Promise<Buffer>>();

  constructor(private readonly models: ModelsRepository) {}

  /**
   * A ModelDetail as JSON. @param revision the newest where undefined @throws ProblemException
   * when there is no such model
   */
  async detail(id: string, revision: number | undefined, packed: boolean): Promise<Document> {
    const details = await this.models.details(id, revision);
    if (!details) throw notFound(revision === undefined ? 'model' : 'revision of a model');
    const key = [
      id,
      details.revision,
      details.newest,
      details.state,
      details.updatedAt,
      details.thumbnail,
      packed,
    ].join(' ');
    const body = this.documents.get(key) ?? (await this.once(key, () => this.make(details, packed)));
    return { etag: `"${Buffer.from(key).toString('base64url')}"`, body };
  }

  /**
   * Where each component of a revision is, by its path. @throws ProblemException when there is no such
   * revision, or it is not ready
   */
  async placesOf(id: string, revision: number): Promise<ReadonlyMap<string, Placed>> {
    const key = `${id} ${revision} ${await this.models.converterOf(id, revision)}`;
    const known = this.places.get(key);
    if (known) return known;
    const text = await this.models.structureText(id, revision);
    if (!text) throw notFound(text === null ? 'model ready yet' : 'revision of a model');
    const structure = JSON.parse(text) as ModelStructure;
    const places = new Map(
      componentsOf(listOccurrences(structure)).flatMap(({ path, part, placement }): [string, Placed][] => {
        const hash = structure.parts[part].geometry;
        return hash ? [[path, { hash, placement }]] : [];
      }),
    );
    this.places.set(key, places);
    return places;
  }

  /** The structure is put in as the text that it is. */
  private async make(details: object & { id: string; revision: number }, packed: boolean): Promise<Buffer> {
    const structure = (await this.models.structureText(details.id, details.revision)) ?? 'null';
    const plain = Buffer.from(`${JSON.stringify(details).slice(0, -1)},"structure":${structure}}`);
    return packed ? pack(plain, LEVEL) : plain;
  }

  /** Many who ask at the same moment wait for one. */
  private once(key: string, make: () => Promise<Buffer>): Promise<Buffer> {
    const running =
      this.making.get(key) ??
      make()
        .then((body) => {
          this.documents.set(key, body);
          return body;
        })
        .finally(() => this.making.delete(key));
    this.making.set(key, running);
    return running;
  }
}

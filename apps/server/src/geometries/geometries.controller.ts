import { promisify } from 'node:util';
import { brotliDecompress } from 'node:zlib';
import { Controller, Get, Param, Req, Res } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import type { Request, Response } from 'express';
import { LRUCache } from 'lru-cache';
import { notFound } from '../problems/problem.ts';
import { GeometriesRepository } from './geometries.repository.ts';

const unpack = promisify(brotliDecompress);
const HASH = /^[0-9a-f]{40}$/;
/** Bytes of containers kept at hand: a model that several people open is read from the database once. */
const KEPT = 128 * 1024 * 1024;

@ApiTags('geometries')
@Controller('geometries')
export class GeometriesController {
  private readonly kept = new LRUCache<string, Buffer>({
    maxSize: KEPT,
    sizeCalculation: (bytes) => Math.max(1, bytes.length),
  });

  constructor(private readonly geometries: GeometriesRepository) {}

  @Get(':hash')
  @ApiOperation({
    summary: 'The geometry container of one part; its address is its content, so it never changes',
  })
  async get(@Param('hash') hash: string, @Req() request: Request, @Res() response: Response): Promise<void> {
    if (!HASH.test(hash)) throw notFound('geometry');
    const etag = `"${hash}"`;
    if (request.headers['if-none-match'] === etag) {
      if (!this.kept.has(hash) && !(await this.geometries.exists(hash))) throw notFound('geometry');
      response.set({ ETag: etag, Vary: 'Accept-Encoding' }).status(304).end();
      return;
    }
    const container = this.kept.get(hash) ?? (await this.geometries.container(hash));
    if (!container) throw notFound('geometry');
    this.kept.set(hash, container);
    const packed = request.acceptsEncodings('br') === 'br';
    // Unpacking runs in the thread pool, so that others are served meanwhile.
    const body = packed ? container : await unpack(container);
    response.set({
      ETag: etag,
      Vary: 'Accept-Encoding',
      'Content-Type': 'application/octet-stream',
      'Cache-Control': 'public, max-age=31536000, immutable',
    });
    if (packed) response.set('Content-Encoding', 'br');
    response.send(body);
  }
}

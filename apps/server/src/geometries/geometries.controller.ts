import { brotliDecompressSync } from 'node:zlib';
import { Controller, Get, Param, Req, Res } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import type { Request, Response } from 'express';
import { notFound } from '../problems/problem.ts';
import { GeometriesRepository } from './geometries.repository.ts';

@ApiTags('geometries')
@Controller('geometries')
export class GeometriesController {
  constructor(private readonly geometries: GeometriesRepository) {}

  @Get(':hash')
  @ApiOperation({ summary: 'The geometry container of one part; its address is its content, so it never changes' })
  async get(@Param('hash') hash: string, @Req() request: Request, @Res() response: Response): Promise<void> {
    const etag = `"${hash}"`;
    response.set({ ETag: etag, Vary: 'Accept-Encoding' });
    if (request.headers['if-none-match'] === etag) {
      response.status(304).end();
      return;
    }
    const container = await this.geometries.container(hash);
    if (!container) throw notFound('geometry');
    response.set({ 'Content-Type': 'application/octet-stream', 'Cache-Control': 'public, max-age=31536000, immutable' });
    if (request.acceptsEncodings('br')) response.set('Content-Encoding', 'br').send(container);
    else response.send(brotliDecompressSync(container));
  }
}

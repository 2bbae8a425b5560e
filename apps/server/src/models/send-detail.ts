import type { Request, Response } from 'express';
import type { ModelDocuments } from './model-documents.ts';

/**
 * Answers with a model and its structure, packed where the page can unpack it, and not at all where it has
 * it. @param revision the newest where undefined
 */
export async function sendDetail(
  documents: ModelDocuments,
  id: string,
  revision: number | undefined,
  request: Request,
  response: Response,
): Promise<void> {
  const packed = request.acceptsEncodings('br') === 'br';
  const { etag, body } = await documents.detail(id, revision, packed);
  response.set({
    ETag: etag,
    'Cache-Control': 'private, no-cache',
    Vary: 'Accept-Encoding',
    'Content-Type': 'application/json; charset=utf-8',
  });
  if (request.headers['if-none-match'] === etag) return void response.status(304).end();
  if (packed) response.set('Content-Encoding', 'br');
  response.send(body);
}

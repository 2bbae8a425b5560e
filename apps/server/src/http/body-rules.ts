import type { NextFunction, Request, Response } from 'express';
import { badRequest } from '../problems/problem.ts';

/** Brackets within brackets; what the interface sends has a dozen at most. */
const DEEPEST = 100;
const [QUOTE, ESCAPE] = [...'"\\'].map((c) => c.charCodeAt(0));
const OPENING = new Set([...'[{'].map((c) => c.charCodeAt(0)));
const CLOSING = new Set([...']}'].map((c) => c.charCodeAt(0)));

/** Body parser's `verify`: refuses what would exhaust the stack of whatever walks it later. */
export function refuseDeepNesting(_request: unknown, _response: unknown, body: Buffer): void {
  let [depth, quoted] = [0, false];
  for (let i = 0; i < body.length; i++) {
    const c = body[i];
    if (quoted) {
      if (c === ESCAPE) i++;
      else if (c === QUOTE) quoted = false;
    } else if (c === QUOTE) quoted = true;
    else if (OPENING.has(c)) depth++;
    else if (CLOSING.has(c)) depth--;
    if (depth > DEEPEST) throw Object.assign(new Error('nested too deeply'), { type: 'body.too.deep' });
  }
}

/** NUL and halves of surrogate pairs: no text, and nothing that PostgreSQL stores. */
// eslint-disable-next-line no-control-regex
const NO_TEXT = /\u0000|\p{Surrogate}/u;

/** Refuses bodies with characters that cannot be stored, in values and in keys. */
export function refuseUnstorableText(request: Request, _response: Response, next: NextFunction): void {
  const open: unknown[] = Buffer.isBuffer(request.body) ? [] : [request.body];
  while (open.length) {
    const value = open.pop();
    if (typeof value === 'string' && NO_TEXT.test(value))
      return next(
        badRequest('The request holds a character that cannot be stored (NUL, or half of a pair). Take it out and send it again.'),
      );
    if (typeof value === 'object' && value !== null) for (const [key, inner] of Object.entries(value)) open.push(key, inner);
  }
  next();
}

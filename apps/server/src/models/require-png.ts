import { ProblemException } from '../problems/problem.ts';

const PNG_SIGNATURE = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);

/** The body of a request as a PNG. @throws ProblemException for anything else */
export function requirePng(body: unknown): Buffer {
  if (Buffer.isBuffer(body) && body.subarray(0, 8).equals(PNG_SIGNATURE)) return body;
  throw new ProblemException(415, 'Not a picture', 'The picture must be a PNG of at most 1 MB.');
}

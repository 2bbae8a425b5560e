import type { NextFunction, Request, Response } from 'express';
import { ProblemException } from '../problems/problem.ts';

/**
 * Takes the path that the installation stands under off every address; what is not under it is refused, but
 * for the root, which leads there.
 * @param base begins and ends with a slash
 */
export function underBase(base: string) {
  const bare = base.slice(0, -1);
  return (request: Request, response: Response, next: NextFunction): void => {
    const { url } = request;
    if (base === '/') return next();
    if (url.startsWith(base)) {
      request.url = url.slice(bare.length);
      return next();
    }
    if (url === '/' || url === bare || url.startsWith(`${bare}?`)) return response.redirect(base);
    next(new ProblemException(404, 'Not found', `Bathyscope stands under ${base} here.`));
  };
}

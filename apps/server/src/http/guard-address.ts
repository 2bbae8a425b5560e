import type { NextFunction, Request, Response } from 'express';
import { ProblemException } from '../problems/problem.ts';

const HARMLESS = ['GET', 'HEAD', 'OPTIONS'];

/**
 * Refuses requests to a name that is not the server's (what a name server was made to point here: DNS
 * rebinding) and requests that change something and come from a page of another site. Programs that are no
 * browser send no origin.
 */
export function guardAddress(hosts: readonly string[]) {
  return (request: Request, _response: Response, next: NextFunction): void => {
    // As a proxy that is believed tells it.
    const host = addressOf(`http://${request.host ?? ''}`);
    if (!host || !hosts.includes(host.hostname)) {
      const detail = `This server answers to ${hosts.join(', ')} only. Whoever runs it can add a name by BATHYSCOPE_HOSTS.`;
      return next(new ProblemException(421, 'Misdirected request', detail));
    }
    if (HARMLESS.includes(request.method) || fromHere(request, host)) return next();
    next(
      new ProblemException(
        403,
        'Refused',
        'The request comes from a page of another site. Open Bathyscope itself and do it there.',
      ),
    );
  };
}

function fromHere({ headers }: Request, host: URL): boolean {
  const { origin } = headers;
  if (origin === undefined)
    return !['cross-site', 'same-site'].includes(String(headers['sec-fetch-site'] ?? ''));
  // Behind a proxy that speaks https the port is that of the name; only name and stated port are compared.
  return addressOf(origin)?.host === host.host;
}

function addressOf(text: string): URL | null {
  try {
    return new URL(text);
  } catch {
    return null;
  }
}

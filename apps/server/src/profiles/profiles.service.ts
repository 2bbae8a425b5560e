import { createHash, randomBytes, randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { PAGE_HEADER } from '@bathyscope/contracts';
import type { Request, Response } from 'express';
import { INSTALLATION } from '../database/migrations.ts';
import { basePath } from '../process/installation.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { ProfilesRepository } from './profiles.repository.ts';

/** Before installations had names of their own; two on one host took each other's away. */
const OLD_COOKIE = 'bathyscope_profile';
/** ms. The longest that browsers keep a cookie; every visit begins it anew. */
const KEPT = 400 * 24 * 3600_000;

const hashOf = (token: string): Buffer => createHash('sha256').update(token).digest();

interface Known {
  id: string;
  token: string;
}

/**
 * Which profile a request comes from. The cookie holds a secret, the database its hash; its name is the
 * installation's, for a host has one set of cookies for all its ports.
 */
@Injectable()
export class ProfilesService {
  private cookie: string | null = null;

  constructor(private readonly profiles: ProfilesRepository) {}

  /** The profile of the browser that asks, if it has one. */
  async known(request: Request): Promise<string | null> {
    return (await this.find(request))?.id ?? null;
  }

  /**
   * The profile of the browser that asks; its page gets a new one when it has none. The cookie
   * goes out with the answer.
   * @throws ProblemException (403) for a request that no page of ours made: a link elsewhere sends no cookie
   * and would replace it
   */
  async of(request: Request, response: Response): Promise<string> {
    const known = await this.find(request);
    if (known) return this.keep(response, known);
    if (!isFromPage(request))
      throw new ProblemException(
        403,
        'Refused',
        `Settings and states belong to a browser. Open Bathyscope in it; a program shows the cookie of its profile, or sends the header ${PAGE_HEADER} to get one.`,
      );
    const name = await this.cookieName();
    const unknown = tokenOf(request, name);
    // Perhaps of a database that is put back one day.
    if (unknown !== null) send(response, `${name}_earlier`, unknown);
    const token = randomBytes(24).toString('base64url');
    return this.keep(response, { id: await this.profiles.take(randomUUID(), hashOf(token)), token });
  }

  /** Who made something of a model: the profile, or the installation for a program that has none. */
  async author(request: Request, response: Response): Promise<string> {
    return isFromPage(request) ? this.of(request, response) : ((await this.known(request)) ?? INSTALLATION);
  }

  /**
   * Whether an earlier profile of the browser, that was not known when it got another one, is there again.
   */
  async hasEarlier(request: Request): Promise<boolean> {
    return (await this.earlier(request)) !== null;
  }

  /** The earlier profile is the browser's again, and the present one the earlier. */
  async takeUpEarlier(request: Request, response: Response): Promise<void> {
    const earlier = await this.earlier(request);
    if (!earlier) throw notFound('earlier profile');
    const now = await this.find(request);
    if (now) send(response, `${await this.cookieName()}_earlier`, now.token);
    await this.keep(response, earlier);
  }

  name(id: string): Promise<string> {
    return this.profiles.name(id);
  }

  rename(id: string, name: string): Promise<void> {
    return this.profiles.rename(id, name.trim());
  }

  private async find(request: Request): Promise<Known | null> {
    for (const name of [await this.cookieName(), OLD_COOKIE]) {
      const found = await this.lookUp(tokenOf(request, name));
      if (found) return found;
    }
    return null;
  }

  private async earlier(request: Request): Promise<Known | null> {
    return this.lookUp(tokenOf(request, `${await this.cookieName()}_earlier`));
  }

  private async lookUp(token: string | null): Promise<Known | null> {
    const id = token === null ? undefined : await this.profiles.find(hashOf(token));
    return id === undefined || token === null ? null : { id, token };
  }

  private async keep(response: Response, { id, token }: Known): Promise<string> {
    send(response, await this.cookieName(), token);
    return id;
  }

  private async cookieName(): Promise<string> {
    return (this.cookie ??= `${OLD_COOKIE}_${await this.profiles.installation()}`);
  }
}

const send = (response: Response, name: string, token: string): void =>
  void response.cookie(name, token, {
    httpOnly: true,
    sameSite: 'strict',
    secure: response.req.secure,
    maxAge: KEPT,
    path: basePath(),
  });

/** Pages of other sites cannot send it: browsers ask first, and are not answered. */
const isFromPage = (request: Request): boolean => request.headers[PAGE_HEADER.toLowerCase()] !== undefined;

function tokenOf(request: Request, name: string): string | null {
  const token = (request.cookies as Record<string, unknown> | undefined)?.[name];
  return typeof token === 'string' && token.length <= 100 ? token : null;
}

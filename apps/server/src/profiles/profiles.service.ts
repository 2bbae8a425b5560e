import { createHash, randomBytes, randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { Request, Response } from 'express';
import { ProfilesRepository } from './profiles.repository.ts';

const COOKIE = 'bathyscope_profile';
/** ms. The longest that browsers keep a cookie; every visit begins it anew. */
const KEPT = 400 * 24 * 3600_000;

const hashOf = (token: string): Buffer => createHash('sha256').update(token).digest();

/** Which profile a request comes from. The cookie holds a secret, the database its hash. */
@Injectable()
export class ProfilesService {
  constructor(private readonly profiles: ProfilesRepository) {}

  /** The profile of the browser that asks, if it has one. */
  async known(request: Request): Promise<string | null> {
    const token = this.token(request);
    return token === null ? null : ((await this.profiles.find(hashOf(token))) ?? null);
  }

  /** The profile of the browser that asks; a new one when it has none. The cookie goes out with the answer. */
  async of(request: Request, response: Response): Promise<string> {
    const token = this.token(request);
    const known = token === null ? undefined : await this.profiles.find(hashOf(token));
    const kept = known && token !== null ? token : randomBytes(24).toString('base64url');
    response.cookie(COOKIE, kept, { httpOnly: true, sameSite: 'strict', secure: request.secure, maxAge: KEPT, path: '/' });
    return known ?? this.profiles.take(randomUUID(), hashOf(kept));
  }

  private token(request: Request): string | null {
    const token = (request.cookies as Record<string, unknown> | undefined)?.[COOKIE];
    return typeof token === 'string' && token.length <= 100 ? token : null;
  }

  name(id: string): Promise<string> {
    return this.profiles.name(id);
  }

  rename(id: string, name: string): Promise<void> {
    return this.profiles.rename(id, name.trim());
  }
}

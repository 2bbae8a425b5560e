import { createParamDecorator, Injectable, type ExecutionContext, type PipeTransform } from '@nestjs/common';
import type { Request, Response } from 'express';
import { ProfilesService } from './profiles.service.ts';

interface Exchange {
  request: Request;
  response: Response;
}

const CurrentExchange = createParamDecorator((_: unknown, context: ExecutionContext): Exchange => {
  const http = context.switchToHttp();
  return { request: http.getRequest(), response: http.getResponse() };
});

@Injectable()
export class ProfilePipe implements PipeTransform<Exchange, Promise<string>> {
  constructor(private readonly profiles: ProfilesService) {}

  transform({ request, response }: Exchange): Promise<string> {
    return this.profiles.of(request, response);
  }
}

@Injectable()
export class AuthorPipe implements PipeTransform<Exchange, Promise<string>> {
  constructor(private readonly profiles: ProfilesService) {}

  transform({ request, response }: Exchange): Promise<string> {
    return this.profiles.author(request, response);
  }
}

@Injectable()
export class KnownProfilePipe implements PipeTransform<Exchange, Promise<string | null>> {
  constructor(private readonly profiles: ProfilesService) {}

  transform({ request }: Exchange): Promise<string | null> {
    return this.profiles.known(request);
  }
}

/**
 * The profile that asks, as a parameter of a handler; a page that has none gets one. For
 * what is the profile's own.
 */
export const Profile = () => CurrentExchange(ProfilePipe);

/** Who makes something of a model; for a program without a profile the installation. */
export const Author = () => CurrentExchange(AuthorPipe);

/** The profile that asks, or null. For what is only read, so that a script leaves nothing behind. */
export const KnownProfile = () => CurrentExchange(KnownProfilePipe);

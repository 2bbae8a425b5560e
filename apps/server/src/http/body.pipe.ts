import { Injectable, ValidationPipe, type ArgumentMetadata } from '@nestjs/common';
import { getMetadataStorage, validate, type ValidationError } from 'class-validator';
import { badRequest } from '../problems/problem.ts';

/**
 * Makes the declared request of a body and checks it. Only the fields that are declared are looked at, and
 * free documents among them are taken as they came: nothing walks them, and no name in them is taken for one
 * of the language's.
 */
@Injectable()
export class BodyPipe extends ValidationPipe {
  constructor() {
    super({ whitelist: true, transform: true });
  }

  override async transform(value: unknown, metadata: ArgumentMetadata): Promise<unknown> {
    const { metatype, type } = metadata;
    if (type !== 'body' || !metatype || metatype === Object)
      return type === 'body' ? value : super.transform(value, metadata);
    const body: object = typeof value === 'object' && value !== null ? value : {};
    const request = new metatype() as Record<string, unknown>;
    for (const name of declaredIn(metatype))
      if (Object.hasOwn(body, name)) request[name] = (body as Record<string, unknown>)[name];
    const errors = await validate(request);
    if (errors.length) throw badRequest(errors.flatMap(sentencesOf).join(' '));
    return request;
  }
}

const declaredIn = (metatype: NonNullable<ArgumentMetadata['metatype']>): Set<string> =>
  new Set(
    getMetadataStorage()
      .getTargetValidationMetadatas(metatype, '', false, false)
      .map((rule) => rule.propertyName),
  );

const sentencesOf = ({ constraints }: ValidationError): string[] => Object.values(constraints ?? {});

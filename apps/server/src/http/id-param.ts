import { Param, ParseIntPipe, ParseUUIDPipe } from '@nestjs/common';
import { badRequest } from '../problems/problem.ts';

/** An identifier in the address. */
export const IdParam = (name = 'id'): ParameterDecorator =>
  Param(
    name,
    new ParseUUIDPipe({
      exceptionFactory: () =>
        badRequest('The address holds something that is no identifier. Open the model from the shelf.'),
    }),
  );

/** The number of a revision in the address. */
export const RevisionParam = (): ParameterDecorator =>
  Param(
    'revision',
    new ParseIntPipe({ exceptionFactory: () => badRequest('Revisions are numbered 1, 2, 3 …') }),
  );

import { z } from 'zod';
import type { Vec3 } from '../math/vec3.ts';

/* Pieces that descriptions of stored documents are made of. */

const LONGEST_NAME = 200;

export const vector: z.ZodType<Vec3> = z.tuple([z.number(), z.number(), z.number()]);

/** Whatever stands there, also nothing. */
export const anything = z.unknown().optional();

/** Yes where it says so; and yes unless it says no. */
export const isTrue = anything.transform((v) => v === true);
export const isNotFalse = anything.transform((v) => v !== false);

/** A name; what is none, or longer, is cut to what can be shown. */
export const label = (absent = ''): z.ZodType<string> =>
  anything.transform((text) => String(text ?? absent).slice(0, LONGEST_NAME));

/** A part that may be missing, and is left out where it is not what it should be. */
export const perhaps = <T>(description: z.ZodType<T>) => description.optional().catch(undefined);

/** A list without the entries that are not what they should be. */
export const listOf = <T>(entry: z.ZodType<T>, most = Infinity): z.ZodType<T[]> =>
  z
    .array(z.unknown())
    .optional()
    .catch([])
    .transform((values) => values ?? [])
    .transform((values) =>
      values
        .slice(0, most)
        .flatMap((value): T[] => [entry.safeParse(value)].flatMap((r) => (r.success ? [r.data] : []))),
    );

/** An object without the fields that are not there. */
export const compact = <T extends object>(values: T): T =>
  Object.fromEntries(Object.entries(values).filter(([, value]) => value !== undefined)) as T;

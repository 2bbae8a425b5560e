import type { Vec3 } from '@bathyscope/core/math';
import { readReference, type Reference } from '@bathyscope/core/references';
import { carryDocument, type CarryOver } from '@bathyscope/core/revisions';
import { isValues } from '@bathyscope/core/tables';
import { mergeKept } from '@bathyscope/core/view-state';
import { z } from 'zod';

/** One kind of thing that is kept of a model. */
export interface RecordKind<D extends object = object> {
  readonly name: string;
  /** Of the documents that are written now. */
  readonly version: number;
  /**
   * A document of the present version; null for what is none. Fields it does not know are left out here, and
   * stay where it is stored.
   */
  readonly read: (document: unknown) => D | null;
  /** To each version, from the one before. */
  readonly migrations: Readonly<Record<number, (old: Document) => Document>>;
  /** What two made of one document, put together. */
  readonly merge: (base: unknown, mine: unknown, theirs: unknown) => unknown;
  /**
   * Whether what is kept was written by a newer version than a change of it, though both are of the same
   * version outside; then it stays.
   */
  readonly isNewer?: (there: unknown, change: unknown) => boolean;
  /** What a document is of, where a model has one of this kind for each such thing. */
  readonly key?: (document: D) => string;
  /** What it is made of, to be looked up on another revision. */
  readonly references: (document: D) => readonly Reference[];
  /** How a document reads on another revision; null where nothing is left that it is of. */
  readonly carried: (document: D, to: CarryOver) => D | null;
  /** Keys of the parts that it is of, where it is of parts and no place of them. */
  readonly parts: (document: D) => readonly string[];
  /** What it is called, for people. */
  readonly title: (document: D) => string;
}

type Document = Record<string, unknown>;

type Described<D extends object> = Pick<RecordKind<D>, 'name' | 'version' | 'key' | 'isNewer' | 'title'> &
  Partial<Pick<RecordKind<D>, 'migrations' | 'merge' | 'references' | 'carried' | 'parts'>> & {
    /** The one description that documents are read by. */
    document: z.ZodType<D>;
  };

/** A kind from its description; fields are merged one by one where it says nothing else. */
export const recordKind = <D extends object>({ document, ...kind }: Described<D>): RecordKind<D> => ({
  migrations: {},
  merge: mergeKept,
  references: () => [],
  carried: carryDocument,
  parts: () => [],
  ...kind,
  read: (values) => document.safeParse(values).data ?? null,
});

/** A stored document lifted to the present version; one of a newer version is taken as it is. */
export function lifted(kind: RecordKind, version: number, document: unknown): unknown {
  if (!isValues(document)) return document;
  let now = document;
  for (let to = version + 1; to <= kind.version; to++) now = kind.migrations[to]?.(now) ?? now;
  return now;
}

/** For what is of a component by its path alone. */
export function carriedComponent<D extends { component: string }>(document: D, to: CarryOver): D | null {
  const component = to.component(document.component);
  return component === null ? null : { ...document, component };
}

/** For what is of a part by its key. */
export function carriedPart<D extends { part: string }>(document: D, to: CarryOver): D | null {
  const part = to.part(document.part);
  return part === null ? null : { ...document, part };
}

const LONGEST = 200;

/** A name that people give; longer ones are cut. */
export const name = z.string().transform((text) => text.slice(0, LONGEST));

/** A reference; what can never have been one makes the record unreadable. */
export const reference: z.ZodType<Reference> = z.unknown().transform((value, context): Reference => {
  const read = readReference(value);
  if (read) return read;
  context.addIssue('This is no reference.');
  return z.NEVER;
});

/** A list of references, without what is none. */
export const references: z.ZodType<Reference[]> = z
  .array(z.unknown())
  .transform((values) => values.flatMap((value) => readReference(value) ?? []));

export const point: z.ZodType<Vec3> = z.tuple([z.number(), z.number(), z.number()]).transform((p): Vec3 => p);

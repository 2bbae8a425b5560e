import type {
  ClashCheck,
  KeptRecord,
  KeptState,
  ModelDetail,
  OwnMaterial,
  QuestionName,
  Questions,
  RecordAnswer,
  RecordChange,
  RecordEvent,
} from '@bathyscope/contracts';
import type { ViewState } from '@bathyscope/core/view-state';
import type { Outbox } from '../keeping/unsent.ts';

/** What a source can do. Whoever needs one of these asks for it, and never where a model comes from. */
export interface SourceAbilities {
  /** Questions are answered, and checks made: there is a kernel. */
  readonly ask: boolean;
  /** What is kept outlives the page. */
  readonly keep: boolean;
  /** Files can be added as revisions. */
  readonly upload: boolean;
  /** What others make of the model is heard of. */
  readonly live: boolean;
}

/** Where a model comes from, and where what is made on it is kept: a server, a file, a fixture. */
export interface ModelSource {
  /** Which model it is. */
  readonly model: string;
  readonly can: SourceAbilities;
  structure(): Promise<ModelDetail>;
  /** The same of another revision. @throws Error with a sentence when it is gone */
  revision(revision: number): Promise<ModelDetail>;
  /** The container of one part's geometry. */
  geometry(hash: string, signal: AbortSignal): Promise<ArrayBuffer>;
  /** Puts a question to the kernel. @throws Error with a sentence, also where there is no kernel to ask */
  ask<Q extends QuestionName>(name: Q, asked: Questions[Q]['asked']): Promise<Questions[Q]['answered']>;
  readonly checks: CheckStore;
  readonly library: LibraryStore;
  readonly states: StateStore;
  readonly records: RecordStore;
  /** Where changes of records wait while they cannot be stored. */
  readonly outbox: Outbox;
}

/** What clashes with what: found by a job, which goes on when the page is left. */
export interface CheckStore {
  /**
   * @param among paths, or null for all @param some those that are checked with all others,
   * or null for each with each
   */
  ask(about: string, among: readonly string[] | null, some: readonly string[] | null): Promise<ClashCheck>;
  /** What is known by now. @throws Error with a sentence when it was given up */
  find(check: ClashCheck): Promise<ClashCheck>;
  /** The last one of this revision. */
  newest(): Promise<ClashCheck | null>;
  stop(check: ClashCheck): Promise<void>;
}

/** What people keep of the model, one thing a record. */
export interface RecordStore {
  /** Those that are kept; or those named, also where they lie in the bin. */
  list(ids?: readonly string[]): Promise<KeptRecord[]>;
  /** Those in the bin. */
  bin(): Promise<KeptRecord[]>;
  /** Each is answered for itself, in their order. @throws Error when nothing was stored */
  change(changes: readonly RecordChange[]): Promise<RecordAnswer[]>;
  /** Deletes one that lies in the bin for good. */
  purge(id: string): Promise<void>;
  /** Stores the picture of one that is stored. */
  setPicture(id: string, png: Blob): Promise<void>;
  /**
   * Hears of what anybody changes. @param opened told when something may have been
   * missed @returns what ends it
   */
  follow(hear: (event: RecordEvent) => void, opened: () => void): () => void;
}

/** Materials that were added to the library of the installation. @throws Error with a sentence */
export interface LibraryStore {
  list(): Promise<OwnMaterial[]>;
  save(material: OwnMaterial): Promise<void>;
  remove(id: string): Promise<void>;
}

/** What is kept of a model beside the model. */
export interface StateStore {
  /**
   * The state to open with, and the revision it was made on: the last one, or the one that a link leads to.
   */
  first(): Promise<KeptState>;
  saveLast(document: ViewState): Promise<void>;
  rename(name: string): Promise<void>;
  setThumbnail(png: Blob): Promise<void>;
  /** @returns the address that opens exactly this state, within the page's own */
  createLink(document: object): Promise<string>;
}

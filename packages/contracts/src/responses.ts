import type { LibraryMaterial } from '@bathyscope/core/mass';
import type { ModelStructure, ModelSummary } from '@bathyscope/core/model';
import type { Questions } from '@bathyscope/kernel/questions';

/** RFC 9457: what every error of the API looks like; `detail` is a sentence the user can act on. */
export interface Problem {
  type: string;
  title: string;
  status: number;
  detail: string;
}

export type JobState = 'queued' | 'running' | 'done' | 'failed' | 'cancelled';

/** A long computation. */
export interface JobView {
  id: string;
  /** Such as convert. */
  kind: string;
  state: JobState;
  /** What is being worked on, for the user: the file's name. */
  subject: string;
  /** Set while there is a model to show or to come. */
  modelId: string | null;
  stage: string;
  /** 0–1 */
  progress: number;
  problem: Problem | null;
  createdAt: string;
}

/** How the shelf is ordered: newest first, by name, largest file first. */
export type ShelfOrder = 'newest' | 'name' | 'size';

/** A tag of the shelf and how many models bear it. */
export interface TagCount {
  tag: string;
  count: number;
}

export interface ModelListItem {
  id: string;
  name: string;
  revision: number;
  fileName: string;
  fileSize: number;
  /** Of its file; null until it is converted. */
  format: string | null;
  createdAt: string;
  updatedAt: string;
  state: 'converting' | 'ready';
  /** Changes with the picture; null while there is none. */
  thumbnail: string | null;
  summary: ModelSummary | null;
  tags: string[];
}

export interface ModelDetail extends ModelListItem {
  /** Number of the newest revision, which this may not be. */
  newest: number;
  schema: string | null;
  lengthUnit: string | null;
  structure: ModelStructure;
  warnings: string[];
}

/** One revision of a model. */
export interface RevisionView {
  revision: number;
  fileName: string;
  fileSize: number;
  state: 'converting' | 'ready';
  createdAt: string;
  /** Who put it there; null for a program without a profile. */
  author: Who | null;
  /** What they say about it. */
  note: string;
}

/** What speaks for a file being the next revision of a model. */
export interface Likeness {
  /** Revision that it is compared with. */
  to: number;
  /** Both have the same name at the top of their structure. */
  sameRoot: boolean;
  /**
   * How many parts it has, how many the other had, and how many of those of the other are
   * there again by name or shape.
   */
  parts: number;
  before: number;
  common: number;
  /** Unit of the file, and of the other's; null where a file states none. */
  lengthUnit: string | null;
  unitBefore: string | null;
}

export interface UploadResult {
  model: ModelListItem;
  job: JobView | null;
  /** True when the same bytes were there already and `model` is that one. */
  duplicate: boolean;
  /** What became of the other files of the same request. */
  others: UploadOutcome[];
}

export type UploadOutcome = Omit<UploadResult, 'others'> | { refused: Problem };

/** A view-state document and the revision of the model that it was made on; null when there is none. */
export interface KeptState {
  document: unknown;
  revision: number;
}

/** What of a revision clashes with what, as far as it is known. */
export interface ClashCheck {
  id: string;
  /** What was checked, in words. */
  about: string;
  /** Whether each component of the model was checked with each other. */
  ofAll: boolean;
  /** The job that finds it: cancelling it ends the check. */
  jobId: string | null;
  state: 'running' | 'done';
  /** Pairs of components whose boxes meet; null before that is known. */
  pairs: number | null;
  done: number;
  /** Pairs that touch or clash, or of which nothing is known. */
  found: Questions['interference']['answered'];
}

/** Who made or changed something. */
export interface Who {
  /** Empty where the profile has none. */
  name: string;
  /** The one who asks. */
  you: boolean;
}

/** A thing that is kept of a model. */
export interface KeptRecord {
  /** Made by the page, so that sending it twice is one. */
  id: string;
  /** A name of the registry of kinds. */
  kind: string;
  /** Of its document. */
  version: number;
  document: Record<string, unknown>;
  /** Among those of its kind. */
  position: number;
  /** Address of its picture; null where there is none. */
  picture: string | null;
  /** Revision of the model that its references are of: that it was made on, or looked up and put right. */
  madeOn: number;
  author: Who | null;
  changedBy: Who | null;
  createdAt: string;
  changedAt: string;
  /** Since when it lies in the bin; null while it does not. */
  deletedAt: string | null;
  /** Counts the changes. */
  rev: number;
}

/** One record as it is to be. */
export interface RecordChange {
  id: string;
  kind: string;
  version: number;
  document: Record<string, unknown>;
  position: number;
  deleted: boolean;
  /** `rev` of what this was made of; null for a new one. */
  match: number | null;
  /**
   * Revision of the model that its references are of; absent where that is as it was, and
   * of a new one the newest.
   */
  madeOn?: number;
}

/** What became of one change of a record. */
export interface RecordAnswer {
  id: string;
  /** `changed`: someone else changed it meanwhile, and nothing was stored. */
  outcome: 'stored' | 'changed' | 'refused';
  /** As it is now; null where there is none. */
  record: KeptRecord | null;
  /** Why it was refused. */
  problem?: string;
}

/** That a record was changed. */
export interface RecordEvent {
  model: string;
  record: string;
  kind: string;
  rev: number;
}

/** That a model was changed, put into the bin or taken out of it. */
export interface ModelEvent {
  model: string;
}

/** A model that was taken off the shelf. */
export interface BinnedModel {
  id: string;
  name: string;
  deletedAt: string;
  /** When it is deleted for good. */
  until: string;
}

/** Who a browser is. */
export interface ProfileView {
  name: string;
  /** Whether a profile that it had before can be taken up again. */
  earlier: boolean;
}

/** A material that somebody added to the library of this installation. */
export type OwnMaterial = LibraryMaterial;

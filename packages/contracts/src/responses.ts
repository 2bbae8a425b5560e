import type { LibraryMaterial, ModelStructure, ModelSummary, ViewState } from '@bathyscope/core';
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
  format: string;
  createdAt: string;
  updatedAt: string;
  state: 'converting' | 'ready';
  /** Changes with the picture; null while there is none. */
  thumbnail: string | null;
  summary: ModelSummary | null;
  tags: string[];
}

export interface ModelDetail extends ModelListItem {
  schema: string | null;
  lengthUnit: string | null;
  structure: ModelStructure;
  warnings: string[];
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

/** Which parts of a saved view are taken when it is recalled. */
export interface RecallParts {
  camera: boolean;
  projection: boolean;
  visibility: boolean;
  style: boolean;
  section: boolean;
}

export interface SavedView {
  id: string;
  /** Of the model, that it was made on. */
  revision: number;
  name: string;
  /** The number key that recalls it. */
  slot: number | null;
  recall: RecallParts;
  document: ViewState;
  /** Address of its picture; null while there is none. */
  thumbnail: string | null;
}

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
  found: Questions['fit']['answered'];
}

/** What was set about a model, and how often that was changed; 0 when nothing was set. */
export interface ModelPreferences {
  values: Record<string, unknown> | null;
  version: number;
}

/** Who a browser is. */
export interface ProfileView {
  name: string;
  /** Whether a profile that it had before can be taken up again. */
  earlier: boolean;
}

/** A material that somebody added to the library of this installation. */
export type OwnMaterial = LibraryMaterial;

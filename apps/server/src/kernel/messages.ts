import type { ConvertStage, Places, QuestionName } from '@bathyscope/kernel';
import type { ModelStructure, ModelSummary } from '@bathyscope/core/model';

/** What a kernel thread is asked: one thing at a time. */
export type KernelRequest =
  | { type: 'convert'; bytes: Uint8Array; fileName: string }
  /** `shapes`: brotli, those that the thread does not hold. */
  | {
      type: 'ask';
      name: QuestionName;
      asked: object;
      places: Places;
      shapes: [hash: string, bytes: Uint8Array][];
    };

export interface StoredGeometry {
  hash: string;
  triangles: number;
  rawSize: number;
  /** brotli */
  container: Uint8Array;
  /** brotli; null where there is none to ask */
  shape: Uint8Array | null;
}

export interface ConvertOutcome {
  format: string;
  schema: string | null;
  lengthUnit: string | null;
  structure: ModelStructure;
  summary: ModelSummary;
  warnings: string[];
  /** Version of what made it. */
  converter: string;
}

/** What a kernel thread tells on the way. */
export type KernelNews =
  { type: 'progress'; stage: ConvertStage; share: number } | { type: 'geometry'; geometry: StoredGeometry };

/** How it ends. `heap`: bytes of the kernel's memory, which never shrinks. */
export type KernelEnd =
  | { type: 'converted'; outcome: ConvertOutcome; heap: number }
  | { type: 'answered'; answer: unknown; held: string[]; heap: number }
  /** `sentence` is for the user; `cause` is what the kernel said, for the log. */
  | { type: 'refused'; sentence: string; cause: string }
  /** A fault; `broken` when the instance may not be sound any more. */
  | { type: 'failed'; message: string; broken: boolean };

/** What a thread is for; in the background it takes what others leave. */
export type KernelRole = 'conversions' | 'background' | 'questions';

/** `converter`: of threads that convert, the version. */
export type KernelReply = { type: 'ready'; converter?: string } | KernelNews | KernelEnd;

import type { ConvertStage, CuttingFrame, LeastDistance, PlacedShape, ShapeSection } from '@bathyscope/kernel';
import type { ModelStructure, ModelSummary } from '@bathyscope/core';

/** What the server asks a kernel worker thread. */
export type KernelRequest =
  | { type: 'convert'; id: number; bytes: Uint8Array; name: string }
  | { type: 'load'; id: number; hash: string; shape: Uint8Array }
  | { type: 'distance'; id: number; a: PlacedShape; b: PlacedShape }
  | { type: 'section'; id: number; hash: string; frame: CuttingFrame };

export interface StoredGeometry {
  hash: string;
  triangles: number;
  rawSize: number;
  /** brotli */
  container: Uint8Array;
  /** brotli */
  shape: Uint8Array;
}

export interface ConvertOutcome {
  format: string;
  schema: string | null;
  lengthUnit: string | null;
  structure: ModelStructure;
  summary: ModelSummary;
  warnings: string[];
}

/** What a kernel worker thread reports. */
export type KernelReply =
  | { type: 'ready' }
  | { type: 'progress'; id: number; stage: ConvertStage; done: number; total: number }
  | { type: 'geometry'; id: number; geometry: StoredGeometry }
  | { type: 'converted'; id: number; outcome: ConvertOutcome; heap: number }
  | { type: 'loaded'; id: number; evicted: string[] }
  | { type: 'distance'; id: number; result: LeastDistance }
  | { type: 'section'; id: number; result: ShapeSection }
  /** `user`: the message is a sentence for the user; else it is a fault of ours. */
  | { type: 'error'; id: number; message: string; user: boolean };

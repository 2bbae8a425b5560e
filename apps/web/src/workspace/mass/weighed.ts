import type { TypedMass, Weighed } from '@bathyscope/core/mass';
import type { Material } from '@bathyscope/core/model';

/* What was weighed, as it is shown. */

/** A material, and who gave it. */
export type GivenMaterial = Material & { of: 'file' | 'part' | 'component'; id: string | null };

/**
 * A part of a set: its components, what it is made of, what one and all of them weigh (kg; null
 * where that is not known).
 */
export interface PartWeight {
  part: number;
  name: string;
  count: number;
  paths: string[];
  material: GivenMaterial | null;
  typed: TypedMass | null;
  /** Whether its mass follows from a density that was only assumed. */
  assumed: boolean;
  /** A sentence where it has no volume. */
  open: string | null;
  /** A sentence where it is placed at another size. */
  scaled: string | null;
  each: number | null;
  total: number | null;
}

/** What the chosen set weighs, and its parts. */
export interface WeighedSetNow {
  paths: readonly string[];
  /** Tells the set from others that something was worked out for. */
  key: string;
  weighed: Weighed;
  parts: readonly PartWeight[];
  /** Whether what a section leaves is still being worked out: nothing is claimed before. */
  pending: boolean;
  /** A sentence where that came to nothing. */
  failed?: string;
}

import { createHash } from 'node:crypto';
import type { PartGeometry } from '@bathyscope/core/geometry';
import type { ModelStructure } from '@bathyscope/core/model';
import { describePart } from '../describing/describe-part.ts';
import { clean, DEFAULT_MESH, type MeshSettings } from '../describing/mesh-shape.ts';
import { converterVersion } from '../converter-version.ts';
import type { LoadedKernel, Occt } from '../occt/load.ts';
import { readStep, type ReadStage } from './read-step.ts';

export interface ConvertedGeometry {
  hash: string;
  geometry: PartGeometry;
  /**
   * The source shape in the kernel's own text format, for questions asked later; null
   * where there is none to ask.
   */
  shape: Uint8Array | null;
}

export interface ConvertedModel {
  /** As its reader calls it. */
  format: string;
  /** Application protocol, such as AP214; null when the file names none. */
  schema: string | null;
  /** Of the file; null when it states none (millimetres are then assumed). */
  lengthUnit: string | null;
  structure: ModelStructure;
  /** Edges of construction geometry that belongs to no face, occurrences counted. */
  looseEdges: number;
  warnings: string[];
}

export type ConvertStage = ReadStage | 'meshing';

export interface ConvertHooks {
  /** `share` of the stage that is done, 0–1. */
  onProgress?: (stage: ConvertStage, share: number) => void;
  /** Called once for each distinct geometry, as soon as it is ready. */
  onGeometry: (geometry: ConvertedGeometry) => void;
}

/**
 * Reads a STEP file and describes each of its parts once.
 * @param name used for the model where the file gives no name
 * @throws ModelFileError with a sentence for the user
 */
export function convertStep(
  kernel: LoadedKernel,
  bytes: Uint8Array,
  name: string,
  hooks: ConvertHooks,
  settings: MeshSettings = DEFAULT_MESH,
): ConvertedModel {
  const progress = hooks.onProgress ?? (() => {});
  const model = readStep(kernel, bytes, name, (stage) => progress(stage, 0));
  try {
    const seen = new Set<string>();
    const warnings = [...model.warnings];
    model.parts.forEach((part, i) => {
      const tell = (share: number) => progress('meshing', (i + share) / model.parts.length);
      tell(0);
      const { hash, shape } = identify(kernel.oc, part.shape, settings);
      part.definition.geometry = hash;
      if (seen.has(hash)) return;
      seen.add(hash);
      const geometry = describePart(kernel.oc, part.shape, settings, throttled(tell));
      warnings.push(...geometry.warnings.map((w) => `${part.definition.name}: ${w}`));
      hooks.onGeometry({ hash, geometry, shape });
      clean(kernel.oc, part.shape);
    });
    progress('meshing', 1);
    return {
      format: 'STEP',
      schema: model.text.schema,
      lengthUnit: model.text.lengthUnit,
      structure: {
        ...model.structure,
        ...(model.text.uncertainty !== null && { uncertainty: model.text.uncertainty }),
      },
      looseEdges: model.looseEdges,
      warnings,
    };
  } finally {
    model.dispose();
  }
}

/** ms */
const BETWEEN_NEWS = 200;

/** Lets news through so often at most: a part of thousands of faces would spend its time on them. */
function throttled(tell: (share: number) => void): (share: number) => void {
  let last = performance.now();
  return (share) => {
    if (performance.now() - last < BETWEEN_NEWS) return;
    last = performance.now();
    tell(share);
  };
}

/** The stored form of a shape, without its mesh. */
export function serialise(oc: Occt, shape: Occt): Uint8Array {
  clean(oc, shape);
  const progress = new oc.Message_ProgressRange_1();
  oc.BRepTools.Write_3(shape, '/part.brep', progress);
  progress.delete();
  const bytes = oc.FS.readFile('/part.brep') as Uint8Array;
  oc.FS.unlink('/part.brep');
  return bytes;
}

/** The stored form of a shape and its identity: source shape, kernel version and meshing settings. */
function identify(oc: Occt, shape: Occt, settings: MeshSettings): { hash: string; shape: Uint8Array } {
  const bytes = serialise(oc, shape);
  const hash = createHash('sha256')
    .update(converterVersion())
    .update(JSON.stringify(settings))
    .update(bytes)
    .digest('hex')
    .slice(0, 40);
  return { hash, shape: bytes };
}

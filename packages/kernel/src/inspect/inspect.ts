import fs from 'node:fs';
import path from 'node:path';
import { withinOf, type PartGeometry, type SumAccuracy } from '@bathyscope/core/geometry';
import type { GivenByTable } from '@bathyscope/core/mass';
import { EMPTY_BOX, type Vec3 } from '@bathyscope/core/math';
import {
  componentsOf,
  listOccurrences,
  summariseModel,
  type ModelCounts,
  type StructureNode,
  type ModelStructure,
} from '@bathyscope/core/model';
import { inspectClash, type InspectedClash } from './inspect-clash.ts';
import { inspectHoles, type InspectedHole } from './inspect-holes.ts';
import { inspectMass, type InspectedMass } from './inspect-mass.ts';
import { inspectMeasure, type InspectedFigure, type MeasuredReference } from './inspect-measure.ts';
import { inspectSection, type CutPlaneAsked, type InspectedSection } from './inspect-section.ts';
import { modelName, readerOf } from '../reading/readers/index.ts';
import type { LoadedKernel } from '../occt/load.ts';
import { ShapeSession } from '../shapes/shape-session.ts';
import { ModelFileError } from '../reading/step-text.ts';

export interface InspectionNode {
  name: string;
  part?: string;
  children?: InspectionNode[];
}

/** What `bin/inspect --json` prints: mm, mm², mm³, mm⁵. */
export interface Inspection {
  format: string;
  schema: string | null;
  lengthUnit: string | null;
  counts: Omit<ModelCounts, 'triangles'>;
  box: { min: Vec3; max: Vec3 } | null;
  volume: number | null;
  /** Relative: a bound, unless `volumeAccuracy` says that it is an estimate. */
  volumeErrorEstimate: number | null;
  volumeAccuracy: SumAccuracy['kind'] | null;
  area: number;
  centreOfGravity: Vec3 | null;
  /** About the centre of gravity; tensor with minus the products of inertia off the diagonal. */
  inertia: readonly [Vec3, Vec3, Vec3] | null;
  structure: InspectionNode;
  warnings: string[];
  section?: InspectedSection;
  holes?: InspectedHole[];
  figures?: InspectedFigure[];
  clashes?: InspectedClash[];
  mass?: InspectedMass;
}

/** What is wanted besides. */
export interface InspectionWishes {
  section?: CutPlaneAsked;
  holes?: boolean;
  clash?: boolean;
  /** What parts are made of beside what the file says, by name. */
  mass?: ReadonlyMap<string, GivenByTable>;
  /** One thing, or two. */
  measure?: MeasuredReference[];
}

/**
 * A model file by its path, or of a revision by its address (http://…/models/ID or …/models/ID/revisions/2).
 * @throws ModelFileError with a sentence
 */
export async function openModelFile(file: string): Promise<{ bytes: Uint8Array; fileName: string }> {
  if (/^https?:\/\//i.test(file)) return fetchRevision(file);
  try {
    return { bytes: fs.readFileSync(file), fileName: path.basename(file) };
  } catch (error) {
    const code = (error as NodeJS.ErrnoException).code;
    const why =
      code === 'ENOENT'
        ? 'there is no such file'
        : code === 'EACCES'
          ? 'it may not be read'
          : code === 'EISDIR'
            ? 'it is a folder'
            : String(code);
    throw new ModelFileError(`${file} cannot be opened: ${why}.`);
  }
}

async function fetchRevision(address: string): Promise<{ bytes: Uint8Array; fileName: string }> {
  const [, base, id, revision] =
    /^(https?:\/\/.*?\/)(?:api\/)?models\/([0-9a-f-]{36})(?:\/revisions\/(\d+))?/i.exec(address) ?? [];
  if (!id)
    throw new ModelFileError(
      `${address} is no address of a model. Copy it from the page: …/models/ID or …/models/ID/revisions/2.`,
    );
  const get = async (path: string): Promise<Response> => {
    const answer = await fetch(`${base}api/models/${id}${path}`).catch((error: Error) => {
      throw new ModelFileError(
        `${base} cannot be reached: ${String((error.cause as Error | undefined)?.message ?? error.message)}.`,
      );
    });
    if (answer.ok) return answer;
    const problem = (await answer.json().catch(() => null)) as { detail?: string } | null;
    throw new ModelFileError(
      `${address} cannot be opened: ${problem?.detail ?? `the server answered ${answer.status}`}`,
    );
  };
  const { revision: shown, fileName } = (await (
    await get(revision ? `/revisions/${revision}` : '')
  ).json()) as {
    revision: number;
    fileName: string;
  };
  const source = await get(`/revisions/${shown}/source`);
  return { bytes: new Uint8Array(await source.arrayBuffer()), fileName };
}

/** Reads a model and reports on it. @throws ModelFileError with a sentence */
export function inspectModel(
  kernel: LoadedKernel,
  { bytes, fileName }: { bytes: Uint8Array; fileName: string },
  wishes: InspectionWishes = {},
): Inspection {
  const geometries = new Map<string, PartGeometry>();
  const session = new ShapeSession(kernel, Infinity);
  const model = readerOf(fileName).read(kernel, bytes, modelName(fileName), {
    onGeometry: ({ hash, geometry, shape }) => {
      geometries.set(hash, geometry);
      if (shape && (wishes.section || wishes.measure || wishes.clash)) session.load(hash, shape);
    },
  });
  const components = componentsOf(listOccurrences(model.structure));
  const hashOf = (part: number) => model.structure.parts[part].geometry!;
  const geometryOf = (part: number) => geometries.get(hashOf(part))!;
  const known = (part: number) => ({ hash: hashOf(part), geometry: geometryOf(part) });
  const summary = summariseModel(model.structure, geometryOf);
  const { triangles: _, ...counts } = summary.counts;
  return {
    format: model.format,
    schema: model.schema,
    lengthUnit: model.lengthUnit,
    counts: { ...counts, edges: counts.edges + model.looseEdges },
    box: summary.box,
    volume: summary.mass?.volume ?? null,
    volumeErrorEstimate:
      summary.mass && Math.max(summary.mass.volumeErrorEstimate, withinOf(summary.mass.accuracy)),
    volumeAccuracy: summary.mass?.accuracy.kind ?? null,
    area: summary.area,
    centreOfGravity: summary.mass?.centreOfGravity ?? null,
    inertia: summary.mass?.inertia ?? null,
    structure: nodeOf(model.structure.root, model.structure),
    warnings: model.warnings,
    ...(wishes.section && {
      section: inspectSection(wishes.section, components, known, summary.box ?? EMPTY_BOX, session),
    }),
    ...(wishes.measure && {
      figures: inspectMeasure(wishes.measure, components, known, session, model.structure.uncertainty),
    }),
    ...(wishes.mass && { mass: inspectMass(components, model.structure.parts, geometryOf, wishes.mass) }),
    ...(wishes.clash && { clashes: inspectClash(components, known, session) }),
    ...(wishes.holes && {
      holes: inspectHoles(components, (part) => model.structure.parts[part].name, geometryOf),
    }),
  };
}

function nodeOf(node: StructureNode, structure: ModelStructure): InspectionNode {
  return {
    name: node.instanceName ?? node.name,
    ...(node.part !== undefined && { part: structure.parts[node.part].name }),
    ...(node.children && { children: node.children.map((child) => nodeOf(child, structure)) }),
  };
}

import fs from 'node:fs';
import path from 'node:path';
import { summariseModel, type ModelCounts, type PartGeometry, type StructureNode, type ModelStructure, type Vec3 } from '@bathyscope/core';
import { modelName, readerOf } from './readers/index.ts';
import type { LoadedKernel } from './occt/load.ts';
import { ModelFileError } from './step-text.ts';

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
  /** Relative error bound of the integration. */
  volumeErrorEstimate: number | null;
  area: number;
  centreOfGravity: Vec3 | null;
  /** About the centre of gravity; tensor with minus the products of inertia off the diagonal. */
  inertia: readonly [Vec3, Vec3, Vec3] | null;
  structure: InspectionNode;
  warnings: string[];
}

/** Reads a model file and reports on it. @throws ModelFileError with a sentence */
export function inspectFile(kernel: LoadedKernel, file: string): Inspection {
  let bytes: Uint8Array;
  try {
    bytes = fs.readFileSync(file);
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
  const geometries = new Map<string, PartGeometry>();
  const fileName = path.basename(file);
  const model = readerOf(fileName).read(kernel, bytes, modelName(fileName), {
    onGeometry: ({ hash, geometry }) => geometries.set(hash, geometry),
  });
  const summary = summariseModel(model.structure, (part) => geometries.get(model.structure.parts[part].geometry!)!);
  const { triangles: _, ...counts } = summary.counts;
  return {
    format: model.format,
    schema: model.schema,
    lengthUnit: model.lengthUnit,
    counts: { ...counts, edges: counts.edges + model.looseEdges },
    box: summary.box,
    volume: summary.mass?.volume ?? null,
    volumeErrorEstimate: summary.mass?.volumeErrorEstimate ?? null,
    area: summary.area,
    centreOfGravity: summary.mass?.centreOfGravity ?? null,
    inertia: summary.mass?.inertia ?? null,
    structure: nodeOf(model.structure.root, model.structure),
    warnings: model.warnings,
  };
}

function nodeOf(node: StructureNode, structure: ModelStructure): InspectionNode {
  return {
    name: node.instanceName ?? node.name,
    ...(node.part !== undefined && { part: structure.parts[node.part].name }),
    ...(node.children && { children: node.children.map((child) => nodeOf(child, structure)) }),
  };
}

import { IDENTITY, isMirrored, multiply, type Mat4 } from '../math/mat4.ts';
import type { Vec3 } from '../math/vec3.ts';

export interface Material {
  name: string;
  /** kg/m³; null where the file names a material without one. */
  density: number | null;
}

/** A part: a name, colours and a material over a geometry, which several parts may share. */
export interface PartDefinition {
  name: string;
  /** Hash of the geometry, or null for a part without faces. */
  geometry: string | null;
  /** sRGB 0–1 */
  colour?: Vec3;
  /** sRGB 0–1 by face index, where the file colours single faces. */
  faceColours?: Record<number, Vec3>;
  material?: Material;
}

/** A node of the product structure: an assembly when it has children, a component when it has a part. */
export interface StructureNode {
  /** The product's name. */
  name: string;
  /** The occurrence's own name, where the file gives one that says more than the product's. */
  instanceName?: string;
  /** Relative to the parent. */
  placement: Mat4;
  colour?: Vec3;
  part?: number;
  children?: StructureNode[];
}

export interface ModelStructure {
  root: StructureNode;
  parts: PartDefinition[];
  /** mm: how well the file says it knows its lengths; absent where it does not. */
  uncertainty?: number;
}

/**
 * Path of occurrence ids with ordinals from the root, such as `./Body group/Hex bolt~3`: how a component is
 * known. The root's own name is not in it, for that is the file's.
 */
export type ComponentPath = string;

/** One row of the structure, with everything resolved from the root down. */
export interface Occurrence {
  path: ComponentPath;
  parent: ComponentPath | null;
  depth: number;
  name: string;
  instanceName?: string;
  placement: Mat4;
  mirrored: boolean;
  /** Set for components; absent for assemblies. */
  part?: number;
  /** Resolved: the occurrence's own colour, else the part's, else the nearest assembly's. */
  colour?: Vec3;
  children: ComponentPath[];
}

/** The path of the root. */
export const ROOT = '.';

/**
 * A path as it was written before version 3 of view states, when it began with the name of the root. What is
 * a path of today already stays.
 */
export const migratePath = (path: ComponentPath): ComponentPath => path.replace(/^[^/]*/, ROOT);

const escapeName = (name: string): string =>
  name.replace(/%/g, '%25').replace(/\//g, '%2F').replace(/~/g, '%7E');

/**
 * Every occurrence of the structure in depth-first order, the root first. Names repeat among siblings, so
 * each gets an ordinal.
 */
export function listOccurrences(structure: ModelStructure): Occurrence[] {
  const list: Occurrence[] = [];
  const visit = (node: StructureNode, parent: Occurrence | null, id: string, inherited: Vec3 | undefined) => {
    const placement = parent ? multiply(parent.placement, node.placement) : node.placement;
    const part = node.part === undefined ? undefined : structure.parts[node.part];
    const occurrence: Occurrence = {
      path: parent ? `${parent.path}/${id}` : id,
      parent: parent?.path ?? null,
      depth: parent ? parent.depth + 1 : 0,
      name: node.name,
      instanceName: node.instanceName,
      placement,
      mirrored: isMirrored(placement),
      part: node.part,
      colour: node.colour ?? part?.colour ?? inherited,
      children: [],
    };
    list.push(occurrence);
    const ordinals = new Map<string, number>();
    for (const child of node.children ?? []) {
      const base = escapeName(child.name);
      const ordinal = (ordinals.get(base) ?? 0) + 1;
      ordinals.set(base, ordinal);
      const childId = ordinal === 1 ? base : `${base}~${ordinal}`;
      occurrence.children.push(`${occurrence.path}/${childId}`);
      visit(child, occurrence, childId, node.colour ?? inherited);
    }
  };
  visit(structure.root, null, ROOT, undefined);
  return list;
}

/** The components (occurrences that hold a part) among the occurrences. */
export const componentsOf = (occurrences: readonly Occurrence[]): (Occurrence & { part: number })[] =>
  occurrences.filter((o): o is Occurrence & { part: number } => o.part !== undefined);

export const wholeModel = (name: string, part: number): StructureNode => ({
  name,
  part,
  placement: IDENTITY,
});

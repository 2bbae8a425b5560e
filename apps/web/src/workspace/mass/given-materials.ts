import { componentMaterial, partMaterial, typedMass } from '@bathyscope/contracts/records';
import { lookOfMaterial, MATERIAL_LOOKS, toneOfMaterial, type TypedMass } from '@bathyscope/core/mass';
import type { Vec3 } from '@bathyscope/core/math';
import type { Material } from '@bathyscope/core/model';
import { stateOf } from '@bathyscope/core/visibility';
import { findMaterial } from '../keeping/library.ts';
import { changeRecords, givenTo, keptAt } from '../keeping/records.ts';
import type { Workspace } from '../workspace.ts';

/*
 * What things are made of: what was given here to a component goes before what was given to its part, and
 * that before the file. A typed mass goes before all of it.
 */

/** A material, and who gave it. */
export type GivenMaterial = Material & { of: 'file' | 'part' | 'component'; id: string | null };

/** The material of a part, or of one component of it, and who gave it; null where there is none. */
export function materialOf(ws: Workspace, part: number, path?: string): GivenMaterial | null {
  const { detail, partKeys } = ws.model.getState();
  const own =
    path === undefined ? undefined : findMaterial(ws, keptAt(ws, componentMaterial, path)?.material);
  if (own) return { name: own.name, density: own.density, of: 'component', id: own.id };
  const given = findMaterial(ws, keptAt(ws, partMaterial, partKeys[part])?.material);
  if (given) return { name: given.name, density: given.density, of: 'part', id: given.id };
  const { material } = detail?.structure?.parts[part] ?? {};
  return material ? { ...material, of: 'file', id: null } : null;
}

export interface Appearance {
  /** What its material looks like, in `MATERIAL_LOOKS`. */
  look: number;
  /**
   * The colour its material has of itself, in `MATERIAL_TONES`; −1 where it has none or another was chosen.
   */
  tone: number;
  /** The file gives it no colour: its own is one of the palette. */
  colourless: boolean;
}

/** How a component looks by its material. */
export function appearanceOf(
  ws: Workspace,
  { part, path, colour }: { part: number; path: string; colour?: Vec3 },
): Appearance {
  const material = materialOf(ws, part, path);
  const colourless = !colour;
  if (!material) return { look: 0, tone: -1, colourless };
  const family = material.id ? findMaterial(ws, material.id)?.family : undefined;
  const chosen = stateOf(ws.visibility.getState().states, path).colour !== undefined;
  return {
    look: MATERIAL_LOOKS.indexOf(lookOfMaterial(material.name, family)),
    tone: chosen ? -1 : toneOfMaterial(material.name, family),
    colourless,
  };
}

/** Gives parts a material of the library, or with null what the file says again; one step back. */
export function giveMaterial(ws: Workspace, parts: readonly number[], id: string | null): void {
  const { partKeys, detail, components } = ws.model.getState();
  const wanted = new Set(parts);
  // What is given to all of a part is not overruled by what one of them had.
  const overruled = components.filter(({ part }) => wanted.has(part));
  const what =
    parts.length === 1 ? `“${detail?.structure?.parts[parts[0]].name ?? 'part'}”` : `${parts.length} parts`;
  changeRecords(ws, materialName(ws, id, what), [
    ...givenTo(
      ws,
      partMaterial,
      [...new Set(parts.map((part) => partKeys[part]))],
      (part) => id && { part, material: id },
    ),
    ...givenTo(
      ws,
      componentMaterial,
      overruled.map(({ path }) => path),
      () => null,
    ),
  ]);
}

/** Gives single components a material, or with null that of their part again. */
export function giveToComponents(ws: Workspace, paths: readonly string[], id: string | null): void {
  const what = paths.length === 1 ? 'one component' : `${paths.length} components`;
  changeRecords(
    ws,
    materialName(ws, id, what),
    givenTo(ws, componentMaterial, paths, (component) => id && { component, material: id }),
  );
}

const materialName = (ws: Workspace, id: string | null, what: string): string =>
  id ? `${findMaterial(ws, id)?.name ?? 'material'} for ${what}` : `material of ${what} as it was`;

/** What a part weighs by hand, or with null by its material again. */
export function typeMass(ws: Workspace, part: number, typed: TypedMass | null): void {
  const { partKeys, detail } = ws.model.getState();
  const name = `mass of “${detail?.structure?.parts[part].name ?? 'part'}”`;
  changeRecords(
    ws,
    name,
    givenTo(ws, typedMass, [partKeys[part]], (key) => typed && { ...typed, part: key }),
  );
}

export const typedMassOf = (ws: Workspace, part: number): TypedMass | null =>
  keptAt(ws, typedMass, ws.model.getState().partKeys[part]) ?? null;

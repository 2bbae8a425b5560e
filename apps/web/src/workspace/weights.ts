import { materialById, weigh, type Material, type Weighed } from '@bathyscope/core';
import { componentsBelow } from './components.ts';
import { perform } from './perform.ts';
import { visiblePaths } from './shown.ts';
import type { Workspace } from './workspace.ts';

/* What things weigh: materials given here go before those of the file. */

/** The material of a part, by its number, and whether the file gives it or somebody here did; null where there is none. */
export function materialOf(ws: Workspace, part: number): (Material & { of: 'file' | 'library' }) | null {
  const { detail, partKeys } = ws.model.getState();
  const given = materialById(ws.preference.getState().materials[partKeys[part]] ?? '');
  if (given) return { name: given.name, density: given.density, of: 'library' };
  const { material } = detail?.structure?.parts[part] ?? {};
  return material ? { ...material, of: 'file' } : null;
}

/** Gives parts a material of the library, or with null what the file says again; one step back. */
export function giveMaterial(ws: Workspace, parts: readonly number[], id: string | null): void {
  const { partKeys, detail } = ws.model.getState();
  const materials = { ...ws.preference.getState().materials };
  for (const part of parts)
    if (id) materials[partKeys[part]] = id;
    else delete materials[partKeys[part]];
  const what = parts.length === 1 ? `“${detail?.structure?.parts[parts[0]].name ?? 'part'}”` : `${parts.length} parts`;
  perform(ws, id ? `${materialById(id)!.name} for ${what}` : `material of ${what} as in the file`, ws.preference, { materials });
}

export type WeighedSet = 'all' | 'shown' | 'picked';

/** Paths of the components of a set. */
export function pathsOf(ws: Workspace, set: WeighedSet): string[] {
  if (set === 'shown') return visiblePaths(ws);
  if (set === 'all') return ws.model.getState().components.map((c) => c.path);
  const { picked } = ws.selection.getState();
  return [...new Set(picked.filter((p) => p.datum === undefined).flatMap((p) => componentsBelow(ws, p.component)))];
}

export function weightOf(ws: Workspace, paths: readonly string[]): Weighed {
  const { byPath, parts } = ws.model.getState();
  return weigh(
    paths.flatMap((path) => {
      const occurrence = byPath.get(path);
      if (occurrence?.part === undefined) return [];
      const figures = parts.get(occurrence.part)?.geometry.mass ?? null;
      return [{ figures, placement: occurrence.placement, density: materialOf(ws, occurrence.part)?.density ?? null }];
    }),
  );
}

/** A part of a set: its components, what it is made of, what one and all of them weigh (kg; null where that is not known). */
export interface PartWeight {
  part: number;
  name: string;
  count: number;
  paths: string[];
  material: ReturnType<typeof materialOf>;
  /** A sentence where it has no volume. */
  open: string | null;
  each: number | null;
  total: number | null;
}

/** The parts of a set, what is not known first, then the heaviest. */
export function partWeights(ws: Workspace, paths: readonly string[]): PartWeight[] {
  const { byPath, detail, parts } = ws.model.getState();
  const byPart = new Map<number, string[]>();
  for (const path of paths) {
    const part = byPath.get(path)?.part;
    if (part !== undefined) byPart.set(part, [...(byPart.get(part) ?? []), path]);
  }
  return [...byPart]
    .map(([part, its]): PartWeight => {
      const geometry = parts.get(part)?.geometry;
      const total = weightOf(ws, its).known?.mass ?? null;
      return {
        part,
        name: detail?.structure?.parts[part].name ?? '',
        count: its.length,
        paths: its,
        material: materialOf(ws, part),
        open: geometry?.mass ? null : 'no volume: it is not a closed solid',
        each: total === null ? null : total / its.length,
        total,
      };
    })
    .sort((a, b) => (b.total ?? Infinity) - (a.total ?? Infinity));
}

import { componentMaterial, partMaterial, typedMass } from '@bathyscope/contracts/records';
import {
  lookOfMaterial,
  MATERIAL_LOOKS,
  placeMass,
  toneOfMaterial,
  weigh,
  type TypedMass,
  type Weighable,
  type Weighed,
} from '@bathyscope/core/mass';
import { boxCentre, IDENTITY, determinant3, type Mat4, type Vec3 } from '@bathyscope/core/math';
import { stateOf } from '@bathyscope/core/visibility';
import type { WeighedSet } from '../../state/mass-store.ts';
import { componentsBelow } from '../shown/components.ts';
import { derived } from '../derived/derived.ts';
import { keptSide, type ClippedMasses } from './kept-side.ts';
import { findMaterial } from '../keeping/library.ts';
import { changeRecords, givenTo, keptAt } from '../keeping/records.ts';
import type { GivenMaterial, PartWeight, WeighedSetNow } from './weighed.ts';
import { visiblePaths } from '../shown/shown.ts';
import type { Workspace } from '../workspace.ts';

/*
 * What things weigh: what was given here to a component goes before what was given to its part, and that
 * before the file.
 */

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

/** Paths of the components of a set; the kept side is one of what is shown. */
export function pathsOf(ws: Workspace, set: WeighedSet): readonly string[] {
  if (set === 'shown' || set === 'kept') return visiblePaths(ws);
  if (set === 'all') return ws.model.getState().components.map((c) => c.path);
  const { picked } = ws.selection.getState();
  return [
    ...new Set(picked.filter((p) => p.datum === undefined).flatMap((p) => componentsBelow(ws, p.component))),
  ];
}

/** One component as it is weighed. */
function weighable(ws: Workspace, path: string, clipped?: ClippedMasses): Weighable | null {
  const { byPath, parts } = ws.model.getState();
  const occurrence = byPath.get(path);
  if (occurrence?.part === undefined) return null;
  const geometry = parts.get(occurrence.part)?.geometry;
  const material = materialOf(ws, occurrence.part, path);
  const typed = typedMassOf(ws, occurrence.part);
  const { assumed } = ws.mass.getState();
  const density = material?.density ?? null;
  const common = { density: density ?? assumed, assumed: density === null && assumed !== null };
  if (clipped?.has(path)) {
    const figures = clipped.get(path) ?? null;
    // Nothing is left of it: it is no component without a volume, it is not there.
    if (!figures) return null;
    const whole = geometry?.mass && placeMass(geometry.mass, occurrence.placement).volume;
    const share = typed && whole ? { kg: (typed.kg * figures.volume) / whole, at: null } : null;
    return { ...common, figures, placement: IDENTITY, area: figures.area, typed: share };
  }
  return {
    ...common,
    figures: geometry?.mass ?? null,
    placement: occurrence.placement,
    area: geometry?.area ?? 0,
    typed,
    middle: geometry && boxCentre(geometry.box),
  };
}

/** What components weigh. @param clipped what a section leaves of them, where only that is to be weighed */
export const weightOf = (ws: Workspace, paths: readonly string[], clipped?: ClippedMasses): Weighed =>
  weigh(paths.flatMap((path) => weighable(ws, path, clipped) ?? []));

/** What the chosen set weighs, and its parts. */
export const weighedSet = derived('what the chosen set weighs', (ws): WeighedSetNow => {
  const { set } = ws.mass.getState();
  const paths = ws.model.getState().status === 'ready' ? pathsOf(ws, set) : [];
  const key = paths.join('\n');
  if (set !== 'kept')
    return { paths, key, weighed: weightOf(ws, paths), parts: partWeights(ws, paths), pending: false };
  const clipped = ws.derived.of(keptSide.known);
  if (clipped.state !== 'ready') {
    const failed = clipped.state === 'failed' && {
      failed:
        'What the section leaves could not be worked out. Move a plane a little, and it is tried again.',
    };
    return { paths, key, weighed: weigh([]), parts: [], pending: clipped.state === 'pending', ...failed };
  }
  const there = paths.filter((path) => clipped.value.get(path) !== null);
  return {
    paths: there,
    key,
    weighed: weightOf(ws, there, clipped.value),
    parts: partWeights(ws, there, clipped.value),
    pending: false,
  };
});

/**
 * The parts of a set, what is not known first, then the heaviest. Components with a material of
 * their own are told apart.
 */
export function partWeights(ws: Workspace, paths: readonly string[], clipped?: ClippedMasses): PartWeight[] {
  const { byPath, detail, parts } = ws.model.getState();
  const { assumed } = ws.mass.getState();
  const groups = new Map<string, { part: number; paths: string[] }>();
  for (const path of paths) {
    const part = byPath.get(path)?.part;
    if (part === undefined) continue;
    const key = `${part} ${keptAt(ws, componentMaterial, path)?.material ?? ''}`;
    const group = groups.get(key);
    if (group) group.paths.push(path);
    else groups.set(key, { part, paths: [path] });
  }
  return [...groups.values()]
    .map(({ part, paths: its }): PartWeight => {
      const geometry = parts.get(part)?.geometry;
      const total = weightOf(ws, its, clipped).known?.mass ?? null;
      const material = materialOf(ws, part, its[0]);
      const typed = typedMassOf(ws, part);
      const sizes = its.map((p) => scaleOf(byPath.get(p)!.placement)).filter((s) => s !== 1);
      return {
        part,
        name: detail?.structure?.parts[part].name ?? '',
        count: its.length,
        paths: its,
        material,
        typed,
        assumed: !typed && !material?.density && assumed !== null,
        open: geometry?.mass ? null : openReason(ws, part),
        scaled: sizes.length
          ? `${sizes.length} of them placed at ${sizes[0]} times the size: weighed at the size they are placed at`
          : null,
        each: total === null ? null : total / its.length,
        total,
      };
    })
    .sort((a, b) => (b.total ?? Infinity) - (a.total ?? Infinity));
}

/** Six digits: what rotations leave of a scale of one is rounding. */
const scaleOf = (placement: Mat4): number => {
  const factor = Math.cbrt(Math.abs(determinant3(placement)));
  return Number(factor.toPrecision(6));
};

/** Why a part has no volume. */
export function openReason(ws: Workspace, part: number): string {
  const geometry = ws.model.getState().parts.get(part)?.geometry;
  if (!geometry) return 'no volume: its geometry is not there';
  if (!geometry.bodies.length) return 'no volume: it holds lines or points only';
  const free = openEdges(ws, part).length;
  const open = geometry.bodies.filter((b) => !b.closed).length;
  const shells = open === 1 ? 'an open shell' : `${open} open shells`;
  return free
    ? `no volume: ${shells}, ${free} free ${free === 1 ? 'edge' : 'edges'}`
    : `no volume: ${shells} that no solid is made of`;
}

/** Edges that bound one face only. */
export function openEdges(ws: Workspace, part: number): number[] {
  const geometry = ws.model.getState().parts.get(part)?.geometry;
  return geometry
    ? geometry.edges.flatMap((e, i) => (!e.seam && e.faces.length === 1 && e.length > 0 ? [i] : []))
    : [];
}

/** Masses by material, for the chart and the table; what has none comes last. */
export function materialWeights(
  parts: readonly PartWeight[],
): { name: string; mass: number; paths: string[] }[] {
  const by = new Map<string, { name: string; mass: number; paths: string[] }>();
  for (const { material, typed, assumed, total, paths } of parts) {
    if (total === null) continue;
    const name = typed ? 'typed in' : assumed ? 'assumed' : (material?.name ?? 'no material');
    const row = by.get(name) ?? { name, mass: 0, paths: [] };
    by.set(name, { name, mass: row.mass + total, paths: [...row.paths, ...paths] });
  }
  return [...by.values()].sort((a, b) => b.mass - a.mass);
}

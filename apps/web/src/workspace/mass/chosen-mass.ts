import { componentMaterial } from '@bathyscope/contracts/records';
import { massOfSet, placeMass, type MassInput, type SetMass, type TypedMass } from '@bathyscope/core/mass';
import { boxCentre, IDENTITY, determinant3, type Mat4 } from '@bathyscope/core/math';
import type { MassSet } from '../../state/mass-store.ts';
import { componentsBelow } from '../shown/components.ts';
import { derived } from '../derived/derived.ts';
import { keptSide, type ClippedMasses } from './kept-side.ts';
import { keptAt } from '../keeping/records.ts';
import { materialOf, typedMassOf, type GivenMaterial } from './given-materials.ts';
import { openReason } from './open-edges.ts';
import { visiblePaths } from '../shown/shown.ts';
import type { Workspace } from '../workspace.ts';

/* What the chosen set of components weighs, by part and by material. */

/**
 * A part of a set: its components, what it is made of, what one and all of them weigh (kg; null
 * where that is not known).
 */
export interface PartMass {
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
export interface ChosenMass {
  paths: readonly string[];
  /** Tells the set from others that something was worked out for. */
  key: string;
  weighed: SetMass;
  parts: readonly PartMass[];
  /** Whether what a section leaves is still being worked out: nothing is claimed before. */
  pending: boolean;
  /** A sentence where that came to nothing. */
  failed?: string;
}

/** Paths of the components of a set; the kept side is one of what is shown. */
export function pathsOf(ws: Workspace, set: MassSet): readonly string[] {
  if (set === 'shown' || set === 'kept') return visiblePaths(ws);
  if (set === 'all') return ws.model.getState().components.map((c) => c.path);
  const { picked } = ws.selection.getState();
  return [
    ...new Set(picked.filter((p) => p.datum === undefined).flatMap((p) => componentsBelow(ws, p.component))),
  ];
}

/** One component as it is weighed. */
function massInputOf(ws: Workspace, path: string, clipped?: ClippedMasses): MassInput | null {
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
export const setMassOf = (ws: Workspace, paths: readonly string[], clipped?: ClippedMasses): SetMass =>
  massOfSet(paths.flatMap((path) => massInputOf(ws, path, clipped) ?? []));

/** What the chosen set weighs, and its parts. */
export const chosenMass = derived('what the chosen set weighs', (ws): ChosenMass => {
  const { set } = ws.mass.getState();
  const paths = ws.model.getState().status === 'ready' ? pathsOf(ws, set) : [];
  const key = paths.join('\n');
  if (set !== 'kept')
    return { paths, key, weighed: setMassOf(ws, paths), parts: partMasses(ws, paths), pending: false };
  const clipped = ws.derived.of(keptSide.known);
  if (clipped.state !== 'ready') {
    const failed = clipped.state === 'failed' && {
      failed:
        'What the section leaves could not be worked out. Move a plane a little, and it is tried again.',
    };
    return { paths, key, weighed: massOfSet([]), parts: [], pending: clipped.state === 'pending', ...failed };
  }
  const there = paths.filter((path) => clipped.value.get(path) !== null);
  return {
    paths: there,
    key,
    weighed: setMassOf(ws, there, clipped.value),
    parts: partMasses(ws, there, clipped.value),
    pending: false,
  };
});

/**
 * The parts of a set, what is not known first, then the heaviest. Components with a material of
 * their own are told apart.
 */
export function partMasses(ws: Workspace, paths: readonly string[], clipped?: ClippedMasses): PartMass[] {
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
    .map(({ part, paths: its }): PartMass => {
      const geometry = parts.get(part)?.geometry;
      const total = setMassOf(ws, its, clipped).known?.mass ?? null;
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

/** Masses by material, for the chart and the table; what has none comes last. */
export function massesByMaterial(
  parts: readonly PartMass[],
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

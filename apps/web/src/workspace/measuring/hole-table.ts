import { stepsText } from '@bathyscope/core/facts';
import type { Hole } from '@bathyscope/core/geometry';
import { likelyFor } from '@bathyscope/core/holes';
import { formatQuantity, type UnitStyle } from '@bathyscope/core/units';
import {
  dot,
  MODEL_SYSTEM,
  normalize,
  transformDirection,
  transformPoint,
  vecOf,
  type Vec3,
} from '@bathyscope/core/math';
import { directionIn, pointIn } from '@bathyscope/core/measure';
import { MEASURED_SAME, PARALLEL_PLANES } from '@bathyscope/core/tolerances';
import type { Picked } from '../../state/selection-store.ts';
import { derivedBy } from '../derived/derived.ts';
import { componentsBelow } from '../shown/components.ts';
import { visiblePaths } from '../shown/shown.ts';
import { systemNow } from './systems.ts';
import type { Workspace } from '../workspace.ts';

/** One hole of a component, as a table tells it. */
export interface HoleRow {
  /** Its type by letter, and its number among them: A1. */
  mark: string;
  type: string;
  component: string;
  /** A face of its wall. */
  face: number;
  hole: Hole;
  /** In the axes in force, mm. */
  at: Vec3;
}

export type HoleScope = 'shown' | 'picked';

/**
 * The holes of what is shown, or of what is picked: of components all, of a flat face those that start or end
 * in it, of a hole all like it in its part.
 */
export function holeRows(ws: Workspace, scope: HoleScope): HoleRow[] {
  const found =
    scope === 'shown'
      ? visiblePaths(ws).flatMap((path) => holesOf(ws, path))
      : pickedHoles(ws, ws.selection.getState().picked);
  const system = systemNow(ws) ?? MODEL_SYSTEM;
  const keys = found.map(({ hole }) => typeKey(hole));
  const counts = new Map<string, number>();
  for (const key of keys) counts.set(key, (counts.get(key) ?? 0) + 1);
  // The many first, then the large.
  const types = [...counts.keys()].sort(
    (a, b) => counts.get(b)! - counts.get(a)! || diameterOf(b) - diameterOf(a),
  );
  const numbers = new Map<string, number>();
  return found
    .map(({ path, hole, placement }, i): HoleRow => {
      const type = letters(types.indexOf(keys[i]));
      const number = (numbers.get(type) ?? 0) + 1;
      numbers.set(type, number);
      return {
        mark: `${type}${number}`,
        type,
        component: path,
        face: hole.faces[0],
        hole,
        at: pointIn(system, transformPoint(placement, hole.start)),
      };
    })
    .sort((a, b) => a.type.length - b.type.length || a.mark.localeCompare(b.mark, 'en', { numeric: true }));
}

interface PlacedHole {
  path: string;
  hole: Hole;
  placement: readonly number[];
}

function holesOf(ws: Workspace, path: string): PlacedHole[] {
  const { byPath, parts } = ws.model.getState();
  const occurrence = byPath.get(path);
  if (occurrence?.part === undefined) return [];
  const { geometry } = parts.get(occurrence.part)!;
  return geometry.holes.map((hole) => ({ path, hole, placement: occurrence.placement }));
}

function pickedHoles(ws: Workspace, picked: readonly Picked[]): PlacedHole[] {
  const { byPath, parts } = ws.model.getState();
  const found = picked.flatMap((item): PlacedHole[] => {
    if (item.kind !== 'face') return componentsBelow(ws, item.component).flatMap((path) => holesOf(ws, path));
    const all = holesOf(ws, item.component);
    const geometry = parts.get(byPath.get(item.component)!.part!)!.geometry;
    const face = geometry.faces[item.index];
    if (face.hole !== undefined)
      return all.filter(({ hole }) => typeKey(hole) === typeKey(geometry.holes[face.hole!]));
    if (face.surface !== 'plane' || !face.axis || !face.origin) return all;
    const height = (p: Vec3) => Math.abs(dot(face.axis!, p) - dot(face.axis!, face.origin!));
    return all.filter(({ hole }) => {
      const end: Vec3 = vecOf((k) => hole.start[k] + hole.axis[k] * hole.depth);
      return (
        1 - Math.abs(dot(hole.axis, face.axis!)) < PARALLEL_PLANES &&
        (height(hole.start) < MEASURED_SAME || height(end) < MEASURED_SAME)
      );
    });
  });
  const taken = new Map<string, Set<Hole>>();
  return found.filter(({ path, hole }) => {
    const of = taken.get(path) ?? new Set();
    taken.set(path, of);
    return of.size < of.add(hole).size;
  });
}

const ROUND = 1000;
const micrometres = (x: number): number => Math.round(x * ROUND) / ROUND;
const typeKey = ({ diameter, depth, ends, steps }: Hole): string =>
  JSON.stringify([
    micrometres(diameter),
    micrometres(depth),
    ends,
    steps.map((s) => [s.kind, micrometres(s.diameter), micrometres(s.depth)]),
  ]);
const diameterOf = (key: string): number => (JSON.parse(key) as number[])[0];

/** A, B … Z, AA, AB …; I and O look like figures and are left out. */
const ALPHABET = 'ABCDEFGHJKLMNPQRSTUVWXYZ';
const letters = (n: number): string =>
  (n >= ALPHABET.length ? letters(Math.floor(n / ALPHABET.length) - 1) : '') + ALPHABET[n % ALPHABET.length];

/** Each type of hole once: how many there are, its sizes in a line, and what it is likely for. */
export function holeKinds(rows: readonly HoleRow[], style: UnitStyle) {
  const length = (mm: number): string => formatQuantity(mm, 'length', style).text;
  return [...new Set(rows.map((r) => r.type))].map((type) => {
    const all = rows.filter((r) => r.type === type);
    const { hole } = all[0];
    const { diameter, depth, ends } = hole;
    const deep = ends === 'through' ? `through ${length(depth)}` : `${ends}, ${length(depth)} deep`;
    return {
      type,
      count: all.length,
      likely: likelyFor(hole)[0]?.use,
      text: [`Ø ${length(diameter)} ${deep}`, stepsText(hole, style.unit)].filter(Boolean).join(', '),
    };
  });
}

/** The table of holes, and which of the system's axes their places are told along. */
export const holeTable = derivedBy('the table of holes', (ws, scope: HoleScope) => {
  const rows = holeRows(ws, scope);
  return { rows, axes: axesTold(ws, rows) };
});

/**
 * Which of the system's axes places are told along: those across the holes where all run
 * one way, else all three.
 */
export function axesTold(ws: Workspace, rows: readonly HoleRow[]): number[] {
  const system = systemNow(ws) ?? MODEL_SYSTEM;
  const { byPath } = ws.model.getState();
  const along = rows.map(({ component, hole }) => {
    const { placement } = byPath.get(component)!;
    const way = directionIn(system, normalize(transformDirection(placement, hole.axis)));
    return way.findIndex((x) => 1 - Math.abs(x) < PARALLEL_PLANES);
  });
  const one = along.length > 0 && along.every((k) => k === along[0]) ? along[0] : -1;
  return [0, 1, 2].filter((k) => k !== one);
}

import { boxDiagonal, determinant3, transformBox } from '@bathyscope/core/math';
import type { Material, Occurrence } from '@bathyscope/core/model';
import type { PartColumn } from '../../state/settings-store.ts';
import type { LoadedPart } from '../../state/model-store.ts';
import type { ModelDetail } from '@bathyscope/contracts';

/**
 * One row of the parts table: an occurrence in the tree, or a part with all its components in the flat list.
 */
export interface PartRow {
  key: string;
  name: string;
  /** What else it is called. */
  also: string;
  /** How well it is what is searched for, as `matchOf` has it; 0 without a search. */
  match: number;
  /** Where it lies, when others are called the same. */
  within: string;
  /** The occurrences it stands for. */
  paths: string[];
  depth: number;
  parent: string | null;
  expanded: boolean | null;
  /** 1-based among its siblings, for screen readers. */
  position: number;
  siblings: number;
  occurrence: Occurrence;
  quantity: number;
  material: string;
  /** kg; null where a density or a volume is missing. */
  mass: number | null;
  /** mm: diagonal of the box of one. */
  size: number;
}

export interface PartsInput {
  detail: ModelDetail;
  occurrences: readonly Occurrence[];
  byPath: ReadonlyMap<string, Occurrence>;
  parts: ReadonlyMap<number, LoadedPart>;
  /** What a component is made of, by its part and path. */
  materialOf: (part: number, path: string) => Material | null;
  /** kg, of a part whose mass was typed in. */
  typedMassOf?: (part: number) => number | null;
  /** Names given for display, by path. */
  /** The name that was given to a component, by path. */
  nameOf: (path: string) => string | undefined;
}

export interface RowOptions {
  flat: boolean;
  folded: ReadonlySet<string>;
  search: string;
  sort: { by: 'name' | PartColumn; down: boolean } | null;
}

export function partRows(input: PartsInput, options: RowOptions): PartRow[] {
  return options.flat ? flatRows(input, options) : treeRows(input, options);
}

const shownName = ({ nameOf }: PartsInput, o: Occurrence): string =>
  nameOf(o.path) ?? o.instanceName ?? o.name;

/** m³ of a cubic millimetre. */
const CUBIC_METRE = 1 / 1_000_000_000;
const placedVolume = (volume: number, placement: Occurrence['placement']): number =>
  volume * Math.abs(determinant3(placement));

function figures(input: PartsInput, o: Occurrence): Pick<PartRow, 'quantity' | 'material' | 'mass' | 'size'> {
  const { parts, byPath } = input;
  if (o.part === undefined) {
    const below = o.children.map((c) => figures(input, byPath.get(c)!));
    return {
      quantity: below.reduce((n, f) => n + f.quantity, 0),
      material: '',
      mass: below.every((f) => f.mass !== null) ? below.reduce((m, f) => m + f.mass!, 0) : null,
      size: Math.max(0, ...below.map((f) => f.size)),
    };
  }
  const geometry = parts.get(o.part)?.geometry;
  const material = input.materialOf(o.part, o.path);
  const weighed =
    geometry?.mass && material?.density
      ? placedVolume(geometry.mass.volume, o.placement) * CUBIC_METRE * material.density
      : null;
  const mass = input.typedMassOf?.(o.part) ?? weighed;
  return {
    quantity: 1,
    material: material?.name ?? '',
    mass,
    size: geometry ? boxDiagonal(transformBox(o.placement, geometry.box)) : 0,
  };
}

function treeRows(input: PartsInput, { folded, search, sort }: RowOptions): PartRow[] {
  const { occurrences, byPath } = input;
  const wanted = search.trim().toLowerCase();
  // A match keeps its branch: the assemblies above it are shown, and what is below it as well.
  const keep = new Set<string>();
  const found = new Map<string, number>();
  if (wanted)
    for (const o of occurrences) {
      const above = o.parent !== null && keep.has(`all ${o.parent}`);
      found.set(o.path, matchOf(`${shownName(input, o)} ${o.name}`, wanted));
      if (!above && found.get(o.path) === NOWHERE) continue;
      keep.add(`all ${o.path}`);
      for (let at: string | null = o.path; at; at = byPath.get(at)?.parent ?? null) keep.add(at);
    }
  const same = namesakes(wanted ? occurrences.map((o) => shownName(input, o)) : []);
  const rows: PartRow[] = [];
  const visit = (o: Occurrence, position: number, siblings: number) => {
    const expanded = o.children.length ? (wanted ? true : !folded.has(o.path)) : null;
    const name = shownName(input, o);
    rows.push({
      key: o.path,
      name,
      also: o.part !== undefined && name !== o.name ? o.name : '',
      match: found.get(o.path) ?? 0,
      within: same.has(name) && o.parent ? shownName(input, byPath.get(o.parent)!) : '',
      paths: [o.path],
      depth: o.depth,
      parent: o.parent,
      expanded,
      position,
      siblings,
      occurrence: o,
      ...figures(input, o),
    });
    if (!expanded) return;
    const children = o.children.map((c) => byPath.get(c)!).filter((c) => !wanted || keep.has(c.path));
    const sorted = sort
      ? sortBy(
          children.map((c) => ({ c, row: { name: shownName(input, c), ...figures(input, c) } })),
          sort,
          (x) => x.row,
        ).map((x) => x.c)
      : wanted
        ? [...children].sort((a, b) => found.get(a.path)! - found.get(b.path)!)
        : children;
    sorted.forEach((c, i) => visit(c, i + 1, sorted.length));
  };
  if (occurrences.length && (!wanted || keep.has(occurrences[0].path))) visit(occurrences[0], 1, 1);
  return rows;
}

function flatRows(input: PartsInput, { search, sort }: RowOptions): PartRow[] {
  const groups = new Map<number, Occurrence[]>();
  for (const o of input.occurrences)
    if (o.part !== undefined) groups.set(o.part, [...(groups.get(o.part) ?? []), o]);
  const wanted = search.trim().toLowerCase();
  const same = namesakes([...groups.keys()].map((part) => input.detail.structure.parts[part].name));
  const rows = [...groups]
    .map(([part, list]): PartRow => {
      const one = figures(input, list[0]);
      return {
        key: `part ${part}`,
        name: input.detail.structure.parts[part].name,
        also: '',
        match: wanted ? matchOf(input.detail.structure.parts[part].name, wanted) : 0,
        within: same.has(input.detail.structure.parts[part].name) ? whereOf(input, list[0]) : '',
        paths: list.map((o) => o.path),
        depth: 0,
        parent: null,
        expanded: null,
        position: 0,
        siblings: groups.size,
        occurrence: list[0],
        ...one,
        quantity: list.length,
        mass: sumOf(list.map((o) => figures(input, o).mass)),
      };
    })
    .filter((r) => r.match < NOWHERE);
  const sorted = sortBy(rows, sort ?? { by: 'name', down: false }, (r) => r);
  if (wanted && !sort) sorted.sort((a, b) => a.match - b.match);
  return sorted.map((r, i, all) => ({ ...r, position: i + 1, siblings: all.length }));
}

/** Of what does not bear what is searched for. */
export const NOWHERE = 3;

/**
 * How well a name is what was searched for: 0 a whole word of it, 1 a word begins so, 2 it is
 * somewhere in it, 3 nowhere.
 */
export function matchOf(name: string, wanted: string): number {
  const text = name.toLowerCase();
  const isEdge = (at: number) => !/[\p{L}\p{N}]/u.test(text.charAt(at));
  let best = NOWHERE;
  for (let at = text.indexOf(wanted); at >= 0 && best > 0; at = text.indexOf(wanted, at + 1)) {
    const begins = isEdge(at - 1);
    best = Math.min(best, begins && isEdge(at + wanted.length) ? 0 : begins ? 1 : 2);
  }
  return best;
}

/** Names that more than one bears. */
function namesakes(names: readonly string[]): ReadonlySet<string> {
  const [once, more] = [new Set<string>(), new Set<string>()];
  for (const name of names) (once.has(name) ? more : once).add(name);
  return more;
}

/** The names of what an occurrence lies in, from the top down without the model itself. */
function whereOf(input: PartsInput, o: Occurrence): string {
  const names: string[] = [];
  for (
    let at = o.parent ? input.byPath.get(o.parent) : undefined;
    at?.parent;
    at = input.byPath.get(at.parent)
  )
    names.unshift(shownName(input, at));
  return names.join(' › ');
}

const sumOf = (masses: readonly (number | null)[]): number | null =>
  masses.includes(null) ? null : masses.reduce<number>((sum, m) => sum + m!, 0);

function sortBy<T>(
  list: readonly T[],
  { by, down }: NonNullable<RowOptions['sort']>,
  of: (item: T) => Pick<PartRow, 'name' | PartColumn>,
): T[] {
  const sign = down ? -1 : 1;
  return [...list].sort((a, b) => {
    const [x, y] = [of(a)[by], of(b)[by]];
    if (typeof x === 'string' && typeof y === 'string')
      return sign * x.localeCompare(y, 'en', { numeric: true });
    return sign * (((x as number | null) ?? -1) - ((y as number | null) ?? -1));
  });
}

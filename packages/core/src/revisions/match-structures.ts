import { invertAffine, multiply, IDENTITY, type Mat4 } from '../math/mat4.ts';
import { distance, type Vec3 } from '../math/vec3.ts';
import { partKeys } from '../model/part-keys.ts';
import {
  listOccurrences,
  ROOT,
  type ComponentPath,
  type ModelStructure,
  type Occurrence,
} from '../model/structure.ts';
import { SAME_AFTER_MOTION, SAME_POSITION } from '../tolerances.ts';
import { grouped } from '../tables/grouped.ts';
import { PointGrid } from './point-grid.ts';

/** Where something of an old revision is in a new one. */
export interface Carried<T> {
  to: T;
  /** It is this one: its name, its place or its shape say so, and nothing else could be it. */
  certain: boolean;
}

export interface MatchedStructures {
  /** By the number of the old part. */
  parts: ReadonlyMap<number, Carried<number>>;
  /** By the path in the old revision, assemblies too. */
  components: ReadonlyMap<ComponentPath, Carried<ComponentPath>>;
  /** How the model lies otherwise as a whole; null where it lies as it did. */
  motion: Mat4 | null;
}

/**
 * Finds parts, components and assemblies of a model again in its next revision. Parts are known by name and
 * shape; components by their part and place, each taken once; then by the names of their occurrences, by the
 * assembly that they moved with, and by being the only one that is left. What could be several is none.
 * @param alike whether an old and a new part are of one shape, where their geometry was written anew; not
 * asked where hashes tell
 */
export function matchStructures(
  old: ModelStructure,
  now: ModelStructure,
  alike: (old: number, now: number) => boolean,
): MatchedStructures {
  const parts = matchPartList(old, now, alike);
  const [was, is] = [sideOf(old), sideOf(now)];
  const match = new ComponentMatch(was, is, parts);
  return { parts, components: match.components, motion: match.motion };
}

function matchPartList(
  old: ModelStructure,
  now: ModelStructure,
  alike: (o: number, n: number) => boolean,
): Map<number, Carried<number>> {
  const found = new Map<number, Carried<number>>();
  const taken = new Set<number>();
  const take = (o: number, n: number, certain: boolean) => (found.set(o, { to: n, certain }), taken.add(n));
  const left = () => [...old.parts.keys()].filter((o) => !found.has(o));
  const free = () => [...now.parts.keys()].filter((n) => !taken.has(n));
  const [keysBefore, keysNow] = [partKeys(old), partKeys(now)];
  // Of the same name and shape each is as good; the one that also stands at the same
  // number of that name first.
  const like = grouped(free(), (n) => `${now.parts[n].geometry} ${now.parts[n].name}`);
  for (const sameNumber of [true, false])
    for (const o of left()) {
      const there =
        like.get(`${old.parts[o].geometry} ${old.parts[o].name}`)?.filter((n) => !taken.has(n)) ?? [];
      const n = there.find((m) => !sameNumber || keysNow[m] === keysBefore[o]);
      if (n !== undefined) take(o, n, true);
    }
  const nameOfOld = (o: number) => old.parts[o].name;
  const nameOfNow = (n: number) => now.parts[n].name;
  for (const [name, olds] of grouped(left(), nameOfOld)) {
    const news = free().filter((n) => nameOfNow(n) === name);
    pairUnique(olds, news, alike, (o, n) => take(o, n, true));
  }
  // Of one name several may have been reshaped: then only as many as before, in their
  // order, and not for certain.
  const newsByName = grouped(free(), nameOfNow);
  const hashesLeft = grouped(free(), (n) => String(now.parts[n].geometry));
  for (const [name, olds] of grouped(left(), nameOfOld)) {
    const news = newsByName.get(name) ?? [];
    if (olds.length !== news.length) continue;
    const elsewhere =
      hashesLeft.get(String(old.parts[olds[0]].geometry))?.some((n) => nameOfNow(n) !== name) ?? false;
    olds.forEach((o, i) => take(o, news[i], olds.length === 1 && !elsewhere));
  }
  pairUnique(
    left(),
    free(),
    (o, n) => old.parts[o].geometry === now.parts[n].geometry,
    (o, n) => take(o, n, false),
  );
  pairUnique(left(), free(), alike, (o, n) => take(o, n, false));
  return found;
}

/**
 * Pairs that are looked at to find those that fit one alone: of more, nobody can tell in sensible
 * time, and none is taken.
 */
const MOST_PAIRS = 2e7;

/** Pairs what fits one alone, on both sides. */
function pairUnique<A, B>(
  left: readonly A[],
  free: readonly B[],
  fits: (a: A, b: B) => boolean,
  take: (a: A, b: B) => void,
): void {
  if (left.length * free.length > MOST_PAIRS) return;
  const uses = new Uint32Array(free.length);
  const only = left.map((a) => {
    let [count, at] = [0, -1];
    free.forEach((b, j) => {
      if (!fits(a, b)) return;
      uses[j]++;
      count++;
      at = j;
    });
    return count === 1 ? at : -1;
  });
  only.forEach((j, i) => j >= 0 && uses[j] === 1 && take(left[i], free[j]));
}

interface Side {
  all: Occurrence[];
  byPath: Map<ComponentPath, Occurrence>;
  /** In the frame of the assembly it stands in. */
  local: (o: Occurrence) => Mat4;
}

function sideOf(structure: ModelStructure): Side {
  const all = listOccurrences(structure);
  const byPath = new Map(all.map((o) => [o.path, o]));
  const locals = new Map<Occurrence, Mat4>();
  const local = (o: Occurrence): Mat4 => {
    let found = locals.get(o);
    if (!found)
      locals.set(
        o,
        (found =
          o.parent === null
            ? o.placement
            : multiply(invertAffine(byPath.get(o.parent)!.placement), o.placement)),
      );
    return found;
  };
  return { all, byPath, local };
}

/** The old and new components of one part. */
interface Group {
  was: Occurrence[];
  is: Occurrence[];
  /** The new ones by place. */
  grid: PointGrid<Occurrence>;
}

class ComponentMatch {
  readonly components = new Map<ComponentPath, Carried<ComponentPath>>();
  readonly motion: Mat4 | null;
  private readonly taken = new Set<ComponentPath>();
  /** Old and new components of each part that was found, by the number of the new part. */
  private readonly groups = new Map<number, Group>();

  constructor(
    private readonly was: Side,
    private readonly is: Side,
    private readonly parts: ReadonlyMap<number, Carried<number>>,
  ) {
    for (const o of was.all) if (this.partOf(o) !== undefined) this.group(this.partOf(o)!).was.push(o);
    for (const o of is.all) {
      const group = o.part === undefined ? undefined : this.groups.get(o.part);
      group?.is.push(o);
      group?.grid.add(originOf(o.placement), o);
    }
    this.motion = this.wholeMotion();
    this.takeInPlace();
    this.takeAssemblies();
    this.takeNamed();
    this.takeLeft();
    this.takeReplaced();
    this.takeAssemblies();
    this.take(ROOT, ROOT, true);
  }

  private partOf = (o: Occurrence): number | undefined =>
    o.part === undefined ? undefined : this.parts.get(o.part)?.to;

  private group(part: number): Group {
    let group = this.groups.get(part);
    if (!group) this.groups.set(part, (group = { was: [], is: [], grid: new PointGrid(SAME_POSITION) }));
    return group;
  }

  private take(from: ComponentPath, to: ComponentPath, certain: boolean): void {
    const part = this.was.byPath.get(from)!.part;
    this.components.set(from, {
      to,
      certain: certain && (part === undefined || (this.parts.get(part)?.certain ?? false)),
    });
    this.taken.add(to);
  }

  private left = (group: { was: Occurrence[] }): Occurrence[] =>
    group.was.filter((o) => !this.components.has(o.path));
  private free = (group: { is: Occurrence[] }): Occurrence[] =>
    group.is.filter((o) => !this.taken.has(o.path));

  /**
   * Of the motions that components of one path made, the one that lays most components on one of their part;
   * none where as many lie right without.
   */
  private wholeMotion(): Mat4 | null {
    const votes: { motion: Mat4; count: number }[] = [];
    for (const { was, is } of this.groups.values()) {
      const there = new Map(is.map((o) => [o.path, o]));
      for (const o of was) {
        const now = was.length === 1 && is.length === 1 ? is[0] : there.get(o.path);
        if (!now || samePlace(o.placement, now.placement)) continue;
        const like = votes.find(({ motion }) => samePlace(multiply(motion, o.placement), now.placement));
        if (like) like.count++;
        else if (votes.length < MOST_VOTES)
          votes.push({ motion: multiply(now.placement, invertAffine(o.placement)), count: 1 });
      }
    }
    const tried = votes.sort((a, b) => b.count - a.count).slice(0, MOST_TRIED);
    const scored = tried.map(({ motion }) => ({ motion, inPlace: this.countInPlace(motion) }));
    const best = scored.reduce((a, b) => (b.inPlace > a.inPlace ? b : a), {
      motion: IDENTITY,
      inPlace: this.countInPlace(null),
    });
    return best.motion === IDENTITY ? null : best.motion;
  }

  private countInPlace(motion: Mat4 | null): number {
    let count = 0;
    for (const { was, grid } of this.groups.values())
      for (const o of was) {
        const place = motion ? multiply(motion, o.placement) : o.placement;
        if (grid.near(originOf(place)).some((n) => samePlace(place, n.placement))) count++;
      }
    return count;
  }

  /** Each in its place: what moved in the structure, or was listed at another number, is still there. */
  private takeInPlace(): void {
    for (const { was, is, grid } of this.groups.values()) {
      const named = new Set(is.map((n) => n.instanceName));
      for (const o of was) {
        const place = this.motion ? multiply(this.motion, o.placement) : o.placement;
        const there = grid
          .near(originOf(place))
          .filter((n) => !this.taken.has(n.path) && samePlace(place, n.placement));
        const best =
          there.find((n) => n.path === o.path) ?? there.find((n) => nameOf(n) === nameOf(o)) ?? there[0];
        if (!best) continue;
        // A motion is only likely: where names say another, it is not certain.
        const contradicted =
          this.motion !== null && best.instanceName !== o.instanceName && named.has(o.instanceName);
        this.take(o.path, best.path, !contradicted);
      }
    }
  }

  /** Assemblies by what is in them: where most of it went, and whether all did. Innermost first. */
  private takeAssemblies(): void {
    for (const o of [...this.was.all].reverse()) {
      if (o.part !== undefined || o.path === ROOT || this.components.get(o.path)?.certain) continue;
      const votes = new Map<ComponentPath, number>();
      for (const child of o.children) {
        const to = this.components.get(child)?.to;
        const parent = to === undefined ? null : this.is.byPath.get(to)!.parent;
        if (parent !== null) votes.set(parent, (votes.get(parent) ?? 0) + 1);
      }
      const [best] = [...votes].sort(
        (a, b) => b[1] - a[1] || Number(b[0] === o.path) - Number(a[0] === o.path),
      );
      if (
        !best ||
        best[0] === ROOT ||
        (this.taken.has(best[0]) && this.components.get(o.path)?.to !== best[0])
      )
        continue;
      const now = this.is.byPath.get(best[0])!;
      if (best[1] > o.children.length / 2)
        this.take(o.path, now.path, best[1] === o.children.length || nameOf(now) === nameOf(o));
    }
  }

  /**
   * What has the same name for its occurrence, or moved with the assembly it stands in: alone
   * of its kind on both sides.
   */
  private takeNamed(): void {
    for (const group of this.groups.values()) {
      const inAssembly = (a: Occurrence, b: Occurrence) =>
        a.parent !== null &&
        this.parentFits(a, b) &&
        samePlace(this.was.local(a), this.is.local(b)) &&
        (a.path === b.path || this.components.get(a.parent)?.to === b.parent);
      pairUnique(this.left(group), this.free(group), inAssembly, (a, b) => this.take(a.path, b.path, true));
      const named = (a: Occurrence, b: Occurrence) =>
        a.instanceName !== undefined && a.instanceName === b.instanceName && this.parentFits(a, b);
      pairUnique(this.left(group), this.free(group), named, (a, b) =>
        this.take(a.path, b.path, group.was.length === group.is.length),
      );
    }
  }

  /**
   * Whether two stand in assemblies that can be one: found as such, or of the same name and neither found.
   */
  private parentFits(a: Occurrence, b: Occurrence): boolean {
    if (a.parent === null || b.parent === null) return a.parent === b.parent;
    const found = this.components.get(a.parent);
    if (a.parent === ROOT || b.parent === ROOT) return a.parent === b.parent;
    if (found) return found.to === b.parent;
    return (
      !this.taken.has(b.parent) && this.was.byPath.get(a.parent)!.name === this.is.byPath.get(b.parent)!.name
    );
  }

  /**
   * What was moved: the only one of its part; of several the only one that is left, where it moved by less
   * than half the way to the next.
   */
  private takeLeft(): void {
    for (const group of this.groups.values()) {
      const [left, free] = [this.left(group), this.free(group)];
      if (!left.length || !free.length) continue;
      if (group.was.length === 1 && group.is.length === 1) {
        const [[a], [b]] = [left, free];
        this.take(a.path, b.path, a.path === b.path || nameOf(a) === nameOf(b));
        continue;
      }
      if (left.length * group.was.length > MOST_PAIRS) continue;
      const places = group.was.map((o) => this.placeOf(o));
      const reach = new Map(
        left.map((a) => {
          const from = this.placeOf(a);
          const next = places.reduce(
            (least, p, i) => (group.was[i] === a ? least : Math.min(least, distance(p, from))),
            Infinity,
          );
          return [a, { from, within: HALF_WAY * next }] as const;
        }),
      );
      const near = (a: Occurrence, b: Occurrence) => {
        const { from, within } = reach.get(a)!;
        return distance(from, originOf(b.placement)) < within && this.parentFits(a, b);
      };
      pairUnique(left, free, near, (a, b) => this.take(a.path, b.path, false));
    }
  }

  private placeOf = (o: Occurrence): Vec3 =>
    originOf(this.motion ? multiply(this.motion, o.placement) : o.placement);

  /** Another part in the place and under the name of one that is gone. */
  private takeReplaced(): void {
    const used = new Set([...this.parts.values()].map(({ to }) => to));
    for (const o of this.was.all) {
      if (o.part === undefined || this.parts.has(o.part)) continue;
      const now = this.is.byPath.get(o.path);
      const place = this.motion ? multiply(this.motion, o.placement) : o.placement;
      if (
        now?.part === undefined ||
        used.has(now.part) ||
        this.taken.has(now.path) ||
        !samePlace(place, now.placement)
      )
        continue;
      this.components.set(o.path, { to: now.path, certain: false });
      this.taken.add(now.path);
    }
  }
}

/** Motions that are counted at most. */
const MOST_VOTES = 50;
/** Of those, as many as are tried. */
const MOST_TRIED = 4;
/** Of the way to the next of the same part. */
const HALF_WAY = 0.5;

const originOf = (m: Mat4): Vec3 => [m[12], m[13], m[14]];
const nameOf = (o: Occurrence): string => o.instanceName ?? o.name;
const samePlace = (a: Mat4, b: Mat4): boolean =>
  a.every((x, i) => Math.abs(x - b[i]) <= (i >= 12 ? SAME_POSITION : SAME_AFTER_MOTION));

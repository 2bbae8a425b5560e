import type { PartGeometry } from '../geometry/part-geometry.ts';
import type { Mat4 } from '../math/mat4.ts';
import { cross, distance, dot, length, type Vec3 } from '../math/vec3.ts';
import type { IndexedKind } from '../references/reference.ts';
import { ALIKE, SAME_POSITION, SAME_SIZE } from '../tolerances.ts';
import { boxPairs } from '../interference/box-pairs.ts';
import { addTo, grouped } from '../tables/grouped.ts';
import { findMotions } from './find-motions.ts';
import { PointGrid } from './point-grid.ts';
import {
  boxesShare,
  boxWithin,
  extentOf,
  faceDifference,
  movedThings,
  onOneSurface,
  sameEdge,
  sameFace,
  surfaceShift,
  thingsOf,
  type PartThings,
  type ThingEdge,
  type ThingFace,
} from './part-things.ts';

/** What became of the things of one kind. */
export interface MatchedThings {
  /**
   * By index in the old part, the index in the new one; −1 where it is gone, or where nobody
   * can tell which it became.
   */
  to: Int32Array;
  /** 1 where it is as it was; 0 where something about it changed. */
  same: Uint8Array;
}

/** What became of each thing of a part in a later revision of it. */
export interface MatchedPart extends Record<IndexedKind, MatchedThings> {
  /** How the whole part lies otherwise in its frame; null where it lies as it did. */
  motion: Mat4 | null;
  /** Faces that were split, by what they were split into. */
  pieces: ReadonlyMap<number, readonly number[]>;
  /**
   * Of each face that was found, by how much its surface lies elsewhere in the part's frame after that
   * motion, mm, xyz; without what cannot be told (a plane along itself).
   */
  shifts: Float64Array;
}

/**
 * Share of the faces that has to be as it was, for a part to lie in its frame as it did, or as a motion says.
 */
const PLACED_BY = 0.5;

/**
 * Finds the things of a part again in its next revision: first what is as it was, each taken once;
 * then what changed, by its surface and by what stands beside it, among what is not taken. Where two could be
 * it none is: nothing is guessed.
 */
export function matchParts(old: PartGeometry, now: PartGeometry): MatchedPart {
  const [was, is] = [thingsOf(old), thingsOf(now)];
  const still = new Matching(was, is);
  if (still.shareOfFaces() >= PLACED_BY) return still.finish(null);
  const motions = findMotions(was, is)
    .map((motion) => ({ motion, matching: new Matching(movedThings(was, motion), is) }))
    .map((m) => ({ ...m, share: m.matching.shareOfFaces() }))
    .filter(({ share }) => share >= PLACED_BY && share > still.shareOfFaces())
    .sort((a, b) => b.share - a.share);
  if (!motions.length) return still.finish(null);
  const best = motions[0];
  const found = best.matching.finish(best.motion);
  // A symmetric part can have been moved in several ways: what they disagree about cannot be told.
  for (const { matching, motion, share } of motions.slice(1))
    if (share >= best.share * (1 - SAME_SIZE)) keepAgreed(found, matching.finish(motion));
  return found;
}

const KINDS = ['body', 'face', 'edge', 'vertex'] as const;

function keepAgreed(found: MatchedPart, other: MatchedPart): void {
  for (const kind of KINDS)
    found[kind].to.forEach((to, i) => other[kind].to[i] !== to && (found[kind].to[i] = -1));
}

/** One way the things of two parts belong together. */
class Matching {
  private readonly faces: Pairing;
  private readonly edges: Pairing;
  private readonly vertices: Pairing;
  private readonly pieces = new Map<number, number[]>();

  constructor(
    private readonly was: PartThings,
    private readonly is: PartThings,
  ) {
    const chord = was.chord + is.chord;
    this.faces = new Pairing(was.faces.length, is.faces.length);
    this.edges = new Pairing(was.edges.length, is.edges.length);
    this.vertices = new Pairing(was.vertices.length, is.vertices.length);
    this.faces.takeSame(
      (i) => was.faces[i].middle,
      (j) => is.faces[j].middle,
      SAME_POSITION + chord,
      (i, j) => sameFace(was.faces[i], is.faces[j], chord),
    );
  }

  shareOfFaces(): number {
    return this.was.faces.length ? this.faces.count() / this.was.faces.length : 0;
  }

  finish(motion: Mat4 | null): MatchedPart {
    const { was, is, faces, edges, vertices } = this;
    const chord = was.chord + is.chord;
    const placeOf = ({ facts, middle }: ThingEdge) => facts.centre ?? middle;
    edges.takeSame(
      (i) => placeOf(was.edges[i]),
      (j) => placeOf(is.edges[j]),
      SAME_POSITION + chord,
      (i, j) => sameEdge(was.edges[i], is.edges[j], chord),
    );
    vertices.takeSame(
      (i) => was.vertices[i],
      (j) => is.vertices[j],
      SAME_POSITION,
      (i, j) => distance(was.vertices[i], is.vertices[j]) <= SAME_POSITION,
    );
    this.takeOnSurfaces();
    while (this.takeBesideKnown());
    this.takeBetween(
      edges,
      (i) => was.edges[i].facts.faces,
      (j) => is.edges[j].facts.faces,
      2,
      (i, j) => {
        const [a, b] = [was.edges[i], is.edges[j]];
        return a.facts.curve === b.facts.curve
          ? distance(a.middle, b.middle) / Math.max(a.facts.length, SAME_POSITION)
          : Infinity;
      },
    );
    this.takeBetween(
      vertices,
      (i) => was.atVertex[i],
      (j) => is.atVertex[j],
      2,
      (i, j) => distance(was.vertices[i], is.vertices[j]),
    );
    return {
      motion,
      pieces: this.pieces,
      shifts: Float64Array.from(
        was.faces.flatMap((face, i) =>
          faces.of(i) < 0 ? NOWHERE : surfaceShift(face, is.faces[faces.of(i)]),
        ),
      ),
      body: this.bodies(),
      face: faces.found(),
      edge: edges.found(),
      vertex: vertices.found(),
    };
  }

  /**
   * Faces whose boundary changed: what lies on the same surface and in the same place. Split ones are told by
   * their pieces, joined ones all became the one.
   */
  private takeOnSurfaces(): void {
    const { was, is, faces } = this;
    const [left, free] = [faces.left(), faces.free()];
    const boxes = [...left.map((i) => was.faces[i].box), ...free.map((j) => is.faces[j].box)];
    const [onto, from] = [new Map<number, number[]>(), new Map<number, number[]>()];
    for (const [a, b] of boxPairs(boxes, SAME_POSITION)) {
      if (a >= left.length || b < left.length) continue;
      const [i, j] = [left[a], free[b - left.length]];
      if (!onOneSurface(was.faces[i], is.faces[j]) || boxesShare(was.faces[i].box, is.faces[j].box) < OVERLAP)
        continue;
      addTo(onto, i, j);
      addTo(from, j, i);
    }
    for (const [i, those] of onto) {
      if (those.length === 1) {
        const [j] = those;
        const others = from.get(j)!;
        if (
          others.length === 1 ||
          others.every((o) => onto.get(o)!.length === 1 && boxWithin(was.faces[o].box, is.faces[j].box))
        )
          faces.take(i, j, false);
      } else if (
        those.length > 1 &&
        those.every((j) => from.get(j)!.length === 1 && boxWithin(is.faces[j].box, was.faces[i].box))
      )
        this.pieces.set(i, those);
    }
  }

  /**
   * Faces of another size or place, beside the same neighbours: those that can be no other.
   * @returns whether some were found
   */
  private takeBesideKnown(): boolean {
    const { was, is, faces } = this;
    const free = new Set(faces.free());
    const pairs: [number, number, number][] = [];
    for (const i of faces.left()) {
      if (this.pieces.has(i)) continue;
      const a = was.faces[i];
      const known = new Set(a.beside.map((n) => faces.of(n)).filter((n) => n >= 0));
      const least = Math.min(2, a.beside.length);
      if (known.size < Math.max(least, BESIDE * a.beside.length)) continue;
      // How many of the neighbours each face has that stands beside one of them.
      const kept = new Map<number, number>();
      for (const n of known)
        for (const j of is.faces[n].beside) if (free.has(j)) kept.set(j, (kept.get(j) ?? 0) + 1);
      for (const [j, count] of kept) {
        const b = is.faces[j];
        if (count < least || count < BESIDE * Math.max(a.beside.length, b.beside.length) || !couldBe(a, b))
          continue;
        pairs.push([i, j, faceDifference(a, b)]);
      }
    }
    return faces.takeNearest(pairs);
  }

  /** What is known by the faces that meet in it: edges and corners. */
  private takeBetween(
    pairing: Pairing,
    facesOf: (i: number) => readonly number[],
    facesNow: (j: number) => readonly number[],
    least: number,
    difference: (i: number, j: number) => number,
  ): void {
    const key = (faces: readonly number[]) => [...faces].sort((a, b) => a - b).join(' ');
    const enough = pairing.free().filter((j) => facesNow(j).length >= least);
    const free = grouped(enough, (j) => key(facesNow(j)));
    const groups = new Map<string, number[]>();
    for (const i of pairing.left()) {
      const became = facesOf(i).map((f) => this.faces.of(f));
      if (became.length < least || became.includes(-1)) continue;
      addTo(groups, key(became), i);
    }
    for (const [between, left] of groups) {
      const those = free.get(between) ?? [];
      if (left.length * those.length > MOST_BETWEEN) continue;
      const pairs = left.flatMap((i) => those.map((j) => [i, j, difference(i, j)] as const));
      pairing.takeNearest(pairs.filter(([, , d]) => d < Infinity));
    }
  }

  private bodies(): MatchedThings {
    const { was, is, faces } = this;
    const bodyOf = new Map(is.bodies.flatMap((of, b) => of.map((f) => [f, b] as const)));
    const pairing = new Pairing(was.bodies.length, is.bodies.length);
    was.bodies.forEach((of, i) => {
      const votes = new Map<number, number>();
      for (const f of of) {
        const body = bodyOf.get(faces.of(f));
        if (body !== undefined) votes.set(body, (votes.get(body) ?? 0) + 1);
      }
      const [best] = [...votes].sort((a, b) => b[1] - a[1]);
      if (!best || best[1] < PLACED_BY * of.length) return;
      const whole = of.length === is.bodies[best[0]].length && of.every((f) => faces.isSame(f));
      pairing.take(i, best[0], whole);
    });
    return pairing.found();
  }
}

const NOWHERE: Vec3 = [0, 0, 0];

/** Share of the smaller of two faces on one surface in which they have to lie over each other. */
const OVERLAP = 0.5;
/** Share of what stands beside a face that has to be known and the same. */
const BESIDE = 0.5;
/** Relative to its extent, how far a face is moved at most for it to be the same one. */
const MOST_SHIFT = 2;
/** By how much areas and radii may differ. */
const MOST_FACTOR = 2;
/** Pairs of edges between the same faces that are compared: of more, as along a thread, none can be told. */
const MOST_BETWEEN = 250_000;
/** How much nearer the best has to be than the next for it to be the one. */
const CLEARLY = 4;

function couldBe(a: ThingFace, b: ThingFace): boolean {
  const [f, g] = [a.facts, b.facts];
  if (f.surface !== g.surface || f.concave !== g.concave) return false;
  const close = (x: number | undefined, y: number | undefined) =>
    !x || !y || Math.max(x / y, y / x) <= MOST_FACTOR;
  if (!close(f.area, g.area) || !close(f.radius, g.radius) || !close(f.minorRadius, g.minorRadius))
    return false;
  if (
    f.axis &&
    g.axis &&
    (length(cross(f.axis, g.axis)) > 0.2 || (f.surface === 'plane' && dot(f.axis, g.axis) < 0))
  )
    return false;
  const shift = distance(a.middle, b.middle);
  // A plane moves along its normal by less than it is wide; what is round by less than twice its radius.
  return shift <= (f.surface === 'plane' || f.radius === undefined ? 0.5 : MOST_SHIFT) * extentOf(a);
}

/**
 * Which of some old things became which of the new ones; each new one is taken once, but
 * where several became one.
 */
class Pairing {
  private readonly to: Int32Array;
  private readonly same: Uint8Array;
  private readonly taken: Uint8Array;

  constructor(olds: number, news: number) {
    this.to = new Int32Array(olds).fill(-1);
    this.same = new Uint8Array(olds);
    this.taken = new Uint8Array(news);
  }

  of = (i: number): number => this.to[i];
  isSame = (i: number): boolean => this.same[i] === 1;
  count = (): number => this.same.reduce((sum, s) => sum + s, 0);
  left = (): number[] => [...this.to.keys()].filter((i) => this.to[i] < 0);
  free = (): number[] => [...this.taken.keys()].filter((j) => !this.taken[j]);
  found = (): MatchedThings => ({ to: this.to, same: this.same });

  take(i: number, j: number, same: boolean): void {
    this.to[i] = j;
    this.same[i] = same ? 1 : 0;
    this.taken[j] = 1;
  }

  /**
   * Pairs what is the same and in the same place. Of several that are all the same each is as good. @param
   * slack mm, by which places may differ
   */
  takeSame(
    at: (i: number) => Vec3,
    atNow: (j: number) => Vec3,
    slack: number,
    isSame: (i: number, j: number) => boolean,
  ): void {
    const grid = new PointGrid<number>(slack);
    for (const j of this.free()) grid.add(atNow(j), j);
    for (const i of this.left()) {
      const here = grid.near(at(i)).filter((j) => !this.taken[j] && isSame(i, j));
      if (here.length) this.take(i, here.includes(i) ? i : Math.min(...here), true);
    }
  }

  /**
   * Pairs those that are nearest to each other, where no other comes nearly as near. @param pairs those that
   * could be one, with their difference @returns whether there were some
   */
  takeNearest(pairs: readonly (readonly [i: number, j: number, difference: number])[]): boolean {
    const [ofOld, ofNew] = [new Map<number, Nearest>(), new Map<number, Nearest>()];
    for (const [i, j, difference] of pairs) {
      nearer(ofOld, i, j, difference);
      nearer(ofNew, j, i, difference);
    }
    let some = false;
    for (const [i, best] of ofOld) {
      const back = ofNew.get(best.at)!;
      if (!isClear(best) || !isClear(back) || back.at !== i) continue;
      this.take(i, best.at, false);
      some = true;
    }
    return some;
  }
}

/** The nearest of some, and how near the next comes. */
interface Nearest {
  at: number;
  least: number;
  next: number;
}

function nearer(of: Map<number, Nearest>, from: number, to: number, difference: number): void {
  const known = of.get(from);
  if (!known) of.set(from, { at: to, least: difference, next: Infinity });
  else if (difference < known.least) of.set(from, { at: to, least: difference, next: known.least });
  else known.next = Math.min(known.next, difference);
}

const isClear = ({ least, next }: Nearest): boolean => next === Infinity || least * CLEARLY < next;

/** The same part, thing for thing. */
export function unchangedPart(part: PartGeometry): MatchedPart {
  const all = (count: number): MatchedThings => ({
    to: Int32Array.from({ length: count }, (_, i) => i),
    same: new Uint8Array(count).fill(1),
  });
  return {
    motion: null,
    pieces: new Map(),
    shifts: new Float64Array(3 * part.faces.length),
    body: all(part.bodies.length),
    face: all(part.faces.length),
    edge: all(part.edges.length),
    vertex: all(part.vertices.length / 3),
  };
}

/**
 * Whether two parts are of one shape, wherever it lies in their frames and whoever wrote it: by area, volume
 * and what their faces are.
 */
export function partsAlike(a: PartGeometry, b: PartGeometry): boolean {
  const near = (x: number, y: number) => Math.abs(x - y) <= ALIKE * Math.max(Math.abs(x), Math.abs(y));
  const kinds = ({ faces }: PartGeometry) => [...new Set(faces.map((f) => f.surface))].sort().join(' ');
  return (
    near(a.area, b.area) &&
    near(a.mass?.volume ?? 0, b.mass?.volume ?? 0) &&
    a.bodies.length === b.bodies.length &&
    kinds(a) === kinds(b)
  );
}

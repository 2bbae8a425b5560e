import { addScaled, dot, scale } from '../math/vec3.ts';
import { ALMOST_ALONG, LOOKS_ALONG } from '../tolerances.ts';
import { boreWalls, isBoreWall, sameCylinder, type BoreWall, type Ring } from './bore-walls.ts';
import {
  beyond,
  heightOn,
  offAxis,
  type AxisLine,
  type HoleInput,
  type HoleScope,
  type Loop,
} from './face-loops.ts';
import { crossingNearest, depthAlongWall, type WallEnd } from './depth-along-wall.ts';
import type { Hole, HoleStep } from '../geometry/hole.ts';
import { inLine, walkAlong, type Turned, type Walk } from './walk-along.ts';

/**
 * Times the bore: what is wider is a bore of its own that the hole opens into, no counterbore (common
 * practice: up to 2.2).
 */
const WIDEST_COUNTERBORE = 2.5;
/** Times the bore's radius: a wider one that is no deeper is a spot face. */
const DEEPEST_SPOT_FACE = 1;
/** Times the bore's diameter: pieces of one cylinder that a slot parts by no more are one bore. */
const WIDEST_GAP = 1;
/** Times its bore's diameter and thickness: what is no larger round a hole, and no thicker, is a ring. */
const RING_WIDTH = 3;
const RING_THICKNESS = 0.6;
/** Times the bore's radius: rims broken by less are chamfered, not countersunk. */
const WIDEST_CHAMFER = 0.2;

/** A bore: pieces of one cylinder, with what lies at both of its ends. */
interface Bore extends AxisLine {
  pieces: BoreWall[];
  radius: number;
  grooves: BoreWall[];
  /** mm along the axis, where a slot goes through it. */
  gaps: number[];
  low: Ring;
  high: Ring;
}

/**
 * Finds the holes of a part. Halves of a bore, pieces that a groove or a crossing bore of its own size parts,
 * and what a keyway is cut into are one bore; what is turned about its axis at its ends are its steps.
 * Grooves round something are no holes.
 */
export function recogniseHoles(input: HoleInput): Hole[] {
  const part: HoleScope = { ...input, chains: new Map(), planes: new Map() };
  const walls = boreWalls(part);
  const wallOf = new Map(walls.flatMap((w) => w.faces.map((f) => [f, w] as const)));
  const taken = new Set<BoreWall>();
  const found: { hole: Hole; first: number }[] = [];
  // The narrowest first: what is wider at its ends are its counterbores.
  for (const bore of boresOf(part, walls, wallOf).sort((a, b) => a.radius - b.radius)) {
    if (bore.pieces.some((p) => taken.has(p))) continue;
    const ends = ([-1, 1] as const).map((side) => {
      const way = scale(bore.axis, side);
      return endOf(
        part,
        bore,
        walkAlong(part, bore, side < 0 ? bore.low : bore.high, way, wallOf),
        side < 0 ? bore.low : bore.high,
      );
    });
    if (ends.some((e) => e.walk.end === 'boss')) continue;
    for (const p of [...bore.pieces, ...bore.grooves, ...ends.flatMap((e) => e.walls)]) taken.add(p);
    found.push({ hole: holeOf(part, bore, ends as [End, End]), first: bore.pieces[0].faces[0] });
  }
  const holes = found.sort((a, b) => a.first - b.first).map((f) => f.hole);
  return holes.length === 1 && isRing(part, holes[0]) ? [{ ...holes[0], ofRing: true }] : holes;
}

/** Whether a part is nothing but a flat ring round its hole. */
function isRing(part: HoleScope, { start, axis, diameter, depth, faces }: Hole): boolean {
  const own = new Set(faces);
  const round = part.faces.every((f, i) => {
    if (own.has(i) || f.surface === 'torus' || f.surface === 'cone') return true;
    if (f.surface === 'plane') return Math.abs(dot(f.axis!, axis)) > 1 - ALMOST_ALONG;
    return (
      f.surface === 'cylinder' &&
      f.radius! <= (RING_WIDTH * diameter) / 2 &&
      offAxis(f.origin!, { origin: start, axis }) < diameter * ALMOST_ALONG
    );
  });
  return round && depth <= RING_THICKNESS * diameter;
}

function boresOf(part: HoleScope, walls: readonly BoreWall[], wallOf: ReadonlyMap<number, BoreWall>): Bore[] {
  const parent = new Map(walls.map((w) => [w, w]));
  const root = (w: BoreWall): BoreWall => (parent.get(w) === w ? w : root(parent.get(w)!));
  const same = (a: BoreWall, b: BoreWall) =>
    a !== b && sameCylinder(part.faces[a.faces[0]], part.faces[b.faces[0]]);
  const grooves = new Map<BoreWall, BoreWall>();
  const byFace = new Map<number, BoreWall[]>();
  for (const w of walls) {
    // A bore no larger that crosses parts the wall, and makes no second hole of it.
    for (const f of w.rings.flatMap((ring) => [...beyond(part, ring, ring.of).keys()]))
      if (isBoreWall(part.faces[f]) && part.faces[f].radius! <= w.radius * 1.01)
        byFace.set(f, [...(byFace.get(f) ?? []), w]);
    const inner = w.rings.length === 2 ? narrowerWalls(part, w, wallOf) : [];
    if (inner.length === 2 && same(inner[0], inner[1])) {
      parent.set(root(inner[1]), root(inner[0]));
      grooves.set(w, inner[0]);
    }
  }
  for (const met of byFace.values())
    for (const b of met.slice(1)) if (same(met[0], b)) parent.set(root(b), root(met[0]));
  const gaps = new Map<BoreWall, number[]>();
  walls.forEach((a, i) => {
    for (const b of walls.slice(i + 1)) {
      const gap = same(a, b) && root(a) !== root(b) ? slotBetween(part, a, b) : null;
      if (gap === null) continue;
      parent.set(root(b), root(a));
      gaps.set(a, [...(gaps.get(a) ?? []), gap]);
    }
  });
  const groups = new Map<BoreWall, BoreWall[]>();
  for (const w of walls) if (!grooves.has(w)) groups.set(root(w), [...(groups.get(root(w)) ?? []), w]);
  return [...groups.values()].flatMap((pieces) => {
    const [first] = pieces;
    const rings = pieces
      .flatMap((p) => p.rings.map((r) => inLine(r, p, first)))
      .sort((a, b) => a.height - b.height);
    if (rings.length < 2) return [];
    const own = [...grooves].filter(([, bore]) => root(bore) === root(first)).map(([g]) => g);
    const parted = pieces.flatMap((p) => gaps.get(p) ?? []);
    return [
      {
        origin: first.origin,
        axis: first.axis,
        radius: first.radius,
        pieces,
        grooves: own,
        gaps: parted,
        low: rings[0],
        high: rings.at(-1)!,
      },
    ];
  });
}

/**
 * mm: how wide the slot is that parts two pieces of one cylinder; null where they are two holes: faces that
 * look at each other, with one wall or floor between.
 */
function slotBetween(part: HoleScope, a: BoreWall, b: BoreWall): number | null {
  const ends = (w: BoreWall) =>
    w.rings.map((r) => ({ ring: r, height: inLine(r, w, a).height })).sort((p, q) => p.height - q.height);
  const [mine, theirs] = [ends(a), ends(b)];
  if (mine.length < 2 || theirs.length < 2) return null;
  const [low, high] =
    mine[0].height < theirs[0].height ? [mine.at(-1)!, theirs[0]] : [theirs.at(-1)!, mine[0]];
  const gap = high.height - low.height;
  if (!(gap > 0) || gap > 2 * WIDEST_GAP * a.radius) return null;
  const [under, over] = [low, high].map(
    ({ ring }) => [...beyond(part, ring, ring.of)].sort((p, q) => q[1] - p[1])[0]?.[0],
  );
  if (under === undefined || over === undefined) return null;
  const [p, q] = [part.faces[under], part.faces[over]];
  const looksAtIt =
    p.surface === 'plane' &&
    q.surface === 'plane' &&
    dot(p.axis!, a.axis) > LOOKS_ALONG &&
    dot(q.axis!, a.axis) < -LOOKS_ALONG;
  const beside = (f: number) => new Set(part.faces[f].edges.flatMap((e) => part.edges[e].faces));
  const floor = beside(over);
  return looksAtIt && [...beside(under)].some((f) => f !== under && f !== over && floor.has(f)) ? gap : null;
}

/** Of a groove in a bore: the walls that it leads back to at both of its ends. */
function narrowerWalls(part: HoleScope, wall: BoreWall, wallOf: ReadonlyMap<number, BoreWall>): BoreWall[] {
  const [low, high] = [...wall.rings].sort((a, b) => a.height - b.height);
  return [low, high].flatMap((ring, i) => {
    const { through } = walkAlong(part, wall, ring, scale(wall.axis, i ? 1 : -1), wallOf);
    const next = through.find((t) => t.surface === 'cylinder');
    return next?.wall && next.wall.radius < wall.radius ? [next.wall] : [];
  });
}

/** What lies at one end of a bore. */
interface End {
  walk: Walk;
  /** Along the axis: the face it comes out of, or where its full diameter ends. */
  height: number;
  open: boolean;
  steps: Omit<HoleStep, 'side'>[];
  /** Walls that are part of it. */
  walls: BoreWall[];
  /** A face of a wider bore that it opens into. */
  into: number[];
}

function endOf(part: HoleScope, bore: Bore, whole: Walk, ring: Loop): End {
  const walk = ownPart(bore, whole);
  const open = walk.end === 'mouth';
  const mouth = open ? mouthHeight(part, bore, walk) : 0;
  const steps: End['steps'] = [];
  const walls: BoreWall[] = [];
  let full = ring.height;
  walk.through.forEach((t, i) => {
    const [before, after] = [walk.through[i - 1], walk.through[i + 1]];
    if (t.surface === 'cylinder') {
      walls.push(t.wall!);
      const groove = after?.surface === 'plane' && !after.looksOn;
      const depth =
        groove || !open ? Math.abs((t.to ?? t.from).height - t.from.height) : Math.abs(mouth - t.from.height);
      // Off a cone instead of a shoulder: what a drill's tip left.
      if (before?.surface === 'cone' && before.to)
        steps.push({
          kind: 'cone',
          diameter: 2 * before.to.radius,
          depth: Math.abs(before.to.height - before.from.height),
          angle: 2 * before.facts.semiAngle!,
          faces: before.faces,
        });
      steps.push({
        kind: groove ? 'groove' : 'counterbore',
        diameter: 2 * t.wall!.radius,
        depth,
        faces: t.faces,
      });
      if (groove && !after.to) full = after.from.height;
    } else if (t.surface === 'plane' && !t.looksOn && !t.to) full = t.from.height;
    else if (t.surface !== 'plane' && after?.surface !== 'cylinder') {
      const step = turnedStep(t, before);
      if (step) steps.push(step);
      if (t.surface === 'torus' && step?.kind === 'bottom rounding') full = t.to?.height ?? full;
    }
  });
  const into = open ? walk.onto.filter((f) => isBoreWall(part.faces[f])) : [];
  return { walk, height: open ? mouth : full, open, steps, walls, into };
}

/**
 * The walk as far as it is the hole's own: a narrower bore in its bottom is another hole, and something much
 * wider is what it opens into.
 */
function ownPart(bore: Bore, walk: Walk): Walk {
  const narrow = walk.through.findIndex(
    (t) => t.surface === 'cylinder' && t.wall && t.wall.radius < bore.radius,
  );
  if (narrow >= 0) {
    const floor = walk.through
      .map((t, i) => t.surface === 'plane' && !t.looksOn && i < narrow)
      .lastIndexOf(true);
    const through = walk.through.slice(0, floor + 1).map((t, i) => (i === floor ? { ...t, to: null } : t));
    return {
      through,
      end: 'bottom',
      last: (walk.through[floor] ?? walk.through[narrow]).from,
      onto: [],
      mostly: false,
    };
  }
  const wide = walk.through.findIndex((t) => t.surface === 'cylinder' && t.wall && isAnother(bore, t.wall));
  if (wide < 0) return walk;
  const plane = walk.through.map((t, i) => t.surface === 'plane' && t.looksOn && i < wide).lastIndexOf(true);
  const through = walk.through.slice(0, plane + 1);
  return {
    through,
    end: 'mouth',
    last: walk.through[wide].from,
    onto: walk.through[wide].faces,
    mostly: true,
  };
}

/** What is much wider is a bore of its own, unless it only makes a place for a head or a nut. */
const isAnother = (bore: Bore, { radius, ...wall }: BoreWall): boolean =>
  radius > bore.radius * WIDEST_COUNTERBORE && heightsOf(wall) > bore.radius * DEEPEST_SPOT_FACE;

function turnedStep(t: Turned, before: Turned | undefined): Omit<HoleStep, 'side'> | null {
  const inner = t.from.radius;
  const outer = t.to?.radius ?? 0;
  const depth = t.to ? Math.abs(t.to.height - t.from.height) : 0;
  const { faces, facts } = t;
  if (t.surface === 'cone') {
    const angle = 2 * facts.semiAngle!;
    if (!t.to)
      return {
        kind: 'drill point',
        diameter: 2 * inner,
        depth: inner / Math.tan(facts.semiAngle!),
        angle,
        faces,
      };
    const kind =
      outer - inner <= WIDEST_CHAMFER * inner || before?.surface === 'cylinder' ? 'chamfer' : 'countersink';
    return outer > inner ? { kind, diameter: 2 * outer, depth, angle, faces } : null;
  }
  if (t.surface === 'torus') {
    if (!t.to) return null;
    const kind = outer > inner ? 'rounding' : 'bottom rounding';
    return { kind, diameter: 2 * Math.max(inner, outer), depth, width: facts.minorRadius!, faces };
  }
  if (t.surface === 'sphere' && !t.to) {
    const cap = facts.radius! - Math.sqrt(Math.max(0, facts.radius! ** 2 - inner ** 2));
    return { kind: 'ball bottom', diameter: 2 * inner, depth: cap, width: facts.radius!, faces };
  }
  return null;
}

/**
 * Where the axis meets the face that most of the rim lies in; the mean of the rim where that
 * face is of another kind.
 */
function mouthHeight(part: HoleScope, bore: Bore, walk: Walk): number {
  const last = walk.through.at(-1);
  if (last?.surface === 'plane' && last.looksOn) return heightOn(bore, last.facts.origin!);
  const face = part.faces[walk.onto[0]];
  if (face && walk.mostly) {
    const at = crossingNearest(face, bore, walk.last.height);
    if (at !== undefined) return at;
  }
  return walk.last.height;
}

function holeOf(part: HoleScope, bore: Bore, [low, high]: [End, End]): Hole {
  // From the open end; of a hole that goes through from the end that is widened.
  const widened = (e: End) =>
    Math.max(
      0,
      ...e.steps.filter((s) => s.kind === 'counterbore' || s.kind === 'countersink').map((s) => s.diameter),
    );
  const fromHigh = low.open === high.open ? widened(high) > widened(low) : high.open;
  const [near, far] = fromHigh ? [high, low] : [low, high];
  const faces = bore.pieces.flatMap((p) => p.faces);
  const deviations = faces
    .map((f) => part.faces[f].accuracy)
    .flatMap((a) => (a.kind === 'recognised' ? [a.deviation] : []));
  const along = depthAlongWall(bore, wallEnd(part, low), wallEnd(part, high));
  const inWall: HoleStep[] = [
    ...bore.grooves.map((g): HoleStep => ({
      kind: 'groove',
      diameter: 2 * g.radius,
      depth: heightsOf(g),
      side: 'near',
      faces: g.faces,
    })),
    ...bore.gaps.map((width): HoleStep => ({
      kind: 'gap',
      diameter: 2 * bore.radius,
      depth: width,
      width,
      side: 'near',
      faces: [],
    })),
    ...bore.pieces.flatMap((p): HoleStep[] =>
      p.slit === undefined
        ? []
        : [
            {
              kind: 'slit',
              diameter: 2 * bore.radius,
              depth: heightsOf(p),
              width: p.slit,
              side: 'near',
              faces: [],
            },
          ],
    ),
    ...bore.pieces.flatMap((p) =>
      p.keyways.map((k): HoleStep => ({
        kind: 'keyway',
        diameter: k.reach + bore.radius,
        depth: heightsOf(p),
        width: k.width,
        side: 'near',
        faces: k.faces,
      })),
    ),
  ];
  return {
    faces,
    diameter: 2 * bore.radius,
    depth: Math.abs(high.height - low.height),
    ...(along && { along }),
    start: addScaled(bore.origin, bore.axis, near.height),
    axis: fromHigh ? scale(bore.axis, -1) : bore.axis,
    ends: low.open && high.open ? 'through' : low.open || high.open ? 'blind' : 'closed',
    steps: [
      ...near.steps.map((s) => ({ ...s, side: 'near' as const })),
      ...inWall,
      ...far.steps.map((s) => ({ ...s, side: 'far' as const })),
    ],
    opensInto: [...near.into, ...far.into, ...bore.pieces.flatMap((p) => oneOfEach(part, p.meets))],
    accuracy: deviations.length
      ? { kind: 'recognised', deviation: Math.max(...deviations) }
      : { kind: 'exact' },
  };
}

/** What is turned about the axis ends square to it; else the face beyond tells. */
const wallEnd = (part: HoleScope, { walk, height, open, steps }: End): WallEnd => ({
  height,
  onto: open && !steps.length && walk.mostly ? (part.faces[walk.onto[0]] ?? null) : null,
});

/** Of the faces of bores one for each cylinder. */
function oneOfEach(part: HoleScope, faces: readonly number[]): number[] {
  const walls = faces.filter((f) => isBoreWall(part.faces[f]));
  return walls.filter((f, i) => walls.findIndex((g) => sameCylinder(part.faces[g], part.faces[f])) === i);
}

function heightsOf(wall: Pick<BoreWall, 'rings'>): number {
  const heights = wall.rings.map((r) => r.height);
  return Math.max(...heights) - Math.min(...heights);
}

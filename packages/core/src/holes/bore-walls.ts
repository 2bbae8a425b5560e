import type { FaceFacts } from '../geometry/part-geometry.ts';
import {
  addScaled,
  cross,
  dot,
  frameOf,
  length,
  normalize,
  pointAt,
  subtract,
  type Vec3,
} from '../math/vec3.ts';
import { COAXIAL_ANGLE, COAXIAL_RELATIVE, INSIDE_WALL, LOOKS_ALONG, PARALLEL_ANGLE } from '../tolerances.ts';
import {
  heightOn,
  joined,
  linePoints,
  mean,
  ringsOf,
  offAxis,
  type AxisLine,
  type HoleScope,
  type Loop,
} from './face-loops.ts';

/** A piece of wall that goes round: of a bore, or of a groove in one. */
export interface BoreWall extends AxisLine {
  faces: number[];
  radius: number;
  keyways: Recess[];
  /** Faces of bores beside it that it meets all along. */
  meets: number[];
  /** mm across, where it is slit along. */
  slit?: number;
  /** Outlines that go round its axis: its ends. */
  rings: Ring[];
}

/** An end of a piece of wall, with the faces the piece consists of. */
export interface Ring extends Loop {
  of: ReadonlySet<number>;
}

/** A keyway: faces along the axis, farther out than the bore, that lead from its wall back to it. */
export interface Recess {
  faces: number[];
  /** mm across, and from the axis to its bottom. */
  width: number;
  reach: number;
}

/** Of the 360 one-degree bins around the axis, how many a wall and its keyways must touch to go round. */
const FULL_TURN_BINS = 350;
/** Walls that keyways leave less of are something else, degrees. */
const LEAST_WALL_BINS = 90;
/**
 * Times the radius, from the axis: what a recess reaches farther is the pocket that the wall
 * is a relieved corner of.
 */
const DEEPEST_KEYWAY = 2;
/**
 * A wall that goes round but for a gap of no more than this is slit, degrees: a clamp, no
 * relieved corner of a pocket.
 */
const MOST_SLIT_BINS = 60;
/** A recess with a round wall that turns by more is a bore beside this one, degrees. */
const OTHER_BORE_BINS = 200;
/** A recess that spans more is no keyway, degrees: a rounded corner of a pocket, the end of a slot. */
const MOST_RECESS_BINS = 150;

export const isBoreWall = (f: FaceFacts): boolean =>
  f.surface === 'cylinder' && f.concave && f.axis !== undefined;

export function sameCylinder(a: FaceFacts, b: FaceFacts): boolean {
  const [ra, rb] = [a.radius!, b.radius!];
  if (Math.abs(ra - rb) > ra * COAXIAL_RELATIVE) return false;
  if (length(cross(a.axis!, b.axis!)) > PARALLEL_ANGLE) return false;
  return length(cross(subtract(b.origin!, a.origin!), a.axis!)) <= ra * COAXIAL_RELATIVE;
}

/** The pieces of wall of a part that go round. Halves, and what keyways part, are one piece. */
export function boreWalls(part: HoleScope): BoreWall[] {
  const taken = new Set<number>();
  const pieces: BoreWall[] = [];
  part.faces.forEach((face, index) => {
    if (taken.has(index) || !isBoreWall(face)) return;
    const piece = pieceFrom(part, index);
    piece.faces.forEach((f) => taken.add(f));
    if (piece.wall) pieces.push(piece.wall);
  });
  return pieces;
}

function pieceFrom(part: HoleScope, seed: number): { faces: number[]; wall: BoreWall | null } {
  const { origin, axis, radius } = part.faces[seed] as FaceFacts & {
    origin: Vec3;
    axis: Vec3;
    radius: number;
  };
  const line = { origin, axis };
  const sameWall = (f: FaceFacts) => isBoreWall(f) && sameCylinder(part.faces[seed], f);
  const walls = new Set(joined(part, seed, sameWall));
  const keyways: Recess[] = [];
  const beside: number[][] = [];
  // Keyways lead on to further pieces of the same wall: a splined bore has as many as keyways.
  for (const wall of walls)
    for (const e of part.faces[wall].edges) {
      const side = part.edges[e].faces.find((f) => !walls.has(f));
      if (
        side === undefined ||
        [...keyways.map((k) => k.faces), ...beside].some((k) => k.includes(side)) ||
        !runsAlong(part, e, axis)
      )
        continue;
      const inRecess = (face: FaceFacts, f: number) => !sameWall(face) && isRecessSide(part, f, line, radius);
      if (!inRecess(part.faces[side], side)) continue;
      const faces = joined(part, side, inRecess);
      const edges = faces.flatMap((f) => part.faces[f].edges);
      const meets = new Set(
        edges.filter(
          (k) => part.edges[k].faces.some((f) => sameWall(part.faces[f])) && runsAlong(part, k, axis),
        ),
      );
      if (meets.size < 2) continue;
      if (faces.some((f) => isOtherBore(part, f, faces))) beside.push(faces);
      else keyways.push({ faces, ...sizeOfRecess(part, faces, line) });
      for (const k of meets)
        for (const f of part.edges[k].faces)
          if (sameWall(part.faces[f])) for (const g of joined(part, f, sameWall)) walls.add(g);
    }
  const faces = [...walls];
  const bins = new Uint8Array(360);
  markTurn(part, faces, line, bins);
  const own = degreesOf(bins);
  for (const { faces: recess, reach } of keyways) {
    const across = new Uint8Array(360);
    markTurn(part, recess, line, across);
    if (degreesOf(across) > MOST_RECESS_BINS || reach > DEEPEST_KEYWAY * radius) return { faces, wall: null };
    across.forEach((b, i) => (bins[i] |= b));
  }
  for (const faces of beside) markTurn(part, faces, line, bins);
  const round = degreesOf(bins);
  if (own < LEAST_WALL_BINS || round < 360 - MOST_SLIT_BINS) return { faces, wall: null };
  const meets = beside.flat();
  if (round < FULL_TURN_BINS)
    return { faces, wall: keyways.length || meets.length ? null : slitWall(part, faces, line, radius, bins) };
  const of = new Set([...faces, ...keyways.flatMap((k) => k.faces), ...meets]);
  const rings = ringsOf(part, of, line);
  return { faces, wall: { ...line, faces, radius, keyways, meets, rings: rings.map((r) => ({ ...r, of })) } };
}

const degreesOf = (bins: Uint8Array): number => bins.reduce((n, b) => n + b, 0);

/**
 * Whether a face is the wall of another bore: with others of its cylinder it turns by more
 * than any keyway's bottom.
 */
function isOtherBore(part: HoleScope, face: number, among: readonly number[]): boolean {
  const facts = part.faces[face];
  if (!isBoreWall(facts)) return false;
  const bins = new Uint8Array(360);
  const own = among.filter((f) => isBoreWall(part.faces[f]) && sameCylinder(facts, part.faces[f]));
  markTurn(part, own, { origin: facts.origin!, axis: facts.axis! }, bins);
  return degreesOf(bins) > OTHER_BORE_BINS;
}

/** A wall that is slit along: its ends are arcs. @returns null where its gap is no slit */
function slitWall(
  part: HoleScope,
  faces: number[],
  line: AxisLine,
  radius: number,
  bins: Uint8Array,
): BoreWall | null {
  // One gap, not several.
  let gaps = 0;
  bins.forEach((b, i) => (gaps += b && !bins[(i + 1) % 360] ? 1 : 0));
  const own = new Set(faces);
  const outline = [...new Set(faces.flatMap((f) => part.faces[f].edges))].filter(
    (e) => !part.edges[e].seam && part.edges[e].faces.filter((f) => own.has(f)).length === 1,
  );
  const sides = outline.filter((e) => runsAlong(part, e, line.axis));
  // The sides of a slit look at each other.
  const beside = sides.flatMap((e) =>
    part.edges[e].faces.filter((f) => !own.has(f)).map((f) => part.faces[f]),
  );
  const [one] = beside;
  const flat = beside.every(
    (f) => f.surface === 'plane' && Math.abs(dot(f.axis!, line.axis)) < PARALLEL_ANGLE,
  );
  if (
    gaps !== 1 ||
    sides.length < 2 ||
    !flat ||
    !beside.some((f) => dot(f.axis!, one.axis!) < -1 + PARALLEL_ANGLE)
  )
    return null;
  const arcs = outline
    .filter((e) => !sides.includes(e))
    .map((e) => ({
      e,
      length: part.edges[e].length,
      height: mean(linePoints(part, e), (p) => heightOn(line, p)),
    }))
    .sort((a, b) => a.height - b.height);
  if (arcs.length < 2) return null;
  const middle = (arcs[0].height + arcs.at(-1)!.height) / 2;
  const rings = [arcs.filter((a) => a.height <= middle), arcs.filter((a) => a.height > middle)].map(
    (its): Ring => ({
      edges: its.map((a) => a.e),
      height:
        its.reduce((sum, a) => sum + a.height * a.length, 0) / its.reduce((sum, a) => sum + a.length, 0),
      radius,
      of: own,
    }),
  );
  const [a, b] = [sides[0], sides.at(-1)!].map((e) => linePoints(part, e)[0]);
  const across = subtract(b, a);
  return {
    ...line,
    faces,
    radius,
    keyways: [],
    meets: [],
    slit: length(addScaled(across, line.axis, -dot(across, line.axis))),
    rings,
  };
}

/** Whether an edge runs along the axis: it turns less about it than it rises. */
function runsAlong(part: HoleScope, edge: number, axis: Vec3): boolean {
  const points = linePoints(part, edge);
  if (points.length < 2 || part.edges[edge].seam) return false;
  const way = subtract(points.at(-1)!, points[0]);
  return Math.abs(dot(way, axis)) > LOOKS_ALONG * length(way) && length(way) > 0.9 * part.edges[edge].length;
}

/**
 * Sides and bottom of a keyway: straight along the axis, farther out than the wall,
 * and never looking outwards.
 */
function isRecessSide(part: HoleScope, f: number, line: AxisLine, radius: number): boolean {
  const face = part.faces[f];
  if (!face.axis) return false;
  const along =
    face.surface === 'plane'
      ? Math.abs(dot(face.axis, line.axis)) < COAXIAL_ANGLE
      : face.surface === 'cylinder' && length(cross(face.axis, line.axis)) < COAXIAL_ANGLE;
  if (!along) return false;
  const { mesh } = part;
  let [facing, count] = [0, 0];
  for (let i = 3 * mesh.faceStart[f]; i < 3 * mesh.faceStart[f + 1]; i++) {
    const p = addScaled(pointAt(mesh.positions, mesh.indices[i]), part.origin, 1);
    const away = offAxis(p, line);
    if (away < radius * (1 - INSIDE_WALL)) return false;
    const d = subtract(p, line.origin);
    facing += dot(
      pointAt(mesh.normals, mesh.indices[i]),
      normalize(addScaled(d, line.axis, -dot(d, line.axis))),
    );
    count++;
  }
  return count > 0 && facing / count < 0.5;
}

function sizeOfRecess(part: HoleScope, faces: number[], line: AxisLine): { width: number; reach: number } {
  const planes = faces.map((f) => part.faces[f]).filter((f) => f.surface === 'plane');
  // The bottom looks at the axis; what faces it across are the sides.
  const towards = (f: FaceFacts) => dot(subtract(line.origin, f.origin!), f.axis!);
  let width = 0;
  for (const a of planes)
    for (const b of planes)
      if (dot(a.axis!, b.axis!) < -1 + PARALLEL_ANGLE)
        width = Math.max(width, Math.abs(dot(subtract(b.origin!, a.origin!), a.axis!)));
  const { mesh } = part;
  let reach = Math.max(0, ...planes.map(towards));
  if (!planes.length || reach === 0)
    for (const f of faces)
      for (let i = 3 * mesh.faceStart[f]; i < 3 * mesh.faceStart[f + 1]; i++)
        reach = Math.max(
          reach,
          offAxis(addScaled(pointAt(mesh.positions, mesh.indices[i]), part.origin, 1), line),
        );
  return { width, reach };
}

/** Marks the one-degree bins around an axis that faces touch. */
function markTurn(
  { mesh, origin }: HoleScope,
  faces: readonly number[],
  line: AxisLine,
  bins: Uint8Array,
): void {
  const { u, v } = frameOf(line.axis);
  const offset = subtract(origin, line.origin);
  const angles = [0, 0, 0];
  for (const f of faces)
    for (let t = mesh.faceStart[f]; t < mesh.faceStart[f + 1]; t++) {
      for (let k = 0; k < 3; k++) {
        const d = addScaled(pointAt(mesh.positions, mesh.indices[3 * t + k]), offset, 1);
        angles[k] = (Math.atan2(dot(d, v), dot(d, u)) * 180) / Math.PI;
      }
      markArc(bins, angles);
    }
}

/** Marks the bins that a triangle spans: from its first corner to the others the short way round. */
function markArc(bins: Uint8Array, angles: number[]): void {
  const first = angles[0];
  const rel = angles.map((a) => ((a - first + 540) % 360) - 180);
  const from = Math.floor(first + Math.min(...rel));
  const to = Math.ceil(first + Math.max(...rel));
  for (let i = from; i < to; i++) bins[((i % 360) + 360) % 360] = 1;
}

import type { EdgeFacts, EdgeLines, FaceFacts, FaceMesh } from '../geometry/part-geometry.ts';
import { boxCentre, boxOfPoints } from '../math/box3.ts';
import {
  addScaled,
  cross,
  distance,
  dot,
  frameOf,
  length,
  pointAt,
  subtract,
  type Vec3,
} from '../math/vec3.ts';
import { COAXIAL_RELATIVE, PARALLEL_ANGLE } from '../tolerances.ts';

export interface HoleInput {
  origin: Vec3;
  mesh: FaceMesh;
  lines: EdgeLines;
  vertices: Float64Array;
  faces: FaceFacts[];
  edges: EdgeFacts[];
}

/** A line in the part's frame; heights are counted from `origin` along `axis` (unit). */
export interface AxisLine {
  origin: Vec3;
  axis: Vec3;
}

/** A part whose holes are being looked for, with what was found on the way. */
export interface HoleScope extends HoleInput {
  chains: Map<string, Chain[]>;
  /** By one of them: planes that faces lie in together. */
  planes: Map<number, number[]>;
}

/** A closed outline of some faces that goes round an axis. */
export interface Loop {
  edges: number[];
  /** mm along the axis, the mean by length. */
  height: number;
  /** mm from the axis, the mean by length. */
  radius: number;
}

export const heightOn = ({ origin, axis }: AxisLine, p: Vec3): number => dot(subtract(p, origin), axis);

export function linePoints(part: HoleInput, edge: number): Vec3[] {
  const points: Vec3[] = [];
  for (let i = part.lines.start[edge]; i < part.lines.start[edge + 1]; i++)
    points.push(addScaled(pointAt(part.lines.positions, i), part.origin, 1));
  return points;
}

/** Edges with only one of their sides in a set of faces. */
function boundaryOf(part: HoleInput, faces: ReadonlySet<number>): number[] {
  const edges = new Set<number>();
  for (const f of faces)
    for (const e of part.faces[f].edges) {
      const edge = part.edges[e];
      if (!edge.seam && edge.faces.filter((n) => faces.has(n)).length === 1) edges.add(e);
    }
  return [...edges];
}

/** A closed outline, not yet seen from an axis. */
interface Chain {
  pieces: { edge: number; points: Vec3[] }[];
  centre: Vec3;
  /** mm from its centre, at most. */
  reach: number;
}

/**
 * Chains the boundary of a set of faces into its outlines; each set once, for plates have thousands of holes.
 */
function chainsOf(part: HoleScope, faces: ReadonlySet<number>): Chain[] {
  const key = [...faces].sort((a, b) => a - b).join();
  const known = part.chains.get(key);
  if (known) return known;
  const left = new Set(boundaryOf(part, faces));
  const at = new Map<number, number[]>();
  for (const e of left) for (const v of new Set(part.edges[e].vertices)) at.set(v, [...(at.get(v) ?? []), e]);
  const chains: Chain[] = [];
  for (const first of left) {
    const pieces: Chain['pieces'] = [];
    let vertex: number | undefined = part.edges[first].vertices[0];
    for (let edge: number | undefined = first; edge !== undefined;) {
      left.delete(edge);
      const points = linePoints(part, edge);
      const vertices: readonly number[] = part.edges[edge].vertices;
      const from = vertex === undefined ? undefined : pointAt(part.vertices, vertex);
      if (from && points.length > 1 && distance(points[0], from) > distance(points.at(-1)!, from))
        points.reverse();
      pieces.push({ edge, points });
      vertex = vertices.length > 1 ? (vertices[0] === vertex ? vertices[1] : vertices[0]) : vertex;
      edge = vertex === undefined ? undefined : at.get(vertex)?.find((e) => left.has(e));
    }
    const points = pieces.flatMap((c) => c.points);
    const centre = points.length ? boxCentre(boxOfPoints(points.flat())) : ([0, 0, 0] as Vec3);
    chains.push({ pieces, centre, reach: Math.max(0, ...points.map((p) => distance(p, centre))) });
  }
  part.chains.set(key, chains);
  return chains;
}

/** The outlines of a set of faces that go round an axis. */
export function ringsOf(part: HoleScope, faces: ReadonlySet<number>, line: AxisLine): Loop[] {
  return chainsOf(part, faces).flatMap((chain) => {
    if (offAxis(chain.centre, line) > chain.reach || !goesRound(chain, line)) return [];
    let [weight, height, radius] = [0, 0, 0];
    for (const { edge, points } of chain.pieces) {
      if (!points.length) continue;
      const facts = part.edges[edge];
      const w = facts.length || 1;
      // A circle about the axis is known in double precision, its drawn line only in single.
      const round = facts.curve === 'circle' && isAbout(facts, line);
      height += w * (round ? heightOn(line, facts.centre!) : mean(points, (p) => heightOn(line, p)));
      radius += w * (round ? facts.radius! : mean(points, (p) => offAxis(p, line)));
      weight += w;
    }
    return [{ edges: chain.pieces.map((c) => c.edge), height: height / weight, radius: radius / weight }];
  });
}

export const mean = (points: readonly Vec3[], of: (p: Vec3) => number): number =>
  points.reduce((sum, p) => sum + of(p), 0) / points.length;

const isAbout = ({ axis, centre, radius }: EdgeFacts, line: AxisLine): boolean =>
  length(cross(axis!, line.axis)) <= PARALLEL_ANGLE && offAxis(centre!, line) < radius! * COAXIAL_RELATIVE;

function goesRound({ pieces }: Chain, { origin, axis }: AxisLine): boolean {
  const { u, v } = frameOf(axis);
  const angles = pieces.flatMap(({ points }) =>
    points.map((p) => Math.atan2(dot(subtract(p, origin), v), dot(subtract(p, origin), u))),
  );
  let turn = 0;
  angles.forEach((angle, i) => {
    const step = angles[(i + 1) % angles.length] - angle;
    turn += step - FULL * Math.round(step / FULL);
  });
  return Math.abs(turn) > Math.PI;
}

const FULL = 2 * Math.PI;

export const offAxis = (p: Vec3, { origin, axis }: AxisLine): number =>
  length(cross(subtract(p, origin), axis));

/** The faces beyond a loop of some faces, with the length along which each adjoins. */
export function beyond(part: HoleInput, loop: Loop, faces: ReadonlySet<number>): Map<number, number> {
  const found = new Map<number, number>();
  for (const e of loop.edges)
    for (const f of part.edges[e].faces)
      if (!faces.has(f)) found.set(f, (found.get(f) ?? 0) + part.edges[e].length);
  return found;
}

/** A face and those it adjoins of the same kind, as far as they go. */
export function joined(
  part: HoleInput,
  seed: number,
  same: (face: FaceFacts, index: number) => boolean,
): number[] {
  const group = [seed];
  const seen = new Set(group);
  for (const f of group)
    for (const e of part.faces[f].edges)
      for (const other of part.edges[e].faces)
        if (!seen.has(other) && same(part.faces[other], other)) {
          seen.add(other);
          group.push(other);
        }
  return group;
}

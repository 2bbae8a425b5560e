import type { EdgeFacts, EdgeLines, FaceFacts, FaceMesh } from '../geometry/part-geometry.ts';
import { COAXIAL_RELATIVE, PARALLEL_ANGLE, HOLE_ENDS } from '../tolerances.ts';
import { addScaled, cross, dot, frameOf, length, pointAt, scale, subtract, type Vec3 } from '../math/vec3.ts';
import type { Hole } from './hole.ts';

export interface HoleInput {
  origin: Vec3;
  mesh: FaceMesh;
  lines: EdgeLines;
  faces: FaceFacts[];
  edges: EdgeFacts[];
}

/** Of the 360 one-degree bins around the axis, how many the wall must touch to count as a hole (a cross bore may interrupt it). */
const FULL_TURN_BINS = 350;

/**
 * Finds the holes of a part. Files often split a bore into halves, so faces are joined where they share an edge, a
 * radius and an axis. An end is open where the face beyond it looks out of the hole, closed where it looks back in.
 */
export function recogniseHoles(part: HoleInput): Hole[] {
  const holes: Hole[] = [];
  const taken = new Set<number>();
  part.faces.forEach((face, index) => {
    if (taken.has(index) || !isBoreWall(face)) return;
    const group = joinWall(part, index);
    group.forEach((f) => taken.add(f));
    const hole = describeHole(part, group);
    if (hole) holes.push(hole);
  });
  return holes;
}

const isBoreWall = (f: FaceFacts): boolean => f.surface === 'cylinder' && f.concave;

function joinWall(part: HoleInput, seed: number): number[] {
  const group = [seed];
  const seen = new Set(group);
  for (const f of group)
    for (const e of part.faces[f].edges)
      for (const other of part.edges[e].faces)
        if (!seen.has(other) && isBoreWall(part.faces[other]) && sameCylinder(part.faces[seed], part.faces[other])) {
          seen.add(other);
          group.push(other);
        }
  return group;
}

function sameCylinder(a: FaceFacts, b: FaceFacts): boolean {
  const [ra, rb] = [a.radius!, b.radius!];
  if (Math.abs(ra - rb) > ra * COAXIAL_RELATIVE) return false;
  if (length(cross(a.axis!, b.axis!)) > PARALLEL_ANGLE) return false;
  return length(cross(subtract(b.origin!, a.origin!), a.axis!)) <= ra * COAXIAL_RELATIVE;
}

function describeHole(part: HoleInput, group: number[]): Hole | null {
  const { axis, origin, radius } = part.faces[group[0]] as FaceFacts & { axis: Vec3; origin: Vec3; radius: number };
  const wall = measureWall(part, group, origin, axis);
  if (wall.turn < FULL_TURN_BINS) return null;

  const low = isOpenEnd(part, group, origin, axis, wall.min, -1, radius, wall.max - wall.min);
  const high = isOpenEnd(part, group, origin, axis, wall.max, 1, radius, wall.max - wall.min);
  const fromHigh = high && !low;
  const deviation = Math.max(
    0,
    ...group.map((f) => {
      const a = part.faces[f].accuracy;
      return a.kind === 'recognised' ? a.deviation : 0;
    }),
  );
  const recognised = group.some((f) => part.faces[f].accuracy.kind === 'recognised');
  return {
    faces: group,
    diameter: 2 * radius,
    depth: wall.max - wall.min,
    start: addScaled(origin, axis, fromHigh ? wall.max : wall.min),
    axis: fromHigh ? scale(axis, -1) : axis,
    ends: low && high ? 'through' : low || high ? 'blind' : 'closed',
    accuracy: recognised ? { kind: 'recognised', deviation } : { kind: 'exact' },
  };
}

/** Extent of the wall along its axis and the number of one-degree bins it touches around it. */
function measureWall(part: HoleInput, group: number[], origin: Vec3, axis: Vec3) {
  const { mesh } = part;
  const { u, v } = frameOf(axis);
  const bins = new Uint8Array(360);
  const offset = subtract(part.origin, origin);
  let [min, max] = [Infinity, -Infinity];
  const angles = [0, 0, 0];
  for (const f of group)
    for (let t = mesh.faceStart[f]; t < mesh.faceStart[f + 1]; t++) {
      for (let k = 0; k < 3; k++) {
        const d = addScaled(pointAt(mesh.positions, mesh.indices[3 * t + k]), offset, 1);
        const height = dot(d, axis);
        if (height < min) min = height;
        if (height > max) max = height;
        angles[k] = (Math.atan2(dot(d, v), dot(d, u)) * 180) / Math.PI;
      }
      markArc(bins, angles);
    }
  // The mesh is single precision: an end circle known exactly gives the extent in double.
  for (const f of group)
    for (const e of part.faces[f].edges) {
      const edge = part.edges[e];
      if (edge.curve !== 'circle' || !edge.centre || edge.seam) continue;
      const height = dot(subtract(edge.centre, origin), axis);
      if (length(cross(edge.axis!, axis)) > PARALLEL_ANGLE) continue;
      if (Math.abs(height - min) < (max - min) * HOLE_ENDS) min = height;
      if (Math.abs(height - max) < (max - min) * HOLE_ENDS) max = height;
    }
  return { min, max, turn: bins.reduce((n, b) => n + b, 0) };
}

/** Marks the bins that a triangle spans: from its first corner to the others the short way round. */
function markArc(bins: Uint8Array, angles: number[]): void {
  const first = angles[0];
  const rel = angles.map((a) => ((a - first + 540) % 360) - 180);
  const from = Math.floor(first + Math.min(...rel));
  const to = Math.ceil(first + Math.max(...rel));
  for (let i = from; i < to; i++) bins[((i % 360) + 360) % 360] = 1;
}

/** How square to the hole's axis the neighbour must be at the edge before its direction decides; below, the whole face is asked. */
const TANGENT_LIMIT = 0.15;

function isOpenEnd(
  part: HoleInput,
  group: number[],
  origin: Vec3,
  axis: Vec3,
  height: number,
  side: 1 | -1,
  radius: number,
  extent: number,
): boolean {
  const outward = scale(axis, side);
  let facing = 0;
  let seen = false;
  for (const f of group)
    for (const e of part.faces[f].edges) {
      const edge = part.edges[e];
      if (edge.seam) continue;
      const beyond = edge.faces.find((n) => !group.includes(n));
      if (beyond === undefined) continue;
      const line = linePoints(part, e);
      const middle = line.reduce((sum, p) => sum + dot(subtract(p, origin), axis), 0) / line.length;
      if (Math.abs(middle - height) > Math.min(radius, extent / 2)) continue;
      seen = true;
      facing += neighbourFacing(part, beyond, line, outward) * edge.length;
    }
  return seen ? facing > 0 : true;
}

function linePoints(part: HoleInput, edge: number): Vec3[] {
  const points: Vec3[] = [];
  for (let i = part.lines.start[edge]; i < part.lines.start[edge + 1]; i++)
    points.push(addScaled(pointAt(part.lines.positions, i), part.origin, 1));
  return points;
}

/** Mean of (outward normal · direction) of a face along an edge line; of the whole face where it is tangent there. */
function neighbourFacing(part: HoleInput, face: number, line: Vec3[], direction: Vec3): number {
  const { mesh } = part;
  const onLine = new Set(line.map((p) => keyOf(subtract(p, part.origin))));
  let [near, nearCount, all, allCount] = [0, 0, 0, 0];
  for (let i = 3 * mesh.faceStart[face]; i < 3 * mesh.faceStart[face + 1]; i++) {
    const n = mesh.indices[i];
    const facing = dot(pointAt(mesh.normals, n), direction);
    all += facing;
    allCount++;
    if (onLine.has(keyOf(pointAt(mesh.positions, n)))) {
      near += facing;
      nearCount++;
    }
  }
  const atEdge = nearCount ? near / nearCount : 0;
  return Math.abs(atEdge) > TANGENT_LIMIT || allCount === 0 ? atEdge : all / allCount;
}

const keyOf = (p: Vec3): string => `${Math.round(p[0] * 1e4)},${Math.round(p[1] * 1e4)},${Math.round(p[2] * 1e4)}`;

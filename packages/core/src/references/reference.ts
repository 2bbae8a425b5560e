import type { EdgeFacts, FaceFacts, PartGeometry } from '../geometry/part-geometry.ts';
import { distance, dot, pointAt, vecOf, type Vec3 } from '../math/vec3.ts';
import type { ComponentPath } from '../model/structure.ts';
import { isValues } from '../tables/own.ts';
import { readSnap, type Snap } from './snap.ts';
import { SAME_DIRECTION, SAME_POSITION, SAME_SIZE, TINY } from '../tolerances.ts';

/**
 * What a thing looked like when it was referred to: enough to find it again in a later
 * revision. Part's own frame, mm.
 */
export interface Fingerprint {
  /** Surface or curve kind, or `vertex`. */
  shape: string;
  /** Area or length; 0 for a vertex. */
  size: number;
  radius?: number;
  axis?: Vec3;
  /** A point that belongs to it: of the axis, the centre, the middle of the mesh or line. */
  position: Vec3;
}

/** What a reference says of where it belongs. */
interface OfComponent {
  component: ComponentPath;
  /**
   * Key of the component's part (`partKeys`), by which a component that was moved in the structure is found.
   * Absent for assemblies, and in what was kept before there were keys.
   */
  part?: string;
  /**
   * What became of it when it was carried over from another revision, where it is not plainly found; gone
   * when it is pointed to anew or accepted.
   */
  became?: 'probably found' | 'lost';
}

export interface ComponentReference extends OfComponent {
  kind: 'component';
}

export interface IndexedReference extends OfComponent {
  kind: IndexedKind;
  index: number;
  /** Absent in what was kept before there were fingerprints: then the index is believed. */
  fingerprint?: Fingerprint;
  /** Where on it, in the part's own frame, mm. */
  position?: Vec3;
}

/** Of a cut; the position is in model space, mm. */
export interface CutReference extends OfComponent {
  kind: 'cap' | 'outline' | 'corner';
  index: number;
  /** The section plane's id. */
  plane: string;
  position?: Vec3;
}

/**
 * A point of an edge or face, or of a cut; the position is that of its thing: in the part's own frame, or of
 * a cut in model space.
 */
export interface PointReference extends OfComponent {
  kind: 'point';
  snap: Omit<Snap, 'with'>;
  index: number;
  fingerprint?: Fingerprint;
  position?: Vec3;
  /** The section plane's id, for points of cuts. */
  plane?: string;
  /** The other edge of an intersection. */
  with?: IndexedReference;
}

/** A plane, an axis or the origin of the model's reference geometry, by its id. */
export interface DatumReference extends OfComponent {
  kind: 'datum';
  component: '';
  datum: string;
}

/**
 * A thing of a model, named so that kept picks, planes, notes, measurements and views can keep hold of it.
 */
export type Reference =
  ComponentReference | IndexedReference | CutReference | PointReference | DatumReference;

/** Kinds that are known by an index and a fingerprint. */
export type IndexedKind = 'body' | 'face' | 'edge' | 'vertex';

export type Found = { status: 'found' | 'probably found'; index: number } | { status: 'lost' };

/** Where a reference leads in a model, which may be a later revision of the one it was made in. */
export type Resolved =
  { status: 'found' | 'probably found'; component: ComponentPath; index: number } | { status: 'lost' };

const WORSE: readonly Resolved['status'][] = ['found', 'probably found', 'lost'];

/** Of two the one that says less. */
export const worseStatus = (a: Resolved['status'], b: Resolved['status']): Resolved['status'] =>
  WORSE.indexOf(b) > WORSE.indexOf(a) ? b : a;

/** A model in which references are looked up. */
export interface ReferenceScope {
  /** Undefined where there is no such component. `part` is absent for an assembly. */
  component(path: ComponentPath): { part?: string; geometry?: PartGeometry } | undefined;
  /** The components of a part, by its key. */
  ofPart(part: string): readonly ComponentPath[];
  /** Whether there is reference geometry of this id; absent where it is not known. */
  datum?(id: string): boolean;
}

/**
 * Looks a reference up. A component that is not where it was is probably the only one of its part; of several
 * it is lost, for any of them would be a guess. Things of cuts are found in their component here, and by
 * their place where cuts are known.
 */
export function resolveReference(reference: Reference, scope: ReferenceScope): Resolved {
  const found = where(reference, scope);
  return found.status === 'found' && reference.became ? { ...found, status: 'probably found' } : found;
}

function where(reference: Reference, scope: ReferenceScope): Resolved {
  if (reference.became === 'lost') return { status: 'lost' };
  if (reference.kind === 'datum')
    return scope.datum?.(reference.datum) ? { status: 'found', component: '', index: 0 } : { status: 'lost' };
  if (
    reference.kind === 'point' &&
    reference.with &&
    resolveReference(reference.with, scope).status === 'lost'
  )
    return { status: 'lost' };
  const there = scope.component(reference.component);
  const others = there || reference.part === undefined ? [] : scope.ofPart(reference.part);
  const path = there ? reference.component : others.length === 1 ? others[0] : undefined;
  if (path === undefined) return { status: 'lost' };
  const moved = !there || (reference.part !== undefined && there.part !== reference.part);
  const least = moved ? 'probably found' : 'found';
  if (reference.kind === 'component') return { status: least, component: path, index: 0 };
  if ('plane' in reference) return { status: least, component: path, index: reference.index };
  const kind = reference.kind === 'point' ? (reference.snap.on === 'face' ? 'face' : 'edge') : reference.kind;
  const geometry = scope.component(path)?.geometry;
  if (!geometry) return { status: 'lost' };
  const { index, fingerprint } = reference;
  if (!fingerprint)
    return index < countOf(kind, geometry) ? { status: least, component: path, index } : { status: 'lost' };
  const found = findAgain(kind, index, fingerprint, geometry);
  if (found.status === 'lost') return found;
  return { status: moved ? 'probably found' : found.status, component: path, index: found.index };
}

const KINDS: readonly unknown[] = [
  'component',
  'body',
  'face',
  'edge',
  'vertex',
  'cap',
  'outline',
  'corner',
  'point',
  'datum',
] satisfies Reference['kind'][];

/** Whether something in a document that was read is a reference. */
export const isReference = (value: unknown): value is Reference =>
  isValues(value) && KINDS.includes(value['kind']) && typeof value['component'] === 'string';

const isVec = (v: unknown): v is Vec3 =>
  Array.isArray(v) && v.length === 3 && v.every((x) => Number.isFinite(x));

/** A reference from stored values; null for what no version ever wrote. */
export function readReference(values: unknown): Reference | null {
  const v = (typeof values === 'object' && values !== null ? values : {}) as Record<string, unknown>;
  const { kind, index, plane } = v;
  if (typeof v['component'] !== 'string') return null;
  if (kind === 'datum')
    return typeof v['datum'] === 'string' ? { kind, component: '', datum: v['datum'] } : null;
  const of = {
    component: v['component'],
    ...(typeof v['part'] === 'string' && { part: v['part'] }),
    ...becameOf(v['became']),
  };
  if (kind === 'component') return { kind, ...of };
  if (!Number.isInteger(index) || (index as number) < 0) return null;
  const at = { ...of, index: index as number, ...(isVec(v['position']) && { position: v['position'] }) };
  if (kind === 'cap' || kind === 'outline' || kind === 'corner')
    return typeof plane === 'string' ? { kind, plane, ...at } : null;
  const fingerprint = readFingerprint(v['fingerprint']);
  const known = { ...at, ...(fingerprint && { fingerprint }) };
  if (kind === 'point') return readPoint(v, known);
  return kind === 'body' || kind === 'face' || kind === 'edge' || kind === 'vertex'
    ? { kind, ...known }
    : null;
}

const becameOf = (became: unknown): Pick<OfComponent, 'became'> =>
  became === 'probably found' || became === 'lost' ? { became } : {};

function readPoint(
  v: Record<string, unknown>,
  known: Omit<PointReference, 'kind' | 'snap'>,
): PointReference | null {
  const snap = readSnap(v['snap']);
  if (!snap) return null;
  const other = v['with'] === undefined ? null : readReference(v['with']);
  const plane = typeof v['plane'] === 'string' ? { plane: v['plane'] } : {};
  return { kind: 'point', snap, ...known, ...plane, ...(other?.kind === 'edge' && { with: other }) };
}

/** What a stored plane or axis was made from, if it says so. */
export function fromOf(values: unknown): { from?: Reference } {
  const from = readReference(values);
  return from ? { from } : {};
}

function readFingerprint(values: unknown): Fingerprint | null {
  const v = (typeof values === 'object' && values !== null ? values : {}) as Record<string, unknown>;
  if (typeof v['shape'] !== 'string' || !Number.isFinite(v['size']) || !isVec(v['position'])) return null;
  return {
    shape: v['shape'],
    size: v['size'] as number,
    position: v['position'],
    ...(Number.isFinite(v['radius']) && { radius: v['radius'] as number }),
    ...(isVec(v['axis']) && { axis: v['axis'] }),
  };
}

export function fingerprintOf(kind: IndexedKind, index: number, part: PartGeometry): Fingerprint {
  if (kind === 'vertex') return { shape: 'vertex', size: 0, position: pointAt(part.vertices, index) };
  if (kind === 'body') return fingerprintOfBody(part, index);
  if (kind === 'face') {
    const f: FaceFacts = part.faces[index];
    return {
      shape: f.surface,
      size: f.area,
      radius: f.radius,
      axis: f.axis,
      position: middleOfFace(part, index),
    };
  }
  const e: EdgeFacts = part.edges[index];
  return {
    shape: e.curve,
    size: e.length,
    radius: e.radius,
    axis: e.axis,
    position: e.centre ?? middleOfLine(part, index),
  };
}

/**
 * Looks a fingerprint up in a part, which may be of a later revision. The remembered index is believed first;
 * else the thing of the same shape that is nearest in size and place. `probably found` when
 * something about it changed.
 */
export function findAgain(
  kind: IndexedKind,
  index: number,
  fingerprint: Fingerprint,
  part: PartGeometry,
): Found {
  const count = countOf(kind, part);
  if (index < count && difference(fingerprint, fingerprintOf(kind, index, part)) === 0)
    return { status: 'found', index };
  let best = { index: -1, off: Infinity };
  for (let i = 0; i < count; i++) {
    const off = difference(fingerprint, fingerprintOf(kind, i, part));
    if (off < best.off) best = { index: i, off };
  }
  if (best.off === 0) return { status: 'found', index: best.index };
  return best.off < LOST_BEYOND ? { status: 'probably found', index: best.index } : { status: 'lost' };
}

const countOf = (kind: IndexedKind, part: PartGeometry): number =>
  kind === 'vertex'
    ? part.vertices.length / 3
    : { body: part.bodies, face: part.faces, edge: part.edges }[kind].length;

/**
 * Sum of the relative differences in size and of the shift over the size, beyond which nothing
 * is called the same thing.
 */
const LOST_BEYOND = 0.5;

function difference(a: Fingerprint, b: Fingerprint): number {
  if (a.shape !== b.shape) return Infinity;
  if (a.axis && b.axis && Math.abs(dot(a.axis, b.axis)) < SAME_DIRECTION) return Infinity;
  const shift = distance(a.position, b.position);
  const extent = a.shape === 'vertex' ? 1 : (a.radius ?? Math.sqrt(Math.max(a.size, TINY)));
  const size = a.size ? Math.abs(a.size - b.size) / a.size : 0;
  const radius = a.radius && b.radius ? Math.abs(a.radius - b.radius) / a.radius : 0;
  return (
    (size > SAME_SIZE ? size : 0) +
    (radius > SAME_SIZE ? radius : 0) +
    (shift > SAME_POSITION ? shift / extent : 0)
  );
}

/** A body by the area of its faces and their middle. */
function fingerprintOfBody(part: PartGeometry, index: number): Fingerprint {
  const { faces } = part.bodies[index];
  const size = faces.reduce((sum, f) => sum + part.faces[f].area, 0);
  const middles = faces.map((f) => middleOfFace(part, f));
  const position = vecOf((k) => middles.reduce((sum, m) => sum + m[k], 0) / Math.max(1, faces.length));
  return { shape: 'body', size, position };
}

function middleOfFace(part: PartGeometry, face: number): Vec3 {
  const sum = [0, 0, 0];
  const { indices, positions, faceStart } = part.mesh;
  const [from, to] = [3 * faceStart[face], 3 * faceStart[face + 1]];
  for (let i = from; i < to; i++) for (let k = 0; k < 3; k++) sum[k] += positions[3 * indices[i] + k];
  const n = Math.max(1, to - from);
  return [sum[0] / n + part.origin[0], sum[1] / n + part.origin[1], sum[2] / n + part.origin[2]];
}

function middleOfLine(part: PartGeometry, edge: number): Vec3 {
  const { start, positions } = part.lines;
  const middle = (start[edge] + Math.max(start[edge], start[edge + 1] - 1)) >> 1;
  const p = start[edge + 1] > start[edge] ? pointAt(positions, middle) : ([0, 0, 0] as Vec3);
  return [p[0] + part.origin[0], p[1] + part.origin[1], p[2] + part.origin[2]];
}

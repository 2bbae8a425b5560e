import { transformDirection, transformPoint, type Mat4 } from '../math/mat4.ts';
import { multiplyQuaternions, quaternionFromAxes, type Quaternion } from '../math/quaternion.ts';
import { normalize, toVec3, type Vec3 } from '../math/vec3.ts';
import type { ComponentPath } from '../model/structure.ts';
import { isReference, type Reference } from '../references/reference.ts';
import { isValues } from '../tables/own.ts';

/** How what was kept on one revision reads on another. */
export interface CarryOver {
  /** The same reference there; marked where it is only probably the same, or lost. */
  reference(reference: Reference): Reference;
  /** Where a component is there; null where it is gone. */
  component(path: ComponentPath): ComponentPath | null;
  /** What a part is called there, by its key; null where it is gone. */
  part(key: string): string | null;
  /** How the model moved as a whole, where its places are others; null where they stayed. */
  readonly whole: Mat4 | null;
  /** How what was made from a reference moved with it; null where that is lost. */
  motion(from: Reference): Mat4 | null;
  /** The same, where nothing is told of what is lost. */
  readonly quiet: CarryOver;
}

/** Where a place of the model is there, mm. */
export const placeThere = (p: Vec3, { whole }: CarryOver): Vec3 => (whole ? transformPoint(whole, p) : p);

/**
 * A document with all references in it carried over; what was made from one of them and has a place of its
 * own moves along.
 */
export function carryDocument<T>(value: T, to: CarryOver): T {
  if (Array.isArray(value)) return value.map((v: unknown) => carryDocument(v, to)) as T;
  if (!isValues(value)) return value;
  if (isReference(value)) return to.reference(value) as T;
  const carried = Object.fromEntries(Object.entries(value).map(([name, v]) => [name, carryDocument(v, to)]));
  const { from } = value;
  const motion = isReference(from) ? to.motion(from) : null;
  return (motion ? { ...carried, ...moved(value, motion) } : carried) as T;
}

/**
 * A view state of any version carried over: what is hidden or coloured stays so where it is now. That counts
 * nothing: a view is not lost with what it hides. Where the model moved as a whole, cameras and what was put
 * freely move along.
 */
export function carryState<T extends object>(state: T, to: CarryOver): T {
  const { visibility } = state as { visibility?: unknown };
  const carried = withWhole(carryDocument(state, to.quiet), to.whole);
  if (!isValues(visibility)) return carried;
  const there = Object.entries(visibility).flatMap(([path, how]) => {
    const now = to.quiet.component(path);
    return now === null ? [] : [[now, how] as const];
  });
  return { ...carried, visibility: Object.fromEntries(there) };
}

/**
 * What of a view state has a place of its own, and was made from nothing that could lead
 * it, moved with the whole.
 */
function withWhole<T extends object>(state: T, whole: Mat4 | null): T {
  if (!whole) return state;
  const alone = (v: unknown): unknown => {
    if (Array.isArray(v)) return v.map(alone);
    if (!isValues(v) || isReference(v) || (isReference(v['from']) && v['from'].became !== 'lost')) return v;
    const within = Object.fromEntries(Object.entries(v).map(([name, inner]) => [name, alone(inner)]));
    return { ...within, ...moved(v, whole) };
  };
  return alone(state) as T;
}

/** A document with its references put otherwise, or only seen, and all else as it is. */
export function mapReferences<T>(value: T, put: (reference: Reference) => Reference): T {
  return carryDocument(value, carryOverOf({ reference: put }));
}

/** What leaves all as it is, but for what is said. */
export function carryOverOf(otherwise: Partial<Omit<CarryOver, 'quiet'>>): CarryOver {
  const to: CarryOver = {
    reference: (reference) => reference,
    component: (path) => path,
    part: (key) => key,
    whole: null,
    motion: () => null,
    ...otherwise,
    get quiet() {
      return to;
    },
  };
  return to;
}

/** The references in a document. */
export function referencesIn(value: unknown): Reference[] {
  const found: Reference[] = [];
  mapReferences(value, (reference) => (found.push(reference), reference));
  return found;
}

const PLACES = ['origin', 'target', 'pivot'];
const DIRECTIONS = ['normal', 'direction', 'axis'];

/** The places and directions of a document itself, moved. */
function moved(value: Record<string, unknown>, by: Mat4): Record<string, unknown> {
  const found: Record<string, unknown> = {};
  const put = (names: readonly string[], to: (v: Vec3) => unknown) => {
    for (const name of names) if (Array.isArray(value[name])) found[name] = to(toVec3(value[name]));
  };
  put(PLACES, (p) => transformPoint(by, p));
  put(DIRECTIONS, (d) => normalize(transformDirection(by, d)));
  const { orientation } = value;
  if (Array.isArray(orientation)) {
    const axes = UNIT.map((axis) => normalize(transformDirection(by, axis)));
    found['orientation'] = multiplyQuaternions(
      quaternionFromAxes(axes[0], axes[1], axes[2]),
      orientation as unknown as Quaternion,
    );
  }
  return found;
}

const UNIT: readonly Vec3[] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
];

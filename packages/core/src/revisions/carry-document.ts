import { transformDirection, transformPoint, type Mat4 } from '../math/mat4.ts';
import { normalize, type Vec3 } from '../math/vec3.ts';
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
  /** Where a place of the model is there. */
  point(point: Vec3): Vec3;
  /** How what was made from a reference moved with it; null where that is lost. */
  motion(from: Reference): Mat4 | null;
  /** The same, where nothing is told of what is lost. */
  readonly quiet: CarryOver;
}

/** A document with all references in it carried over; what was made from one of them and has a place of its own moves along. */
export function carryDocument<T>(value: T, to: CarryOver): T {
  if (Array.isArray(value)) return value.map((v: unknown) => carryDocument(v, to)) as T;
  if (!isValues(value)) return value;
  if (isReference(value)) return to.reference(value) as T;
  const carried = Object.fromEntries(Object.entries(value).map(([name, v]) => [name, carryDocument(v, to)]));
  const { from } = value;
  const motion = isReference(from) ? to.motion(from) : null;
  if (!motion) return carried as T;
  return Object.assign(
    carried,
    ...PLACES.map((name) => moved(value, name, (p) => transformPoint(motion, p))),
    ...DIRECTIONS.map((name) => moved(value, name, (d) => normalize(transformDirection(motion, d)))),
  ) as T;
}

/** A view state of any version carried over: what is hidden or coloured stays so where it is now. That counts nothing: a view is not lost with what it hides. */
export function carryState<T extends object>(state: T, to: CarryOver): T {
  const { visibility } = state as { visibility?: unknown };
  const carried = carryDocument(state, to.quiet);
  if (!isValues(visibility)) return carried;
  const there = Object.entries(visibility).flatMap(([path, how]) => {
    const now = to.quiet.component(path);
    return now === null ? [] : [[now, how] as const];
  });
  return { ...carried, visibility: Object.fromEntries(there) };
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
    point: (p) => p,
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

const PLACES = ['origin'];
const DIRECTIONS = ['normal', 'direction', 'axis'];

const moved = (value: Record<string, unknown>, name: string, by: (v: Vec3) => Vec3): Record<string, Vec3> =>
  Array.isArray(value[name]) ? { [name]: by(value[name] as unknown as Vec3) } : {};

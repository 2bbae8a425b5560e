import type { SplineBasis, SplineCurve2, SplineSurface } from '@bathyscope/core/mass';
import { breaksOf } from '@bathyscope/core/mass';
import { IDENTITY, invertAffine, multiply, type Mat4, type Vec3 } from '@bathyscope/core/math';
import type { Occt } from './load.ts';

/*
 * Everything that depends on how this build of the kernel lays out its objects in memory. Reading arrays
 * straight from the heap is five times faster than through the bindings, and surface kinds have no binding at
 * all. The self-test checks each of these against closed forms at start-up, so a changed build
 * fails loudly, not quietly.
 */

/** Byte offsets inside Poly_Triangulation and the arrays it holds. */
const TRIANGULATION = {
  nodes: 24,
  nodeStride: 28,
  nodeCount: 32,
  triangles: 40,
  uv: 56,
  uvStride: 60,
  uvCount: 64,
  normals: 72,
};
/** The handle of the parameters in Poly_PolygonOnTriangulation. */
const POLYGON_PARAMETERS = 32;
const ARRAY1 = { lower: 0, upper: 4, data: 12 };
/**
 * Elementary surfaces: gp_Ax3 (origin, main, Y, X direction: 12 doubles) after the
 * vtable and reference count.
 */
const ELEMENTARY = { frame: 8, first: 104, second: 112 };

/** HArray1 and HArray2: vtable and count, then the array; a matrix holds the addresses of its rows. */
const HARRAY = { array: 8, matrixRows: 24 };
/** Geom_BSplineSurface and Geom2d_BSplineCurve: flags, degrees, then handles. */
const SPLINE_SURFACE = { periodic: 10, degrees: 28, poles: 36, weights: 40, knots: 44 };
/** Trimmed and offset curves and surfaces, and what is swept, hold their basis first. */
const BASIS = 8;
/** Geom_BSplineCurve and Geom2d_BSplineCurve. */
const SPLINE_CURVE = { periodic: 9, degree: 20, poles: 24, weights: 28, knots: 32 };

const address = (object: Occt): number => object.$$.ptr >>> 0;

function cString(oc: Occt, pointer: number): string {
  const bytes: Uint8Array = oc.HEAPU8;
  let end = pointer;
  while (bytes[end]) end++;
  return new TextDecoder().decode(bytes.subarray(pointer, end));
}

const classNames = new WeakMap<object, Map<number, string>>();

/**
 * The C++ class of an object through its run-time type information (Itanium C++ ABI): the bindings
 * only know the base class.
 */
export function className(oc: Occt, object: Occt): string {
  const table = oc.HEAPU32[address(object) >>> 2] as number;
  let known = classNames.get(oc);
  if (!known) classNames.set(oc, (known = new Map()));
  let name = known.get(table);
  if (name === undefined) {
    const info = oc.HEAPU32[(table - 4) >>> 2];
    name = cString(oc, oc.HEAPU32[(info + 4) >>> 2]).replace(/^\d+/, '');
    known.set(table, name);
  }
  return name;
}

export interface ElementaryFrame {
  origin: Vec3;
  axis: Vec3;
  /** Where its first parameter starts, and what it turns towards. */
  x: Vec3;
  y: Vec3;
  /** Radius, major radius or radius at the origin; meaningless for a plane. */
  first: number;
  /** Semi-angle of a cone, minor radius of a torus. */
  second: number;
}

export function elementaryFrame(oc: Occt, surface: Occt): ElementaryFrame {
  const p = address(surface);
  const f: Float64Array = oc.HEAPF64;
  const at = (p + ELEMENTARY.frame) >>> 3;
  return {
    origin: [f[at], f[at + 1], f[at + 2]],
    axis: [f[at + 3], f[at + 4], f[at + 5]],
    y: [f[at + 6], f[at + 7], f[at + 8]],
    x: [f[at + 9], f[at + 10], f[at + 11]],
    first: f[(p + ELEMENTARY.first) >>> 3],
    second: f[(p + ELEMENTARY.second) >>> 3],
  };
}

/**
 * A B-spline surface straight from memory; null where it is not laid out as known. Whoever reads
 * it checks a place of it.
 */
export function splineSurface(oc: Occt, surface: Occt): SplineSurface | null {
  const p = address(surface);
  const words: Uint32Array = oc.HEAPU32;
  const flags: Uint8Array = oc.HEAPU8;
  const poles = matrix(oc, words[(p + SPLINE_SURFACE.poles) >>> 2], 3);
  const weights = matrix(oc, words[(p + SPLINE_SURFACE.weights) >>> 2], 1);
  if (!poles) return null;
  const [u, v] = [0, 1].map((k) => {
    const degree = words[(p + SPLINE_SURFACE.degrees + 4 * k) >>> 2];
    const knots = reals(oc, words[(p + SPLINE_SURFACE.knots + 4 * k) >>> 2]);
    return (
      knots &&
      unrolled(
        degree,
        knots,
        k === 0 ? poles.rows : poles.columns,
        flags[p + SPLINE_SURFACE.periodic + k] !== 0,
      )
    );
  });
  if (!u || !v) return null;
  const spread = (values: Float64Array, size: number) => {
    const all = new Float64Array(u.poles * v.poles * size);
    for (let i = 0; i < u.poles; i++)
      for (let j = 0; j < v.poles; j++) {
        const from = ((i % poles.rows) * poles.columns + (j % poles.columns)) * size;
        all.set(values.subarray(from, from + size), (i * v.poles + j) * size);
      }
    return all;
  };
  return {
    u: u.basis,
    v: v.basis,
    poles: spread(poles.values, 3),
    weights: weights && spread(weights.values, 1),
  };
}

/**
 * The curve of which a trimmed one is a part, with the same parameters; the curve itself where it is none. To
 * be read from memory only.
 */
export function untrimmed(oc: Occt, curve: Occt): Occt {
  if (className(oc, curve) !== 'Geom2d_TrimmedCurve') return curve;
  return basisOf(oc, curve);
}

/**
 * The curve or surface that a trimmed, offset, extruded or revolved one is made from. To
 * be read from memory only.
 */
export const basisOf = (oc: Occt, object: Occt): Occt => ({
  $$: { ptr: oc.HEAPU32[(address(object) + BASIS) >>> 2] as number },
});

/**
 * Where the pieces of a B-spline curve in space meet; of a periodic one over three periods. Null where it is
 * not laid out as known.
 */
export function splineBreaks(oc: Occt, curve: Occt): number[] | null {
  const spline = splineCurve(oc, curve, 3);
  return spline && breaksOf(spline.basis);
}

/** Copies the coordinates of a gp_Pnt, gp_Vec or gp_Dir. */
export function copyXYZ(oc: Occt, from: Occt, to: Float64Array, at: number): void {
  const first = address(from) >>> 3;
  const reals: Float64Array = oc.HEAPF64;
  to[at] = reals[first];
  to[at + 1] = reals[first + 1];
  to[at + 2] = reals[first + 2];
}

/** A B-spline in the parameters of a face; null where it is not laid out as known. */
export const splineCurve2 = (oc: Occt, curve: Occt): SplineCurve2 | null => splineCurve(oc, curve, 2);

/** @param size coordinates of a pole */
function splineCurve(oc: Occt, curve: Occt, size: 2 | 3): SplineCurve2 | null {
  const p = address(curve);
  const words: Uint32Array = oc.HEAPU32;
  const degree = words[(p + SPLINE_CURVE.degree) >>> 2];
  const knots = reals(oc, words[(p + SPLINE_CURVE.knots) >>> 2]);
  const poles = reals(oc, words[(p + SPLINE_CURVE.poles) >>> 2], size);
  const weights = reals(oc, words[(p + SPLINE_CURVE.weights) >>> 2]);
  const all =
    knots &&
    poles &&
    unrolled(degree, knots, poles.length / size, (oc.HEAPU8 as Uint8Array)[p + SPLINE_CURVE.periodic] !== 0);
  if (!all) return null;
  const spread = (values: Float64Array, each: number) =>
    Float64Array.from({ length: all.poles * each }, (_, i) => values[i % values.length]);
  return { basis: all.basis, poles: spread(poles, size), weights: weights && spread(weights, 1) };
}

/**
 * A periodic spline as one over three periods, the middle of which is its own: faces and edges may lie across
 * its seam. Poles repeat.
 */
function unrolled(
  degree: number,
  knots: Float64Array,
  poles: number,
  periodic: boolean,
): { basis: SplineBasis; poles: number } | null {
  if (!periodic) return knots.length === poles + degree + 1 ? { basis: { degree, knots }, poles } : null;
  const period = knots[knots.length - 1 - degree] - knots[degree];
  if (!(period > 0) || knots.length <= poles) return null;
  const all = Float64Array.from({ length: knots.length + 2 * poles }, (_, e) => {
    let [at, shift] = [e - poles, 0];
    for (; at < 0; at += poles) shift -= period;
    for (; at >= knots.length; at -= poles) shift += period;
    return knots[at] + shift;
  });
  return { basis: { degree, knots: all }, poles: all.length - degree - 1 };
}

/** More than this in one array is no spline that anybody writes: the layout is another. */
const MOST_REALS = 1_000_000;

function reals(oc: Occt, handle: number, size = 1): Float64Array | null {
  if (!handle) return null;
  const at = handle + HARRAY.array;
  const ints: Int32Array = oc.HEAP32;
  const [lower, upper] = [ints[(at + ARRAY1.lower) >>> 2], ints[(at + ARRAY1.upper) >>> 2]];
  const count = (upper - lower + 1) * size;
  if (!(count > 0 && count < MOST_REALS)) return null;
  const from = arrayStart(oc.HEAPU32, ints, at, 8 * size) >>> 3;
  return (oc.HEAPF64 as Float64Array).slice(from, from + count);
}

function matrix(
  oc: Occt,
  handle: number,
  size: number,
): { rows: number; columns: number; values: Float64Array } | null {
  if (!handle) return null;
  const ints: Int32Array = oc.HEAP32;
  const words: Uint32Array = oc.HEAPU32;
  const [r0, r1, c0, c1] = [0, 4, 8, 12].map((k) => ints[(handle + HARRAY.array + k) >>> 2]);
  const [rows, columns] = [r1 - r0 + 1, c1 - c0 + 1];
  if (!(rows > 0 && columns > 0 && rows * columns < MOST_REALS)) return null;
  const values = new Float64Array(rows * columns * size);
  const table = words[(handle + HARRAY.matrixRows) >>> 2];
  for (let r = 0; r < rows; r++) {
    const from = (words[(table + 4 * (r0 + r)) >>> 2] + 8 * size * c0) >>> 3;
    values.set((oc.HEAPF64 as Float64Array).subarray(from, from + columns * size), r * columns * size);
  }
  return { rows, columns, values };
}

/** TCollection_ExtendedString → text, straight from its UTF-16 (the ASCII route garbles other scripts). */
export function extendedString(oc: Occt, text: Occt): string {
  const p = address(text);
  const start = oc.HEAPU32[p >>> 2] as number;
  const length = oc.HEAP32[(p >>> 2) + 1] as number;
  return String.fromCharCode(...(oc.HEAPU16 as Uint16Array).subarray(start >>> 1, (start >>> 1) + length));
}

/** The address of a label's node: equal for two handles of one label. */
export const labelNode = (oc: Occt, label: Occt): number => oc.HEAPU32[address(label) >>> 2];

/**
 * The label that a tree-node attribute hangs below: how a part points to its material. Null
 * when nothing known is found.
 */
export function fatherOf(
  oc: Occt,
  attributeHandle: Occt,
  known: ReadonlyMap<number, unknown>,
): number | null {
  const attribute = oc.HEAPU32[address(attributeHandle) >>> 2] as number;
  const words: Uint32Array = oc.HEAPU32;
  for (let k = 2; k < 24; k++) {
    const p = words[(attribute >>> 2) + k];
    if (p < 1024 || p & 3 || p + 40 > words.length * 4) continue;
    const node = words[(p >>> 2) + 2];
    if (known.has(node)) return node;
  }
  return null;
}

export interface RawTriangulation {
  /** xyz in the triangulation's own frame, double precision. */
  points: Float64Array;
  /** Empty when none were computed. */
  normals: Float32Array;
  /** Zero-based, as stored (not yet turned for reversed faces). */
  indices: Uint32Array;
  /** Parameters of each point; absent where none are kept. */
  uv?: Float64Array;
}

/** Copies a triangulation out of the kernel's memory. */
export function readTriangulation(oc: Occt, triangulation: Occt): RawTriangulation {
  const p = address(triangulation);
  const words: Uint32Array = oc.HEAPU32;
  const ints: Int32Array = oc.HEAP32;
  const nodes = words[(p + TRIANGULATION.nodes) >>> 2];
  const count = ints[(p + TRIANGULATION.nodeCount) >>> 2];
  const wide = ints[(p + TRIANGULATION.nodeStride) >>> 2] === 24;
  const points = wide
    ? (oc.HEAPF64 as Float64Array).slice(nodes >>> 3, (nodes >>> 3) + 3 * count)
    : Float64Array.from((oc.HEAPF32 as Float32Array).subarray(nodes >>> 2, (nodes >>> 2) + 3 * count));

  const triangles = triangulation.NbTriangles() as number;
  const from = arrayStart(words, ints, p + TRIANGULATION.triangles, 12) >>> 2;
  const indices = new Uint32Array(3 * triangles);
  for (let i = 0; i < indices.length; i++) indices[i] = ints[from + i] - 1;

  let normals = new Float32Array(0);
  if (triangulation.HasNormals()) {
    const start = arrayStart(words, ints, p + TRIANGULATION.normals, 12) >>> 2;
    normals = (oc.HEAPF32 as Float32Array).slice(start, start + 3 * count);
  }
  const uv = uvNodes(oc, p, count);
  return { points, normals, indices, ...(uv && { uv }) };
}

function uvNodes(oc: Occt, triangulation: number, count: number): Float64Array | null {
  const ints: Int32Array = oc.HEAP32;
  if (ints[(triangulation + TRIANGULATION.uvCount) >>> 2] !== count) return null;
  const from = (oc.HEAPU32 as Uint32Array)[(triangulation + TRIANGULATION.uv) >>> 2];
  const wide = ints[(triangulation + TRIANGULATION.uvStride) >>> 2] === 16;
  return wide
    ? (oc.HEAPF64 as Float64Array).slice(from >>> 3, (from >>> 3) + 2 * count)
    : Float64Array.from((oc.HEAPF32 as Float32Array).subarray(from >>> 2, (from >>> 2) + 2 * count));
}

/**
 * NCollection_Array1 stores the address of its element 0, which lies before the first
 * when counting starts at 1.
 */
function arrayStart(words: Uint32Array, ints: Int32Array, array: number, size: number): number {
  return (words[(array + ARRAY1.data) >>> 2] + size * ints[(array + ARRAY1.lower) >>> 2]) >>> 0;
}

/** The curve parameters of an edge's nodes; null where none are kept. */
export const readPolygonParameters = (oc: Occt, polygon: Occt): Float64Array | null =>
  polygon.HasParameters()
    ? reals(oc, oc.HEAPU32[(address(polygon) + POLYGON_PARAMETERS) >>> 2] as number)
    : null;

/** Node numbers (zero-based) of an edge along the triangulation of one of its faces. */
export function readPolygonNodes(oc: Occt, polygon: Occt): Uint32Array {
  const array = polygon.Nodes();
  const p = address(array);
  const ints: Int32Array = oc.HEAP32;
  const words: Uint32Array = oc.HEAPU32;
  const count = ints[(p + ARRAY1.upper) >>> 2] - ints[(p + ARRAY1.lower) >>> 2] + 1;
  const start = arrayStart(words, ints, p, 4) >>> 2;
  const nodes = new Uint32Array(count);
  for (let i = 0; i < count; i++) nodes[i] = ints[start + i] - 1;
  return nodes;
}

/**
 * A location as a column-major 4×4, or null for the identity.
 * @param meaning what single steps of it stand for; null for those that are what they are
 */
export function readLocation(location: Occt, meaning?: (step: Mat4) => Mat4 | null): Mat4 | null {
  if (location.IsIdentity()) return null;
  if (!meaning) return matrixOf(location);
  // A location is a list of steps, the innermost first, each to a power.
  let whole = IDENTITY;
  for (let left = location; !left.IsIdentity(); left = left.NextLocation()) {
    const next = left.NextLocation();
    const power = left.FirstPower() as number;
    const step = multiply(next.IsIdentity() ? IDENTITY : invertAffine(matrixOf(next)), matrixOf(left));
    const once =
      power > 1
        ? meaning([...step.slice(0, 12), step[12] / power, step[13] / power, step[14] / power, 1])
        : meaning(step);
    whole = multiply(
      once ? Array.from({ length: Math.max(1, power) }, () => once).reduce(multiply) : step,
      whole,
    );
  }
  return whole;
}

function matrixOf(location: Occt): Mat4 {
  const t = location.Transformation();
  const m = [0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 1];
  for (let row = 1; row <= 3; row++)
    for (let column = 1; column <= 4; column++) m[(column - 1) * 4 + row - 1] = t.Value(row, column);
  t.delete();
  return m;
}

/** A thrown C++ exception arrives as its address; Standard_Failure keeps its message in the third word. */
export function exceptionText(oc: Occt, thrown: unknown): string {
  if (typeof thrown !== 'number') return thrown instanceof Error ? thrown.message : String(thrown);
  try {
    const message = oc.HEAPU32[(thrown >>> 2) + 2] as number;
    const text = message ? cString(oc, message + 4) : '';
    return /^[\x20-\x7e]{1,300}$/.test(text) ? text : 'internal exception of the geometry kernel';
  } catch {
    return 'internal exception of the geometry kernel';
  }
}

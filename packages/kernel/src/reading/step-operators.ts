/*
 * Mapped items whose target is an operator (CARTESIAN_TRANSFORMATION_OPERATOR_3D, ISO 10303-42):
 * the kernel reads mirrors and scales as rotations, and operators with other than its own count of names as
 * nothing at all. So each is read from the text here, and the kernel is given a mere shift in its place, by
 * which the component is known again.
 */

import {
  cross,
  dot,
  IDENTITY,
  length,
  type Mat4,
  normalize,
  scale,
  subtract,
  toVec3,
  type Vec3,
} from '@bathyscope/core/math';
import { ALMOST_ALONG, TINY } from '@bathyscope/core/tolerances';
import { parametersOf, stepStatements } from './step-statements.ts';

/** What was read from the text, and the text that the kernel is given. */
export interface OperatorText {
  bytes: Uint8Array;
  /**
   * The true placement, mm, of what the kernel placed by one of the shifts; null for all others.
   * Absent when there are none.
   */
  placementOf?: (read: Mat4) => Mat4 | null;
  /** Operators that could not be understood; what they place is put at their origin, as it is. */
  unread: number;
}

const TYPE = 'CARTESIAN_TRANSFORMATION_OPERATOR_3D';

/**
 * Shifts are (1, a, b), (2, a, b) … in the file's unit; their ratios tell them from all
 * others, whatever the unit.
 */
const MARK_Y = 12345.678;
const MARK_Z = 98765.4321;
/** Relative to the mark; coordinates keep fifteen digits. */
const MARK_WITHIN = 1 / 1e9;
/** Ids of points that are put in. Writers count from 1. */
const FIRST_ID = 2_000_000_000;

interface Operator {
  axes: (string | null)[];
  origin: string;
  scale: number;
}

export function readOperators(bytes: Uint8Array): OperatorText {
  const buffer = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (!buffer.includes('CARTESIAN_TRANSFORMATION_OPERATOR')) return { bytes, unread: 0 };
  const found = new Map<string, { from: number; to: number; operator: Operator | null }>();
  const targets = new Set<string>();
  for (const { id, type, body, from, to } of stepStatements(
    bytes,
    (t) => t === TYPE || t === 'MAPPED_ITEM' || t === '',
  )) {
    if (type === 'MAPPED_ITEM') targets.add(parametersOf(body)[2] ?? '');
    else if (type === TYPE) found.set(id, { from, to, operator: operatorOf(parametersOf(body)) });
    else if (body.includes(TYPE)) found.set(id, { from, to, operator: complexOperator(body) });
  }
  const used = [...found].filter(([id]) => targets.has(id)).map(([, o]) => o);
  const wanted = new Set(
    used.flatMap(({ operator }) => (operator ? [operator.origin, ...operator.axes] : [])),
  );
  const vectors = new Map<string, Vec3>();
  for (const { id, body } of stepStatements(bytes, (t) => t === 'CARTESIAN_POINT' || t === 'DIRECTION')) {
    const vector = wanted.has(id) ? vectorOf(body) : null;
    if (vector) vectors.set(id, vector);
  }
  if (!used.length) return { bytes, unread: 0 };
  const placements: Mat4[] = [];
  let unread = 0;
  const pieces: Buffer[] = [];
  let at = 0;
  for (const { from, to, operator } of used) {
    const placement = operator && placementOf(operator, vectors);
    if (!placement) unread++;
    placements.push(
      placement ?? [...IDENTITY.slice(0, 12), ...(vectors.get(operator?.origin ?? '') ?? [0, 0, 0]), 1],
    );
    const point = `#${FIRST_ID + placements.length}`;
    const id = /^#\d+/.exec(buffer.toString('latin1', from, from + 24))![0];
    pieces.push(
      buffer.subarray(at, from),
      Buffer.from(
        `${id}=${TYPE}('','','',$,$,${point},1.,$);${point}=CARTESIAN_POINT('',(${placements.length}.,${MARK_Y},${MARK_Z}))`,
        'latin1',
      ),
    );
    at = to;
  }
  return {
    bytes: Buffer.concat([...pieces, buffer.subarray(at)]),
    unread,
    placementOf: (read) => marked(read, placements),
  };
}

function marked(read: Mat4, placements: readonly Mat4[]): Mat4 | null {
  const unit = read[13] / MARK_Y;
  if (
    !(unit > 0) ||
    Math.abs(read[14] / unit / MARK_Z - 1) > MARK_WITHIN ||
    read.slice(0, 12).some((x, i) => Math.abs(x - IDENTITY[i]) > MARK_WITHIN)
  )
    return null;
  const n = Math.round(read[12] / unit);
  const placement = placements[n - 1];
  return placement
    ? ([...placement.slice(0, 12), ...placement.slice(12, 15).map((x) => x * unit), 1] as unknown as Mat4)
    : null;
}

/** Axis 1, axis 2, local origin, scale, axis 3: the last five, whatever names stand before them. */
function operatorOf(all: string[]): Operator | null {
  const [axis1, axis2, origin, size, axis3] = all.slice(-5);
  const factor = size === '$' ? 1 : Number(size);
  const reference = (x: string | undefined) => (x?.startsWith('#') ? x : null);
  if (!reference(origin)) return null;
  return { axes: [axis1, axis2, axis3].map(reference), origin, scale: factor };
}

function complexOperator(body: string): Operator | null {
  const of = (type: string) => parametersOf(new RegExp(`\\b${type}\\s*(\\([^()]*\\))`).exec(body)?.[1] ?? '');
  const base = of('CARTESIAN_TRANSFORMATION_OPERATOR');
  return base.length === 4 ? operatorOf([...base, of(TYPE)[0] ?? '$']) : null;
}

/**
 * ISO 10303-42, function base_axis in three dimensions: axis 3, then axis 1 square to it, then axis 2 square
 * to both on its own side.
 */
function placementOf(
  { axes, origin, scale: factor }: Operator,
  vectors: ReadonlyMap<string, Vec3>,
): Mat4 | null {
  const at = vectors.get(origin);
  const [a1, a2, a3] = axes.map((id) => (id === null ? undefined : vectors.get(id)));
  if (
    !at ||
    !(factor > 0) ||
    axes.some((id) => id !== null && !(length(vectors.get(id) ?? [0, 0, 0]) > TINY))
  )
    return null;
  const w = a3 ? normalize(a3) : ([0, 0, 1] as Vec3);
  const square = (v: Vec3, ...to: Vec3[]): Vec3 =>
    to.reduce((left, n) => subtract(left, scale(n, dot(left, n))), v);
  const first = square(a1 ?? (Math.abs(w[0]) < 1 ? [1, 0, 0] : [0, 1, 0]), w);
  if (!(length(first) > TINY)) return null;
  const u = normalize(first);
  // Without axis 2 the model's Y counts, on its own side: a turned axis 1 alone is a mirror. Where it is axis
  // 1 there is no side.
  const given = square(a2 ?? [0, 1, 0], w, u);
  const second = a2 || length(given) > ALMOST_ALONG ? given : cross(w, u);
  if (!(length(second) > TINY)) return null;
  const v = normalize(second);
  return [...[u, v, w].flatMap((axis) => [...scale(axis, factor), 0]), ...at, 1] as unknown as Mat4;
}

export function vectorOf(body: string): Vec3 | null {
  const numbers = /\(\s*([-+\d.eE]+)\s*,\s*([-+\d.eE]+)\s*,\s*([-+\d.eE]+)\s*\)\s*\)\s*$/
    .exec(body)
    ?.slice(1)
    .map(Number);
  return numbers?.every(Number.isFinite) ? toVec3(numbers) : null;
}

import { Vector3 } from 'three';
import type { MeshBVH } from 'three-mesh-bvh';
import { invertAffine, multiply, transformPoint } from '../math/mat4.ts';
import { boxDiagonal, transformBox, type Box3 } from '../math/box3.ts';
import { add, cross, length, scale, subtract, type Vec3 } from '../math/vec3.ts';
import type { PlacedMesh } from '../visibility/neighbours.ts';

/** How a part's cuts are hatched. */
export interface Hatch {
  /** rad from the plane's first axis. */
  angle: number;
  /** Distance of the lines relative to the usual one. */
  spacing: number;
}

const LEANS = [Math.PI / 4, -Math.PI / 4];
const SPACINGS = [1, 0.7, 1.4, 2];

/**
 * ISO 128-3:2020, hatching of cuts: thin lines at 45°; where parts meet they lean opposite
 * ways, then differ in spacing.
 */
export const HATCHES: readonly Hatch[] = SPACINGS.flatMap((spacing) =>
  LEANS.map((angle) => ({ angle, spacing })),
);

/** mm. Surfaces nearer than this meet: fits and gaskets leave gaps that a drawing hardly shows. */
const MEETING = 1.5;
/**
 * Triangles of the smaller of two components that are looked at: so many of the largest,
 * and so many of the rest.
 */
const SAMPLES = 48;
/** Pairs of components whose surfaces are compared; of further ones the boxes have to do. */
const MOST_PAIRS = 250;
/** Pairs of components that stand for a pair of parts. */
const PAIRS_OF_PARTS = 2;

/** A component as hatching sees it. */
interface Hatched extends PlacedMesh {
  part: number;
  thin?: boolean;
}

/** Two parts that meet, and about how large their common boundary is, mm. */
interface Meeting {
  a: number;
  b: number;
  size: number;
}

/**
 * A hatch for each part, the same wherever it is cut. Parts that meet lean opposite ways, those with the
 * largest common boundaries first; where three meet in a ring and two have to lean alike, they differ in
 * spacing. A part that touches itself keeps one pattern, as practice has it.
 * Thin parts, such as gaskets, are filled as a rule and decide nothing: what lies on both their sides meets.
 * @param components placed meshes with the number of their part, and whether it is thin
 * @returns index into `HATCHES` by part
 */
export function hatchPatterns(components: readonly Hatched[]): Map<number, number> {
  const thin = new Set(components.flatMap((c) => (c.thin ? [c.part] : [])));
  const decides = ({ a, b }: Meeting): number => (thin.has(a) || thin.has(b) ? 0 : 1);
  const meetings = meetingsOf(components).sort(
    (m, n) => decides(n) - decides(m) || n.size - m.size || m.a - n.a || m.b - n.b,
  );
  const parts = [...new Set(components.map((c) => c.part))].sort((a, b) => a - b);
  const leans = leansOf(parts, meetings);
  const chosen = new Map<number, number>();
  // Those that meet most others first; each takes the first spacing that none of its
  // neighbours of the same lean has.
  const degree = (part: number) => meetings.filter((m) => m.a === part || m.b === part).length;
  for (const part of [...parts].sort((a, b) => degree(b) - degree(a) || a - b)) {
    const lean = leans.get(part)!;
    const others = meetings.flatMap((m) => (m.a === part ? [m.b] : m.b === part ? [m.a] : []));
    const taken = others.flatMap((o) => chosen.get(o) ?? []);
    const free = SPACINGS.findIndex((_, s) => !taken.includes(s * LEANS.length + lean));
    chosen.set(part, (free >= 0 ? free : part % SPACINGS.length) * LEANS.length + lean);
  }
  return chosen;
}

/**
 * Opposite leans along the largest common boundaries: a spanning forest by size, whose ends always differ.
 */
function leansOf(parts: readonly number[], meetings: readonly Meeting[]): Map<number, number> {
  const group = new Map(parts.map((p) => [p, { members: [p] }]));
  const lean = new Map(parts.map((p) => [p, 0]));
  for (const { a, b } of meetings) {
    const [one, other] = [group.get(a)!, group.get(b)!];
    if (one === other) continue;
    const turn = lean.get(a) === lean.get(b);
    for (const p of other.members) {
      if (turn) lean.set(p, 1 - lean.get(p)!);
      group.set(p, one);
    }
    one.members.push(...other.members);
  }
  return lean;
}

function meetingsOf(components: readonly Hatched[]): Meeting[] {
  const placed = components.map((c) => ({ ...c, placedBox: transformBox(c.placement, c.box) }));
  const sorted = placed.sort((a, b) => a.placedBox.min[0] - b.placedBox.min[0]);
  const found = new Map<string, Meeting & { pairs: number }>();
  const samples = new Map<MeshBVH, Sample[]>();
  let left = MOST_PAIRS;
  sorted.forEach((a, i) => {
    for (
      let j = i + 1;
      j < sorted.length && sorted[j].placedBox.min[0] <= a.placedBox.max[0] + MEETING;
      j++
    ) {
      const b = sorted[j];
      if (a.part === b.part || !boxesMeet(a.placedBox, b.placedBox)) continue;
      const [low, high] = a.part < b.part ? [a.part, b.part] : [b.part, a.part];
      const meeting = found.get(`${low} ${high}`) ?? { a: low, b: high, size: 0, pairs: 0 };
      found.set(`${low} ${high}`, meeting);
      if (meeting.pairs++ >= PAIRS_OF_PARTS && meeting.size > 0) continue;
      // Beyond the budget any two whose boxes meet count as neighbours, by little.
      meeting.size += left-- > 0 ? commonBoundary(a, b, samples) : Number.MIN_VALUE;
    }
  });
  return [...found.values()].filter((m) => m.size > 0);
}

const boxesMeet = (a: Box3, b: Box3): boolean =>
  [0, 1, 2].every((k) => b.min[k] <= a.max[k] + MEETING && a.min[k] <= b.max[k] + MEETING);

/**
 * About the length of what two components have in common, mm: the root of the area of the smaller one that
 * lies on the other.
 */
function commonBoundary(a: PlacedMesh, b: PlacedMesh, samples: Map<MeshBVH, Sample[]>): number {
  const [small, large] = boxDiagonal(a.box) <= boxDiagonal(b.box) ? [a, b] : [b, a];
  const toLarge = multiply(invertAffine(large.placement), small.placement);
  const at = new Vector3();
  const target = { point: new Vector3(), distance: 0, faceIndex: 0 };
  const isNear = (p: Vec3): boolean =>
    large.bvh.closestPointToPoint(
      at.set(...(transformPoint(toLarge, p) as [number, number, number])),
      target,
      0,
      MEETING,
    ) !== null && target.distance <= MEETING;
  const known = samples.get(small.bvh) ?? samples.set(small.bvh, samplesOf(small.bvh)).get(small.bvh)!;
  // Corners alone would meet where faces only meet in an edge, the middle alone misses large
  // triangles that partly lie on.
  const met = ({ corners, middle }: Sample): number =>
    corners.filter(isNear).length / 6 + (isNear(middle) ? 1 / 2 : 0);
  return Math.sqrt(known.reduce((sum, s) => sum + s.area * met(s), 0));
}

/** A triangle that is looked at, and the area that it stands for, mm². */
interface Sample {
  corners: Vec3[];
  middle: Vec3;
  area: number;
}

/** The largest triangles of a mesh, each for itself; of the rest every so-manieth for its neighbours too. */
function samplesOf({ geometry }: MeshBVH): Sample[] {
  const { array } = geometry.getAttribute('position');
  const indices = geometry.index!.array;
  const corner = (i: number): Vec3 => [
    array[3 * indices[i]],
    array[3 * indices[i] + 1],
    array[3 * indices[i] + 2],
  ];
  const all: Sample[] = [];
  for (let i = 0; i + 2 < indices.length; i += 3) {
    const [p, q, r] = [corner(i), corner(i + 1), corner(i + 2)];
    all.push({
      corners: [p, q, r],
      middle: scale(add(add(p, q), r), 1 / 3),
      area: length(cross(subtract(q, p), subtract(r, p))) / 2,
    });
  }
  const bySize = [...all].sort((s, t) => t.area - s.area);
  const rest = bySize.slice(SAMPLES);
  const step = Math.max(1, Math.floor(rest.length / SAMPLES));
  return [
    ...bySize.slice(0, SAMPLES),
    ...rest.filter((_, i) => i % step === 0).map((s) => ({ ...s, area: s.area * step })),
  ];
}

import { accuracyText, boundText, type Fact, type PickFacts } from '@bathyscope/core/facts';
import { patternOf } from '@bathyscope/core/holes';
import { transformPoint, vecOf, type Vec3 } from '@bathyscope/core/math';
import {
  greatestDistance,
  measurePair,
  measureThreePoints,
  shapeOfPick,
  type MeasuredShape,
  type PairFigures,
} from '@bathyscope/core/measure';
import { fromPlane, type PlaneFrame } from '@bathyscope/core/section';
import { isOfCut, type Picked } from '../../state/selection-store.ts';
import { measuredThing } from './cut-distance.ts';
import { cutOfPick } from '../picking/cut-picks.ts';
import { bestCut, chordOf, curvesOf } from '../cutting/cuts.ts';
import { shapeOfDatum } from '../picking/datums.ts';
import { pointOfPick } from '../picking/snap-picks.ts';
import type { Workspace } from '../workspace.ts';

/* What picked things measure together. */

/** What a picked thing is for measuring; null when it is not there any more. */
export function measuredShape(ws: Workspace, item: Picked): MeasuredShape | null {
  if (isOfCut(item.kind)) return shapeOfCut(ws, item);
  if (item.datum !== undefined) return shapeOfDatum(ws, item.datum);
  if (item.kind === 'point') {
    const point = pointOfPick(ws, item);
    return point && { kind: 'point', span: 0, ...point };
  }
  const { byPath, parts } = ws.model.getState();
  const occurrence = byPath.get(item.component);
  if (!occurrence) return null;
  const loaded = occurrence.part === undefined ? undefined : parts.get(occurrence.part);
  if (!loaded) return { kind: 'solid', accuracy: { kind: 'exact' }, span: 0 };
  return shapeOfPick(item.kind, item.index, { geometry: loaded.geometry, placement: occurrence.placement });
}

function shapeOfCut(ws: Workspace, item: Picked): MeasuredShape | null {
  const found = cutOfPick(ws, item);
  if (!found) return null;
  const {
    plane: { plane, frame, cut: by },
    cut,
  } = found;
  const best = bestCut(ws, plane.id, cut);
  // A cut face lies in its plane however its outlines are known.
  const exact = { accuracy: { kind: 'exact' as const } };
  if (item.kind === 'cap')
    return best.properties
      ? {
          kind: 'plane',
          origin: fromPlane(frame, best.properties.centroid),
          axis: by.normal,
          bounds: true,
          span: Math.sqrt(best.properties.area),
          ...exact,
        }
      : null;
  const known = best.exact
    ? exact
    : { accuracy: { kind: 'recognised' as const, deviation: chordOf(ws, cut.component) * cut.lean.most } };
  const curve = curvesOf(ws, plane.id, cut)[item.index];
  if (item.kind === 'corner') return item.point ? { kind: 'point', at: item.point, span: 0, ...known } : null;
  if (curve?.shape === 'line') {
    const ends: [Vec3, Vec3] = [fromPlane(frame, curve.from), fromPlane(frame, curve.to)];
    const way = directionIn(frame, [curve.to[0] - curve.from[0], curve.to[1] - curve.from[1]]);
    return way && { kind: 'line', origin: ends[0], axis: way.axis, ends, span: way.length, ...known };
  }
  if (curve?.shape === 'arc')
    return {
      kind: 'circle',
      origin: fromPlane(frame, curve.centre),
      axis: by.normal,
      radius: curve.radius,
      span: 2 * curve.radius,
      ...known,
    };
  return { kind: 'free', span: 0, ...known };
}

function directionIn(
  { u, v }: PlaneFrame,
  [x, y]: readonly [number, number],
): { axis: Vec3; length: number } | null {
  const length = Math.hypot(x, y);
  return length > 0 ? { length, axis: vecOf((k) => (u[k] * x + v[k] * y) / length) } : null;
}

export function pairOf(ws: Workspace, [a, b]: readonly Picked[]): PairFigures | null {
  const [one, other] = [measuredShape(ws, a), measuredShape(ws, b)];
  return one && other && measurePair(one, other, ws.model.getState().detail?.structure?.uncertainty);
}

/** Whether a picked face is one of several that make up the wall of a hole, or of a step of it. */
function isPartOfWall(ws: Workspace, item: Picked): boolean {
  const { byPath, parts } = ws.model.getState();
  const geometry = parts.get(byPath.get(item.component)?.part ?? -1)?.geometry;
  const hole = item.kind === 'face' ? geometry?.faces[item.index]?.hole : undefined;
  if (hole === undefined) return false;
  const { faces } = geometry!.holes[hole];
  return faces.length > 1 || !faces.includes(item.index);
}

/**
 * The figures of two things: what an engineer wants first, then the least distance, as far as it is known.
 */
export function pairFacts(
  ws: Workspace,
  items: readonly Picked[],
  pair: PairFigures | null,
  least: PickFacts | null,
): PickFacts {
  // The kernel is asked for the picked faces, not for all that a file splits a hole into.
  const note = items.some((item) => isPartOfWall(ws, item)) ? { note: 'of the picked faces' } : {};
  const nearest: Fact[] = least?.main
    ? lessCertain(ws, [{ ...least.main, ...note }, ...least.rows], least)
    : [];
  const greatest = greatestOf(ws, items);
  if (!pair?.lead) {
    const touch = least?.main?.label === 'Least distance' && least.main.value.value === 0;
    return {
      title: touch ? 'They touch or overlap' : (least?.title ?? 'Least distance'),
      main: least?.main ?? null,
      rows: [...(pair?.rows ?? []), ...(least?.rows ?? []), ...greatest],
      accuracy: least?.accuracy ?? null,
    };
  }
  return {
    title: pair.lead.label,
    main: pair.lead,
    rows: [...pair.rows, ...nearest, ...greatest],
    accuracy: pair.accuracy,
  };
}

/** Beneath an exact figure what is not exact says so. */
function lessCertain(ws: Workspace, facts: readonly Fact[], { accuracy }: PickFacts): Fact[] {
  if (!accuracy || accuracy.kind === 'exact') return [...facts];
  const { text } = accuracyText(accuracy, ws.profile.getState().unit);
  return facts.map((f) =>
    f.value.kind === 'length' ? { ...f, note: [f.note, text].filter(Boolean).join(', ') } : f,
  );
}

/** Corners of all that stands for a thing; faces of one hole are taken together. */
function pointsOf(ws: Workspace, item: Picked): { points: readonly Vec3[]; within: number } | null {
  const { byPath, parts } = ws.model.getState();
  const geometry = parts.get(byPath.get(item.component)?.part ?? -1)?.geometry;
  const hole = item.kind === 'face' ? geometry?.faces[item.index]?.hole : undefined;
  const all = hole === undefined ? [item] : geometry!.holes[hole].faces.map((index) => ({ ...item, index }));
  const things = all.map((i) => measuredThing(ws, i, ws.cut.getState()));
  if (things.some((t) => !t)) return null;
  return {
    points: things.flatMap((t) => ('triangles' in t!.patch ? t!.patch.triangles : t!.patch.chains.flat())),
    within: Math.max(...things.map((t) => (t!.exact ? 0 : t!.chord))),
  };
}

/** Points beyond this are not compared while one waits. */
const MOST_POINTS = 20_000;

/** The greatest distance of two faces, edges or points, from what is drawn of them. */
function greatestOf(ws: Workspace, items: readonly Picked[]): Fact[] {
  const [a, b] = items.map((i) => pointsOf(ws, i));
  const found =
    a && b && a.points.length + b.points.length <= MOST_POINTS ? greatestDistance(a.points, b.points) : null;
  if (!found) return [];
  const within = a!.within + b!.within;
  const note = within > 0 ? { note: `within ${boundText(within, ws.profile.getState().unit)}` } : {};
  return [{ label: 'Greatest distance', value: { kind: 'length', value: found.distance }, ...note }];
}

/** From each of more than two things to the next. */
function chainOf(ws: Workspace, items: readonly Picked[]): Fact[] {
  const leads = items.slice(1).map((item, i) => pairOf(ws, [items[i], item])?.lead ?? null);
  const steps = leads.flatMap((lead, i) =>
    lead ? [{ ...lead, label: `${i + 1} to ${i + 2}: ${lead.label.toLowerCase()}` }] : [],
  );
  // Figures of one kind only are added: a difference of diameters and a distance of centres have no sum.
  const [first] = leads;
  const alike = first && first.value.kind === 'length' && leads.every((l) => l?.label === first.label);
  const sum = leads.reduce((all, l) => all + Math.abs((l?.value.value as number) ?? 0), 0);
  return alike
    ? [{ label: `${first.label}, along the chain`, value: { kind: 'length', value: sum } }, ...steps]
    : steps;
}

/** A total of all that is picked of one kind; what else is picked is named, and hides nothing. */
interface Sum {
  fact: Fact;
  whole: boolean;
}

function sumsOf(ws: Workspace, items: readonly Picked[]): Sum[] {
  const { byPath, parts } = ws.model.getState();
  const geometryOf = (p: Picked) => parts.get(byPath.get(p.component)?.part ?? -1)?.geometry;
  const total = (
    kind: 'edge' | 'face',
    label: string,
    unit: 'length' | 'area',
    of: (p: Picked) => number | undefined,
  ): Sum[] => {
    const its = items.filter((p) => p.kind === kind);
    const values = its.map(of);
    if (its.length < 2 || values.some((x) => x === undefined)) return [];
    const left = items.length - its.length;
    const note = left
      ? `of ${its.length} ${kind}s; ${left === 1 ? 'one pick is none' : `${left} picks are none`}`
      : `of ${its.length} ${kind}s`;
    return [
      {
        whole: left === 0,
        fact: { label, value: { kind: unit, value: values.reduce<number>((sum, x) => sum + x!, 0) }, note },
      },
    ];
  };
  return [
    ...total('edge', 'Total length', 'length', (p) => geometryOf(p)?.edges[p.index].length),
    ...total('face', 'Total area', 'area', (p) => geometryOf(p)?.faces[p.index].area),
  ];
}

/** Where all picks are holes of one pattern: what that is. */
function patternOfPicks(ws: Workspace, items: readonly Picked[]): { lead: Fact; rows: Fact[] } | null {
  const { byPath, parts } = ws.model.getState();
  const [{ component }] = items;
  const geometry = parts.get(byPath.get(component)?.part ?? -1)?.geometry;
  const holes = items.map((p) =>
    p.kind === 'face' && p.component === component ? geometry?.faces[p.index].hole : undefined,
  );
  if (!geometry || holes.some((h) => h === undefined) || new Set(holes).size < 3) return null;
  const found = patternOf(geometry.holes, holes[0]!);
  if (!found || !holes.every((h) => found.holes.includes(h!))) return null;
  const count: Fact = { label: 'Holes of the pattern', value: { kind: 'count', value: found.holes.length } };
  const length = (label: string, value: number, prefix?: string): Fact => ({
    label,
    value: { kind: 'length', value, ...(prefix && { prefix }) },
  });
  if (found.kind === 'circle')
    return {
      lead: length('Pitch circle', found.pitchDiameter, 'Ø'),
      rows: [
        count,
        ...(found.spacing === null
          ? []
          : [{ label: 'Spacing', value: { kind: 'angle' as const, value: found.spacing } }]),
        {
          label: 'Centre',
          value: { kind: 'point', value: transformPoint(byPath.get(component)!.placement, found.centre) },
        },
      ],
    };
  if (found.kind === 'row') return { lead: length('Pitch', found.pitch), rows: [count] };
  return { lead: length('Pitch', found.pitches[0]), rows: [length('Pitch across', found.pitches[1]), count] };
}

/** Things beyond this are not measured one after another. */
const LONGEST_CHAIN = 20;

export const isChained = (items: readonly Picked[]): boolean =>
  items.length <= LONGEST_CHAIN && items.every((p) => p.kind !== 'component' && p.kind !== 'body');

/**
 * Of more than two things: what the set is leads (three points, a pattern of holes, a total); then the chain
 * from each to the next.
 */
export function figuresOfMany(ws: Workspace, items: readonly Picked[]): PickFacts {
  const set = threePoints(ws, items) ?? patternOfPicks(ws, items);
  const sums = sumsOf(ws, items);
  const total = set ? null : (sums.find((s) => s.whole)?.fact ?? null);
  const others = sums.map((s) => s.fact).filter((f) => f !== total);
  return {
    title: `${items.length} things picked`,
    main: set?.lead ?? total,
    rows: [...(set?.rows ?? []), ...others, ...(isChained(items) ? chainOf(ws, items) : [])],
    accuracy: null,
  };
}

/** What three points measure together; null where they are not just that. */
export function threePoints(ws: Workspace, items: readonly Picked[]): ReturnType<typeof measureThreePoints> {
  if (items.length !== 3) return null;
  const [a, b, c] = items.map((item) => {
    const shape = measuredShape(ws, item);
    return shape?.kind === 'point' ? shape.at : null;
  });
  return a && b && c ? measureThreePoints(a, b, c) : null;
}

import { describePick, type Fact, type PickedPart } from '@bathyscope/core/facts';
import type { Accuracy, PartGeometry } from '@bathyscope/core/geometry';
import { measurePair, shapeOfPick } from '@bathyscope/core/measure';
import type { Occurrence } from '@bathyscope/core/model';
import { QuestionRefusal, type PlacedShape, type ShapeSession } from '../shapes/shape-session.ts';
import { ModelFileError } from '../reading/step-text.ts';

/** What `--measure` adds: mm, mm², mm³ and rad; points and directions as three numbers. */
export interface InspectedFigure {
  name: string;
  value: number | readonly number[] | string;
  unit: string;
  accuracy: 'exact' | 'recognised' | 'mesh';
  /** mm, where recognised: the largest deviation from the shape. */
  deviation?: number;
  note?: string;
  leading: boolean;
}

type Kind = 'component' | 'face' | 'edge' | 'vertex';

export interface MeasuredReference {
  component: string;
  kind: Kind;
  index: number;
}

/** `COMPONENT`, or `COMPONENT#face:12` (also edge, vertex). @throws ModelFileError with a sentence */
export function readMeasuredReference(text: string): MeasuredReference {
  const [, component, kind, index] = /^(.+?)(?:#(face|edge|vertex):(\d+))?$/.exec(text) ?? [];
  if (!component || (text.includes('#') && !kind))
    throw new ModelFileError(
      `“${text}” names nothing to measure. Give a component’s path, or COMPONENT#face:12 (face, edge or vertex).`,
    );
  return { component, kind: (kind as Kind) ?? 'component', index: Number(index ?? 0) };
}

type Component = Occurrence & { part: number };

/**
 * The figures of one thing, or of two: the engineer's first, then the least distance. @param uncertainty mm,
 * the file's own @throws ModelFileError for a thing that is not there
 */
export function inspectMeasure(
  references: readonly MeasuredReference[],
  components: readonly Component[],
  geometryOf: (part: number) => { hash: string; geometry: PartGeometry },
  session: ShapeSession,
  uncertainty?: number,
): InspectedFigure[] {
  const things = references.map((reference) => {
    const component = components.find((c) => c.path === reference.component);
    if (!component)
      throw new ModelFileError(
        `There is no component “${reference.component}” in this file; bin/inspect FILE --section or --holes tells their paths.`,
      );
    const { hash, geometry } = geometryOf(component.part);
    const count = {
      component: 1,
      face: geometry.faces.length,
      edge: geometry.edges.length,
      vertex: geometry.vertices.length / 3,
    }[reference.kind];
    if (reference.index >= count)
      throw new ModelFileError(
        `“${reference.component}” has ${count} ${reference.kind === 'vertex' ? 'vertices' : `${reference.kind}s`}, counted from 0; there is no number ${reference.index}.`,
      );
    return { ...reference, hash, placed: { geometry, placement: component.placement } satisfies PickedPart };
  });
  const [a, b] = things;
  if (!b) {
    const { main, rows, accuracy } = describePick(a.kind, a.index, a.placed);
    const of: Accuracy = accuracy?.kind === 'recognised' ? accuracy : { kind: 'exact' };
    return [
      ...(main ? [figure(main, of, true)] : []),
      ...rows.map((row, i) => figure(row, of, !main && i === 0)),
    ];
  }
  const pair = measurePair(
    shapeOfPick(a.kind, a.index, a.placed),
    shapeOfPick(b.kind, b.index, b.placed),
    uncertainty,
  );
  const least = leastOf(
    [a, b].map((t): PlacedShape => ({
      hash: t.hash,
      kind: t.kind === 'component' ? 'part' : t.kind,
      index: t.index,
      placement: t.placed.placement,
    })),
    session,
  );
  return [
    ...(pair.lead ? [figure(pair.lead, pair.accuracy, true)] : []),
    ...pair.rows.map((row) => figure(row, pair.accuracy, false)),
    ...least.map((fact, i) => figure(fact, { kind: 'exact' }, !pair.lead && i === 0)),
  ];
}

function leastOf([a, b]: PlacedShape[], session: ShapeSession): Fact[] {
  try {
    const { distance, from, to } = session.leastDistance(a, b);
    return [
      { label: 'Least distance', value: { kind: 'length', value: distance } },
      { label: 'From', value: { kind: 'point', value: from } },
      { label: 'To', value: { kind: 'point', value: to } },
    ];
  } catch (error) {
    if (error instanceof QuestionRefusal) throw new ModelFileError(error.message);
    // The kernel's own exceptions are numbers: there is no exact least distance, and
    // what else is known stands.
    return [];
  }
}

const UNITS: Record<string, string> = {
  length: 'mm',
  area: 'mm²',
  volume: 'mm³',
  angle: 'rad',
  point: 'mm',
  size: 'mm',
};

function figure({ label, value, note }: Fact, accuracy: Accuracy, leading: boolean): InspectedFigure {
  return {
    name: label,
    value: value.value,
    unit: UNITS[value.kind] ?? '',
    accuracy: accuracy.kind,
    ...(accuracy.kind === 'recognised' && { deviation: accuracy.deviation }),
    ...(note && { note }),
    leading,
  };
}

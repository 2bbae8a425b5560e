import type { Questions } from '@bathyscope/contracts';
import { describeCut, describePick, type Fact, type PickFacts } from '@bathyscope/core/facts';
import type { MassFigures } from '@bathyscope/core/geometry';
import { combineMass, placeMass } from '@bathyscope/core/mass';
import { patchDistance, piecesIn, type Vec3 } from '@bathyscope/core/math';
import { snapName } from '@bathyscope/core/references';
import { isOfCut, KIND_NAMES, type Picked } from '../../state/selection-store.ts';
import { componentsBelow } from '../shown/components.ts';
import { measuredThing } from './cut-distance.ts';
import { cutOfPick } from '../picking/cut-picks.ts';
import { datumOf, nameOfDatum } from '../picking/datums.ts';
import { pointOfPick } from '../picking/snap-picks.ts';
import { materialOf } from '../mass/given-materials.ts';
import { bestCut, chordOf, curvesOf } from '../cutting/cuts.ts';
import type { Workspace } from '../workspace.ts';
import { capital } from '../../ui/capital.ts';

/* What is said of what is picked. */

/** Which thing it is: its component, its part, what that belongs to. */
export function whereOf(ws: Workspace, item: Picked): string {
  const { byPath, detail } = ws.model.getState();
  if (item.datum !== undefined) return 'reference geometry';
  const occurrence = byPath.get(item.component);
  if (!occurrence) return '';
  const part = occurrence.part === undefined ? undefined : detail?.structure.parts[occurrence.part].name;
  const parent = occurrence.parent ? byPath.get(occurrence.parent) : undefined;
  return [
    occurrence.instanceName ?? occurrence.name,
    part && part !== (occurrence.instanceName ?? occurrence.name) ? part : undefined,
    parent && (parent.instanceName ?? parent.name),
  ]
    .filter(Boolean)
    .join(' · ');
}

/** Two things by kind and component: “face of Plate to edge of Pin”. */
export const namesOf = (ws: Workspace, items: readonly Picked[]): string =>
  items
    .map((p) =>
      p.datum === undefined
        ? `${kindName(p)} of ${ws.model.getState().byPath.get(p.component)?.name ?? ''}`
        : nameOfDatum(ws, p),
    )
    .join(' to ');

/** What kind of thing it is; of a point, which. */
export const kindName = (p: Picked): string => (p.snap ? snapName(p.snap) : KIND_NAMES[p.kind]);

/** The figures of one thing; null when it is not there any more. */
export function figuresOfOne(ws: Workspace, item: Picked): PickFacts | null {
  if (item.datum !== undefined) return factsOfDatum(ws, item.datum);
  if (item.kind === 'point') return factsOfPoint(ws, item);
  const { byPath, parts } = ws.model.getState();
  const occurrence = byPath.get(item.component);
  if (!occurrence) return null;
  if (occurrence.part === undefined) return figuresOfAssembly(ws, item.component);
  if (isOfCut(item.kind)) return figuresOfCut(ws, item);
  const loaded = parts.get(occurrence.part);
  return loaded
    ? describePick(item.kind, item.index, {
        geometry: loaded.geometry,
        placement: occurrence.placement,
        material: materialOf(ws, occurrence.part) ?? undefined,
      })
    : null;
}

function figuresOfCut(ws: Workspace, item: Picked): PickFacts | null {
  const found = cutOfPick(ws, item);
  if (!found) return null;
  const {
    plane: { plane, frame },
    cut,
  } = found;
  const best = bestCut(ws, plane.id, cut);
  return describeCut(item.kind as 'cap', item.index, {
    frame,
    curves: curvesOf(ws, plane.id, cut),
    properties: best.properties,
    exact: best.exact,
    chord: best.exact ? best.within : chordOf(ws, cut.component),
  });
}

function figuresOfAssembly(ws: Workspace, path: string): PickFacts {
  const { byPath, parts } = ws.model.getState();
  const placed = componentsBelow(ws, path)
    .map((p) => byPath.get(p)!)
    .map((o) => ({ o, geometry: parts.get(o.part!)!.geometry }));
  const masses: MassFigures[] = placed.flatMap(({ o, geometry }) =>
    geometry.mass ? [placeMass(geometry.mass, o.placement)] : [],
  );
  const mass = combineMass(masses);
  const open = placed.length - masses.length;
  return {
    title: 'Assembly',
    main: null,
    accuracy: mass?.accuracy ?? null,
    rows: [
      { label: 'Components', value: { kind: 'count', value: placed.length } },
      { label: 'Parts', value: { kind: 'count', value: new Set(placed.map(({ o }) => o.part)).size } },
      ...(mass
        ? [
            {
              label: 'Volume',
              value: { kind: 'volume' as const, value: mass.volume },
              ...(open && { note: `without ${open} open` }),
            },
            {
              label: 'Centre of gravity',
              value: { kind: 'point' as const, value: mass.centreOfGravity },
              note: undefined,
            },
          ]
        : []),
      {
        label: 'Area',
        value: { kind: 'area', value: placed.reduce((sum, { geometry }) => sum + geometry.area, 0) },
      },
    ],
  };
}

/** Facets and pieces of line of both things that are compared while one waits. */
const MOST_PIECES = 3000;

export type DistanceFigures =
  | { facts: PickFacts }
  /** The kernel is to be asked; `distanceFacts` makes figures of its answer. */
  | { ask: Questions['distance']['asked'] }
  /** There is none: a plane or an axis has no end. */
  | { none: true }
  /** A sentence on what would fit. */
  | { refusal: string };

/**
 * The least distance of two things: computed here where a cut is concerned, to what the section leaves; asked
 * of the kernel otherwise.
 */
export function distanceOf(ws: Workspace, items: readonly Picked[]): DistanceFigures {
  if (items.some((i) => i.datum !== undefined && !isOrigin(i))) return { none: true };
  if (items.some((i) => i.plane !== undefined) || items.every((i) => isPoint(i)))
    return distanceToCut(ws, items);
  const single = items.every(
    (p) => p.datum !== undefined || ws.model.getState().byPath.get(p.component)?.part !== undefined,
  );
  if (!single) return { refusal: 'Pick single components, faces, edges or vertices for a distance.' };
  const [a, b] = items.map((item) => thingOf(ws, item));
  if (!a || !b) return { refusal: 'One of the two is not in the model any more.' };
  // The origin is of no component; the other one's is as good.
  return {
    ask: {
      a: { ...a, component: a.component || b.component },
      b: { ...b, component: b.component || a.component },
    },
  };
}

const isOrigin = (item: Picked): boolean => item.datum === 'origin';
const isPoint = (item: Picked): boolean => item.kind === 'point' || isOrigin(item);

function thingOf(ws: Workspace, p: Picked): Questions['distance']['asked']['a'] | null {
  if (isPoint(p)) {
    const at = pointOfPick(ws, p)?.at;
    return at ? { component: p.component, kind: 'point', at } : null;
  }
  const { kind, component, index } = p;
  return {
    component,
    index,
    kind: kind === 'face' || kind === 'edge' || kind === 'vertex' || kind === 'body' ? kind : 'part',
  };
}

function factsOfPoint(ws: Workspace, item: Picked): PickFacts | null {
  const point = pointOfPick(ws, item);
  if (!point) return null;
  const name = snapName(item.snap!);
  return {
    title: capital(name),
    main: null,
    rows: [{ label: 'Position', value: { kind: 'point', value: point.at } }],
    accuracy: point.accuracy,
  };
}

function factsOfDatum(ws: Workspace, id: string): PickFacts | null {
  const datum = datumOf(ws, id);
  if (!datum) return null;
  const { kind, name, origin } = datum;
  const through: Fact = {
    label: kind === 'origin' ? 'Position' : 'Through',
    value: { kind: 'point', value: origin },
  };
  const way: Fact[] =
    kind === 'origin'
      ? []
      : [
          {
            label: kind === 'plane' ? 'Normal' : 'Direction',
            value: { kind: 'direction', value: datum.direction },
          },
        ];
  return { title: name, main: null, rows: [through, ...way], accuracy: { kind: 'exact' } };
}

/** Exact between points, straight edges and flat faces with straight edges. */
function distanceToCut(ws: Workspace, items: readonly Picked[]): DistanceFigures {
  const [a, b] = items.map((i) => measuredThing(ws, i, ws.cut.getState()));
  if (!a || !b)
    return {
      refusal:
        'A distance to a cut goes between faces, edges and points. Of a component pick the face or edge that is meant.',
    };
  const many = piecesIn(a.patch) + piecesIn(b.patch) > MOST_PIECES;
  const found = many ? null : patchDistance(a.patch, b.patch);
  if (!found)
    return { refusal: 'These two are too finely meshed to be compared here. Pick an edge of one of them.' };
  return {
    facts: distanceFacts(
      found,
      a.exact && b.exact ? { kind: 'exact' } : { kind: 'chords', within: a.chord + b.chord },
    ),
  };
}

/** A distance with its components and ends. */
export function distanceFacts(
  found: { distance: number; from: Vec3; to: Vec3 },
  accuracy: PickFacts['accuracy'],
): PickFacts {
  const { distance, from, to } = found;
  return {
    title: 'Least distance',
    main: { label: 'Least distance', value: { kind: 'length', value: distance }, ends: [from, to] },
    rows: [
      ...['dX', 'dY', 'dZ'].map((label, k): Fact => ({
        label,
        value: { kind: 'length', value: to[k] - from[k] },
      })),
      { label: 'From', value: { kind: 'point', value: from } },
      { label: 'To', value: { kind: 'point', value: to } },
    ],
    accuracy,
  };
}

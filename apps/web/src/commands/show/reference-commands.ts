import { pointAt, transformPoint, vecOf, type Vec3 } from '@bathyscope/core/math';
import {
  axisThroughPoints,
  checkEnvelope,
  FIXED_NAMES,
  FIXED_REFERENCES,
  offsetPlane,
  planeThroughPoints,
  type Reference,
  type ReferenceGeometry,
} from '@bathyscope/core/references';
import { shortLength } from '@bathyscope/core/units';
import { Axis3d, Box, Crosshair, Grid2x2, Layers2, PackageCheck, Ruler, Slash, Triangle } from 'lucide-react';
import { v4 as uuid } from 'uuid';
import { referenceTo } from '../../workspace/measuring/references.ts';
import { shownBox } from '../../workspace/shown/shown.ts';
import { pointOfPick } from '../../workspace/picking/snap-picks.ts';
import { type Inverse } from '../../state/history-store.ts';
import { isOfCut, type Picked } from '../../state/selection-store.ts';
import { geometryOf } from '../../workspace/view/camera-targets.ts';
import type { Command } from '../command.ts';
import { cutDirection, directionOf } from '../look/pick-directions.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { patched } from '../../workspace/perform.ts';

/** Changes reference geometry so that it can be undone. */
export function changeReferences(ws: Workspace, name: string, change: Partial<ReferenceGeometry>): Inverse {
  return patched(name, ws.reference, change);
}

export const recordReferences = (ws: Workspace, name: string, change: Partial<ReferenceGeometry>): void =>
  ws.history.getState().record(changeReferences(ws, name, change));

export function toggleReference(ws: Workspace, id: string, name: string): Inverse {
  const { shown } = ws.reference.getState();
  const on = shown.includes(id);
  return changeReferences(ws, `${on ? 'hide' : 'show'} ${name}`, {
    shown: on ? shown.filter((s) => s !== id) : [...shown, id],
  });
}

const nextName = (word: string, used: readonly { name: string }[]): string => {
  let n = used.length + 1;
  while (used.some((u) => u.name === `${word} ${n}`)) n++;
  return `${word} ${n}`;
};

function addPlane(
  ws: Workspace,
  plane: { origin: Vec3; normal: Vec3; from?: Reference },
  made: string,
): Inverse {
  const { planes, shown } = ws.reference.getState();
  const id = uuid();
  const name = nextName('Plane', planes);
  ws.notify(`${name}: ${made}.`, { id: 'reference' });
  return changeReferences(ws, `add ${name}`, {
    planes: [...planes, { id, name, made, ...plane }],
    shown: [...shown, id],
  });
}

function addAxis(
  ws: Workspace,
  axis: { origin: Vec3; direction: Vec3; from?: Reference },
  made: string,
): Inverse {
  const { axes, shown } = ws.reference.getState();
  const id = uuid();
  const name = nextName('Axis', axes);
  ws.notify(`${name}: ${made}.`, { id: 'reference' });
  return changeReferences(ws, `add ${name}`, {
    axes: [...axes, { id, name, made, ...axis }],
    shown: [...shown, id],
  });
}

/** The point a picked vertex is at, the centre of a circle, or where another thing was picked. */
function pointOf(ws: Workspace, item: Picked): Vec3 | null {
  if (isOfCut(item.kind)) {
    const found = cutDirection(ws, item);
    return found?.kind === 'axis' ? found.origin : (item.point ?? null);
  }
  if (item.kind === 'point' || item.datum === 'origin') return pointOfPick(ws, item)?.at ?? null;
  const placed = item.kind === 'component' ? undefined : geometryOf(ws, item);
  if (!placed) return null;
  if (item.kind === 'vertex')
    return transformPoint(placed.placement, pointAt(placed.geometry.vertices, item.index));
  const edge = item.kind === 'edge' ? placed.geometry.edges[item.index] : undefined;
  return edge?.centre ? transformPoint(placed.placement, edge.centre) : (item.point ?? null);
}

/** Makes something from the points of what was picked; says so when they do not span it. */
export function fromPoints(
  ws: Workspace,
  items: readonly Picked[],
  make: (points: Vec3[]) => Inverse | void,
): Inverse | void {
  try {
    return make(items.map((i) => pointOf(ws, i)!));
  } catch (error) {
    ws.notify.failed(error);
  }
}

/** What point commands ask for. */
export const POINTS = {
  needs: 'thing',
  fits: (item: Picked, ws: Workspace) => pointOf(ws, item) !== null,
  wants: 'Click vertices, circles (their centres) or points of faces and edges.',
} as const;

const ICONS: Record<(typeof FIXED_REFERENCES)[number], Command['icon']> = {
  origin: Crosshair,
  'plane xy': Layers2,
  'plane xz': Layers2,
  'plane yz': Layers2,
  'axis x': Slash,
  'axis y': Slash,
  'axis z': Slash,
  triad: Axis3d,
  grid: Grid2x2,
  'hole axes': Slash,
  envelope: Box,
};

/** What the envelope says of what is shown, in a sentence. */
export function envelopeVerdict(ws: Workspace): string | null {
  const { envelope } = ws.reference.getState();
  if (!envelope) return null;
  const { asPlaced, fitsAsPlaced, best } = checkEnvelope(shownBox(ws), envelope);
  const axis = (v: Vec3) =>
    v.flatMap((x, k) => (x < 0 ? [`${(-x).toFixed(3)} mm in ${'XYZ'[k]}`] : [])).join(', ');
  const spare = Math.min(...asPlaced).toFixed(3);
  if (fitsAsPlaced) return `Fits as placed, with ${spare} mm to spare.`;
  const turned = `its X, Y and Z along the envelope’s ${best.sides.map((s) => 'XYZ'[s]).join(', ')}`;
  return `Does not fit as placed: too large by ${axis(asPlaced)}. ${best.fits ? `Fits when turned, ${turned}, with ${Math.min(...best.spare).toFixed(3)} mm to spare.` : `Turned for the best (${turned}) it is still too large by ${axis(best.spare)}.`}`;
}

export const REFERENCE_COMMANDS: Command[] = [
  ...FIXED_REFERENCES.filter((id) => id !== 'envelope').map((id): Command => ({
    id: `reference-${id.replaceAll(' ', '-')}`,
    name: FIXED_NAMES[id],
    group: 'Reference',
    icon: ICONS[id],
    searchWords: ['datum', 'reference geometry', 'show', 'hide', 'coordinate system'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => toggleReference(ws, id, FIXED_NAMES[id].toLowerCase()),
  })),
  {
    id: 'references-all',
    name: 'All reference geometry on or off',
    group: 'Reference',
    icon: Layers2,
    searchWords: ['datums', 'planes', 'axes'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => {
      const { shown, planes, axes, envelope } = ws.reference.getState();
      const all = [
        ...FIXED_REFERENCES.filter((id) => id !== 'envelope' || envelope),
        ...[...planes, ...axes].map((r) => r.id),
      ];
      const known = ws.mode.getState().referencesBefore.filter((id) => all.includes(id));
      // Off and on again brings back what was shown.
      const on = shown.some((id) => id !== 'triad');
      if (on) ws.mode.setState({ referencesBefore: shown });
      return changeReferences(ws, `${on ? 'hide' : 'show'} all reference geometry`, {
        shown: on ? [] : known.length ? known : all,
      });
    },
  },
  {
    id: 'plane-offset',
    name: 'Reference plane from a face …',
    group: 'Reference',
    icon: Layers2,
    searchWords: ['offset plane', 'datum plane', 'parallel plane'],
    needs: 'thing',
    menu: 'thing',
    fits: (item, ws) => directionOf(ws, item)?.kind === 'normal',
    wants: 'Pick a planar face for the plane.',
    run: (ws, [item]) => {
      const { origin, direction } = directionOf(ws, item)!;
      ws.ask.getState().ask({
        title: 'Reference plane from a face',
        label: 'Offset',
        kind: 'length',
        value: 0,
        signed: true,
        run: (mm) =>
          ws.history
            .getState()
            .record(
              addPlane(
                ws,
                { ...offsetPlane({ origin, normal: direction }, mm), from: referenceTo(ws, item) },
                mm ? `${shortLength(mm, ws.profile.getState().unit)} off a face` : 'on a face',
              ),
            ),
      });
    },
  },
  {
    id: 'plane-points',
    name: 'Reference plane through three points',
    group: 'Reference',
    icon: Triangle,
    searchWords: ['datum plane', '3 points'],
    ...POINTS,
    count: 3,
    run: (ws, items) =>
      fromPoints(ws, items, ([a, b, c]) => addPlane(ws, planeThroughPoints(a, b, c), 'through three points')),
  },
  {
    id: 'plane-edge',
    name: 'Reference plane across an edge',
    group: 'Reference',
    icon: Layers2,
    searchWords: ['normal to edge', 'datum plane', 'perpendicular'],
    needs: 'thing',
    menu: 'thing',
    fits: (item, ws) => directionOf(ws, item)?.kind === 'along',
    wants: 'Pick a straight edge at the point of the plane.',
    run: (ws, [item]) =>
      addPlane(
        ws,
        {
          origin: item.point ?? directionOf(ws, item)!.origin,
          normal: directionOf(ws, item)!.direction,
          from: referenceTo(ws, item),
        },
        'across an edge at the picked point',
      ),
  },
  {
    id: 'axis-of',
    name: 'Reference axis of picked',
    group: 'Reference',
    icon: Slash,
    searchWords: ['datum axis', 'centre line', 'cylinder axis'],
    needs: 'thing',
    menu: 'thing',
    fits: (item, ws) => ['axis', 'along'].includes(directionOf(ws, item)?.kind ?? ''),
    wants: 'Pick a hole, a turned face, a circle or a straight edge.',
    run: (ws, [item]) => {
      const { origin, direction, kind } = directionOf(ws, item)!;
      return addAxis(
        ws,
        { origin, direction, from: referenceTo(ws, item) },
        kind === 'axis' ? 'of a turned face' : 'along an edge',
      );
    },
  },
  {
    id: 'axis-points',
    name: 'Reference axis through two points',
    group: 'Reference',
    icon: Ruler,
    searchWords: ['datum axis', '2 points'],
    ...POINTS,
    count: 2,
    run: (ws, items) =>
      fromPoints(ws, items, ([a, b]) => addAxis(ws, axisThroughPoints(a, b), 'through two points')),
  },
  {
    id: 'envelope',
    name: 'Envelope',
    group: 'Reference',
    icon: PackageCheck,
    searchWords: ['crate', 'build volume', 'bounding box', 'does it fit', 'packaging'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => {
      const { envelope, shown } = ws.reference.getState();
      if (envelope) return toggleReference(ws, 'envelope', 'envelope');
      const box = shownBox(ws);
      // Round numbers that just hold it.
      const size = vecOf((k) => Math.ceil((box.max[k] - box.min[k]) / 10) * 10);
      return changeReferences(ws, 'envelope', {
        envelope: { size, at: null },
        shown: [...shown, 'envelope'],
      });
    },
  },
];

import { acrossEdge, squareOn, viewBack, viewRight, type ViewCamera } from '@bathyscope/core/camera';
import { normalAt, type PickDirection, type PlacedPick } from '@bathyscope/core/facts';
import {
  addScaled,
  dot,
  length,
  map3,
  normalize,
  pointAt,
  scale,
  transformPoint,
  type Vec3,
} from '@bathyscope/core/math';
import { ALONG_AXIS } from '@bathyscope/core/tolerances';
import { AlignHorizontalSpaceAround, DoorOpen, MoveVertical, Orbit } from 'lucide-react';
import type { NamedHinge } from '../../state/camera-store.ts';
import { referenceTo } from '../../workspace/measuring/references.ts';
import { firstFace } from '../../workspace/picking/picking.ts';
import { samplePoints } from '../../workspace/picking/placed-points.ts';
import { type Picked } from '../../state/selection-store.ts';
import { fittedToShown, geometryOf } from '../../workspace/view/camera-targets.ts';
import type { Command } from '../command.ts';
import { lineOfSight } from '../show/visibility-commands.ts';
import { directionAt } from './pick-directions.ts';
import { mentionPerspective, turnToOrientation } from './direction-commands.ts';
import { showView } from './view-commands.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { activePane, modelFrame } from '../../workspace/view/panes.ts';
import { record } from '../../workspace/perform.ts';

function placedPick(ws: Workspace, item: Picked): PlacedPick | null {
  const placed = item.kind === 'component' ? undefined : geometryOf(ws, item);
  return placed ? { kind: item.kind, index: item.index, point: item.point, ...placed } : null;
}

/** Whether the view looks along a direction already. */
const looksAlong = (camera: ViewCamera, d: Vec3): number => {
  const along = dot(viewBack(camera), d);
  return Math.abs(along) > 1 - ALONG_AXIS ? Math.sign(along) : 0;
};

/**
 * Straight on to a face, along an axis, along an edge; a second time from the other side, or across the edge.
 */
function normalTo(ws: Workspace, item: Picked): void {
  const found = directionAt(ws, item);
  if (!found) return;
  const { camera } = activePane(ws);
  const side = looksAlong(camera, found.direction);
  if (found.kind === 'along') {
    if (side === 0)
      return turn(ws, item, facing(found.direction, camera), 'Looking along the edge.', 'Across it', () =>
        showAcross(ws, found),
      );
    return showAcross(ws, found);
  }
  const towards =
    side > 0
      ? scale(found.direction, -1)
      : found.kind === 'normal' || side < 0
        ? found.direction
        : facing(found.direction, camera);
  if (found.kind === 'axis') {
    const pick = placedPick(ws, item)!;
    const curved = item.kind === 'face' && normalAt(pick);
    turn(
      ws,
      item,
      towards,
      item.kind === 'face' ? 'A turned face has no single normal: looking along its axis.' : null,
      'Normal at the picked point',
      curved ? () => turnToOrientation(ws, squareOn(curved.direction, modelFrame(ws))) : undefined,
    );
  } else
    turn(
      ws,
      item,
      towards,
      found.kind === 'tangent plane' ? 'Looking along the normal at the picked point.' : null,
    );
}

/**
 * A face and an edge that were picked together: straight on to the face, with the edge level, turned no
 * further than it must be. @returns whether they were that
 */
function levelOn(ws: Workspace, items: readonly Picked[]): boolean {
  if (items.length !== 2) return false;
  const found = items.map((item) => ({ item, ...directionAt(ws, item) }));
  const face = found.find(({ item, kind }) => item.kind === 'face' && kind === 'normal');
  const edge = found.find(({ item, kind }) => item.kind === 'edge' && kind === 'along');
  if (!face?.direction || !edge?.direction) return false;
  const normal = normalize(face.direction);
  const seen = addScaled(edge.direction, normal, -dot(edge.direction, normal));
  // Seen from there it is a point.
  if (length(seen) < ALONG_AXIS) return false;
  const { camera } = activePane(ws);
  const right = dot(seen, viewRight(camera)) < 0 ? scale(seen, -1) : seen;
  showView(ws, fittedToShown(ws, { ...camera, orientation: acrossEdge(right, normal) }));
  ws.notify('Straight on to the face, with the edge level.', { id: 'normal' });
  return true;
}

/** Of an axis, which has two ends, the one nearer to the eye. */
const facing = (d: Vec3, camera: ViewCamera): Vec3 => (dot(d, viewBack(camera)) < 0 ? scale(d, -1) : d);

function turn(
  ws: Workspace,
  item: Picked,
  towards: Vec3,
  says: string | null,
  label?: string,
  other?: () => void,
): void {
  const camera = fittedToShown(ws, {
    ...activePane(ws).camera,
    orientation: squareOn(towards, modelFrame(ws)),
  });
  showView(ws, camera);
  if (says) ws.notify(says, { id: 'normal', ...(label && other && { action: { label, onClick: other } }) });
  else mentionPerspective(ws);
  const inFront = item.kind === 'face' ? whatHides(ws, item, camera) : null;
  if (inFront)
    ws.notify(`The face is hidden behind ${inFront}.`, {
      id: 'hidden',
      action: { label: 'Line of sight', onClick: () => record(ws, lineOfSight(ws, item)) },
    });
}

function showAcross(ws: Workspace, found: PickDirection): void {
  turnToOrientation(ws, acrossEdge(found.direction, viewBack(activePane(ws).camera)));
  ws.notify('Looking across the edge.', { id: 'normal' });
}

/** The name of what stands before every tried point of a face, or null when some of it is seen. */
function whatHides(ws: Workspace, item: Picked, camera: ViewCamera): string | null {
  const pick = placedPick(ws, item);
  if (!pick) return null;
  let hider: string | null = null;
  for (const point of samplePoints(item, pick.geometry, pick.placement)) {
    const hit = firstFace(ws, camera, activePane(ws).size, point);
    if (!hit || (hit.component === item.component && hit.index === item.index)) return null;
    const other = ws.model.getState().byPath.get(hit.component);
    hider ??=
      hit.component === item.component
        ? 'the rest of its part'
        : (other?.instanceName ?? other?.name ?? 'another component');
  }
  return hider;
}

const HAS_DIRECTION = 'Pick a face or an edge: a vertex or a whole component has no direction of its own.';

function hinge(ws: Workspace, item: Picked): void {
  const pick = placedPick(ws, item)!;
  const { setHinge, setPivot } = ws.camera.getState();
  const point =
    item.kind === 'vertex'
      ? transformPoint(pick.placement, pointAt(pick.geometry.vertices, item.index))
      : null;
  const face = item.kind === 'face' ? pick.geometry.faces[item.index] : null;
  const centre = point ?? (face?.surface === 'sphere' ? transformPoint(pick.placement, face.origin!) : null);
  if (centre) {
    setHinge(null);
    setPivot(centre);
    ws.notify(
      point ? 'The model turns about this vertex.' : 'The model turns about the centre of the sphere.',
      { id: 'hinge' },
    );
    return;
  }
  const found = directionAt(ws, item);
  if (!found) return;
  const name =
    found.kind === 'normal'
      ? 'the normal of the face'
      : found.kind === 'along'
        ? 'the edge'
        : found.kind === 'axis'
          ? 'the axis'
          : 'the normal at the point';
  startHinge(ws, { origin: found.origin, axis: found.direction, name, from: referenceTo(ws, item) });
}

function startHinge(ws: Workspace, wanted: NamedHinge): void {
  const { setHinge, setPivot } = ws.camera.getState();
  setHinge(wanted);
  setPivot(wanted.origin);
  ws.notify(`Hinged about ${wanted.name}: orbiting turns about it until Esc.`, { id: 'hinge' });
}

const modelHinge = (axis: 'X' | 'Y' | 'Z'): Command => ({
  id: `hinge-${axis.toLowerCase()}`,
  name: `Hinge about ${axis}`,
  group: 'Turning',
  icon: MoveVertical,
  searchWords: ['rotate about axis', `${axis.toLowerCase()} axis`, 'spin'],
  needs: 'nothing',
  run: (ws) =>
    startHinge(ws, {
      origin: ws.camera.getState().pivot,
      axis: map3(['X', 'Y', 'Z'], (a) => (a === axis ? 1 : 0)),
      name: `the model’s ${axis}`,
    }),
});

export const NORMAL_COMMANDS: Command[] = [
  {
    id: 'normal-to',
    name: 'Normal to',
    group: 'Directions',
    icon: AlignHorizontalSpaceAround,
    shortcut: 'N',
    searchWords: ['square on', 'look at face', 'perpendicular', 'view normal', 'along axis', 'orient'],
    needs: 'thing',
    menu: 'thing',
    fits: (item, ws) => directionAt(ws, item) !== null,
    wants: HAS_DIRECTION,
    run: (ws, items) => {
      if (!levelOn(ws, items)) normalTo(ws, items[0]);
    },
  },
  {
    id: 'across-edge',
    name: 'Across the edge',
    group: 'Directions',
    icon: AlignHorizontalSpaceAround,
    searchWords: ['perpendicular to edge', 'level the edge', 'horizontal'],
    needs: 'thing',
    fits: (item, ws) => item.kind === 'edge' && directionAt(ws, item)?.kind === 'along',
    wants: 'Pick a straight edge to look across.',
    run: (ws, [item]) => showAcross(ws, directionAt(ws, item)!),
  },
  {
    id: 'hinge',
    name: 'Hinge about picked',
    group: 'Turning',
    icon: DoorOpen,
    searchWords: ['rotate about edge', 'rotate about axis', 'spin about', 'centre of rotation'],
    needs: 'thing',
    menu: 'thing',
    fits: (item) => item.kind !== 'component',
    wants: 'Pick an edge, a face or a vertex to turn about.',
    run: (ws, [item]) => hinge(ws, item),
  },
  ...(['X', 'Y', 'Z'] as const).map(modelHinge),
  {
    id: 'hinge-off',
    name: 'End the hinge',
    group: 'Turning',
    icon: Orbit,
    searchWords: ['free rotation'],
    needs: 'nothing',
    refusal: (ws) => (ws.camera.getState().hinge ? null : 'Nothing is hinged.'),
    run: (ws) => ws.camera.getState().setHinge(null),
  },
];

import { FRAMES, squareOn, viewBack } from '@bathyscope/core/camera';
import { addScaled, boxCentre, boxSize, vecOf, type Box3, type Vec3 } from '@bathyscope/core/math';
import {
  boxPlanes,
  planeThroughAxis,
  quarterPlanes,
  removedSide,
  slabPlanes,
  type PlanePlace,
  type SectionPlane,
} from '@bathyscope/core/section';
import { shortLength } from '@bathyscope/core/units';
import { referenceTo } from '../../workspace/measuring/references.ts';
import { shownBox } from '../../workspace/shown/shown.ts';
import { type Inverse } from '../../state/history-store.ts';
import type { Picked } from '../../state/selection-store.ts';
import { turnToOrientation } from '../look/direction-commands.ts';
import { directionOf } from '../look/pick-directions.ts';
import { addPlanes, planeInHand, planeName } from './section-changes.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { activePane, modelFrame } from '../../workspace/view/panes.ts';
import { flushNow, sectionNow } from '../../workspace/cutting/section-now.ts';

export const middle = (ws: Workspace): Vec3 => boxCentre(shownBox(ws));
export const AXES = ['X', 'Y', 'Z'] as const;
export const axisVector = (k: number): Vec3 => vecOf((i) => (i === k ? 1 : 0));

/** The removed side faces the eye, so that the cut is seen at once. */
export const towardsEye = (ws: Workspace, d: Vec3): Vec3 => {
  const back = viewBack(activePane(ws).camera);
  return d[0] * back[0] + d[1] * back[1] + d[2] * back[2] < 0 ? [-d[0], -d[1], -d[2]] : d;
};

export const addPlane = (ws: Workspace, place: PlanePlace, how: string): Inverse | void =>
  addPlanes(ws, [place], [planeName(ws, how)], `section ${how}`);

export const isKind = (ws: Workspace, item: Picked, ...kinds: string[]) =>
  kinds.includes(directionOf(ws, item)?.kind ?? '');

/** Looks square on to a cut, from the removed side. */
export const lookAtPlane = (ws: Workspace, plane: SectionPlane): void =>
  turnToOrientation(ws, squareOn(removedSide(plane), modelFrame(ws)));

/** A share of the model that a new slab or box keeps, so that it cuts something. */
const SLAB_SHARE = 0.2;
const BOX_SHARE = 0.6;

export function askSlab(ws: Workspace): void {
  const box = shownBox(ws);
  const back = viewBack(activePane(ws).camera);
  // Around the plane in hand, else across the model axis that looks most at the eye.
  const inHand = planeInHand(ws);
  const k = [0, 1, 2].reduce((best, i) => (Math.abs(back[i]) > Math.abs(back[best]) ? i : best), 0);
  const around: PlanePlace = inHand
    ? { origin: addScaled(inHand.origin, inHand.normal, inHand.offset), normal: inHand.normal }
    : { origin: boxCentre(box), normal: towardsEye(ws, axisVector(k)) };
  const thickness = Number((Math.max(...boxSize(box)) * SLAB_SHARE).toPrecision(2));
  ws.ask.getState().ask({
    title: 'Section to a slab',
    label: 'Thickness',
    kind: 'length',
    value: thickness,
    run: (mm) => {
      const others = sectionNow(ws).planes.filter((p) => p.id !== inHand?.id);
      const done = addPlanes(
        ws,
        slabPlanes(around, mm),
        ['Slab · front', 'Slab · back'],
        `slab of ${shortLength(mm, ws.profile.getState().unit)}`,
        {
          combine: 'any',
          planes: others,
        },
      );
      if (done) ws.history.getState().record(done);
    },
  });
}

export function quarterCut(ws: Workspace): Inverse | void {
  const { right, front, up } = FRAMES[ws.camera.getState().upAxis];
  const back = viewBack(activePane(ws).camera);
  // The two directions that look most at the eye; seen from an upper corner those in the ground plan.
  const seen = [right, front, up]
    .map((d, i) => ({
      d: towardsEye(ws, d),
      weight: Math.abs(d[0] * back[0] + d[1] * back[1] + d[2] * back[2]) + (i < 2 ? 0.05 : 0),
    }))
    .sort((a, b) => b.weight - a.weight);
  return addPlanes(
    ws,
    quarterPlanes(middle(ws), seen[0].d, seen[1].d),
    ['Quarter · one', 'Quarter · other'],
    'quarter cut',
    {
      combine: 'all',
      planes: [],
    },
  );
}

export function boxCut(ws: Workspace): Inverse | void {
  const box = shownBox(ws);
  const [c, s] = [boxCentre(box), boxSize(box)];
  const inner = {
    min: c.map((x, k) => x - (s[k] * BOX_SHARE) / 2),
    max: c.map((x, k) => x + (s[k] * BOX_SHARE) / 2),
  } as unknown as Box3;
  return addPlanes(
    ws,
    boxPlanes(inner),
    AXES.flatMap((a) => [`Box · +${a}`, `Box · \u2212${a}`]),
    'section to a box',
    { combine: 'any', planes: [] },
  );
}

export function askAngle(ws: Workspace, [item]: Picked[]): void {
  const { origin, direction } = directionOf(ws, item)!;
  const back = viewBack(activePane(ws).camera);
  ws.ask.getState().ask({
    title: 'Section through an axis',
    label: 'Turned by',
    kind: 'angle',
    value: 0,
    signed: true,
    run: (angle) => {
      const place = planeThroughAxis(origin, direction, angle, back);
      const done = addPlane(
        ws,
        { ...place, from: referenceTo(ws, item) },
        `through an axis, ${Number(((angle * 180) / Math.PI).toFixed(3))}°`,
      );
      if (done) ws.history.getState().record(done);
    },
  });
}

/**
 * mm in front of the picked face: nothing of it is cut, nothing before it stays. More where the model is so
 * large that this would count as in the face.
 */
const BEFORE_FACE = 0.01;

/** A plane across the line of sight just in front of the picked point. */
export function cutToFace(ws: Workspace, item: Picked): Inverse | void {
  const planar = directionOf(ws, item);
  const point = item.point ?? planar?.origin ?? middle(ws);
  const facing =
    planar?.kind === 'normal' ? towardsEye(ws, planar.direction) : viewBack(activePane(ws).camera);
  return addPlane(
    ws,
    { origin: addScaled(point, facing, Math.max(BEFORE_FACE, 4 * flushNow(ws))), normal: facing },
    'line of sight',
  );
}

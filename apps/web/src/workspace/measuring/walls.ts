import { boundText, type PickFacts } from '@bathyscope/core/facts';
import type { PartGeometry } from '@bathyscope/core/geometry';
import { meshDistance, type SolidMesh } from '@bathyscope/core/interference';
import { boxOfPoints, invertAffine, toVec3, transformPoint, type Vec3 } from '@bathyscope/core/math';
import { faceOfTriangle } from '@bathyscope/core/picking';
import { middleOf, thicknessAt, wallBetween } from '@bathyscope/core/walls';
import type { LoadedPart } from '../../state/model-store.ts';
import type { Picked } from '../../state/selection-store.ts';
import { NO_WALLS } from '../../state/wall-store.ts';
import { startWallWorker } from '../../workers/start-wall-worker.ts';
import type { WallReply, WallRequest } from '../../workers/wall-worker.ts';
import { storedPlacement } from '../picking/placed-points.ts';
import type { Workspace } from '../workspace.ts';

/* How thick walls are. */

/** A wall below a picked place: its figures, and what is drawn of it. Model space, mm. */
export interface WallAtPick {
  facts: PickFacts;
  along: readonly [Vec3, Vec3] | null;
}

const meshOf = ({ geometry: { mesh, chordTolerance }, bvh }: LoadedPart): SolidMesh => ({
  ...mesh,
  chord: chordTolerance,
  bvh,
  box: boxOfPoints(mesh.positions),
});

const isSolid = ({ bodies }: PartGeometry): boolean => bodies.some((b) => b.closed);

/** The wall below the place where a face was clicked, or why there is none. */
export function wallAtPick(ws: Workspace, item: Picked): WallAtPick | string {
  const { byPath, parts } = ws.model.getState();
  const occurrence = byPath.get(item.component);
  const part = occurrence?.part === undefined ? undefined : parts.get(occurrence.part);
  if (!occurrence || !part || item.kind !== 'face' || !item.point)
    return 'Click a face where the wall is to be measured.';
  if (!isSolid(part.geometry)) return 'This part is not closed: it has no walls to measure.';
  const place = storedPlacement(occurrence.placement, part.geometry.origin);
  const mesh = meshOf(part);
  const near = meshDistance(mesh, transformPoint(invertAffine(place), item.point));
  const outward = middleOf(mesh, near.triangle)?.normal;
  if (!outward) return 'There is no wall here.';
  const { along, ball } = thicknessAt(mesh, near.point, outward);
  const at = (p: Vec3) => transformPoint(place, p);
  const exact =
    along &&
    wallBetween(
      part.geometry.faces[item.index],
      part.geometry.faces[faceOfTriangle(part.geometry, along.triangle)],
    );
  const within = Math.max(2 * part.geometry.chordTolerance, LEAST_BOUND);
  return {
    along: along && [at(near.point), at(along.to)],
    facts: {
      title: 'Wall',
      main: along && {
        label: 'Along the normal',
        value: { kind: 'length', value: exact ?? along.thickness },
      },
      rows: [
        {
          label: 'Largest ball',
          value: { kind: 'length', value: ball.diameter, prefix: 'Ø' },
          ...(exact !== null && { note: `within ${boundText(within, ws.profile.getState().unit)}` }),
        },
        { label: 'Ball at', value: { kind: 'point', value: at(ball.centre) } },
        ...(along ? [{ label: 'Comes out at', value: { kind: 'point' as const, value: at(along.to) } }] : []),
      ],
      // Both faces may be off by the chord, but for what is known of parallel planes and coaxial cylinders.
      accuracy: exact === null ? { kind: 'chords', within } : { kind: 'exact' },
    },
  };
}

/** mm: single precision of the mesh. */
const LEAST_BOUND = 1 / 1000;

/** Maps the walls of a component in a worker; what was mapped before goes. */
export function mapWalls(ws: Workspace, component: string): void {
  stopWalls(ws);
  const { byPath, parts } = ws.model.getState();
  const part = parts.get(byPath.get(component)?.part ?? -1);
  if (!part || !isSolid(part.geometry))
    return ws.wall.setState({ ...NO_WALLS, error: 'This part is not closed: it has no walls to measure.' });
  const worker = startWallWorker();
  ws.players.wallWorker = worker;
  ws.wall.setState({ ...NO_WALLS, component, progress: 0 });
  const end = (state: Partial<typeof NO_WALLS>) => {
    worker.terminate();
    if (ws.players.wallWorker !== worker) return;
    ws.players.wallWorker = null;
    ws.wall.setState({ progress: null, ...state });
  };
  worker.onmessage = ({ data }: MessageEvent<WallReply>) => {
    if ('progress' in data) ws.wall.setState({ progress: data.progress });
    else end('map' in data ? { map: data.map } : { error: `The walls could not be measured: ${data.error}` });
  };
  worker.onerror = (e) => end({ error: e.message || 'The walls could not be measured.' });
  const { positions, indices, faceStart } = part.geometry.mesh;
  worker.postMessage({
    positions,
    indices,
    faceStart,
    chord: part.geometry.chordTolerance,
  } satisfies WallRequest);
}

/** Ends what is computed, and takes the colours off. */
export function stopWalls(ws: Workspace): void {
  ws.players.wallWorker?.terminate();
  ws.players.wallWorker = null;
  ws.wall.setState(NO_WALLS);
}

/** From thin to thick: red, amber, water, deep blue. Display colours, 0–1. */
const SCALE: readonly Vec3[] = [
  [0.7, 0.15, 0.12],
  [0.91, 0.64, 0.23],
  [0.86, 0.92, 0.93],
  [0.12, 0.37, 0.49],
];

export function wallColour(thickness: number, [low, high]: readonly [number, number]): Vec3 {
  if (Number.isNaN(thickness)) return [0.6, 0.6, 0.6];
  const at = Math.max(0, Math.min(1, (thickness - low) / (high - low))) * (SCALE.length - 1);
  const k = Math.min(SCALE.length - 2, Math.floor(at));
  const mixed = SCALE[k].map((x, i) => x * (1 - at + k) + SCALE[k + 1][i] * (at - k));
  return toVec3(mixed);
}

/** Where the thinnest place is, and where its wall comes out; model space. */
export function thinnestPlace(ws: Workspace): { thickness: number; ends: readonly [Vec3, Vec3] } | null {
  const { map, component } = ws.wall.getState();
  const { byPath, parts } = ws.model.getState();
  const occurrence = component ? byPath.get(component) : undefined;
  if (!map?.thinnest || occurrence?.part === undefined) return null;
  const place = storedPlacement(occurrence.placement, parts.get(occurrence.part)!.geometry.origin);
  const { thickness, at, to } = map.thinnest;
  return { thickness, ends: [transformPoint(place, at), transformPoint(place, to)] };
}

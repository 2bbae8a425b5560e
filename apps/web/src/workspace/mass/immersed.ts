import { sealedHollow } from '@bathyscope/contracts/records';
import { withinOf } from '@bathyscope/core/geometry';
import {
  displacedAfloat,
  placeMass,
  type Hollow,
  type Immersed,
  type Overlap,
  type RayMesh,
} from '@bathyscope/core/mass';
import { cross, frameOf, map3, normalize, scale, type Vec3 } from '@bathyscope/core/math';
import { CLASH_LEAST } from '@bathyscope/core/tolerances';
import type { MassJobs } from '../../workers/mass-work.ts';
import { derived, heavy } from '../derived/derived.ts';
import { findMaterial } from '../keeping/library.ts';
import { upOf } from './balance.ts';
import { chosenMass, type ChosenMass } from './chosen-mass.ts';
import { askMass, placedMeshesOf, stopMass } from './mass-jobs.ts';
import { added, changeRecords, kept, removed } from '../keeping/records.ts';
import type { Workspace } from '../workspace.ts';

/* What a set takes the place of under water. */

type SharedAndClosed = MassJobs['immerse']['answered'];

/** The chosen set as it is put under water: a side of a section is no thing that swims. */
function swimmer(ws: Workspace): ChosenMass | null {
  return ws.mass.getState().set === 'kept' ? null : ws.derived.of(chosenMass);
}

/** What components of the chosen set share and which hollows they close, once that was asked for. */
export const sharedAndClosed = heavy<Pick<ChosenMass, 'key' | 'paths'>, SharedAndClosed>(
  'what the set shares and closes',
  (ws) => {
    const now = swimmer(ws);
    return now && ws.mass.getState().lookedInto === now.key ? { key: now.key, paths: now.paths } : null;
  },
  0,
  (ws, { paths }, take) => {
    askMass(ws, 'immerse', solidsOf(ws, paths), take);
    return () => stopMass(ws, 'immerse');
  },
);

const solidsOf = (ws: Workspace, paths: readonly string[]): RayMesh[] =>
  placedMeshesOf(ws, paths)
    .filter((m) => m.geometry.mass)
    .map(({ path: _, geometry: __, ...mesh }) => mesh);

/** Null while it is not known. */
function lookedInto(ws: Workspace): SharedAndClosed | null {
  const found = ws.derived.of(sharedAndClosed.known);
  return found.state === 'ready' ? found.value : null;
}

const liesIn = ({ box: { min, max } }: Hollow, at: Vec3): boolean =>
  at.every((x, k) => x >= min[k] && x <= max[k]);

/** Whether a hollow was marked as sealed: the mark lies in it. */
export const isSealed = (ws: Workspace, hollow: Hollow): boolean =>
  kept(ws, sealedHollow).some(({ at }) => liesIn(hollow, at));

export function markSealed(ws: Workspace, hollow: Hollow, sealed: boolean): void {
  const there = kept(ws, sealedHollow).filter(({ at }) => liesIn(hollow, at));
  const changes = sealed
    ? [added(ws, sealedHollow, { at: hollow.centre })]
    : there.map((mark) => removed(ws, sealedHollow, mark));
  if (sealed !== there.length > 0) changeRecords(ws, sealed ? 'cavity sealed' : 'cavity open', changes);
}

/**
 * The chosen set under water: the sum of its solids, what they share counted once, with the hollows that are
 * marked as sealed. Null where no solid has a volume.
 */
export const immersedNow = derived('the chosen set under water', (ws): Immersed | null => {
  const now = swimmer(ws);
  if (!now?.weighed.known) return null;
  const { paths } = now;
  const { mass, centreOfGravity } = now.weighed.known;
  const { byPath, parts } = ws.model.getState();
  let displaced = 0;
  let within = 0;
  const moment = [0, 0, 0];
  const add = (volume: number, centre: Vec3, off: number) => {
    displaced += volume;
    within += off;
    centre.forEach((x, k) => (moment[k] += volume * x));
  };
  for (const path of paths) {
    const { part, placement } = byPath.get(path) ?? {};
    const figures = part === undefined ? null : parts.get(part)?.geometry.mass;
    if (!figures || !placement) continue;
    const { volume, centreOfGravity: centre, accuracy } = placeMass(figures, placement);
    add(volume, centre, withinOf(accuracy) * volume);
  }
  if (!(displaced > 0)) return null;
  const looked = lookedInto(ws);
  if (looked) {
    const { overlap, hollows } = looked;
    const shared = sharedOf(ws, paths, overlap);
    displaced -= shared.volume;
    within += shared.within;
    shared.moment.forEach((m, k) => (moment[k] -= m));
    for (const hollow of hollows) if (isSealed(ws, hollow)) add(hollow.volume, hollow.centre, hollow.within);
  }
  return { mass, centreOfGravity, displaced, centreOfBuoyancy: map3(moment, (m) => m / displaced), within };
});

/**
 * What components share: as the check for clashes found it where that looked at all of them, knows each
 * volume exactly and no three can share one place; else as rays through the meshes see it.
 */
function sharedOf(
  ws: Workspace,
  paths: readonly string[],
  seen: Overlap,
): Pick<Overlap, 'volume' | 'moment' | 'within'> {
  const { ofAll, found, running, error } = ws.interference.getState();
  const { byPath, parts } = ws.model.getState();
  const geometryOf = (path: string) => parts.get(byPath.get(path)?.part ?? -1)?.geometry;
  // What bodies of one part share no check of components tells.
  if (!ofAll || running || error !== null || paths.some((p) => (geometryOf(p)?.bodies.length ?? 0) > 1))
    return seen;
  const within = new Set(paths);
  const meetings = new Map<string, Set<string>>(paths.map((p) => [p, new Set()]));
  let [volume, off] = [0, 0];
  for (const pair of found) {
    if (!within.has(pair.a) || !within.has(pair.b)) continue;
    if ('failed' in pair || (pair.clash && pair.clash.within > 0)) return seen;
    if (pair.clash) {
      if ([...meetings.get(pair.a)!].some((other) => meetings.get(other)!.has(pair.b))) return seen;
      meetings.get(pair.a)!.add(pair.b);
      meetings.get(pair.b)!.add(pair.a);
      volume += pair.clash.volume;
    } else if (pair.relation === 'contact')
      off += CLASH_LEAST * Math.min(...[pair.a, pair.b].map((p) => geometryOf(p)?.area ?? 0));
  }
  if (Math.abs(volume - seen.volume) > seen.within + off) return seen;
  const share = seen.volume > 0 ? volume / seen.volume : 1;
  return { volume, within: off, moment: scale(seen.moment, share) };
}

/** rad: what righting arms are told of. */
export const TILTS: readonly number[] = Array.from({ length: 73 }, (_, i) => ((i - 36) * Math.PI) / 36);

/** Two level axes that stand square to each other, the first as much along X as it can. */
export function tiltAxes(up: Vec3): readonly [Vec3, Vec3] {
  const first = Math.abs(up[0]) < 0.9 ? normalize(cross(cross(up, [1, 0, 0]), up)) : frameOf(up).u;
  return [first, cross(up, first)];
}

interface Floated {
  /** Says of what it is worked out. */
  key: string;
  paths: readonly string[];
  mass: number;
  centreOfGravity: Vec3;
  /** kg/m³ */
  density: number;
  up: Vec3;
  /** What components share, and hollows that stay dry. */
  segments: Float64Array[];
  /** mm³: how far those may be off. */
  off: number;
}

/** Where the chosen set floats, once that was asked for: what it displaces then is its weight. */
export const floatsNow = heavy<Floated, MassJobs['float']['answered']>(
  'how the set floats',
  (ws) => {
    const now = swimmer(ws);
    const { floats, fluid } = ws.mass.getState();
    const density = findMaterial(ws, fluid)?.density;
    if (!now?.weighed.known || floats !== now.key || !density) return null;
    const { mass, centreOfGravity } = now.weighed.known;
    const up = upOf(ws);
    const looked = lookedInto(ws);
    const dry = looked?.hollows.filter((h) => isSealed(ws, h)) ?? [];
    return {
      key: JSON.stringify([now.key, density, mass, centreOfGravity, up, looked && dry.map((h) => h.centre)]),
      paths: now.paths,
      mass,
      centreOfGravity,
      density,
      up,
      segments: looked ? [looked.overlap.segments, ...dry.map((h) => h.segments)] : [],
      off: looked ? dry.reduce((sum, h) => sum + h.within, looked.overlap.within) : 0,
    };
  },
  0,
  (ws, { paths, mass, centreOfGravity, density, up, segments, off }, take) => {
    askMass(
      ws,
      'float',
      {
        meshes: solidsOf(ws, paths),
        segments,
        off,
        volume: displacedAfloat(mass, density),
        centreOfGravity,
        up,
        axes: tiltAxes(up),
        angles: TILTS,
      },
      take,
    );
    return () => stopMass(ws, 'float');
  },
);

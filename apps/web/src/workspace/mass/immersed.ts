import { sealedHollow } from '@bathyscope/contracts/records';
import { withinOf } from '@bathyscope/core/geometry';
import {
  displacedAfloat,
  placeMass,
  type Hollow,
  type Immersed,
  type Overlap,
  type MassProperties,
} from '@bathyscope/core/mass';
import { cross, frameOf, map3, normalize, scale, type Vec3 } from '@bathyscope/core/math';
import { CLASH_LEAST } from '@bathyscope/core/tolerances';
import { upOf } from './balance.ts';
import { findMaterial } from '../keeping/library.ts';
import { askMass, placedMeshesOf } from './mass-jobs.ts';
import { added, changeRecords, kept, removed } from '../keeping/records.ts';
import type { Workspace } from '../workspace.ts';

/* What a set takes the place of under water. */

/** Looks for what components share and for hollows that they close. @param key of the set */
export function immerse(ws: Workspace, paths: readonly string[], key: string): void {
  const solids = placedMeshesOf(ws, paths).filter((m) => m.geometry.mass);
  ws.mass.setState({ immersing: true });
  askMass(
    ws,
    'immerse',
    solids.map(({ path: _, geometry: __, ...mesh }) => mesh),
    (found) => ws.mass.setState({ immersing: false, ...(found && { immersed: { key, ...found } }) }),
  );
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
 * A set under water: the sum of its solids, what they share counted once, with the hollows that are marked as
 * sealed. @returns null where no solid has a volume
 */
export function immersedOf(
  ws: Workspace,
  paths: readonly string[],
  key: string,
  { mass, centreOfGravity }: MassProperties,
): Immersed | null {
  const { byPath, parts } = ws.model.getState();
  const { immersed } = ws.mass.getState();
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
  if (immersed?.key === key) {
    const { overlap, hollows } = immersed;
    const shared = sharedOf(ws, paths, overlap);
    displaced -= shared.volume;
    within += shared.within;
    shared.moment.forEach((m, k) => (moment[k] -= m));
    for (const hollow of hollows) if (isSealed(ws, hollow)) add(hollow.volume, hollow.centre, hollow.within);
  }
  return { mass, centreOfGravity, displaced, centreOfBuoyancy: map3(moment, (m) => m / displaced), within };
}

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

/** Says of what it was worked out how something floats. */
export function floatKey(ws: Workspace, key: string, { mass, centreOfGravity }: MassProperties): string {
  const { fluid, immersed } = ws.mass.getState();
  return JSON.stringify([
    key,
    fluid,
    mass,
    centreOfGravity,
    immersed?.key === key,
    kept(ws, sealedHollow).map((s) => s.id),
  ]);
}

/** Works out where a set floats. What it displaces then is its weight in the fluid. */
export function letFloat(ws: Workspace, paths: readonly string[], key: string, known: MassProperties): void {
  const density = findMaterial(ws, ws.mass.getState().fluid)?.density;
  if (!density) return;
  const { immersed } = ws.mass.getState();
  const looked = immersed?.key === key ? immersed : null;
  const up = upOf(ws);
  const asked = floatKey(ws, key, known);
  ws.mass.setState({ floating: { key: asked, found: null } });
  askMass(
    ws,
    'float',
    {
      meshes: placedMeshesOf(ws, paths)
        .filter((m) => m.geometry.mass)
        .map(({ path: _, geometry: __, ...mesh }) => mesh),
      segments: looked
        ? [looked.overlap.segments, ...looked.hollows.filter((h) => isSealed(ws, h)).map((h) => h.segments)]
        : [],
      off: looked
        ? looked.overlap.within + looked.hollows.reduce((sum, h) => sum + (isSealed(ws, h) ? h.within : 0), 0)
        : 0,
      volume: displacedAfloat(known.mass, density),
      centreOfGravity: known.centreOfGravity,
      up,
      axes: tiltAxes(up),
      angles: TILTS,
    },
    (answer) => {
      if (ws.mass.getState().floating?.key !== asked) return;
      ws.mass.setState({
        floating: answer && { key: asked, found: answer.floats, sinks: answer.floats === null },
      });
    },
  );
}

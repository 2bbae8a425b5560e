import { placeMass, type Hollow, type Immersed, type Vec3, type Weight } from '@bathyscope/core';
import { askMass, placedMeshesOf } from './mass-jobs.ts';
import { perform } from './perform.ts';
import type { Workspace } from './workspace.ts';

/* What a set takes the place of under water. */

/** Looks for what components share and for hollows that they close. @param key of the set */
export function immerse(ws: Workspace, paths: readonly string[], key: string): void {
  const solids = placedMeshesOf(ws, paths).filter((m) => m.geometry.mass);
  ws.mass.setState({ immersing: true });
  askMass(
    ws,
    'immerse',
    solids.map(({ positions, indices, place }) => ({ positions, indices, place })),
    (found) => ws.mass.setState({ immersing: false, ...(found && { immersed: { key, ...found } }) }),
  );
}

const liesIn = ({ box: { min, max } }: Hollow, at: Vec3): boolean => at.every((x, k) => x >= min[k] && x <= max[k]);

/** Whether a hollow was marked as sealed: the mark lies in it. */
export const isSealed = (ws: Workspace, hollow: Hollow): boolean => ws.preference.getState().sealed.some(({ at }) => liesIn(hollow, at));

export function markSealed(ws: Workspace, hollow: Hollow, sealed: boolean): void {
  const rest = ws.preference.getState().sealed.filter(({ at }) => !liesIn(hollow, at));
  perform(ws, sealed ? 'cavity sealed' : 'cavity open', ws.preference, {
    sealed: sealed ? [...rest, { id: crypto.randomUUID(), at: hollow.centre }] : rest,
  });
}

/** A set under water: the sum of its solids, what they share counted once, with the hollows that are marked as sealed. @returns null where no solid has a volume */
export function immersedOf(
  ws: Workspace,
  paths: readonly string[],
  key: string,
  { mass, centreOfGravity }: Weight,
): (Immersed & { within: number }) | null {
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
    add(volume, centre, accuracy.kind === 'mesh' ? accuracy.within * volume : 0);
  }
  if (!(displaced > 0)) return null;
  if (immersed?.key === key) {
    const { overlap, hollows } = immersed;
    displaced -= overlap.volume;
    within += overlap.within;
    overlap.moment.forEach((m, k) => (moment[k] -= m));
    for (const hollow of hollows) if (isSealed(ws, hollow)) add(hollow.volume, hollow.centre, hollow.within);
  }
  return { mass, centreOfGravity, displaced, centreOfBuoyancy: moment.map((m) => m / displaced) as unknown as Vec3, within };
}

import { placeMass, type Hollow, type Immersed, type MassFigures, type Vec3, type Weight } from '@bathyscope/core';
import { startImmerseWorker } from '../workers/start-immerse-worker.ts';
import type { ImmerseReply, ImmerseRequest } from '../workers/immerse-worker.ts';
import { perform } from './perform.ts';
import { storedPlacement } from './placed-points.ts';
import type { Workspace } from './workspace.ts';

/* What a set takes the place of under water. */

export const immersedKey = (paths: readonly string[]): string => paths.join('\n');

/** Looks for what components share and for hollows that they close. */
export function immerse(ws: Workspace, paths: readonly string[]): void {
  const { byPath, parts } = ws.model.getState();
  const meshes = paths.flatMap((path): ImmerseRequest['meshes'] => {
    const { part, placement } = byPath.get(path) ?? {};
    const geometry = part === undefined ? undefined : parts.get(part)?.geometry;
    if (!geometry?.mass || !placement) return [];
    return [{ positions: geometry.mesh.positions, indices: geometry.mesh.indices, place: storedPlacement(placement, geometry.origin) }];
  });
  const worker = startImmerseWorker();
  ws.mass.setState({ immersing: true });
  worker.onmessage = ({ data }: MessageEvent<ImmerseReply>) => {
    worker.terminate();
    ws.mass.setState({ immersed: { key: immersedKey(paths), ...data }, immersing: false });
  };
  worker.onerror = () => {
    worker.terminate();
    ws.mass.setState({ immersing: false });
  };
  worker.postMessage({ meshes } satisfies ImmerseRequest);
}

/** Whether a hollow was marked as sealed: the mark lies in it. */
export const isSealed = (ws: Workspace, hollow: Hollow): boolean =>
  ws.preference.getState().sealed.some(({ at }) => at.every((x, k) => x >= hollow.box.min[k] && x <= hollow.box.max[k]));

export function markSealed(ws: Workspace, hollow: Hollow, sealed: boolean): void {
  const rest = ws.preference.getState().sealed.filter(({ at }) => !at.every((x, k) => x >= hollow.box.min[k] && x <= hollow.box.max[k]));
  perform(ws, sealed ? 'cavity sealed' : 'cavity open', ws.preference, {
    sealed: sealed ? [...rest, { id: crypto.randomUUID(), at: hollow.centre }] : rest,
  });
}

/** A set under water: the sum of its solids, what they share counted once, with the hollows that are marked as sealed. @returns null where no solid has a volume */
export function immersedOf(
  ws: Workspace,
  paths: readonly string[],
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
    const figures: MassFigures | null | undefined = part === undefined ? null : parts.get(part)?.geometry.mass;
    if (!figures || !placement) continue;
    const { volume, centreOfGravity: centre, accuracy } = placeMass(figures, placement);
    add(volume, centre, accuracy.kind === 'mesh' ? accuracy.within * volume : 0);
  }
  if (!(displaced > 0)) return null;
  if (immersed?.key === immersedKey(paths)) {
    const { overlap, hollows } = immersed;
    displaced -= overlap.volume;
    within += overlap.within;
    overlap.moment.forEach((m, k) => (moment[k] -= m));
    for (const hollow of hollows) if (isSealed(ws, hollow)) add(hollow.volume, hollow.centre, hollow.within);
  }
  return { mass, centreOfGravity, displaced, centreOfBuoyancy: moment.map((m) => m / displaced) as unknown as Vec3, within };
}

import type { Vec3 } from '@bathyscope/core';
import { startBoxWorker } from '../workers/start-box-worker.ts';
import type { BoxReply, BoxRequest } from '../workers/box-worker.ts';
import { storedPlacement } from './placed-points.ts';
import type { Workspace } from './workspace.ts';

export const boxKey = (paths: readonly string[]): string => paths.join('\n');

/** Finds the smallest box about components, in a worker. */
export function findSmallestBox(ws: Workspace, paths: readonly string[]): void {
  const { byPath, parts } = ws.model.getState();
  const items = paths.flatMap((path): BoxRequest['items'] => {
    const { part, placement } = byPath.get(path) ?? {};
    const geometry = part === undefined ? undefined : parts.get(part)?.geometry;
    if (!geometry || !placement) return [];
    const hints = geometry.faces.flatMap((f): Vec3[] => (f.axis && f.area > 0 ? [f.axis] : []));
    return [{ positions: geometry.mesh.positions, place: storedPlacement(placement, geometry.origin), hints }];
  });
  if (!items.length) return;
  const worker = startBoxWorker();
  worker.onmessage = ({ data }: MessageEvent<BoxReply>) => {
    worker.terminate();
    ws.mass.setState({ box: { key: boxKey(paths), box: data.box } });
  };
  worker.postMessage({ items } satisfies BoxRequest);
}

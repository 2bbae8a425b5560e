import { boxCorners, dot, transformBox, type MassFigures } from '@bathyscope/core';
import { startWeighWorker } from '../workers/start-weigh-worker.ts';
import type { WeighReply, WeighRequest } from '../workers/weigh-worker.ts';
import { storedPlacement } from './placed-points.ts';
import { clipsNow, sectionNow } from './section-now.ts';
import { visiblePaths } from './shown.ts';
import type { Workspace } from './workspace.ts';

/* What a section leaves, weighed: components that it cuts from their mesh, in a worker. */

/** Says of which section and of what shown components something was worked out. */
export function cutKey(ws: Workspace): string {
  const clips = clipsNow(ws);
  return JSON.stringify([
    sectionNow(ws).combine,
    clips.map((c) => [...c.normal, c.constant]),
    [...ws.cut.getState().whole],
    visiblePaths(ws),
  ]);
}

type Side = 'kept' | 'removed' | 'cut';

/** Which of what is shown the section keeps, removes or cuts, by their boxes. */
export function sidesOf(ws: Workspace): Map<string, Side> {
  const { byPath, parts } = ws.model.getState();
  const clips = clipsNow(ws);
  const all = sectionNow(ws).combine === 'all';
  const { whole } = ws.cut.getState();
  return new Map(
    visiblePaths(ws).map((path): [string, Side] => {
      const { part, placement } = byPath.get(path)!;
      const geometry = parts.get(part!)?.geometry;
      if (!clips.length || whole.has(path) || !geometry) return [path, 'kept'];
      const corners = boxCorners(transformBox(placement, geometry.box));
      const sides = clips.map((c) => {
        const above = corners.filter((p) => dot(c.normal, p) + c.constant >= 0).length;
        return above === corners.length ? 'kept' : above === 0 ? 'removed' : 'cut';
      });
      const decides = all ? 'kept' : 'removed';
      if (sides.includes(decides)) return [path, decides];
      return [path, sides.includes('cut') ? 'cut' : all ? 'removed' : 'kept'];
    }),
  );
}

/** Works out what the section leaves, unless that is known already. What it was asked for before is given up. */
export function weighKeptSide(ws: Workspace): void {
  const key = cutKey(ws);
  if (ws.mass.getState().cut?.key === key) return;
  const sides = sidesOf(ws);
  const known = new Map<string, MassFigures | null>();
  const cut: string[] = [];
  for (const [path, side] of sides)
    if (side === 'removed') known.set(path, null);
    else if (side === 'cut') cut.push(path);
  ws.players.weighWorker?.terminate();
  ws.players.weighWorker = null;
  if (!cut.length) return ws.mass.setState({ cut: { key, figures: known } });
  const { byPath, parts } = ws.model.getState();
  const items: WeighRequest['items'] = [];
  for (const path of cut) {
    const { part, placement } = byPath.get(path)!;
    const { geometry } = parts.get(part!)!;
    const { mesh, origin, mass, faces, chordTolerance } = geometry;
    // Without a volume nothing of it has one.
    if (!mass) continue;
    const place = storedPlacement(placement, origin);
    // Flat faces are meshed as they are: only beside round ones may the mesh be off by its chord.
    const round = faces.reduce((sum, f) => sum + (f.surface === 'plane' ? 0 : f.area), 0);
    items.push({ path, positions: mesh.positions, indices: mesh.indices, place, within: (chordTolerance * round) / mass.volume });
  }
  const worker = startWeighWorker();
  ws.players.weighWorker = worker;
  worker.onmessage = ({ data }: MessageEvent<WeighReply>) => {
    worker.terminate();
    if (ws.players.weighWorker === worker) ws.players.weighWorker = null;
    for (const [path, figures] of data.figures) known.set(path, figures);
    ws.mass.setState({ cut: { key, figures: known } });
  };
  const halves = clipsNow(ws);
  worker.postMessage({ items, halves, all: sectionNow(ws).combine === 'all' } satisfies WeighRequest);
}

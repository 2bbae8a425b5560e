import type { Workspace } from '../workspace.ts';

/** Why a part has no volume. */
export function openReason(ws: Workspace, part: number): string {
  const geometry = ws.model.getState().parts.get(part)?.geometry;
  if (!geometry) return 'no volume: its geometry is not there';
  if (!geometry.bodies.length) return 'no volume: it holds lines or points only';
  const free = openEdges(ws, part).length;
  const open = geometry.bodies.filter((b) => !b.closed).length;
  const shells = open === 1 ? 'an open shell' : `${open} open shells`;
  return free
    ? `no volume: ${shells}, ${free} free ${free === 1 ? 'edge' : 'edges'}`
    : `no volume: ${shells} that no solid is made of`;
}

/** Edges that bound one face only. */
export function openEdges(ws: Workspace, part: number): number[] {
  const geometry = ws.model.getState().parts.get(part)?.geometry;
  return geometry
    ? geometry.edges.flatMap((e, i) => (!e.seam && e.faces.length === 1 && e.length > 0 ? [i] : []))
    : [];
}

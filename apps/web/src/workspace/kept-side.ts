import { boxCorners, clipPlaneOf, cuttingPlanes, dot, transformBox, type ClipPlane } from '@bathyscope/core';
import type { LeftFigures } from '../workers/mass-work.ts';
import { askMass, placedMeshesOf, stopMass } from './mass-jobs.ts';
import { sectionNow } from './section-now.ts';
import { visiblePaths } from './shown.ts';
import type { Workspace } from './workspace.ts';

/* What a section leaves, weighed: components that it cuts from their mesh, in a worker. */

/** The planes where they are: what is drawn cuts a little beside them, so that faces in a plane go. */
const planesOf = (ws: Workspace): ClipPlane[] => cuttingPlanes(sectionNow(ws)).map((plane) => clipPlaneOf(plane, 0));

/** Says of which section and of what shown components something was worked out. */
export function cutKey(ws: Workspace): string {
  const clips = planesOf(ws);
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
  const clips = planesOf(ws);
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
  const known = new Map<string, LeftFigures | null>();
  const cut: string[] = [];
  for (const [path, side] of sides)
    if (side === 'removed') known.set(path, null);
    else if (side === 'cut') cut.push(path);
  const take = (figures: readonly (LeftFigures | null)[]) => {
    items.forEach(({ path }, i) => known.set(path, figures[i] ?? null));
    ws.mass.setState({ cut: { key, figures: known } });
  };
  // Without a volume nothing of it has one.
  const items = placedMeshesOf(ws, cut).filter(({ geometry }) => geometry.mass);
  stopMass(ws, 'within');
  if (!items.length) return take([]);
  const asked = {
    items: items.map(({ path: _, geometry: __, ...item }) => item),
    halves: planesOf(ws),
    all: sectionNow(ws).combine === 'all',
  };
  askMass(ws, 'within', asked, (figures) => figures && take(figures));
}

import { boxCorners, heightOver, transformBox, type CutBy } from '@bathyscope/core/math';
import { cutPlaneOf, cuttingPlanes } from '@bathyscope/core/section';
import type { ClippedMass } from '../../workers/mass-work.ts';
import { heavy } from '../derived/derived.ts';
import { askMass, placedMeshesOf, stopMass } from './mass-jobs.ts';
import { sectionNow } from '../cutting/section-now.ts';
import { visiblePaths } from '../shown/shown.ts';
import type { Workspace } from '../workspace.ts';

/* What a section leaves, weighed: components that it cuts from their mesh, in a worker. */

/** The planes where they are: what is drawn cuts a little beside them, so that faces in a plane go. */
function trueCut(ws: Workspace): CutBy {
  const section = sectionNow(ws);
  return { planes: cuttingPlanes(section).map((plane) => cutPlaneOf(plane)), combine: section.combine };
}

/** Says of which section and of what shown components something is worked out. */
const keyOf = (ws: Workspace): string =>
  JSON.stringify([trueCut(ws), [...ws.cut.getState().whole], visiblePaths(ws)]);

type Side = 'kept' | 'removed' | 'cut';

/** Which of what is shown the section keeps, removes or cuts, by their boxes. */
export function sidesOf(ws: Workspace): Map<string, Side> {
  const { byPath, parts } = ws.model.getState();
  const { planes, combine } = trueCut(ws);
  const all = combine === 'all';
  const { whole } = ws.cut.getState();
  return new Map(
    visiblePaths(ws).map((path): [string, Side] => {
      const { part, placement } = byPath.get(path)!;
      const geometry = parts.get(part!)?.geometry;
      if (!planes.length || whole.has(path) || !geometry) return [path, 'kept'];
      const corners = boxCorners(transformBox(placement, geometry.box));
      const sides = planes.map((plane) => {
        const kept = corners.filter((p) => heightOver(plane, p) <= 0).length;
        return kept === corners.length ? 'kept' : kept === 0 ? 'removed' : 'cut';
      });
      const decides = all ? 'kept' : 'removed';
      if (sides.includes(decides)) return [path, decides];
      return [path, sides.includes('cut') ? 'cut' : all ? 'removed' : 'kept'];
    }),
  );
}

/**
 * What a section leaves of the components that it cuts or removes, in model space; null of
 * one it leaves nothing of.
 */
export type ClippedMasses = ReadonlyMap<string, ClippedMass | null>;

/** ms. A section that is still being dragged is not weighed. */
const SETTLED = 150;

/** What the section leaves, while that is the set that is weighed. */
export const keptSide = heavy<{ key: string }, ClippedMasses>(
  'what the section leaves',
  (ws) =>
    ws.mass.getState().set === 'kept' && ws.model.getState().status === 'ready' ? { key: keyOf(ws) } : null,
  SETTLED,
  (ws, _, take) => {
    const known = new Map<string, ClippedMass | null>();
    const cut: string[] = [];
    for (const [path, side] of sidesOf(ws))
      if (side === 'removed') known.set(path, null);
      else if (side === 'cut') cut.push(path);
    // Without a volume nothing of it has one.
    const items = placedMeshesOf(ws, cut).filter(({ geometry }) => geometry.mass);
    const done = (figures: readonly (ClippedMass | null)[]) => {
      items.forEach(({ path }, i) => known.set(path, figures[i] ?? null));
      take(known);
    };
    if (!items.length) done([]);
    else
      askMass(
        ws,
        'within',
        {
          items: items.map(({ path: _, geometry: __, ...item }) => item),
          cut: trueCut(ws),
        },
        (figures) => (figures ? done(figures) : take(null)),
      );
    return () => stopMass(ws, 'within');
  },
);

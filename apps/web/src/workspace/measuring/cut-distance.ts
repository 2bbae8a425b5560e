import { capTriangles } from '@bathyscope/core/drawing';
import {
  cutChain,
  cutTriangle,
  transformPoint,
  vecOf,
  type CutBy,
  type Patch,
  type Vec3,
} from '@bathyscope/core/math';
import { fromPlane, pointsAlong, startOf, type PlaneCurve } from '@bathyscope/core/section';
import { type CutState } from '../../state/cut-store.ts';
import type { Picked } from '../../state/selection-store.ts';
import { cutOfPick } from '../picking/cut-picks.ts';
import { placedPointsOf } from '../picking/placed-points.ts';
import { pointOfPick } from '../picking/snap-picks.ts';
import type { Workspace } from '../workspace.ts';
import { bestCut, chordOf, curvesOf, loopsOf } from '../cutting/cuts.ts';

/**
 * A picked thing for measuring to a cut: in model space, and how far what stands for it is from
 * the exact one at most (mm).
 */
export interface MeasuredThing {
  patch: Patch;
  exact: boolean;
  chord: number;
}

/** rad. Round curves are followed in such steps. */
const ALONG = Math.PI / 720;
const AROUND_FACE = Math.PI / 180;

/** What is picked, as far as the section leaves it; null for components and bodies. */
export function measuredThing(
  ws: Workspace,
  item: Picked,
  { results, whole }: Pick<CutState, 'results' | 'whole'>,
): MeasuredThing | null {
  if (item.kind === 'corner' || item.kind === 'outline' || item.kind === 'cap') return thingOfCut(ws, item);
  if (item.kind === 'point' || item.datum === 'origin') {
    const point = pointOfPick(ws, item);
    if (!point) return null;
    const chord = point.accuracy.kind === 'recognised' ? point.accuracy.deviation : 0;
    return { patch: { chains: [[point.at]] }, exact: chord === 0, chord };
  }
  if (item.datum !== undefined) return null;
  const { byPath, parts } = ws.model.getState();
  const component = byPath.get(item.component);
  const geometry = component?.part === undefined ? undefined : parts.get(component.part)?.geometry;
  if (!component || !geometry) return null;
  const cut: CutBy | null =
    results.length && !whole.has(item.component)
      ? { planes: results.map((m) => m.cut), combine: ws.section.getState().combine }
      : null;
  if (item.kind === 'face') {
    const { surface, edges } = geometry.faces[item.index];
    const { positions, indices, faceStart } = geometry.mesh;
    const corner = (i: number): Vec3 =>
      transformPoint(
        component.placement,
        vecOf((k) => positions[3 * indices[i] + k] + geometry.origin[k]),
      );
    const triangles: Vec3[] = [];
    for (let t = faceStart[item.index]; t < faceStart[item.index + 1]; t++) {
      const corners = [corner(3 * t), corner(3 * t + 1), corner(3 * t + 2)];
      triangles.push(...(cut ? cutTriangle(corners, cut) : corners));
    }
    const straight = surface === 'plane' && edges.every((e) => geometry.edges[e].curve === 'line');
    return { patch: { triangles }, exact: straight, chord: straight ? 0 : geometry.chordTolerance };
  }
  if (item.kind !== 'vertex' && item.kind !== 'edge') return null;
  const straight = item.kind === 'vertex' || geometry.edges[item.index].curve === 'line';
  const points = placedPointsOf(item, geometry, component.placement);
  return {
    patch: { chains: cut && item.kind === 'edge' ? cutChain(points, cut) : [points] },
    exact: straight,
    chord: straight ? 0 : geometry.chordTolerance,
  };
}

/** How far a round curve's chords are from it, where it is followed in steps of an angle. */
const sagitta = (c: PlaneCurve, step: number): number =>
  (c.shape === 'arc' ? c.radius : c.shape === 'ellipse' ? Math.hypot(...c.major) : 0) *
  (1 - Math.cos(step / 2));

function thingOfCut(ws: Workspace, item: Picked): MeasuredThing | null {
  const found = cutOfPick(ws, item);
  if (!found) return null;
  const {
    plane: { plane, frame },
    cut,
  } = found;
  const { exact, within } = bestCut(ws, plane.id, cut);
  const off = (curves: readonly PlaneCurve[], step: number): Pick<MeasuredThing, 'exact' | 'chord'> => ({
    exact: exact && curves.every((c) => c.shape === 'line'),
    chord: (exact ? within : chordOf(ws, cut.component)) + Math.max(...curves.map((c) => sagitta(c, step))),
  });
  if (item.kind === 'cap') {
    const loops = loopsOf(ws, plane.id, cut);
    return {
      patch: { triangles: capTriangles({ frame, loops }, AROUND_FACE) },
      ...off(loops.flat(), AROUND_FACE),
    };
  }
  const curve = curvesOf(ws, plane.id, cut)[item.index];
  if (!curve) return null;
  if (item.kind === 'corner')
    return {
      patch: { chains: [[fromPlane(frame, startOf(curve))]] },
      exact,
      chord: exact ? 0 : chordOf(ws, cut.component),
    };
  return {
    patch: { chains: [pointsAlong(curve, ALONG).map((p) => fromPlane(frame, p))] },
    ...off([curve], ALONG),
  };
}

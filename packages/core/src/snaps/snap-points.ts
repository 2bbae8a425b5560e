import { pixelSizeAt, project, type Pane, type ViewCamera } from '../camera/view-camera.ts';
import type { PartGeometry } from '../geometry/part-geometry.ts';
import { invertAffine, transformPoint } from '../math/mat4.ts';
import { distance, pointAt, type Vec3 } from '../math/vec3.ts';
import type { EdgeNear, PickHit, PickOptions, PickScene } from '../picking/pick-scene.ts';
import { SAME_POSITION } from '../tolerances.ts';
import { crossingOf, derivedPoints, pointOnEdge, pointOnFace, type DerivedPoint } from './derived-points.ts';
import type { SnapKind } from '../references/snap.ts';

/** A point near the cursor: a vertex, or one of an edge or face (`index` is then that one's). */
export interface SnapHit extends PickHit {
  kind: 'vertex' | 'point';
  snap?: {
    kind: SnapKind;
    on: 'edge' | 'face';
    which?: number;
    /** The other edge of an intersection. */
    with?: { component: number; index: number };
  };
}

/** px. Points nearer to the cursor than this are offered, and centres of edges that are. */
const REACH = 10;
/** Edges that are looked at for where they cross. */
const MOST_CROSSED = 12;
/**
 * Times the reach: where two edges come nearest to the cursor they are no farther from each
 * other, if they cross there.
 */
const TOGETHER = 6;

/** Points of one edge are the same wherever it is placed. */
const known = new WeakMap<PartGeometry, Map<number, readonly DerivedPoint[]>>();

function pointsOfEdge(part: PartGeometry, index: number): readonly DerivedPoint[] {
  let edges = known.get(part);
  if (!edges) known.set(part, (edges = new Map()));
  let points = edges.get(index);
  if (!points) edges.set(index, (points = derivedPoints(part, index)));
  return points;
}

/**
 * The points near a pixel, nearest first: vertices, intersections, centres, midpoints and quadrants; then the
 * nearest point of the edge there, centres of the round edges there, and the point of the face. None that
 * something covers, but for centres.
 */
export function snapPoints(
  scene: PickScene,
  camera: ViewCamera,
  pane: Pane,
  x: number,
  y: number,
  options: PickOptions,
): SnapHit[] {
  const { face, edges: around } = scene.around(camera, pane, x, y, options);
  const edges = around.sort((a, b) => a.away - b.away);
  const near: (SnapHit & { away: number })[] = [];
  const centres: SnapHit[] = [];
  const onScreen = (point: Vec3): number => {
    const s = project(camera, pane, point);
    return s.behind ? Infinity : Math.hypot(s.x - x, s.y - y);
  };
  const offer = (hit: SnapHit): void => {
    const away = onScreen(hit.point);
    const isCentre = hit.snap?.kind === 'centre';
    if (away <= REACH && (isCentre || !scene.isCovered(camera, pane, hit.component, hit.point, options)))
      near.push({ ...hit, away });
  };
  const vertices = new Set<string>();
  for (const { component, index, away } of edges) {
    const { geometry, placement } = scene.placed(component);
    for (const v of geometry.edges[index].vertices) {
      if (vertices.has(`${component}/${v}`) || scene.isJoint(component, v)) continue;
      vertices.add(`${component}/${v}`);
      offer({
        kind: 'vertex',
        component,
        index: v,
        point: transformPoint(placement, pointAt(geometry.vertices, v)),
      });
    }
    for (const { kind, which, at } of pointsOfEdge(geometry, index)) {
      const snap = { kind, on: 'edge' as const, ...(which !== undefined && { which }) };
      const hit: SnapHit = { kind: 'point', component, index, point: transformPoint(placement, at), snap };
      if (kind === 'centre' && away <= REACH) centres.push(hit);
      offer(hit);
    }
  }
  crossings(scene, edges, (p) => pixelSizeAt(camera, pane, p)).forEach(offer);
  near.sort((a, b) => a.away - b.away);
  return withoutRepeats([
    ...near.map(({ away: _, ...hit }) => hit),
    ...nearestEdge(scene, edges, (e) => !scene.isCovered(camera, pane, e.component, e.point, options)),
    ...centres,
    ...(face ? [onFaceOf(scene, face)] : []),
  ]);
}

/** Places where edges meet that have no vertex there. */
function crossings(scene: PickScene, edges: readonly EdgeNear[], unit: (p: Vec3) => number): SnapHit[] {
  const close = edges.filter((e) => e.away <= REACH).slice(0, MOST_CROSSED);
  const found: SnapHit[] = [];
  for (const [i, a] of close.entries())
    for (const b of close.slice(i + 1)) {
      if (distance(a.point, b.point) > TOGETHER * REACH * unit(a.point)) continue;
      const point = crossingOfEdges(
        scene.placed(a.component),
        a.index,
        scene.placed(b.component),
        b.index,
        a.point,
      )?.at;
      if (point && ![a, b].some((e) => isAtVertex(scene, e, point)))
        found.push({
          kind: 'point',
          component: a.component,
          index: a.index,
          point,
          snap: { kind: 'intersection', on: 'edge', with: { component: b.component, index: b.index } },
        });
    }
  return found;
}

type Placed = ReturnType<PickScene['placed']>;

/**
 * Where two placed edges meet, near a place, as exact as the less exact of them; null where
 * they do not. In model space.
 */
export function crossingOfEdges(
  a: Placed,
  edgeOfA: number,
  b: Placed,
  edgeOfB: number,
  near: Vec3,
): Pick<DerivedPoint, 'at' | 'accuracy'> | null {
  const on = ({ geometry, placement }: Placed, index: number) => {
    const back = invertAffine(placement);
    return (p: Vec3) => transformPoint(placement, pointOnEdge(geometry, index, transformPoint(back, p)).at);
  };
  const at = crossingOf(on(a, edgeOfA), on(b, edgeOfB), near);
  if (!at) return null;
  const deviations = [pointOnEdge(a.geometry, edgeOfA, at), pointOnEdge(b.geometry, edgeOfB, at)].map(
    ({ accuracy }) => (accuracy.kind === 'exact' ? 0 : accuracy.deviation),
  );
  const deviation = Math.max(...deviations);
  return { at, accuracy: deviation ? { kind: 'recognised', deviation } : { kind: 'exact' } };
}

function isAtVertex(scene: PickScene, { component, index }: EdgeNear, point: Vec3): boolean {
  const { geometry, placement } = scene.placed(component);
  return geometry.edges[index].vertices.some(
    (v) => distance(transformPoint(placement, pointAt(geometry.vertices, v)), point) <= SAME_POSITION,
  );
}

function nearestEdge(
  scene: PickScene,
  edges: readonly EdgeNear[],
  seen: (edge: EdgeNear) => boolean,
): SnapHit[] {
  const edge = edges.find((e) => e.away <= REACH && seen(e));
  if (!edge) return [];
  const { geometry, placement } = scene.placed(edge.component);
  const { at } = pointOnEdge(geometry, edge.index, transformPoint(invertAffine(placement), edge.point));
  return [
    {
      kind: 'point',
      component: edge.component,
      index: edge.index,
      point: transformPoint(placement, at),
      snap: { kind: 'on edge', on: 'edge' },
    },
  ];
}

function onFaceOf(scene: PickScene, { component, index, point }: PickHit): SnapHit {
  const { geometry, placement } = scene.placed(component);
  const { at } = pointOnFace(geometry, index, transformPoint(invertAffine(placement), point));
  return {
    kind: 'point',
    component,
    index,
    point: transformPoint(placement, at),
    snap: { kind: 'on face', on: 'face' },
  };
}

/** Of points of one kind at one place the first: edges of two parts often end in one. */
function withoutRepeats(hits: readonly SnapHit[]): SnapHit[] {
  return hits.filter(
    (hit, i) =>
      !hits
        .slice(0, i)
        .some((h) => h.snap?.kind === hit.snap?.kind && distance(h.point, hit.point) <= SAME_POSITION),
  );
}

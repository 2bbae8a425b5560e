import { placeOn, rangeOf, type BoundaryCurve, type PlaceOnSurface } from '@bathyscope/core/mass';
import { cross, distance, dot, vecOf, type Vec3 } from '@bathyscope/core/math';
import { FACE_IN_PLANE, INWARDS_LEAST, IS_THE_EDGE, LEVEL_FACE } from '@bathyscope/core/tolerances';
import { FaceReader } from '../describing/face-sums.ts';
import type { Occt } from '../occt/load.ts';
import { nearestOfShapes } from '../occt/nearest.ts';
import { explore, isReversed, ShapeType, takeXYZ, vertexAt } from '../occt/shapes.ts';
import { curveOfEdge, curvesOfSection, type CutFaces, type FoundCurve } from './section-curves.ts';
import { NoSection, type CuttingFrame } from './cutting-frame.ts';

/*
 * A plane that touches a solid: a planar face or an edge lies in it. What is cut is the material just behind
 * the plane, and its outline is where that ends. So an edge in the plane belongs to it just where one of its
 * two faces goes down from it and the other does not; everything else is where faces go through the plane.
 * Nothing is moved, so nothing moves with the square root of it, as outlines along tangent fillets do.
 */

/** Shares of an edge at which it is looked at. */
const LOOKS = [0.03, 0.31, 0.5, 0.72, 0.97];
/** Of an edge's length, and within limits in mm: how far into a face one goes to see where it leads. */
const INWARDS = 0.02;
const INWARDS_MOST = 0.5;

/**
 * Whether a face leads up or down from an edge in the plane, or stays in it with its material below or above.
 */
type Way = 'up' | 'down' | 'material below' | 'material above';

/** Numbers (from 1) of the edges that lie in a plane. */
export function edgesInPlane(oc: Occt, edgeMap: Occt, frame: CuttingFrame): number[] {
  const found: number[] = [];
  for (let e = 1; e <= edgeMap.Size(); e++) {
    const edge = oc.TopoDS.Edge_1(edgeMap.FindKey(e));
    if (
      !oc.BRep_Tool.Degenerated(edge) &&
      placesOf(oc, edge).every((p) => Math.abs(heightOf(p, frame)) < FACE_IN_PLANE)
    )
      found.push(e);
    edge.delete();
  }
  return found;
}

const heightOf = (p: Vec3, { normal, constant }: CuttingFrame): number => dot(p, normal) - constant;

function placesOf(oc: Occt, edge: Occt): Vec3[] {
  const curve = new oc.BRepAdaptor_Curve_2(edge);
  const [first, last] = [curve.FirstParameter() as number, curve.LastParameter() as number];
  const places = LOOKS.map((s) => takeXYZ(curve.Value(first + s * (last - first))));
  curve.delete();
  return places;
}

/**
 * The outline of what lies just behind a plane that touches a solid.
 * @param inPlane numbers of the edges that lie in it
 * @throws NoSection where more than two faces meet in one of them
 */
export function contactCurves(
  oc: Occt,
  solid: Occt,
  edgeMap: Occt,
  inPlane: readonly number[],
  faces: CutFaces,
  frame: CuttingFrame,
): FoundCurve[] {
  const ways = new Map<number, Way[]>(inPlane.map((e) => [e, []]));
  const across: Occt[] = [];
  const held: Occt[] = [];
  const reader = new FaceReader(oc, edgeMap);
  explore(oc, solid, ShapeType.face, (shape) => {
    const face = oc.TopoDS.Face_1(shape);
    held.push(face);
    const leads = (reader.boundary(face) ?? []).filter((b) => ways.has(b.edge));
    const its = leads.map(({ edge, curve }) => {
      const way = wayFrom(curve, faces.of(face).at, isReversed(face), frame);
      ways.get(edge)!.push(way);
      return way;
    });
    if (!its.some((w) => w.startsWith('material')) && reachesAcross(oc, face, frame)) across.push(face);
  });
  reader.release();
  reader.delete();
  const edges = inPlane.map((e) => ({ e, shape: oc.TopoDS.Edge_1(edgeMap.FindKey(e)) }));
  held.push(...edges.map(({ shape }) => shape));
  const isAnEdge = (p: Vec3): boolean => {
    const vertex = vertexAt(oc, p);
    const found = edges.some(({ shape }) => nearestOfShapes(oc, vertex, shape).distance < IS_THE_EDGE);
    vertex.delete();
    return found;
  };
  try {
    const outline = edges
      .filter(({ e }) => bounds(ways.get(e)!))
      .map(({ shape }) => curveOfEdge(oc, shape, null, faces, frame));
    const through = across.flatMap((face) =>
      curvesOfSection(oc, face, faces, frame, (edge) => !placesOf(oc, edge).every(isAnEdge)),
    );
    return [...outline, ...through.filter((c) => c.crosses)];
  } finally {
    for (const shape of held) shape.delete();
  }
}

/** Just one of both sides goes down, or the plane lies between two faces back to back. */
function bounds(ways: readonly Way[]): boolean {
  if (ways.length !== 2) throw new NoSection(`${ways.length} faces meet in an edge in the plane`);
  return (
    ways.filter((w) => w === 'down').length === 1 ||
    (ways.includes('material below') && ways.includes('material above'))
  );
}

/**
 * Where a face leads from the middle of an edge of it in the plane. @param edge in the face's parameters, the
 * face on its left
 */
function wayFrom(edge: BoundaryCurve, at: PlaceOnSurface, reversed: boolean, { normal }: CuttingFrame): Way {
  const along = placeOn(edge);
  const [from, to] = rangeOf(edge);
  const out = new Float64Array(9);
  const place = (u: number, v: number): Vec3 => {
    at(u, v, out);
    return [out[0], out[1], out[2]];
  };
  const [start, end] = [from, to].map((t) => place(along(t)[0], along(t)[1]));
  const [u, v, du, dv] = along((from + to) / 2);
  const here = place(u, v);
  const [su, sv]: Vec3[] = [
    [out[3], out[4], out[5]],
    [out[6], out[7], out[8]],
  ];
  // To the left, by so much in space.
  const [lu, lv] = to > from ? [-dv, du] : [dv, -du];
  const aside = Math.hypot(...[0, 1, 2].map((k) => lu * su[k] + lv * sv[k]));
  const step = Math.min(
    INWARDS_MOST,
    Math.max(INWARDS_LEAST, INWARDS * (distance(start, here) + distance(here, end))),
  );
  const rise = dot(normal, place(u + (step / aside) * lu, v + (step / aside) * lv)) - dot(normal, here);
  if (Math.abs(rise) > LEVEL_FACE * step) return rise > 0 ? 'up' : 'down';
  const outward = dot(cross(su, sv), normal) * (reversed ? -1 : 1);
  return outward > 0 ? 'material below' : 'material above';
}

/** Whether the box of a face has corners on both sides. */
function reachesAcross(oc: Occt, face: Occt, frame: CuttingFrame): boolean {
  const box = new oc.Bnd_Box_1();
  oc.BRepBndLib.Add(face, box, false);
  const [low, high] = [takeXYZ(box.CornerMin()), takeXYZ(box.CornerMax())];
  box.delete();
  const heights = Array.from({ length: 8 }, (_, i) =>
    heightOf(
      vecOf((k) => (i & (1 << k) ? high : low)[k]),
      frame,
    ),
  );
  return Math.min(...heights) < -FACE_IN_PLANE && Math.max(...heights) > FACE_IN_PLANE;
}

import { IN_FRONT } from '../tolerances.ts';
import {
  BufferAttribute,
  BufferGeometry,
  FrontSide,
  DoubleSide,
  Ray,
  Vector3,
  type Intersection,
} from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import type { EdgeFacts, PartGeometry } from '../geometry/part-geometry.ts';
import { transformBox } from '../math/box3.ts';
import {
  invertAffine,
  isMirrored,
  multiply,
  transformDirection,
  transformPoint,
  IDENTITY,
  type Mat4,
} from '../math/mat4.ts';
import { takesPoint, type CutBy } from '../math/plane.ts';
import { addScaled, distance, dot, pointAt, subtract, type Vec3 } from '../math/vec3.ts';
import {
  pixelSizeAt,
  project,
  towardsEye,
  viewRay,
  type Pane,
  type ViewCamera,
} from '../camera/view-camera.ts';
import { nearSegment } from '../camera/near-segment.ts';
import { jointVertices } from './joint-vertices.ts';
import { ComponentTree } from './component-tree.ts';

/**
 * `cap`, `outline` and `corner` belong to a section: a component's face, outline and corners in a cut. A
 * `point` is one of a thing, as a snap tells; a `datum` is a plane, an axis or the origin
 * of the reference geometry.
 */
export type PickKind =
  'component' | 'body' | 'face' | 'edge' | 'vertex' | 'cap' | 'outline' | 'corner' | 'point' | 'datum';

/**
 * What a pick found. `component` is the index in the scene's component list, `index` that of
 * the face, edge or vertex.
 */
export interface PickHit {
  kind: PickKind;
  component: number;
  index: number;
  /** In model space, mm. */
  point: Vec3;
}

export interface PickComponent {
  part: number;
  placement: Mat4;
}

export interface PickOptions {
  /** Whether a component can be picked at all (hidden ones cannot). */
  pickable: (component: number) => boolean;
  cut?: CutBy;
  /** Components that no plane cuts. */
  uncut?: (component: number) => boolean;
  kinds?: { face: boolean; edge: boolean; vertex: boolean };
  /**
   * Which edges are reached: sharp ones only, those between faces that meet smoothly as well, or also seams.
   * What is not drawn should not win over what is; nor should, unless `all` is asked for, a
   * vertex that is no corner.
   */
  edges?: EdgeReach;
}

export type EdgeReach = 'sharp' | 'smooth' | 'all';

const isReached = ({ smooth, seam }: EdgeFacts, reach: EdgeReach): boolean =>
  reach === 'all' || (!seam && (reach === 'smooth' || !smooth));

/** Whether a point of a component is cut away. */
const isCutAway = (component: number, point: Vec3, { cut, uncut }: PickOptions): boolean =>
  cut !== undefined && !uncut?.(component) && takesPoint(cut, point);

/** px. Edges and vertices nearer to the cursor than this win over faces. */
const EDGE_REACH = 6;
const VERTEX_REACH = 8;
/** Rays around the cursor that find the faces whose edges may be near it. */
const RING = Array.from(
  { length: 8 },
  (_, i) => [Math.cos((i * Math.PI) / 4), Math.sin((i * Math.PI) / 4)] as const,
);

/**
 * An edge near the cursor: its nearest point as seen, in model space, and how far
 * that is from the cursor, px.
 */
export interface EdgeNear {
  component: number;
  index: number;
  point: Vec3;
  away: number;
}

interface Triangles {
  mesh: Pick<PartGeometry['mesh'], 'positions' | 'indices'>;
}

/** A tree over the mesh's own triangle order, so that a triangle's number still tells its face. */
export function buildPartBvh(part: Triangles): MeshBVH {
  return new MeshBVH(bvhGeometry(part), { indirect: true });
}

/** The geometry that a part's tree refers to. */
export function bvhGeometry(part: Triangles): BufferGeometry {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(part.mesh.positions, 3));
  geometry.setIndex(new BufferAttribute(part.mesh.indices, 1));
  return geometry;
}

interface FaceHit {
  component: number;
  face: number;
  point: Vec3;
  /** Towards the eye, relative to the ray's start. */
  distance: number;
}

/**
 * Answers what is under a pixel: components by a tree of boxes, triangles by a tree per part, then edges and
 * vertices by nearness.
 */
export class PickScene {
  private readonly parts: ReadonlyMap<number, PartGeometry>;
  private readonly bvhs: ReadonlyMap<number, MeshBVH>;
  private readonly components: readonly PickComponent[];
  private readonly inverses: Mat4[];
  private readonly local: Mat4[];
  private readonly tree: ComponentTree;
  private readonly reach: number;
  /** Vertices that are no corners, found when a part is first picked. */
  private readonly joints = new Map<PartGeometry, ReadonlySet<number>>();

  constructor(
    components: readonly PickComponent[],
    parts: ReadonlyMap<number, PartGeometry>,
    bvhs: ReadonlyMap<number, MeshBVH>,
  ) {
    this.components = components;
    this.parts = parts;
    this.bvhs = bvhs;
    const boxes = components.map((c) => transformBox(c.placement, parts.get(c.part)!.box));
    this.tree = new ComponentTree(boxes);
    this.local = components.map((c) =>
      multiply(c.placement, [...IDENTITY.slice(0, 12), ...parts.get(c.part)!.origin, 1]),
    );
    this.inverses = this.local.map(invertAffine);
    this.reach =
      boxes.reduce((far, b) => Math.max(far, ...b.min.map(Math.abs), ...b.max.map(Math.abs)), 1) * 4;
  }

  /**
   * The nearest face under a pixel, or what wins over it: a vertex, else an edge near the
   * cursor that nothing covers.
   */
  pick(camera: ViewCamera, pane: Pane, x: number, y: number, options: PickOptions): PickHit | null {
    const kinds = options.kinds ?? { face: true, edge: true, vertex: true };
    const hit = this.faceAt(camera, pane, x, y, options);
    if (kinds.edge || kinds.vertex) {
      const near = this.nearbyFaces(camera, pane, x, y, options, hit);
      const line = this.nearestOnEdges(camera, pane, x, y, near, kinds, options);
      if (line) return line;
    }
    return hit && kinds.face
      ? { kind: 'face', component: hit.component, index: hit.face, point: hit.point }
      : null;
  }

  /** The point of the model under a pixel, or null. */
  pointAt(camera: ViewCamera, pane: Pane, x: number, y: number, options: PickOptions): Vec3 | null {
    return this.faceAt(camera, pane, x, y, options)?.point ?? null;
  }

  /**
   * Every face that the line of sight enters or leaves, nearest first, each once; for
   * picking what is hidden behind.
   */
  through(camera: ViewCamera, pane: Pane, x: number, y: number, options: PickOptions): PickHit[] {
    const { origin, direction } = this.sight(camera, pane, x, y);
    const hits: FaceHit[] = [];
    this.tree.alongRay(origin, direction, (index) => {
      if (options.pickable(index)) hits.push(...this.allHits(index, origin, direction, options));
    });
    hits.sort((a, b) => a.distance - b.distance);
    const seen = new Set<string>();
    return hits.flatMap((h) => {
      const key = `${h.component}/${h.face}`;
      if (seen.has(key)) return [];
      seen.add(key);
      return [{ kind: 'face' as const, component: h.component, index: h.face, point: h.point }];
    });
  }

  private allHits(index: number, origin: Vec3, direction: Vec3, options: PickOptions): FaceHit[] {
    const { part } = this.components[index];
    const inverse = this.inverses[index];
    const ray = new Ray(
      new Vector3(...transformPoint(inverse, origin)),
      new Vector3(...transformDirection(inverse, direction)),
    );
    const geometry = this.parts.get(part)!;
    return (this.bvhs.get(part)?.raycast(ray, DoubleSide) ?? []).flatMap((hit) => {
      const point = transformPoint(this.local[index], [hit.point.x, hit.point.y, hit.point.z]);
      if (hit.faceIndex === undefined || hit.faceIndex === null || isCutAway(index, point, options))
        return [];
      return [
        {
          component: index,
          face: faceOfTriangle(geometry, hit.faceIndex),
          point,
          distance: distance(origin, point),
        },
      ];
    });
  }

  private faceAt(camera: ViewCamera, pane: Pane, x: number, y: number, options: PickOptions): FaceHit | null {
    const { origin, direction } = this.sight(camera, pane, x, y);
    let best: FaceHit | null = null;
    this.tree.alongRay(origin, direction, (index) => {
      if (!options.pickable(index)) return;
      const hit = this.hitComponent(index, origin, direction, options);
      if (hit && (!best || hit.distance < best.distance)) best = hit;
    });
    return best;
  }

  /**
   * An orthographic line of sight starts outside everything, wherever the target has been moved to; a
   * perspective one at the eye.
   */
  private sight(camera: ViewCamera, pane: Pane, x: number, y: number): { origin: Vec3; direction: Vec3 } {
    const { origin, direction } = viewRay(camera, pane, x, y);
    return {
      direction,
      origin:
        camera.projection === 'perspective'
          ? origin
          : addScaled(origin, direction, -(this.reach + Math.hypot(...origin))),
    };
  }

  private hitComponent(index: number, origin: Vec3, direction: Vec3, options: PickOptions): FaceHit | null {
    const { part } = this.components[index];
    const bvh = this.bvhs.get(part);
    if (!bvh) return null;
    const inverse = this.inverses[index];
    const ray = new Ray(
      new Vector3(...transformPoint(inverse, origin)),
      new Vector3(...transformDirection(inverse, direction)),
    );
    const geometry = this.parts.get(part)!;
    const isCut = options.cut !== undefined && options.cut.planes.length > 0 && !options.uncut?.(index);
    const side = isCut || geometry.bodies.some((b) => !b.closed) ? DoubleSide : FrontSide;
    // In a mirrored placement the triangles wind the other way round.
    const hits = isCut
      ? bvh.raycast(ray, side)
      : [bvh.raycastFirst(ray, isMirrored(this.local[index]) ? DoubleSide : side)];
    let best: FaceHit | null = null;
    for (const hit of hits as (Intersection | null)[]) {
      if (!hit || hit.faceIndex === undefined || hit.faceIndex === null) continue;
      const point = transformPoint(this.local[index], [hit.point.x, hit.point.y, hit.point.z]);
      if (isCut && isCutAway(index, point, options)) continue;
      const away = distance(origin, point);
      if (!best || away < best.distance)
        best = { component: index, face: faceOfTriangle(geometry, hit.faceIndex), point, distance: away };
    }
    return best;
  }

  /** The face under the cursor and those a few pixels around it, each once. */
  private nearbyFaces(
    camera: ViewCamera,
    pane: Pane,
    x: number,
    y: number,
    options: PickOptions,
    middle: FaceHit | null,
  ): FaceHit[] {
    const found = new Map<string, FaceHit>();
    const note = (hit: FaceHit | null) => hit && found.set(`${hit.component}/${hit.face}`, hit);
    note(middle);
    for (const [dx, dy] of RING)
      note(this.faceAt(camera, pane, x + dx * EDGE_REACH, y + dy * EDGE_REACH, options));
    return [...found.values()];
  }

  /**
   * The face under the cursor, and the edges of it and of those around it that are reached, each with how
   * near the cursor it comes (px).
   */
  around(
    camera: ViewCamera,
    pane: Pane,
    x: number,
    y: number,
    options: PickOptions,
  ): { face: PickHit | null; edges: EdgeNear[] } {
    const hit = this.faceAt(camera, pane, x, y, options);
    const edges = new Map<string, EdgeNear>();
    for (const { component, face } of this.nearbyFaces(camera, pane, x, y, options, hit)) {
      const part = this.parts.get(this.components[component].part)!;
      for (const index of part.faces[face].edges) {
        if (!isReached(part.edges[index], options.edges ?? 'sharp') || edges.has(`${component}/${index}`))
          continue;
        const near = this.nearestOnLine(camera, pane, x, y, component, index);
        if (near) edges.set(`${component}/${index}`, { component, index, ...near });
      }
    }
    return {
      face: hit && { kind: 'face', component: hit.component, index: hit.face, point: hit.point },
      edges: [...edges.values()],
    };
  }

  /** A component's geometry, and where it is placed. */
  placed(component: number): { geometry: PartGeometry; placement: Mat4 } {
    const { part, placement } = this.components[component];
    return { geometry: this.parts.get(part)!, placement };
  }

  private nearestOnEdges(
    camera: ViewCamera,
    pane: Pane,
    x: number,
    y: number,
    faces: FaceHit[],
    kinds: { edge: boolean; vertex: boolean },
    options: PickOptions,
  ): PickHit | null {
    let edge: (PickHit & { away: number }) | null = null;
    let vertex: (PickHit & { away: number }) | null = null;
    const seen = new Set<string>();
    for (const { component, face } of faces) {
      const part = this.parts.get(this.components[component].part)!;
      for (const e of part.faces[face].edges) {
        if (!isReached(part.edges[e], options.edges ?? 'sharp') || seen.has(`${component}/${e}`)) continue;
        seen.add(`${component}/${e}`);
        if (kinds.vertex)
          for (const v of part.edges[e].vertices) {
            if (options.edges !== 'all' && this.isJoint(component, v)) continue;
            const point = transformPoint(this.components[component].placement, pointAt(part.vertices, v));
            const s = project(camera, pane, point);
            if (s.behind) continue;
            const away = Math.hypot(s.x - x, s.y - y);
            if (away < (vertex?.away ?? VERTEX_REACH))
              vertex = { kind: 'vertex', component, index: v, point, away };
          }
        if (!kinds.edge) continue;
        const near = this.nearestOnLine(camera, pane, x, y, component, e);
        if (near && near.away < (edge?.away ?? EDGE_REACH))
          edge = { kind: 'edge', component, index: e, ...near };
      }
    }
    for (const candidate of [vertex, edge]) {
      if (!candidate || this.isCovered(camera, pane, candidate.component, candidate.point, options)) continue;
      const { away: _, ...hit } = candidate;
      return hit;
    }
    return null;
  }

  /** Whether a vertex is no corner: one in which an edge only closes, or goes on. */
  isJoint(component: number, vertex: number): boolean {
    const part = this.parts.get(this.components[component].part)!;
    let found = this.joints.get(part);
    if (!found) this.joints.set(part, (found = jointVertices(part)));
    return found.has(vertex);
  }

  private nearestOnLine(
    camera: ViewCamera,
    pane: Pane,
    x: number,
    y: number,
    component: number,
    e: number,
  ): { point: Vec3; away: number } | null {
    const { lines } = this.parts.get(this.components[component].part)!;
    const place = this.local[component];
    let best: { point: Vec3; away: number } | null = null;
    let previous: { world: Vec3; x: number; y: number } | null = null;
    for (let i = lines.start[e]; i < lines.start[e + 1]; i++) {
      const world = transformPoint(place, pointAt(lines.positions, i));
      const s = project(camera, pane, world);
      if (s.behind) {
        previous = null;
        continue;
      }
      if (previous) {
        const { share, away } = nearSegment(previous, s, x, y);
        if (!best || away < best.away)
          best = { away, point: addScaled(previous.world, subtract(world, previous.world), share) };
      }
      previous = { world, x: s.x, y: s.y };
    }
    return best;
  }

  /** Whether something pickable lies clearly in front of a point. */
  isCovered(camera: ViewCamera, pane: Pane, component: number, point: Vec3, options: PickOptions): boolean {
    if (isCutAway(component, point, options)) return true;
    const s = project(camera, pane, point);
    if (s.behind) return true;
    const hit = this.faceAt(camera, pane, s.x, s.y, options);
    return (
      hit !== null &&
      dot(subtract(hit.point, point), towardsEye(camera, point)) >
        3 * pixelSizeAt(camera, pane, point) + IN_FRONT
    );
  }
}

/** The face that owns a triangle: the last whose first triangle is not after it. */
export function faceOfTriangle(part: PartGeometry, triangle: number): number {
  const { faceStart } = part.mesh;
  let [low, high] = [0, faceStart.length - 1];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (faceStart[middle] <= triangle) low = middle;
    else high = middle;
  }
  // Faces without triangles share their start with the next: step to the one that has this triangle.
  while (faceStart[low + 1] <= triangle) low++;
  return low;
}

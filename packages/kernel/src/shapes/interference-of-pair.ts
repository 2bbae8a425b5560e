import {
  FEW_RAYS,
  facesWithin,
  isInside,
  meshGap,
  meshOverlap,
  solidMesh,
  type SolidMesh,
} from '@bathyscope/core/interference';
import {
  addScaled,
  invertAffine,
  dot,
  length,
  normalize,
  highestBetween,
  multiply,
  pointAt,
  subtract,
  transformPoint,
  type Mat4,
  type Vec3,
} from '@bathyscope/core/math';
import {
  CLASH_CHORD,
  CLASH_CHORD_LEAST,
  CLASH_LEAST,
  ROOM_SETTLED,
  MEASURED_SAME,
  ON_SURFACE,
} from '@bathyscope/core/tolerances';
import { largestBall } from '@bathyscope/core/walls';
import type { LoadedKernel, Occt } from '../occt/load.ts';
import { nearestOfShapes, type LeastDistance } from '../occt/nearest.ts';
import { measuredMesh, roundedTo } from '../describing/fit-meshes.ts';
import { clean, DEFAULT_MESH, meshShape, readFace } from '../describing/mesh-shape.ts';
import {
  explore,
  hasAny,
  indexedMap,
  movedShape,
  placedShape,
  ShapeType,
  takeXYZ,
  vertexAt,
} from '../occt/shapes.ts';
import { chooseOrigin, packFaces } from '../describing/pack-mesh.ts';
import { solidFigures } from '../describing/describe-bodies.ts';

/** How two placed solids stand to each other: they share material, touch, or leave a gap. Model space, mm. */
export interface PairInterference {
  relation: 'clash' | 'contact' | 'gap';
  /** Least distance; 0 where they touch or clash. */
  distance: number;
  /** Of the least distance; where they clash both are the thickest place of what they share. */
  from: Vec3;
  to: Vec3;
  /** mm³ and mm; `within` is how far the volume may be off, 0 where the kernel found it. */
  clash: {
    volume: number;
    within: number;
    /** Of the largest ball within what they share. */ depth: number;
  } | null;
  /** `within`, mm: of the distance. */
  accuracy: { kind: 'exact' } | { kind: 'mesh'; within: number };
}

/** One of two solids as the kernel holds it: its shape and mesh in its own frame, and where it is placed. */
export interface InterferenceBody {
  shape: Occt;
  mesh: InterferenceMesh;
  placement: Mat4;
}

/** A part's mesh about an origin of its own; its solids, if any, are closed. */
export interface InterferenceMesh {
  mesh: SolidMesh;
  origin: Vec3;
  solid: boolean;
}

/**
 * How much is done: the distance of two that are clearly apart may be the meshes' with
 * `quick`; all of it with `mesh`.
 */
export type InterferenceEffort = 'exact' | 'quick' | 'mesh';

/** The mesh of a stored shape, which keeps none. */
export function solidMeshOf(oc: Occt, shape: Occt): InterferenceMesh {
  const { faces, within } = measuredMesh(oc, shape, DEFAULT_MESH);
  clean(oc, shape);
  const origin = chooseOrigin(faces, new Float64Array());
  return {
    mesh: solidMesh(packFaces(faces, origin), within + roundedTo(faces, origin)),
    origin,
    solid: hasAny(oc, shape, ShapeType.solid),
  };
}

/**
 * How two solids stand to each other. Where their meshes are clearly apart, that is said; an exact distance
 * is then sought among the faces that can be nearest. Else the kernel finds what they share
 * (BRepAlgoAPI_Common), body by body, and is not believed when the meshes lie deeper in each
 * other than they can be off.
 */
export function interferenceOfPair(
  kernel: LoadedKernel,
  a: InterferenceBody,
  b: InterferenceBody,
  effort: InterferenceEffort,
): PairInterference {
  // All is computed about the middle of A, so that nothing is lost far from an origin.
  const home = shifted(a.placement, a.mesh.origin);
  const toHome = multiply(invertAffine(home), shifted(b.placement, b.mesh.origin));
  const inModel = (p: Vec3): Vec3 => transformPoint(home, p);
  const [mine, theirs] = [a.mesh.mesh, b.mesh.mesh];
  const bound = mine.chord + theirs.chord;
  const gap = meshGap(mine, theirs, toHome);
  const nested =
    gap.distance > 0 && (liesIn(mine, theirs, invertAffine(toHome)) || liesIn(theirs, mine, toHome));
  const solids = a.mesh.solid && b.mesh.solid;
  const clashOf = ({ position, ...clash }: FoundClash): PairInterference => ({
    relation: 'clash',
    distance: 0,
    from: inModel(position),
    to: inModel(position),
    clash,
    accuracy: clash.within ? { kind: 'mesh', within: bound } : { kind: 'exact' },
  });
  const apart = gap.distance > bound && !nested;
  if (effort === 'mesh' || (effort === 'quick' && apart)) {
    const found = solids && !apart ? meshClash(mine, theirs, toHome, bound, nested) : null;
    if (found) return clashOf(found);
    return {
      relation: apart ? 'gap' : 'contact',
      distance: gap.distance,
      from: inModel(gap.from),
      to: inModel(gap.to),
      clash: null,
      accuracy: { kind: 'mesh', within: bound },
    };
  }
  const shapes = new Shapes(kernel, a, b, toHome);
  try {
    const found =
      solids && !apart ? (shapes.common() ?? meshClash(mine, theirs, toHome, bound, nested)) : null;
    if (found) return clashOf(found);
    const near = facesWithin(mine, theirs, toHome, gap.distance + 2 * bound);
    const { distance, from, to } = shapes.distance(near.a, near.b);
    const touches = distance <= MEASURED_SAME;
    return {
      relation: touches ? 'contact' : 'gap',
      distance: touches ? 0 : distance,
      from: inModel(from),
      to: inModel(to),
      clash: null,
      accuracy: { kind: 'exact' },
    };
  } finally {
    shapes.delete();
  }
}

interface FoundClash {
  volume: number;
  within: number;
  depth: number;
  position: Vec3;
}

/**
 * What the meshes alone say of two that the kernel finds nothing between; null where they
 * could as well only touch.
 */
function meshClash(a: SolidMesh, b: SolidMesh, toA: Mat4, bound: number, nested: boolean): FoundClash | null {
  const seen = meshOverlap(a, b, toA, FEW_RAYS).thickest;
  if (!seen || (seen.depth <= bound && !nested)) return null;
  const { volume, within, thickest } = meshOverlap(a, b, toA);
  // Of which nobody can tell whether it is anything.
  if (volume <= within) return null;
  return { volume, within, depth: thickest!.depth, position: thickest!.at };
}

/** Whether a mesh whose surface does not meet the other's lies within it. */
const liesIn = (inner: SolidMesh, outer: SolidMesh, toOuter: Mat4): boolean =>
  inner.positions.length > 0 && isInside(outer, transformPoint(toOuter, pointAt(inner.positions, 0)));

const shifted = (m: Mat4, by: Vec3): Mat4 => [...m.slice(0, 12), ...transformPoint(m, by), 1];

/** Both shapes in A's frame about its origin, for as long as one question takes. */
class Shapes {
  private readonly kernel: LoadedKernel;
  private readonly a: Occt;
  private readonly b: Occt;

  constructor(kernel: LoadedKernel, a: InterferenceBody, b: InterferenceBody, toHome: Mat4) {
    this.kernel = kernel;
    const { oc } = kernel;
    this.a = movedShape(oc, a.shape, subtract([0, 0, 0], a.mesh.origin));
    this.b = placedShape(oc, b.shape, shifted(toHome, subtract([0, 0, 0], b.mesh.origin)));
  }

  delete(): void {
    this.a.delete();
    this.b.delete();
  }

  /** What solids of both have in common; null where that is nothing, or nowhere thicker than a contact. */
  common(): FoundClash | null {
    const { oc } = this.kernel;
    const bodies = (shape: Occt) => {
      const found: Occt[] = [];
      explore(oc, shape, ShapeType.solid, (s) => found.push(s));
      return found;
    };
    const theirs = bodies(this.b);
    const found = bodies(this.a).flatMap((one) => theirs.flatMap((other) => this.commonOf(one, other)));
    const thickest = found.reduce<FoundClash | null>(
      (most, f) => (most && most.depth >= f.depth ? most : f),
      null,
    );
    if (!thickest || thickest.depth <= CLASH_LEAST) return null;
    return { ...thickest, volume: found.reduce((sum, f) => sum + f.volume, 0) };
  }

  private commonOf(one: Occt, other: Occt): FoundClash[] {
    const { oc } = this.kernel;
    const progress = new oc.Message_ProgressRange_1();
    const common = new oc.BRepAlgoAPI_Common_3(one, other, progress);
    try {
      const pieces: FoundClash[] = [];
      if (common.IsDone() && !common.HasErrors())
        explore(oc, common.Shape(), ShapeType.solid, (piece) => {
          const found = solidFigures(oc, piece);
          if (found)
            pieces.push({
              volume: found.mass.volume,
              within: 0,
              ...thickestPlace(this.kernel, piece, found.mass.volume, found.area),
            });
        });
      return pieces;
    } finally {
      common.delete();
      progress.delete();
    }
  }

  /** Exact least distance between faces of both. */
  distance(ofA: readonly number[], ofB: readonly number[]): LeastDistance {
    const { oc } = this.kernel;
    const [one, two] = [someFaces(oc, this.a, ofA), someFaces(oc, this.b, ofB)];
    try {
      return nearestOfShapes(oc, one, two);
    } finally {
      one.delete();
      two.delete();
    }
  }
}

function someFaces(oc: Occt, shape: Occt, faces: readonly number[]): Occt {
  const map = indexedMap(oc, shape, ShapeType.face);
  const [builder, compound] = [new oc.BRep_Builder(), new oc.TopoDS_Compound()];
  builder.MakeCompound(compound);
  for (const f of faces) builder.Add(compound, map.FindKey(f + 1));
  builder.delete();
  map.delete();
  return compound;
}

/**
 * The largest ball in a solid: found on a mesh as fine as the solid is thin, then moved to where the kernel's
 * own distances let it be largest.
 */
function thickestPlace(
  { oc }: LoadedKernel,
  piece: Occt,
  volume: number,
  area: number,
): { depth: number; position: Vec3 } {
  const thickness = (2 * volume) / area;
  const size = boxSizeOf(oc, piece);
  const chord = meshShape(oc, piece, {
    ...DEFAULT_MESH,
    chord: Math.max(CLASH_CHORD_LEAST, Math.min(DEFAULT_MESH.chord, (CLASH_CHORD * thickness) / size)),
  });
  const faces: ReturnType<typeof readFace>[] = [];
  explore(oc, piece, ShapeType.face, (f) => faces.push(readFace(oc, f)));
  if (!faces.some((f) => f.indices.length)) return { depth: thickness, position: [0, 0, 0] };
  const ball = largestBall(solidMesh(packFaces(faces, [0, 0, 0]), chord));
  const room = new Room(oc, piece);
  try {
    return room.widest(ball.centre);
  } finally {
    room.delete();
  }
}

function boxSizeOf(oc: Occt, shape: Occt): number {
  const box = new oc.Bnd_Box_1();
  oc.BRepBndLib.Add(shape, box, false);
  const [low, high] = [takeXYZ(box.CornerMin()), takeXYZ(box.CornerMax())];
  box.delete();
  return Math.hypot(...subtract(high, low));
}

/** Steps of a golden section: they bring a place to 1e-4 of the way it may move. */
const GOLDEN_STEPS = 20;
const MOST_ROUNDS = 24;

/** How far points within a solid are from its surface, by the kernel; of points outside less than nil. */
class Room {
  private readonly oc: Occt;
  private readonly surface: Occt;
  private readonly classifier: Occt;

  constructor(oc: Occt, solid: Occt) {
    this.oc = oc;
    const map = indexedMap(oc, solid, ShapeType.face);
    const count = map.Size() as number;
    map.delete();
    // Of a solid itself any point within is at no distance.
    this.surface = someFaces(
      oc,
      solid,
      Array.from({ length: count }, (_, f) => f),
    );
    this.classifier = new oc.BRepClass3d_SolidClassifier_2(solid);
  }

  delete(): void {
    this.surface.delete();
    this.classifier.delete();
  }

  /** Where it steps farther than the ball is wide, a place may be outside. */
  private signedAt(point: Vec3): number {
    const place = new this.oc.gp_Pnt_3(...point);
    this.classifier.Perform(place, ON_SURFACE);
    const outside = this.classifier.State() === this.oc.TopAbs_State.TopAbs_OUT;
    place.delete();
    return (outside ? -1 : 1) * this.at(point).radius;
  }

  private at(point: Vec3): { radius: number; nearest: Vec3 } {
    const { oc } = this;
    const vertex = vertexAt(oc, point);
    try {
      const { distance, to } = nearestOfShapes(oc, vertex, this.surface);
      return { radius: distance, nearest: to };
    } finally {
      vertex.delete();
    }
  }

  /** Moves to where there is more room, away from all that the ball touches, for as long as there is any. */
  widest(start: Vec3): { depth: number; position: Vec3 } {
    let centre = start;
    let { radius } = this.at(centre);
    // What counts as touched is narrowed down as the place gets better.
    let around = AROUND;
    // What is flat is wide beside its thickness: steps grow as long as they lead on.
    let reach = radius;
    for (let round = 0; round < MOST_ROUNDS && radius > 0 && around > ROOM_SETTLED; round++) {
      const way = awayFromAll(this.wallsAround(centre, radius * around), around);
      const place = (s: number): Vec3 => addScaled(centre, way!, s);
      const most = Math.max(reach, radius) * Math.min(1, REACH * around);
      const step = way ? highestBetween((s) => this.signedAt(place(s)), 0, most, GOLDEN_STEPS).at : 0;
      const there = way ? this.signedAt(place(step)) : 0;
      reach = step > most / 2 ? 4 * reach : Math.max(radius, reach / 2);
      if (there - radius <= radius * ROOM_SETTLED) around /= NARROWER;
      if (way && there > radius) [centre, radius] = [place(step), there];
    }
    return { depth: 2 * radius, position: centre };
  }

  /**
   * Unit directions away from what is nearest at a place and a little beside it: of all walls that a ball
   * there touches, or nearly.
   */
  private wallsAround(centre: Vec3, step: number): Vec3[] {
    return [ORIGIN, ...SIDES].map((side) => {
      const place = addScaled(centre, side, step);
      return normalize(subtract(place, this.at(place).nearest));
    });
  }
}

const ORIGIN: Vec3 = [0, 0, 0];
const SIDES: readonly Vec3[] = [
  [1, 0, 0],
  [-1, 0, 0],
  [0, 1, 0],
  [0, -1, 0],
  [0, 0, 1],
  [0, 0, -1],
];
/**
 * Of a ball's radius: walls that are further from it by no more count as touched, at first; and by how much
 * that is narrowed down.
 */
const AROUND = 1 / 20;
const NARROWER = 8;
/** Times what counts as touched: how far the ball moves at once. */
const REACH = 20;
const HULL_STEPS = 100;

/**
 * The direction that leads away from all walls at once: the shortest vector to the hull of theirs (Gilbert's
 * algorithm, 1966); null where they hold the ball from all sides.
 */
function awayFromAll(walls: readonly Vec3[], around: number): Vec3 | null {
  let way = walls[0];
  for (let i = 0; i < HULL_STEPS; i++) {
    const worst = walls.reduce((least, w) => (dot(w, way) < dot(least, way) ? w : least));
    const change = subtract(way, worst);
    const share = dot(change, change) > 0 ? Math.min(1, dot(way, change) / dot(change, change)) : 0;
    if (share <= 0) break;
    way = addScaled(way, change, -share);
  }
  // Directions were taken so far apart: less is no way out.
  return length(way) < around ? null : normalize(way);
}

import type { Mat4, Vec3 } from '@bathyscope/core/math';
import type { LoadedKernel, Occt } from '../occt/load.ts';
import { bodiesOf } from '../describing/describe-bodies.ts';
import {
  solidMeshOf,
  interferenceOfPair,
  type InterferenceEffort,
  type InterferenceMesh,
  type PairInterference,
} from './interference-of-pair.ts';
import { nearestOfShapes, type LeastDistance } from '../occt/nearest.ts';
import { type CuttingFrame } from '../sections/cutting-frame.ts';
import { sectionShape, type ShapeSection } from '../sections/section-shape.ts';
import { indexedMap, placedShape, ShapeType, vertexAt } from '../occt/shapes.ts';

/** A whole part or one of its bodies, placed in the model. */
export interface PlacedPart {
  hash: string;
  placement: Mat4;
  /** Number of the body, as in PartGeometry; all of it where absent. */
  body?: number;
}

/**
 * One thing to measure from: a face, an edge, a vertex, a body or the whole part, placed in the model
 * (indices as in PartGeometry); or a point of the model.
 */
export type PlacedShape =
  | (PlacedPart & { kind: 'part' | 'body' | 'face' | 'edge' | 'vertex'; index: number })
  | { kind: 'point'; at: Vec3 };

const isWhole = (item: PlacedShape): item is PlacedPart & { kind: 'part' | 'body'; index: number } =>
  item.kind === 'part' || item.kind === 'body';

/** A question that has no answer, in a sentence for the user. */
export class QuestionRefusal extends Error {
  override name = 'QuestionRefusal';
}

const SHAPE_TYPE = { face: ShapeType.face, edge: ShapeType.edge, vertex: ShapeType.vertex } as const;

/** Frames that agree to this many units a millimetre are the same. */
const SAME_FRAME = 1e9;
const CUTS_KEPT = 100;

/** The shapes that one kernel instance holds, by geometry hash; the least used ones go first. */
export class ShapeSession {
  private readonly kernel: LoadedKernel;
  private readonly capacity: number;
  private readonly held = new Map<string, Occt>();
  private readonly meshes = new Map<string, InterferenceMesh>();
  private readonly cuts = new Map<string, ShapeSection>();

  constructor(kernel: LoadedKernel, capacity = 64) {
    this.kernel = kernel;
    this.capacity = capacity;
  }

  /** What it holds, the least used first. */
  hashes(): string[] {
    return [...this.held.keys()];
  }

  /** Takes a stored shape in; when there are too many, the least used gives way. */
  load(hash: string, bytes: Uint8Array): void {
    if (this.held.has(hash)) return;
    this.held.set(hash, this.read(hash, bytes));
    for (const [old, shape] of this.held) {
      if (this.held.size <= this.capacity) break;
      shape.delete();
      this.held.delete(old);
      this.meshes.delete(old);
    }
  }

  private read(hash: string, bytes: Uint8Array): Occt {
    const { oc } = this.kernel;
    const [shape, builder, progress] = [
      new oc.TopoDS_Shape(),
      new oc.BRep_Builder(),
      new oc.Message_ProgressRange_1(),
    ];
    oc.FS.writeFile('/session.brep', bytes);
    try {
      if (oc.BRepTools.Read_2(shape, '/session.brep', builder, progress) as boolean) return shape;
      shape.delete();
      throw new Error(`The stored shape ${hash} could not be read back.`);
    } finally {
      builder.delete();
      progress.delete();
      oc.FS.unlink('/session.brep');
    }
  }

  /**
   * Exact least distance between two placed shapes by the kernel's extrema search
   * (BRepExtrema_DistShapeShape).
   */
  leastDistance(a: PlacedShape, b: PlacedShape): LeastDistance {
    // Of whole parts few faces can be nearest; all of both would take the kernel seconds.
    if (isWhole(a) && isWhole(b)) return this.interference(bodyOf(a), bodyOf(b), 'exact');
    const [one, two] = [this.placed(a), this.placed(b)];
    try {
      return nearestOfShapes(this.kernel.oc, one, two);
    } finally {
      one.delete();
      two.delete();
    }
  }

  /**
   * The exact outlines of a cut through a whole part, in its own frame. Parts that repeat in an assembly lie
   * alike to a plane, so the last cuts are kept.
   */
  section(hash: string, frame: CuttingFrame): ShapeSection {
    const key = `${hash} ${JSON.stringify(frame, (_, x: unknown) => (typeof x === 'number' ? Math.round(x * SAME_FRAME) : x))}`;
    const cut = this.cuts.get(key) ?? sectionShape(this.kernel, this.use(hash), frame);
    this.cuts.set(key, cut);
    if (this.cuts.size > CUTS_KEPT) this.cuts.delete(this.cuts.keys().next().value!);
    return cut;
  }

  /** How two whole parts, or bodies of them, stand to each other. */
  interference(a: PlacedPart, b: PlacedPart, how: InterferenceEffort): PairInterference {
    const [one, two] = [a, b].map(({ hash, body, placement }) => {
      const shape = body === undefined ? this.use(hash) : this.bodyShape(this.use(hash), body);
      return { shape, mesh: this.meshOf(hash, body, shape), placement };
    });
    try {
      return interferenceOfPair(this.kernel, one, two, how);
    } finally {
      if (a.body !== undefined) one.shape.delete();
      if (b.body !== undefined) two.shape.delete();
    }
  }

  private meshOf(hash: string, body: number | undefined, shape: Occt): InterferenceMesh {
    if (body !== undefined) return solidMeshOf(this.kernel.oc, shape);
    const mesh = this.meshes.get(hash) ?? solidMeshOf(this.kernel.oc, shape);
    this.meshes.set(hash, mesh);
    return mesh;
  }

  /** A loaded shape, which becomes the most recently used. */
  private use(hash: string): Occt {
    const shape = this.held.get(hash);
    if (!shape) throw new Error(`Shape ${hash} is not loaded.`);
    this.held.delete(hash);
    this.held.set(hash, shape);
    return shape;
  }

  private placed(item: PlacedShape): Occt {
    const { oc } = this.kernel;
    if (item.kind === 'point') return vertexAt(oc, item.at);
    const shape = this.use(item.hash);
    if (item.kind === 'part') return placedShape(oc, shape, item.placement);
    const piece =
      item.kind === 'body' ? this.bodyShape(shape, item.index) : this.subShape(shape, item.kind, item.index);
    return placedShape(oc, piece, item.placement);
  }

  private bodyShape(shape: Occt, index: number): Occt {
    const { oc } = this.kernel;
    const map = indexedMap(oc, shape, ShapeType.face);
    try {
      const body = bodiesOf(oc, shape, map)[index];
      if (!body) throw new QuestionRefusal(`This part has no body number ${index}.`);
      return body.shape;
    } finally {
      map.delete();
    }
  }

  private subShape(shape: Occt, kind: 'face' | 'edge' | 'vertex', index: number): Occt {
    const map = indexedMap(this.kernel.oc, shape, SHAPE_TYPE[kind]);
    try {
      if (index < 0 || index >= map.Size())
        throw new QuestionRefusal(`This part has no ${kind} number ${index}.`);
      return map.FindKey(index + 1);
    } finally {
      map.delete();
    }
  }
}

const bodyOf = ({
  hash,
  placement,
  kind,
  index,
}: PlacedPart & { kind: 'part' | 'body'; index: number }): PlacedPart => ({
  hash,
  placement,
  ...(kind === 'body' && { body: index }),
});

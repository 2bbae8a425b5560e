import type { PartGeometry } from '@bathyscope/core/geometry';
import type { Combination, Mat4, Vec3 } from '@bathyscope/core/math';
import { bvhGeometry } from '@bathyscope/core/picking';
import {
  cutComponents,
  fillLoops,
  fromPlane,
  isLeftWhole,
  nestLoops,
  planeFrame,
  sectionProperties,
  straighten,
  type ComponentCut,
  type CutInput,
  type CutPlane,
} from '@bathyscope/core/section';
import { MeshBVH, type SerializedBVH } from 'three-mesh-bvh';

/* What a section's worker does: outlines, figures and the triangles of the caps. */

export interface SectionModel {
  type: 'model';
  parts: { part: number; geometry: PartGeometry; bvh: SerializedBVH }[];
  components: { part: number; placement: Mat4; stored: Mat4 }[];
}

export interface SectionJob {
  type: 'cut';
  id: number;
  planes: CutPlane[];
  combine: Combination;
  /** For each component 1 when it is cut, 2 when it is kept whole. */
  include: Uint8Array;
  /** Without the caps' triangles, while a drag is faster than they are made. */
  outlinesOnly: boolean;
}

/** Drawn geometry of one plane's cut; positions relative to `base`. */
export interface CapBuffers {
  base: Vec3;
  positions: Float32Array;
  inPlane: Float32Array;
  /** Mean wall thickness of each vertex's region, mm. */
  thickness: Float32Array;
  indices: Uint32Array;
  /** Component, first vertex and number of vertices, in turn. */
  ranges: Uint32Array;
  /** Ends of outline pieces. */
  outlines: Float32Array;
}

export interface SectionReply {
  id: number;
  planes: { cuts: ComponentCut[]; buffers: CapBuffers }[];
  /** Components kept whole that are seen: those that do not go with what is removed. */
  whole: number[];
  /** ms spent on triangles. */
  filling: number;
}

/** A model that is cut, and cut again. */
export class SectionWork {
  private inputs: CutInput[] = [];

  load({ parts: sent, components }: SectionModel): void {
    const parts = new Map(
      sent.map(({ part, geometry, bvh }) => [
        part,
        { geometry, bvh: MeshBVH.deserialize(bvh, bvhGeometry(geometry), { setIndex: false }) },
      ]),
    );
    this.inputs = components.map(({ part, placement, stored }) => ({
      ...parts.get(part)!,
      placement,
      stored,
    }));
  }

  cut({ id, planes: wanted, combine, include, outlinesOnly }: SectionJob): SectionReply {
    let filling = 0;
    const cutOnes = this.inputs.map((input, i) => (include[i] === 1 ? input : null));
    const planes = wanted.map((plane) => {
      const others = wanted.filter((p) => p !== plane);
      const cuts = cutComponents(cutOnes, plane, others, combine);
      const start = performance.now();
      const buffers = buffersOf(cuts, plane, outlinesOnly);
      filling += performance.now() - start;
      return { cuts, buffers };
    });
    const whole = this.inputs.flatMap((input, i) =>
      include[i] === 2 && isLeftWhole(input, wanted, combine) ? [i] : [],
    );
    return { id, planes, filling, whole };
  }
}

/** Outlines lie so far before the cap, mm: seen as on it, never under it. */
const LIFT = 1e-4;

/** mm: hatches are counted from a multiple of this, for single precision. */
const HATCH_ANCHOR = 10_000;

function buffersOf(cuts: readonly ComponentCut[], plane: CutPlane, outlinesOnly: boolean): CapBuffers {
  const frame = planeFrame(plane);
  const first = cuts[0]?.loops[0]?.[0] ?? cuts[0]?.open[0]?.[0] ?? ([0, 0] as const);
  const base = fromPlane(frame, first);
  // Relative to a point of the cut, so that single precision is fine wherever the model lies.
  const local = { ...frame, origin: [0, 0, 0] as Vec3 };
  const place = ([x, y]: readonly [number, number]): Vec3 => fromPlane(local, [x - first[0], y - first[1]]);
  const [positions, inPlane, thickness, indices, ranges, outlines]: number[][] = [[], [], [], [], [], []];
  // Hatches lie as they lie wherever the cut begins.
  const anchor = first.map((x) => Math.round(x / HATCH_ANCHOR) * HATCH_ANCHOR);
  const lift = plane.normal.map((n) => n * LIFT);
  const line = (a: readonly [number, number], b: readonly [number, number]) => {
    const [p, q] = [place(a), place(b)];
    outlines.push(
      p[0] + lift[0],
      p[1] + lift[1],
      p[2] + lift[2],
      q[0] + lift[0],
      q[1] + lift[1],
      q[2] + lift[2],
    );
  };
  for (const cut of cuts) {
    const loops = cut.loops.map(straighten).filter((l) => l.length >= 3);
    for (const loop of loops) loop.forEach((p, i) => line(p, loop[(i + 1) % loop.length]));
    for (const chain of cut.open) for (let i = 0; i + 1 < chain.length; i++) line(chain[i], chain[i + 1]);
    if (outlinesOnly) continue;
    const start = thickness.length;
    for (const region of nestLoops(loops)) {
      const { area, perimeter } = sectionProperties(region) ?? { area: 0, perimeter: 1 };
      const filled = fillLoops(region);
      const offset = thickness.length;
      for (let i = 0; i < filled.positions.length; i += 2) {
        const at = [filled.positions[i], filled.positions[i + 1]] as const;
        positions.push(...place(at));
        inPlane.push(at[0] - anchor[0], at[1] - anchor[1]);
        thickness.push((2 * area) / perimeter);
      }
      for (const i of filled.indices) indices.push(offset + i);
    }
    ranges.push(cut.component, start, thickness.length - start);
  }
  return {
    base,
    positions: Float32Array.from(positions),
    inPlane: Float32Array.from(inPlane),
    thickness: Float32Array.from(thickness),
    indices: Uint32Array.from(indices),
    ranges: Uint32Array.from(ranges),
    outlines: Float32Array.from(outlines),
  };
}

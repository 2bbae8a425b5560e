import type { Point2 } from '../../math/point2.ts';
import type { MeshBVH } from 'three-mesh-bvh';
import { weld } from '../../geometry/weld.ts';
import type { PartGeometry } from '../../geometry/part-geometry.ts';
import { boxCorners, transformBox } from '../../math/box3.ts';
import { isMirrored, transformDirection, transformPoint, transposed, type Mat4 } from '../../math/mat4.ts';
import { cutChain, heightOver, type Combination, type CutBy } from '../../math/plane.ts';
import { dot, type Vec3 } from '../../math/vec3.ts';
import { planeFrame, toPlane } from './cap-of-loops.ts';
import { clipLoops, halfPlaneOf, seenBelow } from './clip-loops.ts';
import { sectionProperties, type SectionProperties } from '../section-properties.ts';
import { sliceMesh, type CutPlane, type Lean } from './slice-mesh.ts';

export interface CutInput {
  geometry: PartGeometry;
  bvh: MeshBVH;
  /** Of the part. */
  placement: Mat4;
  /** Of the part as stored (relative to its geometry's origin). */
  stored: Mat4;
}

export interface ComponentCut {
  /** Index of the component. */
  component: number;
  /** In the plane's own axes, mm; outer loops anticlockwise, holes clockwise. */
  loops: Point2[][];
  /** Chains of an open mesh. */
  open: Point2[][];
  /** From the mesh; null where nothing closes. */
  properties: SectionProperties | null;
  lean: Lean;
}

const welds = new WeakMap<PartGeometry, Uint32Array>();

const weldOf = (part: PartGeometry): Uint32Array => {
  let found = welds.get(part);
  if (!found) welds.set(part, (found = weld(part, part.bodies.length > 1)));
  return found;
};

/**
 * What a plane cuts of each component, by its mesh. Components whose boxes the plane
 * misses are not looked at.
 * @param others planes that cut as well: of the cut only what they leave is seen, or, combined
 * by "all", what they take
 */
export function cutComponents(
  components: readonly (CutInput | null)[],
  plane: CutPlane,
  others: readonly CutPlane[] = [],
  combine: Combination = 'any',
): ComponentCut[] {
  const frame = planeFrame(plane);
  const seen = seenBelow(others, combine);
  const halves = seen.map((o) => halfPlaneOf(plane, o)).filter((h) => h !== null);
  if (halves.includes('nothing')) return [];
  const leaving: CutBy = { combine: 'any', planes: seen };
  return components.flatMap((c, component) => {
    if (!c || !straddles(c, plane)) return [];
    const slice = sliceMesh(c.geometry, weldOf(c.geometry), c.bvh, planeInPart(plane, c.stored));
    // A mirrored placement turns every loop round.
    const mirrored = isMirrored(c.stored);
    const inPlane = (points: readonly Vec3[]) =>
      (mirrored ? [...points].reverse() : points).map((p) => toPlane(frame, p));
    const flat = (loop: Vec3[]) => inPlane(loop.map((p) => transformPoint(c.stored, p)));
    let loops = slice.loops.map(flat);
    for (const half of halves) if (half !== 'nothing') loops = clipLoops(loops, half);
    const open = slice.open
      .flatMap((chain) =>
        cutChain(
          chain.map((p) => transformPoint(c.stored, p)),
          leaving,
        ),
      )
      .map(inPlane);
    if (!loops.length && !open.length) return [];
    return [{ component, loops, open, properties: sectionProperties(loops), lean: slice.lean }];
  });
}

function straddles({ placement, geometry }: CutInput, plane: CutPlane): boolean {
  const { within = 0 } = plane;
  const along = boxCorners(transformBox(placement, geometry.box)).map((p) => heightOver(plane, p));
  return Math.min(...along) <= within && Math.max(...along) >= -within;
}

/**
 * A plane of the model in the frame of a part with a rigid or mirroring placement: n' = Rᵀn, c' = c − n·t.
 */
export const planeInPart = ({ normal, constant, within }: CutPlane, m: Mat4): CutPlane => ({
  normal: transformDirection(transposed(m), normal),
  constant: constant - dot(normal, [m[12], m[13], m[14]]),
  within,
});

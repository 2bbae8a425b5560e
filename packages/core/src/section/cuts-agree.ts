import { AREA_ROUNDING } from '../tolerances.ts';
import { clipCurves, type HalfPlane } from './mesh/clip-loops.ts';
import type { ComponentCut } from './mesh/cut-components.ts';
import { loopLength, signedArea } from './mesh/cap-of-loops.ts';
import { curveLength, propertiesOfCurves, signedAreaOf, type PlaneCurve } from './curves/plane-curves.ts';
import type { SectionProperties } from './section-properties.ts';

interface Size {
  /** mm², negative for a hole. */
  area: number;
  /** mm */
  length: number;
}

/** What is cut exactly. `lean` and `touches` as in the kernel's answers. */
export interface ExactLoops {
  loops: readonly PlaneCurve[][];
  lean: number;
  touches: readonly PlaneCurve[][];
}

/** What an exact cut is taken for: the outlines with what they come to; or why the mesh has to do. */
export type JudgedCut =
  { loops: PlaneCurve[][]; properties: SectionProperties | null; tolerance: number } | { failed: string };

/**
 * The exact loops of a component within what other planes leave; refused where they do not close or any loop
 * disagrees with the mesh's. @param chord mm: how far the mesh may lie from the shape
 */
export function judgeCut(
  { loops: whole, open, tolerance, lean, touches }: ExactLoops & { open: number; tolerance: number },
  cut: Pick<ComponentCut, 'loops' | 'lean'>,
  chord: number,
  others: readonly (HalfPlane | null | 'nothing')[] = [],
): JudgedCut {
  if (open > 0) return { failed: 'the exact outline does not close' };
  const clipped = (all: readonly PlaneCurve[][]) =>
    others.reduce<PlaneCurve[][]>(
      (left, half) => (half === null || half === 'nothing' ? left : clipCurves(left, half)),
      [...all],
    );
  const loops = clipped(whole);
  return cutsAgree({ loops, lean, touches: clipped(touches) }, cut, chord)
    ? { loops, properties: propertiesOfCurves(loops), tolerance }
    : { failed: 'exact and mesh cut disagree' };
}

/**
 * Whether exact loops are those of a mesh as far as the mesh can tell: each by itself, and all together. With
 * sign: an outline that was taken for a hole, or a hole for an outline, is as wrong as one that is missing.
 * Where a plane touches a shape, a mesh may show a sliver between two outlines where there is nothing.
 * @param chord mm: how far the mesh may lie from the shape
 */
export function cutsAgree(
  exact: ExactLoops,
  cut: Pick<ComponentCut, 'loops' | 'lean'>,
  chord: number,
): boolean {
  const { loops, touches } = exact;
  const bare = loops.map(sizeOf);
  const slivers = touches.flatMap((t) => [sizeOf(t), turned(sizeOf(t))]);
  return (
    agree(bare, exact.lean, cut, chord) ||
    (slivers.length > 0 && agree([...bare, ...slivers], exact.lean, cut, chord))
  );
}

const sizeOf = (l: readonly PlaneCurve[]): Size => ({
  area: signedAreaOf(l),
  length: l.reduce((sum, c) => sum + curveLength(c), 0),
});
const turned = ({ area, length }: Size): Size => ({ area: -area, length });

function agree(
  exact: readonly Size[],
  lean: number,
  cut: Pick<ComponentCut, 'loops' | 'lean'>,
  chord: number,
): boolean {
  const mesh = cut.loops.map((l): Size => ({ area: signedArea(l), length: loopLength(l) }));
  const bound = (m: Size, e: Size) =>
    chord * Math.max(cut.lean.mean * m.length, lean * e.length) +
    AREA_ROUNDING * Math.max(Math.abs(m.area), Math.abs(e.area));
  const [one, other] = [sizesOf(exact, chord, lean), sizesOf(mesh, chord, lean)];
  if (one.length !== other.length || other.some((m, i) => Math.abs(m.area - one[i].area) > bound(m, one[i])))
    return false;
  const total = (sizes: readonly Size[]): number => sizes.reduce((sum, s) => sum + s.area, 0);
  const whole = (sizes: readonly Size[]): Size => ({
    area: sizes.reduce((sum, s) => sum + Math.abs(s.area), 0),
    length: sizes.reduce((sum, s) => sum + s.length, 0),
  });
  return Math.abs(total(exact) - total(mesh)) <= bound(whole(mesh), whole(exact));
}

/**
 * Loops by size, without those that the mesh may not tell from nothing. A cut that lost one hole of many
 * would pass by its whole area.
 */
const sizesOf = (loops: readonly Size[], chord: number, lean: number): Size[] =>
  loops.filter((l) => Math.abs(l.area) > 2 * chord * lean * l.length).sort((p, q) => q.area - p.area);

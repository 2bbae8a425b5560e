import { AREA_ROUNDING } from '../tolerances.ts';
import type { ComponentCut } from './mesh/cut-components.ts';
import { loopLength, signedArea } from './mesh/cap-of-loops.ts';
import { curveLength, signedAreaOf, type PlaneCurve } from './curves/plane-curves.ts';

interface Size {
  /** mm², negative for a hole. */
  area: number;
  /** mm */
  length: number;
}

/**
 * Whether exact loops are those of a mesh as far as the mesh can tell: each by itself, and all together. With sign: an outline
 * that was taken for a hole, or a hole for an outline, is as wrong as one that is missing.
 * @param chord mm: how far the mesh may lie from the shape
 */
export function cutsAgree(loops: readonly PlaneCurve[][], cut: Pick<ComponentCut, 'loops' | 'lean'>, chord: number): boolean {
  const exact = loops.map((l): Size => ({ area: signedAreaOf(l), length: l.reduce((sum, c) => sum + curveLength(c), 0) }));
  const mesh = cut.loops.map((l): Size => ({ area: signedArea(l), length: loopLength(l) }));
  const bound = ({ area, length }: Size) => chord * cut.lean.mean * length + AREA_ROUNDING * Math.abs(area);
  const [one, other] = [sizesOf(exact, chord), sizesOf(mesh, chord)];
  if (one.length !== other.length || other.some((m, i) => Math.abs(m.area - one[i].area) > bound(m))) return false;
  const total = (sizes: readonly Size[]): number => sizes.reduce((sum, s) => sum + s.area, 0);
  return Math.abs(total(exact) - total(mesh)) <= mesh.reduce((sum, m) => sum + bound(m), 0);
}

/** Loops by size, without those that the mesh may not tell from nothing. A cut that lost one hole of many would pass by its whole area. */
const sizesOf = (loops: readonly Size[], chord: number): Size[] =>
  loops.filter((l) => Math.abs(l.area) > 2 * chord * l.length).sort((p, q) => q.area - p.area);

import type { SumAccuracy } from '../geometry/accuracy.ts';
import { FULL_TURN } from '../tolerances.ts';
import { curveLength, startOf, type PlaneCurve } from '../section/curves/plane-curves.ts';
import { fromPlane, type PlaneFrame } from '../section/mesh/cap-of-loops.ts';
import type { SectionProperties } from '../section/section-properties.ts';
import type { PickFacts } from './describe-pick.ts';
import { sectionFacts } from './section-facts.ts';

/** A component's cut as far as it is known: by the kernel where `exact`, else from the mesh. */
export interface KnownCut {
  frame: PlaneFrame;
  curves: readonly PlaneCurve[];
  properties: SectionProperties | null;
  exact: boolean;
  /** mm: how far outlines may be from the true ones. */
  chord: number;
}

/** The facts of a picked face, outline or corner of a cut. */
export function describeCut(
  kind: 'cap' | 'outline' | 'corner',
  index: number,
  cut: KnownCut,
): PickFacts | null {
  if (kind === 'cap') {
    const { properties: p } = cut;
    if (!p) return null;
    // Its second moments are told where it is said about which point they are.
    const [area, perimeter, centroid] = sectionFacts(p, cut.frame);
    return {
      title: 'Cut face',
      main: area,
      rows: [perimeter, { ...centroid, note: undefined }],
      accuracy: accuracyOfCut(cut, cut.chord, (cut.chord * p.perimeter) / p.area),
    };
  }
  const curve = cut.curves[index];
  if (!curve) return null;
  // A polyline of the kernel stands for a curve within its tolerance; one from the mesh within the chord.
  const length = curveLength(curve);
  const off = cut.exact && curve.shape !== 'polyline' ? 0 : cut.chord;
  const accuracy = accuracyOfCut(cut, off, off / Math.max(length, off));
  if (kind === 'corner')
    return {
      title: 'Cut corner',
      main: null,
      rows: [{ label: 'Position', value: { kind: 'point', value: fromPlane(cut.frame, startOf(curve)) } }],
      accuracy,
    };
  const lengthFact = { label: 'Length', value: { kind: 'length' as const, value: length } };
  if (curve.shape !== 'arc')
    return {
      title: { line: 'Straight cut edge', ellipse: 'Elliptic cut edge', polyline: 'Cut edge' }[curve.shape],
      main: lengthFact,
      rows: [],
      accuracy,
    };
  const full = Math.abs(curve.to - curve.from) > FULL_TURN;
  return {
    title: full ? 'Round cut edge' : 'Arc of the cut',
    main: full
      ? { label: 'Diameter', value: { kind: 'length', value: 2 * curve.radius, prefix: 'Ø' } }
      : { label: 'Radius', value: { kind: 'length', value: curve.radius, prefix: 'R' } },
    rows: [
      ...(full
        ? []
        : [{ label: 'Angle', value: { kind: 'angle' as const, value: Math.abs(curve.to - curve.from) } }]),
      lengthFact,
      { label: 'Centre', value: { kind: 'point', value: fromPlane(cut.frame, curve.centre) } },
    ],
    accuracy,
  };
}

/**
 * How good a figure of a cut is. @param off mm: how far outlines may be from the true ones @param share the
 * same as a share of the figure
 */
export const accuracyOfCut = ({ exact }: Pick<KnownCut, 'exact'>, off: number, share: number): SumAccuracy =>
  exact && off === 0 ? { kind: 'exact' } : { kind: exact ? 'followed' : 'mesh', within: Math.min(1, share) };

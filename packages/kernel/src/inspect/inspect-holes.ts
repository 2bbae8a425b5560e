import { HOLE_FIGURES, plainFigures } from '@bathyscope/core/facts';
import type { PlainFigure } from '@bathyscope/core/units';
import type { Hole, HoleStepKind, PartGeometry } from '@bathyscope/core/geometry';
import { likelyFor, patternOf, type LikelyUse } from '@bathyscope/core/holes';
import { normalize, transformDirection, transformPoint, type Vec3 } from '@bathyscope/core/math';
import type { Occurrence } from '@bathyscope/core/model';

/** What `--holes` adds: each hole of each part once; mm and rad, placed as in the part's first component. */
export interface InspectedHole {
  /** Path of the part's first component. */
  component: string;
  part: string;
  /** A face of its wall, by its number in the part. */
  reference: { kind: 'face'; index: number };
  diameter: number;
  depth: number;
  /** `closed`: a void within the material. */
  kind: 'through' | 'blind' | 'closed';
  position: Vec3;
  axis: Vec3;
  steps: {
    kind: HoleStepKind;
    diameter: number;
    depth: number;
    angle?: number;
    width?: number;
    side: 'near' | 'far';
  }[];
  /** Components of the part. */
  count: number;
  /** Equal holes beside it: their number and sizes, mm and rad. */
  pattern?:
    | { kind: 'circle'; count: number; pitchDiameter: number; spacing: number | null }
    | { kind: 'row'; count: number; pitch: number }
    | { kind: 'grid'; counts: [number, number]; pitches: [number, number] };
  /** What it may be for, and by which rule. */
  likely: LikelyUse[];
  /** All that a table of holes tells: mm. */
  figures: PlainFigure[];
}

export function inspectHoles(
  components: readonly (Occurrence & { part: number })[],
  partName: (part: number) => string,
  geometryOf: (part: number) => PartGeometry,
): InspectedHole[] {
  const firsts = new Map<number, Occurrence>();
  const counts = new Map<number, number>();
  for (const c of components) {
    if (!firsts.has(c.part)) firsts.set(c.part, c);
    counts.set(c.part, (counts.get(c.part) ?? 0) + 1);
  }
  return [...firsts].flatMap(([part, { path, placement }]) =>
    geometryOf(part).holes.map((hole, h, all) => ({
      component: path,
      part: partName(part),
      reference: { kind: 'face' as const, index: hole.faces[0] },
      diameter: hole.diameter,
      depth: hole.depth,
      kind: hole.ends,
      position: transformPoint(placement, hole.start),
      axis: normalize(transformDirection(placement, hole.axis)),
      steps: hole.steps.map(({ faces: _, ...step }) => step),
      count: counts.get(part)!,
      ...patternOfHole(all, h),
      likely: likelyFor(hole),
      figures: plainFigures(HOLE_FIGURES.map(({ label, of }) => ({ label, value: of(hole, 'mm') }))),
    })),
  );
}

function patternOfHole(holes: readonly Hole[], index: number): Pick<InspectedHole, 'pattern'> {
  const found = patternOf(holes, index);
  if (!found) return {};
  const count = found.holes.length;
  if (found.kind === 'row') return { pattern: { kind: 'row', count, pitch: found.pitch } };
  if (found.kind === 'grid')
    return { pattern: { kind: 'grid', counts: found.counts, pitches: found.pitches } };
  return { pattern: { kind: 'circle', count, pitchDiameter: found.pitchDiameter, spacing: found.spacing } };
}

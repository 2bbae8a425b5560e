import type { Accuracy } from './accuracy.ts';
import { type Vec3 } from '../math/vec3.ts';

/**
 * What a hole has besides its bore. `counterbore` and `countersink` widen it at an end or on the way to one,
 * `chamfer` and `rounding` break its rim, `drill point`, `ball bottom` and `bottom rounding` close it,
 * `groove`, `keyway` and `slit` are cut into its wall, a `cone` leads from it to a wider step, and a `gap` is
 * where something crosses the whole of it.
 */
export type HoleStepKind =
  | 'slit'
  | 'gap'
  | 'cone'
  | 'counterbore'
  | 'countersink'
  | 'chamfer'
  | 'rounding'
  | 'groove'
  | 'keyway'
  | 'drill point'
  | 'ball bottom'
  | 'bottom rounding';

export interface HoleStep {
  kind: HoleStepKind;
  /** mm: the largest of the step; of a keyway the height over the bore's opposite wall. */
  diameter: number;
  /** mm along the axis: of a counterbore from the face it starts in, of the others their own. */
  depth: number;
  /** Full angle of a cone, rad. */
  angle?: number;
  /** mm: of a keyway or slit across, of a gap along the axis, of a rounding its radius. */
  width?: number;
  /** At the end the hole starts from, or at the other. */
  side: 'near' | 'far';
  faces: number[];
}

/** One hole: the walls of its bore and what is coaxial with it. Part's own frame, mm. */
export interface Hole {
  /** The bore's walls: adjoining coaxial concave cylinder faces of equal radius that together go round. */
  faces: number[];
  /** Of the bore: the smallest there is all along. */
  diameter: number;
  /**
   * Along the axis, from the face a hole starts in (rims count) to the face it comes out of, or to where the
   * full diameter ends.
   */
  depth: number;
  /**
   * Least and greatest depth along the wall, where a face that it comes out of is not square to it; then
   * `depth` is that along the axis.
   */
  along?: { least: number; greatest: number };
  /** Nothing but the hole of a ring, such as a washer. */
  ofRing?: boolean;
  /** On the axis, in the face it starts in; for a blind hole the open end. */
  start: Vec3;
  /** Unit; from `start` into the hole. */
  axis: Vec3;
  ends: 'through' | 'blind' | 'closed';
  steps: HoleStep[];
  /** Faces of other bores that it opens into, at its start or its end. */
  opensInto: number[];
  accuracy: Accuracy;
}

const OWN_FACES: ReadonlySet<HoleStepKind> = new Set([
  'counterbore',
  'countersink',
  'groove',
  'drill point',
  'ball bottom',
  'cone',
]);

/**
 * The faces that are read as the hole when one is picked: walls and what closes it; broken rims and keyways
 * are read as themselves.
 */
export const facesOfHole = (hole: Hole): number[] => [
  ...hole.faces,
  ...hole.steps.flatMap((s) => (OWN_FACES.has(s.kind) ? s.faces : [])),
];

import type { Accuracy } from '../geometry/accuracy.ts';
import type { Vec3 } from '../math/vec3.ts';

/** What a picked thing is for measuring, in model space; lengths mm, directions unit. */
export type MeasuredShape = {
  accuracy: Accuracy;
  /** mm: over so much of it a deviation of direction counts. */ span: number;
} & (
  | { kind: 'point'; at: Vec3 }
  | { kind: 'line'; origin: Vec3; axis: Vec3; ends: readonly [Vec3, Vec3] | null }
  | { kind: 'circle'; origin: Vec3; axis: Vec3; /** Of an ellipse there is none. */ radius: number | null }
  | {
      kind: 'plane';
      origin: Vec3;
      axis: Vec3;
      /** Whether its normal looks out of material. */
      bounds: boolean;
      /**
       * Of a face: where its longest straight edge begins and how it runs, or the
       * centre of its largest circle.
       */
      datum?: { at: Vec3; along: Vec3 | null };
    }
  | {
      kind: 'turned';
      what: 'hole' | 'cylinder' | 'cone' | 'torus';
      origin: Vec3;
      axis: Vec3;
      /** Of its wall; of a cone and a torus there is no single one. */
      radius: number | null;
      /** Whether its material lies around it. */
      hollow: boolean;
      /** Heights of its ends along the axis from the origin. */
      from: number;
      to: number;
    }
  | { kind: 'sphere'; origin: Vec3; radius: number }
  | { kind: 'free' }
  | { kind: 'solid' }
);

export type MeasuredKind = MeasuredShape['kind'];

export type Shape<K extends MeasuredKind> = Extract<MeasuredShape, { kind: K }>;

/** In the order in which pairs are told. */
export const MEASURED_KINDS: readonly MeasuredKind[] = [
  'point',
  'line',
  'circle',
  'plane',
  'turned',
  'sphere',
  'free',
  'solid',
];

/** What each kind stands for, as the table says it. */
export const MEASURED_NAMES: Record<MeasuredKind, string> = {
  point: 'point of a thing, vertex, origin, corner of a cut',
  line: 'straight edge, axis, reference axis',
  circle: 'circle, arc, ellipse',
  plane: 'plane, cut face, reference plane',
  turned: 'hole, cylinder, cone, torus',
  sphere: 'sphere',
  free: 'free curve, free surface',
  solid: 'body, component',
};

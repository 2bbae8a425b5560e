import type { Box3 } from '../math/box3.ts';
import type { Vec3 } from '../math/vec3.ts';
import type { Hole } from './hole.ts';
import type { Accuracy, SumAccuracy } from './accuracy.ts';

export type SurfaceKind =
  'plane' | 'cylinder' | 'cone' | 'sphere' | 'torus' | 'freeform' | 'extrusion' | 'revolution' | 'offset';
export type CurveKind = 'line' | 'circle' | 'ellipse' | 'hyperbola' | 'parabola' | 'freeform';

/** What is known of one face, in the part's own frame; lengths mm, angles rad, area mm². */
export interface FaceFacts {
  surface: SurfaceKind;
  accuracy: Accuracy;
  /**
   * A point on the plane or axis; the centre of a sphere or torus; the apex side reference point of a cone.
   */
  origin?: Vec3;
  /** Unit. Plane: the outward normal (away from the material). Others: the axis. */
  axis?: Vec3;
  /** Cylinder, sphere, cone (at `origin`), torus (major). */
  radius?: number;
  /** Torus only: radius of the tube. */
  minorRadius?: number;
  /** Cone only: half of the opening angle. */
  semiAngle?: number;
  area: number;
  /** True when the material lies outside the curved face (bore, fillet in a corner). */
  concave: boolean;
  /** Index of the body this face belongs to. */
  body: number;
  /** Indices of the bounding edges. */
  edges: number[];
  /** Index into `holes` when the face is the wall of a hole. */
  hole?: number;
}

/** What is known of one edge, in the part's own frame; lengths mm, angles rad. */
export interface EdgeFacts {
  curve: CurveKind;
  accuracy: Accuracy;
  length: number;
  /** Circle or ellipse. */
  centre?: Vec3;
  /** Line: direction. Circle, ellipse: normal of its plane. Unit. */
  axis?: Vec3;
  radius?: number;
  minorRadius?: number;
  /** Ellipse: unit, along its longer half axis. */
  major?: Vec3;
  /** Circle: the angle of the arc, 2π for a full circle. */
  arcAngle?: number;
  /** Where the faces on both sides meet tangentially: drawn thin or not at all. */
  smooth: boolean;
  /** Where a face closes on itself: neither drawn nor picked. */
  seam: boolean;
  /** Indices of the faces it bounds; one only means an open edge. */
  faces: number[];
  /** Indices of its ends in `vertices`; equal for a closed edge, empty where it has none. */
  vertices: number[];
}

export interface MassFigures {
  /** mm³ */
  volume: number;
  /**
   * Relative: what quadrature leaves, and what slits in the boundaries of faces and
   * between faces may amount to.
   */
  volumeErrorEstimate: number;
  /** mm */
  centreOfGravity: Vec3;
  /** mm⁵, about the centre of gravity: tensor with minus the products of inertia off the diagonal. */
  inertia: readonly [Vec3, Vec3, Vec3];
  accuracy: SumAccuracy;
}

/** One connected piece of a part: a solid, or an open or loose shell. */
export interface BodyFacts {
  closed: boolean;
  faces: number[];
}

/**
 * Triangles of all faces; face f owns triangles faceStart[f] … faceStart[f+1]−1, and no vertex
 * is shared between faces.
 */
export interface FaceMesh {
  /** xyz relative to `PartGeometry.origin`, mm. */
  positions: Float32Array;
  /** Unit normals, outward. */
  normals: Float32Array;
  indices: Uint32Array;
  faceStart: Uint32Array;
}

/** Polylines of all edges; edge e owns points start[e] … start[e+1]−1. */
export interface EdgeLines {
  positions: Float32Array;
  start: Uint32Array;
}

/**
 * All there is to draw, pick and question one part: shared by its components, known by the
 * hash of its source shape.
 */
export interface PartGeometry {
  /** Added to mesh and line positions; keeps single precision fine for parts far from their origin. */
  origin: Vec3;
  box: Box3;
  /** mm: how much farther it may reach than its box; absent where that is exact. */
  boxWithin?: number;
  mesh: FaceMesh;
  lines: EdgeLines;
  /** xyz of every vertex in the part's own frame (not relative to `origin`), mm. */
  vertices: Float64Array;
  faces: FaceFacts[];
  edges: EdgeFacts[];
  bodies: BodyFacts[];
  holes: Hole[];
  /** mm² */
  area: number;
  /** null when there is no closed solid. */
  mass: MassFigures | null;
  /** mm: how far mesh and lines may lie from the shape. Measured, not what was asked for. */
  chordTolerance: number;
  /** False where it is a mesh only: no exact figures, and no questions. Absent is true. */
  exact?: boolean;
  warnings: string[];
}

import type { FaceFacts, SurfaceKind } from '@bathyscope/core/geometry';
import { cross, dot, length, normalize, scale, type Vec3 } from '@bathyscope/core/math';
import { recogniseSurface } from '@bathyscope/core/recognise';
import { POLE_RELATIVE } from '@bathyscope/core/tolerances';
import type { Occt } from '../occt/load.ts';
import { className, elementaryFrame } from '../occt/memory.ts';
import { isReversed, takeXYZ } from '../occt/shapes.ts';

export type SurfaceFacts = Pick<
  FaceFacts,
  'surface' | 'accuracy' | 'origin' | 'axis' | 'radius' | 'minorRadius' | 'semiAngle'
>;

const KINDS: Record<string, SurfaceKind> = {
  Geom_Plane: 'plane',
  Geom_CylindricalSurface: 'cylinder',
  Geom_ConicalSurface: 'cone',
  Geom_SphericalSurface: 'sphere',
  Geom_ToroidalSurface: 'torus',
  Geom_SurfaceOfLinearExtrusion: 'extrusion',
  Geom_SurfaceOfRevolution: 'revolution',
  Geom_OffsetSurface: 'offset',
};

/**
 * Samples a side for recognising: enough to tell a cylinder from a barrel, cheap
 * enough for thousands of faces.
 */
const SAMPLES = 8;

/**
 * The exact surface under a face; a plane, cylinder, cone, sphere or torus hidden in any
 * other surface is recognised.
 */
export function describeSurface(oc: Occt, face: Occt): SurfaceFacts {
  const handle = oc.BRep_Tool.Surface_2(face);
  const surface = handle.get();
  const name = className(oc, surface);
  const kind = KINDS[name] ?? 'freeform';
  const facts = ['plane', 'cylinder', 'cone', 'sphere', 'torus'].includes(kind)
    ? elementaryFacts(oc, surface, kind)
    : (recognised(oc, face, surface) ?? ({ surface: kind, accuracy: { kind: 'exact' } } as SurfaceFacts));
  handle.delete();
  return facts;
}

function elementaryFacts(oc: Occt, surface: Occt, kind: SurfaceKind): SurfaceFacts {
  const frame = elementaryFrame(oc, surface);
  const facts: SurfaceFacts = {
    surface: kind,
    accuracy: { kind: 'exact' },
    origin: frame.origin,
    axis: frame.axis,
  };
  if (kind !== 'plane') facts.radius = frame.first;
  if (kind === 'torus') facts.minorRadius = frame.second;
  if (kind === 'cone') {
    facts.semiAngle = Math.abs(frame.second);
    if (frame.second < 0) facts.axis = scale(frame.axis, -1);
  }
  return facts;
}

function recognised(oc: Occt, face: Occt, surface: Occt): SurfaceFacts | null {
  const samples = sampleSurface(oc, face, surface);
  const found = recogniseSurface(samples);
  if (!found) return null;
  const { kind, deviation, ...shape } = found;
  return { surface: kind, accuracy: { kind: 'recognised', deviation }, ...shape };
}

function sampleSurface(oc: Occt, face: Occt, surface: Occt): { points: Vec3[]; normals: Vec3[] } {
  const bounds = [0, 0, 0, 0].map(() => ({ current: 0 }));
  oc.BRepTools.UVBounds_1(face, ...bounds);
  const [u0, u1, v0, v1] = bounds.map((b) => b.current);
  const p = new oc.gp_Pnt_1();
  const du = new oc.gp_Vec_1();
  const dv = new oc.gp_Vec_1();
  const samples: { point: Vec3; across: Vec3 }[] = [];
  for (let i = 0; i <= SAMPLES; i++)
    for (let j = 0; j <= SAMPLES; j++) {
      surface.D1(u0 + ((u1 - u0) * i) / SAMPLES, v0 + ((v1 - v0) * j) / SAMPLES, p, du, dv);
      samples.push({
        point: [p.X(), p.Y(), p.Z()],
        across: cross([du.X(), du.Y(), du.Z()], [dv.X(), dv.Y(), dv.Z()]),
      });
    }
  for (const o of [p, du, dv]) o.delete();
  // At a pole, such as the tip of a cone, a side of the parameters shrinks to a point and
  // has no normal but noise.
  const usual = Math.max(...samples.map((s) => length(s.across)));
  const sound = samples.filter((s) => length(s.across) > usual * POLE_RELATIVE);
  return { points: sound.map((s) => s.point), normals: sound.map((s) => normalize(s.across)) };
}

/**
 * Whether the material lies outside a curved face: its outward normal then points towards
 * the axis (or the centre).
 * Asked of one mesh point and its normal.
 */
export function isConcave(facts: SurfaceFacts, point: Vec3, normal: Vec3): boolean {
  if (!facts.origin || !facts.axis || facts.surface === 'plane') return false;
  const d: Vec3 = [point[0] - facts.origin[0], point[1] - facts.origin[1], point[2] - facts.origin[2]];
  if (facts.surface === 'sphere') return dot(d, normal) < 0;
  const radial: Vec3 = normalizeRadial(d, facts.axis);
  if (facts.surface !== 'torus') return dot(radial, normal) < 0;
  const tube: Vec3 = [
    d[0] - radial[0] * facts.radius!,
    d[1] - radial[1] * facts.radius!,
    d[2] - radial[2] * facts.radius!,
  ];
  return dot(tube, normal) < 0;
}

function normalizeRadial(d: Vec3, axis: Vec3): Vec3 {
  const h = dot(d, axis);
  return normalize([d[0] - axis[0] * h, d[1] - axis[1] * h, d[2] - axis[2] * h]);
}

/** A point in the middle of a face's parameters and the outward normal there, from the surface itself. */
export function outwardNormal(oc: Occt, shape: Occt): { point: Vec3; normal: Vec3 } {
  const face = oc.TopoDS.Face_1(shape);
  const handle = oc.BRep_Tool.Surface_2(face);
  const { points, normals } = sampleSurface(oc, face, handle.get());
  const middle = points.length >> 1;
  const sign = isReversed(face) ? -1 : 1;
  handle.delete();
  face.delete();
  return { point: points[middle], normal: scale(normals[middle], sign) };
}

export function vertexPoint(oc: Occt, shape: Occt): Vec3 {
  const vertex = oc.TopoDS.Vertex_1(shape);
  const p = takeXYZ(oc.BRep_Tool.Pnt(vertex));
  vertex.delete();
  return p;
}

import {
  breaksOf,
  curveEvaluator,
  integrateFace,
  isFree,
  MOMENTS,
  placeOn,
  placeOnSurface,
  rangeOf,
  type BoundaryCurve,
  type FaceSums,
  type FreeSurface,
  type ParametricSurface,
  type PlaceOnSurface,
} from '@bathyscope/core/mass';
import { add, distance, pointAt, scale, type Vec3 } from '@bathyscope/core/math';
import { AREA_RELATIVE, CLOSES_WITHIN, SUM_ROUNDING, VOLUME_RELATIVE } from '@bathyscope/core/tolerances';
import type { Occt } from '../occt/load.ts';
import { FaceSurfaces } from './face-surface.ts';
import { className, splineCurve2, untrimmed } from '../occt/memory.ts';
import { explore, isReversed, movedShape, ShapeType, takeXYZ, vertexAt } from '../occt/shapes.ts';

/*
 * What each face gives to area, volume, centre and inertia: by our own integrals on elementary surfaces and
 * B-splines, by the kernel on others.
 */

/** Positions in TopAbs_Orientation below this are of edges that bound; others bound nothing. */
const BOUNDS = 2;

/** Sums of a face that its own outward normal gives a sign, and whether the kernel integrated it. */
export interface OwnSums extends FaceSums {
  byKernel: boolean;
}

/** Two faces that meet in an edge, but not quite: files join them within their own accuracy. */
export interface Slit {
  /** mm: how far apart the faces are at most, and where. */
  width: number;
  at: Vec3;
  /** mm²: of the slit. */
  area: number;
  /**
   * mm³: what the slit may give to a volume about the point of the sums: a third of its
   * area times its distance.
   */
  volume: number;
}

/**
 * A piece of a face's boundary, and the edge that it lies on (its number in the map, −1 where there is none).
 */
export interface BoundaryEdge {
  curve: BoundaryCurve;
  edge: number;
  reversed: boolean;
}

/** Shares of an edge at which the faces on both sides of it are compared. */
const COMPARED = [0, 0.11, 0.29, 0.5, 0.71, 0.89, 1];

/** Reads boundaries in the parameters of their faces; holds what the kernel writes them into. */
export class FaceReader {
  private readonly oc: Occt;
  private readonly curve: Occt;
  private readonly surface: Occt;
  private readonly location: Occt;
  private readonly faceLocation: Occt;
  private readonly point: Occt;
  private readonly slope: Occt;
  /** Curves that the kernel made for us, until the face is integrated. */
  private held: Occt[] = [];
  /** Where edges lie on the first face that has them, and the slits to the second. */
  private readonly met = new Map<number, Float64Array>();
  private slits: Slit[] = [];
  private readonly edgeMap: Occt | null;
  private readonly first = { current: 0 };
  private readonly last = { current: 0 };

  /** @param edgeMap numbers of edges: with it slits between faces are found */
  constructor(oc: Occt, edgeMap: Occt | null = null) {
    this.oc = oc;
    this.edgeMap = edgeMap;
    this.curve = new oc.Handle_Geom2d_Curve_1();
    this.surface = new oc.Handle_Geom_Surface_1();
    this.location = new oc.TopLoc_Location_1();
    this.faceLocation = new oc.TopLoc_Location_1();
    this.point = new oc.gp_Pnt2d_1();
    this.slope = new oc.gp_Vec2d_1();
  }

  delete(): void {
    for (const o of [this.curve, this.surface, this.location, this.faceLocation, this.point, this.slope])
      o.delete();
  }

  /** Lets go of curves that the kernel made for a boundary that was asked for. */
  release(): void {
    for (const handle of this.held.splice(0)) handle.delete();
  }

  /** The slits between the faces that were read since the last call. */
  takeSlits(): Slit[] {
    this.met.clear();
    return this.slits.splice(0);
  }

  /**
   * The sums of a face about a point, signed by its outward normal. @param surface where it was read already
   */
  sums(shape: Occt, about: Vec3, surface?: ParametricSurface | FreeSurface): OwnSums | null {
    const face = this.oc.TopoDS.Face_1(shape);
    const surfaces = new FaceSurfaces(this.oc);
    try {
      return this.own(face, about, surface ?? surfaces.of(shape)) ?? this.byKernel(face, about);
    } finally {
      surfaces.delete();
      face.delete();
    }
  }

  private own(face: Occt, about: Vec3, surface: ParametricSurface | FreeSurface): OwnSums | null {
    try {
      const edges = this.boundary(face);
      const boundary = edges?.map((e) => e.curve);
      const gap = boundary && openBy(boundary);
      if (!boundary || !gap || gap.du + gap.dv > CLOSES_WITHIN * gap.reach) return null;
      const sums = integrated(surface, boundary, gap, about);
      if (this.edgeMap) this.compareEdges(edges!, placeOnSurface(surface), about);
      return sums && signed(sums, isReversed(face));
    } finally {
      this.release();
    }
  }

  /** Where edges lie on a face, beside where they lie on the other one that has them. */
  private compareEdges(edges: readonly BoundaryEdge[], onSurface: PlaceOnSurface, about: Vec3): void {
    const found = new Float64Array(9);
    for (const { curve, edge, reversed } of edges) {
      if (edge < 0) continue;
      const at = placeOn(curve);
      const [from, to] = rangeOf(curve);
      const places = new Float64Array(3 * COMPARED.length);
      COMPARED.forEach((share, i) => {
        const [u, v] = at(from + (reversed ? 1 - share : share) * (to - from));
        onSurface(u, v, found);
        places.set(found.subarray(0, 3), 3 * i);
      });
      const other = this.met.get(edge);
      if (other) this.slits.push(slitBetween(places, other, about));
      else this.met.set(edge, places);
    }
  }

  /** The boundary of a face in its parameters; null where an edge has no curve there. */
  boundary(face: Occt): BoundaryEdge[] | null {
    const { oc } = this;
    const onFace = oc.BRep_Tool.Surface_1(face, this.faceLocation);
    const turned = isReversed(face);
    const found: BoundaryEdge[] = [];
    let complete = true;
    explore(oc, face, ShapeType.edge, (s) => {
      const edge = oc.TopoDS.Edge_1(s);
      if ((edge.Orientation_1().value as number) < BOUNDS && complete) {
        const reversed = isReversed(edge) !== turned;
        const curve = this.curveOn(edge, onFace, reversed);
        const number =
          this.edgeMap && !oc.BRep_Tool.Degenerated(edge) ? (this.edgeMap.FindIndex(edge) as number) : -1;
        if (curve) found.push({ curve, edge: number, reversed });
        else complete = false;
      }
      edge.delete();
    });
    onFace.delete();
    return complete ? found : null;
  }

  /**
   * The curve of an edge in a face's parameters, as it runs round the face. Of a seam the one of this side.
   */
  private curveOn(edge: Occt, onFace: Occt, reversed: boolean): BoundaryCurve | null {
    const { oc, curve, surface, location, first, last } = this;
    let found: BoundaryCurve | null = null;
    for (let i = 1; ; i++) {
      oc.BRep_Tool.CurveOnSurface_4(edge, curve, surface, location, first, last, i);
      if (curve.IsNull()) break;
      if (surface.get().$$.ptr !== onFace.get().$$.ptr || !location.IsEqual(this.faceLocation)) continue;
      const next = this.read(curve.get(), first.current, last.current, reversed);
      // The second on the same surface is the other side of a seam, which belongs to the reversed edge.
      if (!found) found = next;
      else return reversed ? next : found;
    }
    return found ?? this.onPlane(edge, onFace, reversed);
  }

  /** Planes need no curve of their own: it is the edge, laid into them. */
  private onPlane(edge: Occt, onFace: Occt, reversed: boolean): BoundaryCurve | null {
    const { oc, first, last } = this;
    if (className(oc, onFace.get()) !== 'Geom_Plane') return null;
    const handle = oc.BRep_Tool.CurveOnPlane(edge, onFace, this.faceLocation, first, last);
    this.held.push(handle);
    return handle.IsNull() ? null : this.read(handle.get(), first.current, last.current, reversed);
  }

  private read(curve: Occt, from: number, to: number, reversed: boolean): BoundaryCurve {
    const [a, b] = reversed ? [to, from] : [from, to];
    const whole = untrimmed(this.oc, curve);
    const kind = className(this.oc, whole);
    if (kind === 'Geom2d_Line') return { shape: 'line', from: this.at(curve, a), to: this.at(curve, b) };
    if (kind === 'Geom2d_Circle' || kind === 'Geom2d_Ellipse') {
      const [p, q, r] = [0, Math.PI / 2, Math.PI].map((t) => this.at(curve, t));
      const centre = [(p[0] + r[0]) / 2, (p[1] + r[1]) / 2] as const;
      return {
        shape: 'conic',
        centre,
        a: [p[0] - centre[0], p[1] - centre[1]],
        b: [q[0] - centre[0], q[1] - centre[1]],
        from: a,
        to: b,
      };
    }
    const spline = kind === 'Geom2d_BSplineCurve' ? splineCurve2(this.oc, whole) : null;
    const breaks = spline ? breaksOf(spline.basis) : [];
    if (spline && Math.min(from, to) >= breaks[0] && Math.max(from, to) <= breaks[breaks.length - 1]) {
      const at = curveEvaluator(spline);
      const [p, q] = [this.at(curve, (a + b) / 2), at((a + b) / 2)];
      if (
        Math.hypot(p[0] - q[0], p[1] - q[1]) <=
        SUM_ROUNDING * 1000 * Math.max(1, ...spline.poles.map(Math.abs))
      )
        return { shape: 'free', from: a, to: b, at, breaks };
    }
    // Kept alive by the shape, or held; only asked while the face is integrated.
    return { shape: 'free', from: a, to: b, at: (t) => this.slopeAt(curve, t) };
  }

  private at(curve: Occt, t: number): [number, number] {
    curve.D0(t, this.point);
    return [this.point.X(), this.point.Y()];
  }

  private slopeAt(curve: Occt, t: number): [number, number, number, number] {
    curve.D1(t, this.point, this.slope);
    return [this.point.X(), this.point.Y(), this.slope.X(), this.slope.Y()];
  }

  /**
   * The kernel takes the cone from the mean of a shape's vertices: a copy where the point is the origin, with
   * a vertex that makes it the mean.
   */
  private byKernel(face: Occt, about: Vec3): OwnSums | null {
    const { oc } = this;
    const moved = movedShape(oc, face, scale(about, -1));
    const near = centred(oc, moved);
    moved.delete();
    const [flux, surface] = [new oc.GProp_GProps_1(), new oc.GProp_GProps_1()];
    try {
      const left = oc.BRepGProp.VolumeProperties_2(near, flux, VOLUME_RELATIVE, false, false) as number;
      oc.BRepGProp.SurfaceProperties_2(near, surface, AREA_RELATIVE, false);
      const moments = momentsOf(flux);
      const area = surface.Mass() as number;
      if (!moments.every(Number.isFinite) || !Number.isFinite(area)) return null;
      return {
        area,
        moments,
        vector: [0, 0, 0],
        areaWithin: AREA_RELATIVE * area,
        volumeWithin: Math.abs(left * moments[0]),
        byKernel: true,
      };
    } finally {
      flux.delete();
      surface.delete();
      near.delete();
    }
  }
}

/** Of the polylines through the places where both faces were asked. */
function slitBetween(one: Float64Array, other: Float64Array, about: Vec3): Slit {
  const slit: Slit = { width: 0, at: pointAt(one, 0), area: 0, volume: 0 };
  let before = 0;
  for (let i = 0; i < COMPARED.length; i++) {
    const here = pointAt(one, i);
    const apart = distance(here, pointAt(other, i));
    if (apart > slit.width) [slit.width, slit.at] = [apart, here];
    if (i) {
      const area = (distance(pointAt(one, i - 1), here) * (before + apart)) / 2;
      slit.area += area;
      slit.volume += (area * distance(here, about)) / 3;
    }
    before = apart;
  }
  return slit;
}

/** How far a boundary does not come back to where it began, and how far it reaches. */
interface Gap {
  du: number;
  dv: number;
  reach: number;
}

/** Sums within a boundary, with what a slit in it may amount to. */
function integrated(
  surface: ParametricSurface | FreeSurface,
  boundary: readonly BoundaryCurve[],
  gap: Gap,
  about: Vec3,
): FaceSums | null {
  const sums = integrateFace(surface, boundary, about);
  if (!Number.isFinite(sums.area) || sums.area === 0) return null;
  // A slit between two ends of edges, as long as the face: files join them within their own tolerance.
  const slit = isFree(surface) ? (gap.du + gap.dv) * Math.abs(sums.area / gap.reach) : slitOf(surface, gap);
  const away = isFree(surface)
    ? Math.sqrt(Math.abs(sums.area))
    : distance(surface.origin, about) + gap.reach * wideness(surface);
  return { ...sums, areaWithin: sums.areaWithin + slit, volumeWithin: sums.volumeWithin + (slit * away) / 3 };
}

/** A boundary that runs the other way round is that of the same face; so is a face that is turned round. */
function signed(sums: FaceSums, reversed: boolean): OwnSums {
  const turned = Math.sign(sums.area) * (reversed ? -1 : 1);
  return {
    ...sums,
    area: Math.abs(sums.area),
    moments: sums.moments.map((m) => turned * m),
    vector: scale(sums.vector, turned),
    byKernel: false,
  };
}

function centred(oc: Occt, face: Occt): Occt {
  let sum: Vec3 = [0, 0, 0];
  explore(oc, face, ShapeType.vertex, (s) => {
    const vertex = oc.TopoDS.Vertex_1(s);
    sum = add(sum, takeXYZ(oc.BRep_Tool.Pnt(vertex)));
    vertex.delete();
  });
  const weight = vertexAt(oc, scale(sum, -1));
  const [builder, compound] = [new oc.BRep_Builder(), new oc.TopoDS_Compound()];
  builder.MakeCompound(compound);
  builder.Add(compound, face);
  builder.Add(compound, weight);
  weight.delete();
  builder.delete();
  return compound;
}

/**
 * mm a parameter is worth. Of a surface with one radius the second figure is whatever lies in memory there.
 */
function wideness({ kind, first, second }: ParametricSurface): number {
  if (kind === 'plane') return 1;
  return Math.max(1, kind === 'torus' ? first + second : first);
}

const slitOf = (surface: ParametricSurface, { du, dv, reach }: Gap): number =>
  Math.max(du, dv) * reach * wideness(surface) ** 2;

/**
 * By how much a boundary does not come back to where it began, along each parameter, and how far it reaches;
 * null where it has no end.
 */
function openBy(boundary: readonly BoundaryCurve[]): Gap | null {
  let [du, dv, reach] = [0, 0, 0];
  for (const curve of boundary) {
    const at = placeOn(curve);
    const [from, to] = rangeOf(curve);
    const [p, far, q] = [from, (from + to) / 2, to].map(at);
    du += q[0] - p[0];
    dv += q[1] - p[1];
    reach = Math.max(reach, Math.hypot(q[0] - p[0], q[1] - p[1]), Math.hypot(far[0] - p[0], far[1] - p[1]));
  }
  return reach > 0 && Number.isFinite(reach) ? { du: Math.abs(du), dv: Math.abs(dv), reach } : null;
}

/** Moments about the origin from the kernel's mass, centre and tensor of inertia about that centre. */
function momentsOf(properties: Occt): Float64Array {
  const volume = properties.Mass() as number;
  const g = takeXYZ(properties.CentreOfMass());
  const tensor = properties.MatrixOfInertia();
  const trace =
    ((tensor.Value(1, 1) as number) + (tensor.Value(2, 2) as number) + (tensor.Value(3, 3) as number)) / 2;
  const moments = new Float64Array(MOMENTS);
  moments[0] = volume;
  g.forEach((x, k) => (moments[1 + k] = volume * x));
  for (let i = 0, n = 4; i < 3; i++)
    for (let j = i; j < 3; j++, n++)
      moments[n] = (i === j ? trace : 0) - (tensor.Value(i + 1, j + 1) as number) + volume * g[i] * g[j];
  return moments;
}

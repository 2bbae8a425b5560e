import type { Vec3 } from '@bathyscope/core/math';
import type { Occt } from '../occt/load.ts';

/** Solids made in a test, and what can be done with them; mm and radians. */
export function madeSolids(oc: Occt) {
  const at = (p: Vec3): Occt => new oc.gp_Pnt_3(...p);
  const along = (d: Vec3): Occt => new oc.gp_Dir_4(...d);
  const frame = (from: Vec3, axis: Vec3): Occt => new oc.gp_Ax2_3(at(from), along(axis));
  const progress = (): Occt => new oc.Message_ProgressRange_1();
  const placed = (shape: Occt, set: (transformation: Occt) => void): Occt => {
    const transformation = new oc.gp_Trsf_1();
    set(transformation);
    return new oc.BRepBuilderAPI_Transform_2(shape, transformation, true).Shape();
  };
  const Z: Vec3 = [0, 0, 1];
  return {
    box: (from: Vec3, to: Vec3): Occt => new oc.BRepPrimAPI_MakeBox_4(at(from), at(to)).Solid(),
    cylinder: (from: Vec3, radius: number, height: number, axis = Z): Occt =>
      new oc.BRepPrimAPI_MakeCylinder_3(frame(from, axis), radius, height).Solid(),
    cone: (from: Vec3, radius: number, radiusAbove: number, height: number, axis = Z): Occt =>
      new oc.BRepPrimAPI_MakeCone_3(frame(from, axis), radius, radiusAbove, height).Solid(),
    sphere: (centre: Vec3, radius: number): Occt =>
      new oc.BRepPrimAPI_MakeSphere_5(at(centre), radius).Solid(),
    torus: (centre: Vec3, radius: number, tube: number, axis = Z): Occt =>
      new oc.BRepPrimAPI_MakeTorus_5(frame(centre, axis), radius, tube).Solid(),
    minus: (a: Occt, ...bs: Occt[]): Occt =>
      bs.reduce((left, b) => new oc.BRepAlgoAPI_Cut_3(left, b, progress()).Shape(), a),
    plus: (a: Occt, ...bs: Occt[]): Occt =>
      bs.reduce((left, b) => new oc.BRepAlgoAPI_Fuse_3(left, b, progress()).Shape(), a),
    together: (...shapes: Occt[]): Occt => {
      const [builder, compound] = [new oc.BRep_Builder(), new oc.TopoDS_Compound()];
      builder.MakeCompound(compound);
      for (const s of shapes) builder.Add(compound, s);
      return compound;
    },
    /** The same with every curve and surface a B-spline. */
    asSplines: (shape: Occt): Occt =>
      new oc.BRepBuilderAPI_GTransform_2(shape, new oc.gp_GTrsf_1(), true).Shape(),
    scaled: (shape: Occt, factor: number): Occt => placed(shape, (t) => t.SetScale(at([0, 0, 0]), factor)),
    moved: (shape: Occt, by: Vec3): Occt => placed(shape, (t) => t.SetTranslation_1(new oc.gp_Vec_4(...by))),
    turned: (shape: Occt, axis: Vec3, angle: number): Occt =>
      placed(shape, (t) => t.SetRotation_1(new oc.gp_Ax1_2(at([0, 0, 0]), along(axis)), angle)),
    mirrored: (shape: Occt, normal: Vec3): Occt =>
      placed(shape, (t) => t.SetMirror_3(frame([0, 0, 0], normal))),
    ...profiles(oc),
    /** The text of a STEP file of it (AP214, mm). */
    stepText: (shape: Occt): string => {
      const writer = new oc.STEPControl_Writer_1();
      writer.Transfer(shape, oc.STEPControl_StepModelType.STEPControl_AsIs, true, progress());
      writer.Write('/made.stp');
      const text = new TextDecoder().decode(oc.FS.readFile('/made.stp') as Uint8Array);
      oc.FS.unlink('/made.stp');
      writer.delete();
      return text;
    },
  };
}

export type MadeSolids = ReturnType<typeof madeSolids>;

/**
 * A piece of a closed profile in the plane y = 0 (of an extrusion z = 0), as it runs round; mm and radians.
 */
export type Segment =
  | { kind: 'line'; from: Point; to: Point }
  /** centre + cos t · a + sin t · b; a and b are square, and equal where it is a circle. */
  | { kind: 'conic'; centre: Point; a: Point; b: Point; from: number; to: number }
  /** A clamped B-spline with even knots. */
  | { kind: 'spline'; poles: readonly Point[]; degree: number };
type Point = readonly [number, number];

/**
 * Solids from profiles: their walls become what the kernel makes of a line, a circle, or any
 * other curve that is swept.
 */
function profiles(oc: Occt) {
  const edgeOf = (s: Segment, lay: (p: Point) => Vec3): Occt => {
    const pnt = (p: Point): Occt => new oc.gp_Pnt_3(...lay(p));
    const dir = (d: Point): Occt => {
      const [o, e] = [lay([0, 0]), lay(d)];
      return new oc.gp_Dir_4(e[0] - o[0], e[1] - o[1], e[2] - o[2]);
    };
    if (s.kind === 'line') return new oc.BRepBuilderAPI_MakeEdge_3(pnt(s.from), pnt(s.to)).Edge();
    if (s.kind === 'conic') {
      const [ra, rb] = [Math.hypot(...s.a), Math.hypot(...s.b)];
      // The kernel's major axis is the longer one; its parameter turns from there.
      const major = ra >= rb;
      const [x, y] = major ? [s.a, s.b] : [s.b, [-s.a[0], -s.a[1]] as const];
      const shift = major ? 0 : -Math.PI / 2;
      const [o, ex, ey] = [lay([0, 0]), lay(x), lay(y)].map((p) => new oc.gp_Vec_4(...p));
      const normal = ex.Subtracted(o).Crossed(ey.Subtracted(o));
      const frame = new oc.gp_Ax2_2(
        pnt(s.centre),
        new oc.gp_Dir_4(normal.X(), normal.Y(), normal.Z()),
        dir(x),
      );
      const [from, to] = [s.from + shift, s.to + shift];
      if (ra === rb) return new oc.BRepBuilderAPI_MakeEdge_9(new oc.gp_Circ_2(frame, ra), from, to).Edge();
      return new oc.BRepBuilderAPI_MakeEdge_13(
        new oc.gp_Elips_2(frame, Math.max(ra, rb), Math.min(ra, rb)),
        from,
        to,
      ).Edge();
    }
    const { poles, degree } = s;
    const spans = poles.length - degree;
    const [places, knots, counts] = [
      new oc.TColgp_Array1OfPnt_2(1, poles.length),
      new oc.TColStd_Array1OfReal_2(1, spans + 1),
      new oc.TColStd_Array1OfInteger_2(1, spans + 1),
    ];
    poles.forEach((p, i) => places.SetValue(i + 1, pnt(p)));
    for (let i = 0; i <= spans; i++) {
      knots.SetValue(i + 1, i);
      counts.SetValue(i + 1, i === 0 || i === spans ? degree + 1 : 1);
    }
    const curve = new oc.Geom_BSplineCurve_1(places, knots, counts, degree, false);
    return new oc.BRepBuilderAPI_MakeEdge_24(new oc.Handle_Geom_Curve_2(curve)).Edge();
  };
  const faceOf = (outlines: readonly (readonly Segment[])[], lay: (p: Point) => Vec3): Occt => {
    const wires = outlines.map((outline) => {
      const wire = new oc.BRepBuilderAPI_MakeWire_1();
      for (const s of outline) wire.Add_1(edgeOf(s, lay));
      return wire.Wire();
    });
    const face = new oc.BRepBuilderAPI_MakeFace_15(wires[0], true);
    for (const hole of wires.slice(1)) face.Add(oc.TopoDS.Wire_1(hole.Reversed()));
    return face.Face();
  };
  return {
    /** A profile of x and y, and holes in it (all anticlockwise), drawn out along a vector. */
    extruded: (by: Vec3, ...outlines: readonly (readonly Segment[])[]): Occt =>
      new oc.BRepPrimAPI_MakePrism_1(
        faceOf(outlines, ([x, y]) => [x, y, 0]),
        new oc.gp_Vec_4(...by),
        false,
        true,
      ).Shape(),
    /** A profile of radius and height, turned about Z. */
    revolved: (angle: number, ...outlines: readonly (readonly Segment[])[]): Occt =>
      new oc.BRepPrimAPI_MakeRevol_1(
        faceOf(outlines, ([r, z]) => [r, 0, z]),
        new oc.gp_Ax1_2(new oc.gp_Pnt_3(0, 0, 0), new oc.gp_Dir_4(0, 0, 1)),
        angle,
        false,
      ).Shape(),
    /** All faces of a shell moved outwards. */
    offset: (shape: Occt, by: number): Occt => {
      const maker = new oc.BRepOffsetAPI_MakeOffsetShape();
      maker.PerformBySimple(shape, by);
      return maker.Shape();
    },
  };
}

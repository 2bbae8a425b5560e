import type { Modeller, Shape } from './modeller.ts';

/** A spur gear's numbers (ISO 53 basic rack: pressure angle 20°, addendum 1 m, dedendum 1.25 m). */
export interface SpurGear {
  /** mm */
  module: number;
  teeth: number;
  /** Taken from each tooth's thickness at the pitch circle, mm: the play of a pair is shared by both. */
  play: number;
  /** rad: where the middle of a tooth lies. */
  phase: number;
}

const PRESSURE_ANGLE = (20 * Math.PI) / 180;
const STEPS = 8;
const involute = (angle: number): number => Math.tan(angle) - angle;

/** A gear without a bore from x = 0 upwards: involute flanks as splines, straight below the base circle. */
export function spurGear(m: Modeller, { module, teeth, play, phase }: SpurGear, width: number): Shape {
  const { oc } = m;
  const pitch = (module * teeth) / 2;
  const base = pitch * Math.cos(PRESSURE_ANGLE);
  const [tip, root] = [pitch + module, pitch - 1.25 * module];
  const half = Math.PI / (2 * teeth) - play / (2 * pitch);
  const from = Math.max(base, root);
  /** Half the angle of a tooth at a radius. */
  const halfAt = (r: number) => half + involute(PRESSURE_ANGLE) - involute(Math.acos(Math.min(1, base / r)));
  const at = (r: number, angle: number) => m.point([0, r * Math.cos(angle), r * Math.sin(angle)]);
  const wire = new oc.BRepBuilderAPI_MakeWire_1();
  const line = (p: Shape, q: Shape) => wire.Add_1(new oc.BRepBuilderAPI_MakeEdge_3(p, q).Edge());
  const arc = (r: number, a: number, b: number) =>
    wire.Add_1(
      new oc.BRepBuilderAPI_MakeEdge_24(
        new oc.Handle_Geom_Curve_2(
          new oc.GC_MakeArcOfCircle_4(at(r, a), at(r, (a + b) / 2), at(r, b)).Value().get(),
        ),
      ).Edge(),
    );
  const spline = (points: Shape[]) => {
    const array = new oc.TColgp_Array1OfPnt_2(1, points.length);
    points.forEach((p, i) => array.SetValue(i + 1, p));
    const made = new oc.GeomAPI_PointsToBSpline_2(array, 3, 5, oc.GeomAbs_Shape.GeomAbs_C2, 1e-4);
    wire.Add_1(new oc.BRepBuilderAPI_MakeEdge_24(new oc.Handle_Geom_Curve_2(made.Curve().get())).Edge());
  };
  const radii = Array.from({ length: STEPS + 1 }, (_, i) => from + ((tip - from) * i) / STEPS);
  for (let t = 0; t < teeth; t++) {
    const middle = phase + (2 * Math.PI * t) / teeth;
    const next = phase + (2 * Math.PI * (t + 1)) / teeth;
    if (root < from) line(at(root, middle - halfAt(from)), at(from, middle - halfAt(from)));
    spline(radii.map((r) => at(r, middle - halfAt(r))));
    arc(tip, middle - halfAt(tip), middle + halfAt(tip));
    spline([...radii].reverse().map((r) => at(r, middle + halfAt(r))));
    if (root < from) line(at(from, middle + halfAt(from)), at(root, middle + halfAt(from)));
    arc(root, middle + halfAt(from), next - halfAt(from));
  }
  const face = new oc.BRepBuilderAPI_MakeFace_15(wire.Wire(), true).Face();
  return new oc.BRepPrimAPI_MakePrism_1(face, new oc.gp_Vec_4(width, 0, 0), false, true).Shape();
}

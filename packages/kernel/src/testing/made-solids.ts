import type { Vec3 } from '@bathyscope/core';
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
    sphere: (centre: Vec3, radius: number): Occt => new oc.BRepPrimAPI_MakeSphere_5(at(centre), radius).Solid(),
    torus: (centre: Vec3, radius: number, tube: number, axis = Z): Occt =>
      new oc.BRepPrimAPI_MakeTorus_5(frame(centre, axis), radius, tube).Solid(),
    minus: (a: Occt, ...bs: Occt[]): Occt => bs.reduce((left, b) => new oc.BRepAlgoAPI_Cut_3(left, b, progress()).Shape(), a),
    plus: (a: Occt, ...bs: Occt[]): Occt => bs.reduce((left, b) => new oc.BRepAlgoAPI_Fuse_3(left, b, progress()).Shape(), a),
    together: (...shapes: Occt[]): Occt => {
      const [builder, compound] = [new oc.BRep_Builder(), new oc.TopoDS_Compound()];
      builder.MakeCompound(compound);
      for (const s of shapes) builder.Add(compound, s);
      return compound;
    },
    /** The same with every curve and surface a B-spline. */
    asSplines: (shape: Occt): Occt => new oc.BRepBuilderAPI_GTransform_2(shape, new oc.gp_GTrsf_1(), true).Shape(),
    scaled: (shape: Occt, factor: number): Occt => placed(shape, (t) => t.SetScale(at([0, 0, 0]), factor)),
    moved: (shape: Occt, by: Vec3): Occt => placed(shape, (t) => t.SetTranslation_1(new oc.gp_Vec_4(...by))),
    turned: (shape: Occt, axis: Vec3, angle: number): Occt =>
      placed(shape, (t) => t.SetRotation_1(new oc.gp_Ax1_2(at([0, 0, 0]), along(axis)), angle)),
    mirrored: (shape: Occt, normal: Vec3): Occt => placed(shape, (t) => t.SetMirror_3(frame([0, 0, 0], normal))),
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

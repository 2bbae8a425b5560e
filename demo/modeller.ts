import fs from 'node:fs';
import path from 'node:path';
import { createRequire } from 'node:module';
import { pathToFileURL } from 'node:url';

/*
 * A few modelling operations on the full kernel, in the words the demo parts are described
 * with. Millimetres, degrees.
 */

// eslint-disable-next-line @typescript-eslint/no-explicit-any
export type Shape = any;
export type Point = readonly [number, number, number];
/** A corner of a turned profile: axial position and radius, with the corner optionally rounded. */
export type ProfilePoint = readonly [axial: number, radius: number, round?: number];
export type Axis = 'x' | 'y' | 'z';

const DIRECTIONS: Record<Axis, Point> = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] };

export async function loadFullKernel(): Promise<Shape> {
  const require_ = createRequire(import.meta.url);
  const glue = require_.resolve('opencascade.js/dist/opencascade.full.js');
  const globals = globalThis as Record<string, unknown>;
  globals['__dirname'] = path.dirname(glue);
  globals['require'] = createRequire(glue);
  const { default: factory } = (await import(pathToFileURL(glue).href)) as {
    default: new (o: object) => Promise<Shape>;
  };
  return new factory({
    print() {},
    printErr() {},
    wasmBinary: fs.readFileSync(glue.replace(/\.js$/, '.wasm')),
  });
}

export class Modeller {
  readonly oc: Shape;

  constructor(oc: Shape) {
    this.oc = oc;
  }

  point = (p: Point): Shape => new this.oc.gp_Pnt_3(...p);
  direction = (p: Point): Shape => new this.oc.gp_Dir_4(...p);

  box(from: Point, to: Point): Shape {
    return new this.oc.BRepPrimAPI_MakeBox_4(this.point(from), this.point(to)).Shape();
  }

  cylinder(start: Point, axis: Axis | Point, radius: number, length: number): Shape {
    const direction = typeof axis === 'string' ? DIRECTIONS[axis] : axis;
    return new this.oc.BRepPrimAPI_MakeCylinder_3(
      new this.oc.gp_Ax2_3(this.point(start), this.direction(direction)),
      radius,
      length,
    ).Shape();
  }

  cone(start: Point, axis: Axis, r1: number, r2: number, length: number): Shape {
    return new this.oc.BRepPrimAPI_MakeCone_3(
      new this.oc.gp_Ax2_3(this.point(start), this.direction(DIRECTIONS[axis])),
      r1,
      r2,
      length,
    ).Shape();
  }

  torus(centre: Point, axis: Axis, major: number, minor: number): Shape {
    return new this.oc.BRepPrimAPI_MakeTorus_5(
      new this.oc.gp_Ax2_3(this.point(centre), this.direction(DIRECTIONS[axis])),
      major,
      minor,
    ).Shape();
  }

  sphere(centre: Point, radius: number): Shape {
    return new this.oc.BRepPrimAPI_MakeSphere_5(this.point(centre), radius).Shape();
  }

  /** Several solids as one part. */
  together(...shapes: Shape[]): Shape {
    const [builder, compound] = [new this.oc.BRep_Builder(), new this.oc.TopoDS_Compound()];
    builder.MakeCompound(compound);
    for (const s of shapes) builder.Add(compound, s);
    return compound;
  }

  /** Seen in the plane z = 0. */
  mirrored(shape: Shape): Shape {
    const t = new this.oc.gp_Trsf_1();
    t.SetMirror_3(new this.oc.gp_Ax2_3(this.point([0, 0, 0]), this.direction([0, 0, 1])));
    return new this.oc.BRepBuilderAPI_Transform_2(shape, t, true).Shape();
  }

  /** Regular hexagonal prism by its width across flats. */
  hexagon(start: Point, axis: Axis, acrossFlats: number, length: number): Shape {
    const r = acrossFlats / Math.sqrt(3);
    const corner = (i: number) =>
      this.inPlane(start, axis, r * Math.cos((i * Math.PI) / 3), r * Math.sin((i * Math.PI) / 3));
    const d = DIRECTIONS[axis];
    return this.prism(
      Array.from({ length: 6 }, (_, i) => corner(i)),
      [d[0] * length, d[1] * length, d[2] * length],
    );
  }

  /** A flat polygon, drawn out. */
  prism(corners: readonly Point[], by: Point): Shape {
    const polygon = new this.oc.BRepBuilderAPI_MakePolygon_1();
    for (const p of corners) polygon.Add_1(this.point(p));
    polygon.Close();
    const face = new this.oc.BRepBuilderAPI_MakeFace_15(polygon.Wire(), true).Face();
    return new this.oc.BRepPrimAPI_MakePrism_1(face, new this.oc.gp_Vec_4(...by), false, true).Shape();
  }

  private inPlane(p: Point, axis: Axis, a: number, b: number): Point {
    if (axis === 'x') return [p[0], p[1] + a, p[2] + b];
    if (axis === 'y') return [p[0] + b, p[1], p[2] + a];
    return [p[0] + a, p[1] + b, p[2]];
  }

  /** A turned solid: a closed profile about X or Z. A corner with a round gets an arc of that radius. */
  turned(axis: 'x' | 'z', profile: readonly ProfilePoint[]): Shape {
    const at = (s: number, r: number): Point => (axis === 'x' ? [s, 0, r] : [r, 0, s]);
    const corners = profile.map((p, i) =>
      roundCorner(profile[(i + profile.length - 1) % profile.length], p, profile[(i + 1) % profile.length]),
    );
    const wire = new this.oc.BRepBuilderAPI_MakeWire_1();
    corners.forEach((corner, i) => {
      const next = corners[(i + 1) % corners.length];
      if (corner.middle) {
        const arc = new this.oc.GC_MakeArcOfCircle_4(
          this.point(at(...corner.from)),
          this.point(at(...corner.middle)),
          this.point(at(...corner.to)),
        );
        wire.Add_1(
          new this.oc.BRepBuilderAPI_MakeEdge_24(new this.oc.Handle_Geom_Curve_2(arc.Value().get())).Edge(),
        );
      }
      if (Math.hypot(next.from[0] - corner.to[0], next.from[1] - corner.to[1]) < 1e-9) return;
      wire.Add_1(
        new this.oc.BRepBuilderAPI_MakeEdge_3(
          this.point(at(...corner.to)),
          this.point(at(...next.from)),
        ).Edge(),
      );
    });
    const face = new this.oc.BRepBuilderAPI_MakeFace_15(wire.Wire(), true).Face();
    const line = new this.oc.gp_Ax1_2(this.point([0, 0, 0]), this.direction(DIRECTIONS[axis]));
    return new this.oc.BRepPrimAPI_MakeRevol_1(face, line, 2 * Math.PI, false).Shape();
  }

  private boolean(kind: 'Fuse' | 'Cut' | 'Common', a: Shape, b: Shape): Shape {
    const operation = new this.oc[`BRepAlgoAPI_${kind}_3`](a, b, new this.oc.Message_ProgressRange_1());
    operation.SimplifyResult(true, true, 1e-4);
    if (operation.HasErrors()) throw new Error(`${kind} failed`);
    return operation.Shape();
  }

  fuse = (first: Shape, ...others: Shape[]): Shape =>
    others.reduce((a, b) => this.boolean('Fuse', a, b), first);
  cut = (first: Shape, ...others: Shape[]): Shape =>
    others.reduce((a, b) => this.boolean('Cut', a, b), first);
  common = (a: Shape, b: Shape): Shape => this.boolean('Common', a, b);

  moved(shape: Shape, by: Point): Shape {
    const t = new this.oc.gp_Trsf_1();
    t.SetTranslation_1(new this.oc.gp_Vec_4(...by));
    return new this.oc.BRepBuilderAPI_Transform_2(shape, t, true).Shape();
  }

  turnedAbout(shape: Shape, axis: Axis, degrees: number): Shape {
    const t = new this.oc.gp_Trsf_1();
    t.SetRotation_1(
      new this.oc.gp_Ax1_2(this.point([0, 0, 0]), this.direction(DIRECTIONS[axis])),
      (degrees * Math.PI) / 180,
    );
    return new this.oc.BRepBuilderAPI_Transform_2(shape, t, true).Shape();
  }

  /** Rounds or chamfers the edges that a test chooses by their middle point and curve kind. */
  dress(
    shape: Shape,
    kind: 'fillet' | 'chamfer',
    size: number,
    choose: (middle: Point, length: number) => boolean,
  ): Shape {
    const { oc } = this;
    const maker =
      kind === 'fillet'
        ? new oc.BRepFilletAPI_MakeFillet(shape, oc.ChFi3d_FilletShape.ChFi3d_Rational)
        : new oc.BRepFilletAPI_MakeChamfer(shape);
    const seen = new oc.TopTools_IndexedMapOfShape_1();
    const explorer = new oc.TopExp_Explorer_2(
      shape,
      oc.TopAbs_ShapeEnum.TopAbs_EDGE,
      oc.TopAbs_ShapeEnum.TopAbs_SHAPE,
    );
    let count = 0;
    for (; explorer.More(); explorer.Next()) {
      const edge = oc.TopoDS.Edge_1(explorer.Current());
      if (seen.Contains(edge) || oc.BRep_Tool.Degenerated(edge)) continue;
      seen.Add(edge);
      const curve = new oc.BRepAdaptor_Curve_2(edge);
      const p = curve.Value((curve.FirstParameter() + curve.LastParameter()) / 2);
      const properties = new oc.GProp_GProps_1();
      oc.BRepGProp.LinearProperties(edge, properties, false, false);
      if (!choose([p.X(), p.Y(), p.Z()], properties.Mass())) continue;
      maker.Add_2(size, edge);
      count++;
    }
    if (!count) throw new Error(`no edge to ${kind}`);
    maker.Build(new oc.Message_ProgressRange_1());
    if (!maker.IsDone()) throw new Error(`${kind} of ${count} edges failed`);
    return maker.Shape();
  }
}

interface Corner {
  from: [number, number];
  to: [number, number];
  middle?: [number, number];
}

/** Start, middle and end of the arc that rounds a corner; a sharp corner is its own start and end. */
function roundCorner(before: ProfilePoint, corner: ProfilePoint, after: ProfilePoint): Corner {
  const p: [number, number] = [corner[0], corner[1]];
  const radius = corner[2];
  if (!radius) return { from: p, to: p };
  const unit = (q: ProfilePoint): [number, number] => {
    const l = Math.hypot(q[0] - p[0], q[1] - p[1]);
    return [(q[0] - p[0]) / l, (q[1] - p[1]) / l];
  };
  const [a, b] = [unit(before), unit(after)];
  const half = Math.acos(Math.max(-1, Math.min(1, a[0] * b[0] + a[1] * b[1]))) / 2;
  const reach = radius / Math.tan(half);
  const bisector: [number, number] = [a[0] + b[0], a[1] + b[1]];
  const l = Math.hypot(...bisector);
  const toArc = radius / Math.sin(half) - radius;
  return {
    from: [p[0] + a[0] * reach, p[1] + a[1] * reach],
    to: [p[0] + b[0] * reach, p[1] + b[1] * reach],
    middle: [p[0] + (bisector[0] / l) * toArc, p[1] + (bisector[1] / l) * toArc],
  };
}

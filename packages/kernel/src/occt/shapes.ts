import type { Mat4, Vec3 } from '@bathyscope/core/math';
import type { Occt } from './load.ts';

/** Position in OCCT's TopAbs_ShapeEnum. */
export const enum ShapeType {
  compound = 0,
  compSolid = 1,
  solid = 2,
  shell = 3,
  face = 4,
  wire = 5,
  edge = 6,
  vertex = 7,
}

const ENUM_NAMES = [
  'TopAbs_COMPOUND',
  'TopAbs_COMPSOLID',
  'TopAbs_SOLID',
  'TopAbs_SHELL',
  'TopAbs_FACE',
  'TopAbs_WIRE',
  'TopAbs_EDGE',
  'TopAbs_VERTEX',
];

const enumOf = (oc: Occt, type: ShapeType): Occt => oc.TopAbs_ShapeEnum[ENUM_NAMES[type]];

/** Calls `visit` for every sub-shape of a type in the kernel's exploring order (repeats shared ones). */
export function explore(
  oc: Occt,
  shape: Occt,
  type: ShapeType,
  visit: (s: Occt) => void,
  avoid?: ShapeType,
): void {
  const explorer = new oc.TopExp_Explorer_2(
    shape,
    enumOf(oc, type),
    avoid === undefined ? oc.TopAbs_ShapeEnum.TopAbs_SHAPE : enumOf(oc, avoid),
  );
  for (; explorer.More(); explorer.Next()) visit(explorer.Current());
  explorer.delete();
}

/** Position in TopAbs_Orientation: turned round against what it lies on. */
const REVERSED = 1;

export const isReversed = (shape: Occt): boolean => (shape.Orientation_1().value as number) === REVERSED;

/** The distinct sub-shapes of a type, numbered from 1 in the kernel's map order. */
export function indexedMap(oc: Occt, shape: Occt, type: ShapeType): Occt {
  const map = new oc.TopTools_IndexedMapOfShape_1();
  explore(oc, shape, type, (s) => map.Add(s));
  return map;
}

export const hasAny = (oc: Occt, shape: Occt, type: ShapeType): boolean => {
  const explorer = new oc.TopExp_Explorer_2(shape, enumOf(oc, type), oc.TopAbs_ShapeEnum.TopAbs_SHAPE);
  const found = explorer.More() as boolean;
  explorer.delete();
  return found;
};

/** A copy, so many times as large about its origin. Sub-shapes keep their order. */
export const scaledShape = (oc: Occt, shape: Occt, factor: number): Occt =>
  transformed(oc, shape, (t) => {
    const origin = new oc.gp_Pnt_1();
    t.SetScale(origin, factor);
    origin.delete();
  });

/** A copy elsewhere. Sub-shapes keep their order. */
export const movedShape = (oc: Occt, shape: Occt, by: Vec3): Occt =>
  transformed(oc, shape, (t) => {
    const vector = new oc.gp_Vec_4(...by);
    t.SetTranslation_1(vector);
    vector.delete();
  });

/** A copy where a placement of the model puts it. Sub-shapes keep their order. */
export const placedShape = (oc: Occt, shape: Occt, m: Mat4): Occt =>
  transformed(oc, shape, (t) =>
    t.SetValues(m[0], m[4], m[8], m[12], m[1], m[5], m[9], m[13], m[2], m[6], m[10], m[14]),
  );

function transformed(oc: Occt, shape: Occt, set: (transformation: Occt) => void): Occt {
  const transformation = new oc.gp_Trsf_1();
  set(transformation);
  const transform = new oc.BRepBuilderAPI_Transform_2(shape, transformation, true);
  const copy = transform.Shape() as Occt;
  transformation.delete();
  transform.delete();
  return copy;
}

/** A vertex at a point, mm. */
export function vertexAt(oc: Occt, point: Vec3): Occt {
  const place = new oc.gp_Pnt_3(...point);
  const maker = new oc.BRepBuilderAPI_MakeVertex(place);
  const vertex = maker.Vertex() as Occt;
  maker.delete();
  place.delete();
  return vertex;
}

/** Coordinates of a gp_Pnt, gp_Dir or gp_Vec, which is released. */
export function takeXYZ(p: Occt): Vec3 {
  const v: Vec3 = [p.X(), p.Y(), p.Z()];
  p.delete();
  return v;
}

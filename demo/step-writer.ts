import type { Modeller, Point, Shape } from './modeller.ts';

export interface DemoMaterial {
  name: string;
  description: string;
  /** g/cm³ */
  density: number;
}

export interface DemoPart {
  name: string;
  shape: Shape;
  /** sRGB 0–255 */
  colour: Point;
  material?: DemoMaterial;
  /** Colours single faces whose middle a test chooses. */
  faceColour?: { colour: Point; choose: (middle: Point) => boolean };
}

export interface DemoPlacement {
  move?: Point;
  /** Degrees about Y, then about Z, before the move. */
  turnY?: number;
  turnZ?: number;
}

export interface DemoAssembly {
  name: string;
  children: { item: DemoPart | DemoAssembly; instance: string; at?: DemoPlacement }[];
}

/** Writes an assembly or a single part as STEP with names, colours, materials and structure. */
export function writeStep(
  modeller: Modeller,
  root: DemoAssembly | DemoPart,
  title: string,
  unit: 'MM' | 'INCH' = 'MM',
): string {
  const { oc } = modeller;
  const text = (s: string) => new oc.TCollection_ExtendedString_2(s, true);
  const ascii = (s: string) => new oc.Handle_TCollection_HAsciiString_2(new oc.TCollection_HAsciiString_2(s));
  const document = new oc.TDocStd_Document(text('BinXCAF'));
  const handle = new oc.Handle_TDocStd_Document_2(document);
  const tools = oc.XCAFDoc_DocumentTool;
  const shapes = tools.ShapeTool(document.Main()).get();
  const colours = tools.ColorTool(document.Main()).get();
  const materials = tools.MaterialTool(document.Main()).get();
  const surface = oc.XCAFDoc_ColorType.XCAFDoc_ColorSurf;
  const colour = (c: Point) =>
    new oc.Quantity_Color_3(...c.map((x) => linear(x / 255)), oc.Quantity_TypeOfColor.Quantity_TOC_RGB);
  const labels = new Map<DemoPart | DemoAssembly, Shape>();

  const addPart = (part: DemoPart): Shape => {
    const label = shapes.AddShape(part.shape, false, true);
    oc.TDataStd_Name.Set_1(label, text(part.name));
    colours.SetColor_2(label, colour(part.colour), surface);
    if (part.faceColour) paintFaces(label, part);
    const m = part.material;
    if (m)
      materials.SetMaterial_2(
        label,
        ascii(m.name),
        ascii(m.description),
        m.density,
        ascii('density measure'),
        ascii('POSITIVE_RATIO_MEASURE'),
      );
    return label;
  };
  const paintFaces = (label: Shape, part: DemoPart) => {
    const explorer = new oc.TopExp_Explorer_2(
      part.shape,
      oc.TopAbs_ShapeEnum.TopAbs_FACE,
      oc.TopAbs_ShapeEnum.TopAbs_SHAPE,
    );
    for (; explorer.More(); explorer.Next()) {
      const properties = new oc.GProp_GProps_1();
      oc.BRepGProp.SurfaceProperties_1(explorer.Current(), properties, false, false);
      const c = properties.CentreOfMass();
      if (part.faceColour!.choose([c.X(), c.Y(), c.Z()]))
        colours.SetColor_2(
          shapes.AddSubShape_1(label, explorer.Current()),
          colour(part.faceColour!.colour),
          surface,
        );
    }
  };
  const add = (item: DemoPart | DemoAssembly): Shape => {
    const known = labels.get(item);
    if (known) return known;
    let label: Shape;
    if ('shape' in item) label = addPart(item);
    else {
      label = shapes.NewShape();
      oc.TDataStd_Name.Set_1(label, text(item.name));
      for (const child of item.children) {
        const component = shapes.AddComponent_1(label, add(child.item), location(oc, child.at));
        oc.TDataStd_Name.Set_1(component, text(child.instance));
      }
    }
    labels.set(item, label);
    return label;
  };
  add(root);
  shapes.UpdateAssemblies();

  const writer = new oc.STEPCAFControl_Writer_1();
  writer.SetColorMode(true);
  writer.SetNameMode(true);
  writer.SetMaterialMode(true);
  oc.Interface_Static.SetCVal('write.step.unit', unit);
  oc.Interface_Static.SetCVal('write.step.schema', 'AP214IS');
  oc.Interface_Static.SetIVal('write.step.assembly', 1);
  writer.Transfer_1(
    handle,
    oc.STEPControl_StepModelType.STEPControl_AsIs,
    null,
    new oc.Message_ProgressRange_1(),
  );
  writer.Write('/demo.step');
  const written = new TextDecoder().decode(oc.FS.readFile('/demo.step'));
  return tidy(written, title);
}

/**
 * A header that says where the file comes from (and no time, so that a rebuild changes nothing), and g·cm⁻³
 * written as such.
 */
function tidy(step: string, title: string): string {
  return step
    .replace(
      /FILE_NAME\([\s\S]*?\);/,
      `FILE_NAME('${title}','2026-01-01T00:00:00',('Tidewright Instruments'),('Tidewright Instruments'),'Bathyscope demo script','Bathyscope demo script','');`,
    )
    .replace(/DERIVED_UNIT_ELEMENT\((#\d+),3\.\)/g, 'DERIVED_UNIT_ELEMENT($1,1.)')
    .replace(/DERIVED_UNIT_ELEMENT\((#\d+),2\.\)/g, 'DERIVED_UNIT_ELEMENT($1,-3.)');
}

function location(oc: Shape, at: DemoPlacement = {}): Shape {
  const turned = (degrees: number | undefined, axis: Point) => {
    const turn = new oc.gp_Trsf_1();
    if (degrees)
      turn.SetRotation_1(
        new oc.gp_Ax1_2(new oc.gp_Pnt_3(0, 0, 0), new oc.gp_Dir_4(...axis)),
        (degrees * Math.PI) / 180,
      );
    return turn;
  };
  const move = new oc.gp_Trsf_1();
  if (at.move) move.SetTranslation_1(new oc.gp_Vec_4(...at.move));
  move.Multiply(turned(at.turnZ, [0, 0, 1]));
  move.Multiply(turned(at.turnY, [0, 1, 0]));
  return new oc.TopLoc_Location_2(move);
}

const linear = (c: number): number => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4);

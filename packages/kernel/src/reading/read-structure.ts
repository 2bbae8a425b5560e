import { determinant3, IDENTITY, isMirrored, multiply, type Mat4, type Vec3 } from '@bathyscope/core/math';
import type { Material, ModelStructure, PartDefinition, StructureNode } from '@bathyscope/core/model';
import type { AssemblyText } from './assembly-text.ts';
import { MADE_UP_NAME } from './made-up-names.ts';
import type { Occt } from '../occt/load.ts';
import { extendedString, fatherOf, labelNode, readLocation } from '../occt/memory.ts';
import { explore, hasAny, indexedMap, scaledShape, ShapeType } from '../occt/shapes.ts';

/** A part as read: its shape is described later, one by one, so that progress can be shown. */
export interface ReadPart {
  definition: PartDefinition;
  shape: Occt;
}

const MATERIAL_LINK = 'efd212f7-6dfd-11d4-b9c8-0060b0ee281b';

/** Walks the labels of the document once and gathers tree, parts, colours and materials. */
export class StructureReader {
  private readonly oc: Occt;
  private readonly shapes: Occt;
  private readonly colours: Occt;
  private readonly main: Occt;
  private readonly materials: Map<number, Material>;
  /** By label and size. */
  private readonly partOfLabel = new Map<string, number>();
  private readonly sizes: number[] = [];
  private readonly parts: ReadPart[] = [];
  /** Names of what has no faces. */
  private readonly dropped: string[] = [];
  private looseEdges = 0;

  /** @param truePlacement what a placement that the kernel read stands for, when the text says otherwise */
  constructor(
    oc: Occt,
    document: Occt,
    densities: ReadonlyMap<string, number>,
    private readonly truePlacement?: (read: Mat4) => Mat4 | null,
  ) {
    this.oc = oc;
    this.main = document.Main();
    this.shapes = oc.XCAFDoc_DocumentTool.ShapeTool(this.main).get();
    this.colours = oc.XCAFDoc_DocumentTool.ColorTool(this.main).get();
    this.materials = this.readMaterials(densities);
  }

  /** @param assembly what of the structure is told by the text; the kernel then has each product alone */
  read(
    fallbackName: string,
    assembly: AssemblyText | null,
  ): {
    structure: ModelStructure;
    parts: ReadPart[];
    warnings: string[];
    dropped: number;
    looseEdges: number;
    /** Whether products share one shape, so that they are not told apart with each alone. */
    isShared: boolean;
  } {
    const free = new this.oc.TDF_LabelSequence_1();
    this.shapes.GetFreeShapes(free);
    const found: StructureNode[] = [];
    for (let i = 1; i <= free.Length(); i++) {
      const node = this.readNode(free.Value(i), IDENTITY, 1);
      if (node) found.push(node);
    }
    free.delete();
    const named = new Set([...found.map((node) => node.name), ...this.dropped]);
    const isShared = [...(assembly?.shaped ?? [])].some((product) => !named.has(product));
    const roots = assembly ? this.composed(assembly, found) : found;
    const root = roots.length === 1 ? roots[0] : { name: fallbackName, placement: IDENTITY, children: roots };
    if (MADE_UP_NAME.test(root.name)) root.name = fallbackName;
    const structure = { root, parts: this.parts.map((p) => p.definition) };
    const mirrored = countMirrored(root);
    const warnings = mirrored
      ? [`${mirrored} component${mirrored === 1 ? ' is' : 's are'} placed as a mirror image.`]
      : [];
    if (this.sizes.length)
      warnings.push(
        `Some components are placed at another size than their part has (times ${[...new Set(this.sizes)].slice(0, 5).join(', ')}); all figures are those of the size they are placed at.`,
      );
    return {
      structure,
      parts: this.parts,
      warnings,
      dropped: this.dropped.filter((name) => !assembly?.holders.has(name)).length,
      looseEdges: this.looseEdges,
      isShared,
    };
  }

  private composed(assembly: AssemblyText, alone: readonly StructureNode[]): StructureNode[] {
    for (const { definition } of this.parts)
      definition.name = assembly.names.get(definition.name) ?? definition.name;
    return assembly.compose(new Map(alone.map((node) => [node.name, node])));
  }

  /** A node for a label, or null when nothing below it has a face. */
  private readNode(
    label: Occt,
    placement: Mat4,
    size: number,
    instanceName?: string,
    colour?: Vec3,
  ): StructureNode | null {
    const tool = this.oc.XCAFDoc_ShapeTool;
    if (tool.IsReference(label)) {
      const referred = new this.oc.TDF_Label();
      tool.GetReferredShape(label, referred);
      const location = readLocation(tool.GetLocation(label), this.truePlacement);
      const own = this.nameOf(label);
      const { rigid, factor } = unscaled(location ?? IDENTITY, size);
      return this.readNode(referred, multiply(placement, rigid), size * factor, own, this.colourOf(label));
    }
    const name = this.nameOf(label) ?? 'Unnamed';
    const says =
      instanceName && !MADE_UP_NAME.test(instanceName) && instanceName !== name ? instanceName : undefined;
    const node: StructureNode = { name, placement };
    if (says) node.instanceName = says;
    if (colour) node.colour = colour;
    if (!tool.IsAssembly(label)) {
      const part = this.readPart(label, name, size);
      if (part === null) return null;
      return { ...node, part };
    }
    return this.readAssembly(label, node, size);
  }

  private readAssembly(label: Occt, node: StructureNode, size: number): StructureNode | null {
    const sequence = new this.oc.TDF_LabelSequence_1();
    this.oc.XCAFDoc_ShapeTool.GetComponents(label, sequence, false);
    const children: StructureNode[] = [];
    for (let i = 1; i <= sequence.Length(); i++) {
      const child = this.readNode(sequence.Value(i), IDENTITY, size);
      if (child) children.push(child);
    }
    sequence.delete();
    if (children.length === 0) return null;
    node.colour ??= this.colourOf(label);
    const [only] = children;
    if (children.length === 1 && MADE_UP_NAME.test(only.name) && only.part !== undefined) {
      // A part that its writer wrapped in a product of its own: the wrapper's name is the part's.
      const definition = this.parts[only.part].definition;
      if (MADE_UP_NAME.test(definition.name)) definition.name = node.name;
      return {
        ...node,
        colour: node.colour ?? only.colour,
        placement: multiply(node.placement, only.placement),
        part: only.part,
      };
    }
    return { ...node, children };
  }

  private readPart(label: Occt, name: string, size: number): number | null {
    const key = `${labelNode(this.oc, label)} ${size}`;
    const known = this.partOfLabel.get(key);
    if (known !== undefined) return known;
    const shape = this.oc.XCAFDoc_ShapeTool.GetShape_2(label);
    if (!hasAny(this.oc, shape, ShapeType.face)) {
      this.dropped.push(name);
      const edges = indexedMap(this.oc, shape, ShapeType.edge);
      this.looseEdges += edges.Size() as number;
      edges.delete();
      return null;
    }
    const definition: PartDefinition = { name, geometry: null };
    const colour = this.colourOf(label);
    if (colour) definition.colour = colour;
    const faceColours = this.subShapeColours(label, shape);
    if (faceColours) definition.faceColours = faceColours;
    const material = this.materialOf(label);
    if (material) definition.material = material;
    if (size !== 1) this.sizes.push(size);
    this.parts.push({ definition, shape: size === 1 ? shape : scaledShape(this.oc, shape, size) });
    this.partOfLabel.set(key, this.parts.length - 1);
    return this.parts.length - 1;
  }

  private nameOf(label: Occt): string | undefined {
    const handle = new this.oc.Handle_TDF_Attribute_1();
    const found = label.FindAttribute_1(this.oc.TDataStd_Name.GetID(), handle) as boolean;
    const name = found ? extendedString(this.oc, handle.get().Get()).trim() : '';
    handle.delete();
    return name || undefined;
  }

  private colourOf(label: Occt): Vec3 | undefined {
    const colour = new this.oc.Quantity_Color_1();
    try {
      for (const type of ['XCAFDoc_ColorSurf', 'XCAFDoc_ColorGen'])
        if (this.colours.GetColor_4(label, this.oc.XCAFDoc_ColorType[type], colour))
          return [toSrgb(colour.Red()), toSrgb(colour.Green()), toSrgb(colour.Blue())];
      return undefined;
    } finally {
      colour.delete();
    }
  }

  /** Colours of single faces, and of bodies spread over their faces. */
  private subShapeColours(label: Occt, shape: Occt): Record<number, Vec3> | undefined {
    const sequence = new this.oc.TDF_LabelSequence_1();
    this.oc.XCAFDoc_ShapeTool.GetSubShapes(label, sequence);
    const colours: Record<number, Vec3> = {};
    const faces = sequence.Length() ? indexedMap(this.oc, shape, ShapeType.face) : null;
    // Bodies first, so that a face's own colour wins.
    for (const wanted of [ShapeType.solid, ShapeType.shell, ShapeType.face])
      for (let i = 1; i <= sequence.Length(); i++) {
        const sub = this.oc.XCAFDoc_ShapeTool.GetShape_2(sequence.Value(i));
        const colour = this.colourOf(sequence.Value(i));
        if (!colour || sub.ShapeType().value !== wanted) continue;
        explore(this.oc, sub, ShapeType.face, (face) => {
          const index = faces.FindIndex(face) as number;
          if (index > 0) colours[index - 1] = colour;
        });
      }
    faces?.delete();
    sequence.delete();
    return Object.keys(colours).length ? colours : undefined;
  }

  /** Every material of the document by the address of its label. */
  private readMaterials(densities: ReadonlyMap<string, number>): Map<number, Material> {
    const { oc } = this;
    const tool = oc.XCAFDoc_DocumentTool.MaterialTool(this.main).get();
    const labels = new oc.TDF_LabelSequence_1();
    tool.GetMaterialLabels(labels);
    const materials = new Map<number, Material>();
    for (let i = 1; i <= labels.Length(); i++) {
      const texts = [0, 1, 2, 3].map(() => new oc.Handle_TCollection_HAsciiString_1());
      const density = { current: 0 };
      tool.GetMaterial(labels.Value(i), texts[0], texts[1], density, texts[2], texts[3]);
      const name = texts[0].IsNull() ? '' : (texts[0].get().ToCString() as string);
      materials.set(labelNode(oc, labels.Value(i)), {
        name: name || 'Unnamed material',
        density: densities.get(name) ?? null,
      });
      texts.forEach((t) => t.delete());
    }
    labels.delete();
    return materials;
  }

  private materialOf(label: Occt): Material | undefined {
    if (!this.materials.size) return undefined;
    const guid = new this.oc.Standard_GUID_2(MATERIAL_LINK);
    const handle = new this.oc.Handle_TDF_Attribute_1();
    const found = label.FindAttribute_1(guid, handle) as boolean;
    const node = found ? fatherOf(this.oc, handle, this.materials) : null;
    handle.delete();
    guid.delete();
    return node === null ? undefined : this.materials.get(node);
  }
}

/** Sizes so near to that of the part are meant to be the same. */
const SAME_SIZE_FACTOR = 1 / 1e9;

/**
 * A placement without its scale, which goes into the shapes below it: everything that is said of a part then
 * is true where it is placed. What places within something scaled is shifted as much farther.
 */
function unscaled(m: Mat4, size: number): { rigid: Mat4; factor: number } {
  const s = Math.cbrt(Math.abs(determinant3(m)));
  const factor = Math.abs(s - 1) < SAME_SIZE_FACTOR ? 1 : Number(s.toPrecision(12));
  if (factor === 1 && size === 1) return { rigid: m, factor };
  const rigid = m.map((x, i) => (i < 12 ? x / factor : i < 15 ? x * size : x));
  return { rigid: rigid as unknown as Mat4, factor };
}

const countMirrored = (node: StructureNode): number =>
  (isMirrored(node.placement) ? 1 : 0) +
  (node.children ?? []).reduce((sum, child) => sum + countMirrored(child), 0);

/** Linear light to sRGB (IEC 61966-2-1), as the files mean their colours. */
function toSrgb(linear: number): number {
  const c = Math.min(1, Math.max(0, linear));
  return Math.round((c <= 0.0031308 ? 12.92 * c : 1.055 * c ** (1 / 2.4) - 0.055) * 1e4) / 1e4;
}

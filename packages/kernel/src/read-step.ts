import {
  IDENTITY,
  multiply,
  type Material,
  type Mat4,
  type ModelStructure,
  type PartDefinition,
  type StructureNode,
  type Vec3,
} from '@bathyscope/core';
import type { LoadedKernel, Occt } from './occt/load.ts';
import { exceptionText, extendedString, fatherOf, labelNode, readLocation } from './occt/memory.ts';
import { hasAny, indexedMap, explore, ShapeType } from './occt/shapes.ts';
import { ModelFileError, readStepText, type StepText } from './step-text.ts';

/** A part as read: its shape is described later, one by one, so that progress can be shown. */
export interface ReadPart {
  definition: PartDefinition;
  shape: Occt;
}

export interface ReadModel {
  text: StepText;
  structure: ModelStructure;
  parts: ReadPart[];
  warnings: string[];
  /** Edges of construction geometry that belongs to no face, occurrences counted. */
  looseEdges: number;
  /** Releases the document; the shapes of the parts are gone afterwards. */
  dispose(): void;
}

export type ReadStage = 'reading' | 'transferring';

const MATERIAL_LINK = 'efd212f7-6dfd-11d4-b9c8-0060b0ee281b';

/**
 * Reads a STEP file with its product structure. Lengths arrive in millimetres whatever the file's unit.
 * @throws ModelFileError with a sentence for the user
 */
export function readStep(
  kernel: LoadedKernel,
  bytes: Uint8Array,
  fallbackName: string,
  onStage: (s: ReadStage) => void = () => {},
): ReadModel {
  const { oc } = kernel;
  const text = readStepText(bytes);
  kernel.takeMessages();
  oc.FS.writeFile('/model.stp', bytes);
  const document = new oc.TDocStd_Document(new oc.TCollection_ExtendedString_2('XmlXCAF', true));
  const handle = new oc.Handle_TDocStd_Document_2(document);
  const reader = new oc.STEPCAFControl_Reader_1();
  const dispose = () => {
    reader.delete();
    handle.delete();
  };
  try {
    for (const mode of ['Color', 'Name', 'Mat', 'Props']) reader[`Set${mode}Mode`](true);
    onStage('reading');
    if (reader.ReadFile('/model.stp') !== oc.IFSelect_ReturnStatus.IFSelect_RetDone) throw unreadable(kernel);
    onStage('transferring');
    const progress = new oc.Message_ProgressRange_1();
    const transferred = reader.Transfer_1(handle, progress) as boolean;
    progress.delete();
    const model = new StructureReader(oc, document, text.densities).read(fallbackName);
    if (model.parts.length === 0) throw nothingToShow(text, transferred);
    return { text, ...model, warnings: [...model.warnings, ...textWarnings(text, model.dropped)], dispose };
  } catch (thrown) {
    dispose();
    if (thrown instanceof ModelFileError) throw thrown;
    throw new ModelFileError(
      'The STEP file could not be read: its geometry or structure contradicts itself. It may be damaged; export it again, if possible as AP242 or AP214.',
      exceptionText(oc, thrown),
    );
  } finally {
    oc.FS.unlink('/model.stp');
  }
}

/** The reader's own words are for programmers; of them the user gets the line. */
function unreadable(kernel: LoadedKernel): ModelFileError {
  const line = kernel
    .takeMessages()
    .map((m) => /\bline\D{0,3}(\d+)/i.exec(m)?.[1])
    .find((n) => n !== undefined);
  return new ModelFileError(
    `The STEP file could not be read${line ? `: what stands in line ${Number(line).toLocaleString('en')} is not valid STEP` : ''}. It may be damaged; export it again.`,
  );
}

function nothingToShow(text: StepText, transferred: boolean): ModelFileError {
  if (text.externalFiles.length)
    return new ModelFileError(
      `The file holds only the structure of an assembly; its parts are in other files (${text.externalFiles.slice(0, 5).join(', ')}). Export the assembly with its parts as one STEP file.`,
    );
  return new ModelFileError(
    `The STEP file ${transferred ? 'was read, but it' : ''} holds no faces or solids, so there is nothing to show. Export it again with its geometry.`.replace(
      'file  ',
      'file ',
    ),
  );
}

function textWarnings(text: StepText, dropped: number): string[] {
  const warnings: string[] = [];
  if (!text.lengthUnit) warnings.push('The file states no length unit; millimetres are assumed.');
  if (dropped)
    warnings.push(
      `${dropped} item${dropped === 1 ? '' : 's'} without faces (loose curves or points) ${dropped === 1 ? 'is' : 'are'} left out.`,
    );
  if (text.externalFiles.length)
    warnings.push(`The file refers to others that are not in it: ${text.externalFiles.slice(0, 5).join(', ')}.`);
  return warnings;
}

/** Names that a reader makes up where the file gives none. */
const MADE_UP_NAME = /^(=>\[|SOLID$|COMPOUND$|SHELL$|Open CASCADE STEP)/;

/** Walks the labels of the document once and gathers tree, parts, colours and materials. */
class StructureReader {
  private readonly oc: Occt;
  private readonly shapes: Occt;
  private readonly colours: Occt;
  private readonly main: Occt;
  private readonly materials: Map<number, Material>;
  private readonly partOfLabel = new Map<number, number>();
  private readonly parts: ReadPart[] = [];
  private dropped = 0;
  private looseEdges = 0;

  constructor(oc: Occt, document: Occt, densities: ReadonlyMap<string, number>) {
    this.oc = oc;
    this.main = document.Main();
    this.shapes = oc.XCAFDoc_DocumentTool.ShapeTool(this.main).get();
    this.colours = oc.XCAFDoc_DocumentTool.ColorTool(this.main).get();
    this.materials = this.readMaterials(densities);
  }

  read(fallbackName: string): { structure: ModelStructure; parts: ReadPart[]; warnings: string[]; dropped: number; looseEdges: number } {
    const free = new this.oc.TDF_LabelSequence_1();
    this.shapes.GetFreeShapes(free);
    const roots: StructureNode[] = [];
    for (let i = 1; i <= free.Length(); i++) {
      const node = this.readNode(free.Value(i), IDENTITY, undefined, undefined);
      if (node) roots.push(node);
    }
    free.delete();
    const root = roots.length === 1 ? roots[0] : { name: fallbackName, placement: IDENTITY, children: roots };
    if (MADE_UP_NAME.test(root.name)) root.name = fallbackName;
    const structure = { root, parts: this.parts.map((p) => p.definition) };
    const mirrored = countMirrored(root);
    const warnings = mirrored ? [`${mirrored} component${mirrored === 1 ? ' is' : 's are'} placed as a mirror image.`] : [];
    return { structure, parts: this.parts, warnings, dropped: this.dropped, looseEdges: this.looseEdges };
  }

  /** A node for a label, or null when nothing below it has a face. */
  private readNode(label: Occt, placement: Mat4, instanceName: string | undefined, colour: Vec3 | undefined): StructureNode | null {
    const tool = this.oc.XCAFDoc_ShapeTool;
    if (tool.IsReference(label)) {
      const referred = new this.oc.TDF_Label();
      tool.GetReferredShape(label, referred);
      const location = readLocation(tool.GetLocation(label));
      const own = this.nameOf(label);
      return this.readNode(referred, location ? multiply(placement, location) : placement, own, this.colourOf(label));
    }
    const name = this.nameOf(label) ?? 'Unnamed';
    const says = instanceName && !MADE_UP_NAME.test(instanceName) && instanceName !== name ? instanceName : undefined;
    const node: StructureNode = { name, placement };
    if (says) node.instanceName = says;
    if (colour) node.colour = colour;
    if (!tool.IsAssembly(label)) {
      const part = this.readPart(label, name);
      if (part === null) return null;
      return { ...node, part };
    }
    return this.readAssembly(label, node);
  }

  private readAssembly(label: Occt, node: StructureNode): StructureNode | null {
    const sequence = new this.oc.TDF_LabelSequence_1();
    this.oc.XCAFDoc_ShapeTool.GetComponents(label, sequence, false);
    const children: StructureNode[] = [];
    for (let i = 1; i <= sequence.Length(); i++) {
      const child = this.readNode(sequence.Value(i), IDENTITY, undefined, undefined);
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
      return { ...node, colour: node.colour ?? only.colour, placement: multiply(node.placement, only.placement), part: only.part };
    }
    return { ...node, children };
  }

  private readPart(label: Occt, name: string): number | null {
    const key = labelNode(this.oc, label);
    const known = this.partOfLabel.get(key);
    if (known !== undefined) return known;
    const shape = this.oc.XCAFDoc_ShapeTool.GetShape_2(label);
    if (!hasAny(this.oc, shape, ShapeType.face)) {
      this.dropped++;
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
    this.parts.push({ definition, shape });
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
      materials.set(labelNode(oc, labels.Value(i)), { name: name || 'Unnamed material', density: densities.get(name) ?? null });
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

const countMirrored = (node: StructureNode): number => {
  const m = node.placement;
  const det = m[0] * (m[5] * m[10] - m[9] * m[6]) - m[4] * (m[1] * m[10] - m[9] * m[2]) + m[8] * (m[1] * m[6] - m[5] * m[2]);
  return (det < 0 ? 1 : 0) + (node.children ?? []).reduce((sum, child) => sum + countMirrored(child), 0);
};

/** Linear light to sRGB (IEC 61966-2-1), as the files mean their colours. */
function toSrgb(linear: number): number {
  const c = Math.min(1, Math.max(0, linear));
  return Math.round((c <= 0.0031308 ? 12.92 * c : 1.055 * c ** (1 / 2.4) - 0.055) * 1e4) / 1e4;
}

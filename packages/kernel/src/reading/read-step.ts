import type { ModelStructure } from '@bathyscope/core/model';
import { MOST_LEVELS, readAssemblyText, type AssemblyText } from './assembly-text.ts';
import type { LoadedKernel } from '../occt/load.ts';
import { exceptionText } from '../occt/memory.ts';
import { StructureReader, type ReadPart } from './read-structure.ts';
import { readOperators, type OperatorText } from './step-operators.ts';
import { withoutLongComments } from './step-statements.ts';
import { ModelFileError, readStepText, type StepText } from './step-text.ts';

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

/**
 * Reads a STEP file with its product structure. Lengths arrive in millimetres whatever the file's unit.
 * @param manyUses of one product, from which on the structure is read from the text
 * @throws ModelFileError with a sentence for the user
 */
export function readStep(
  kernel: LoadedKernel,
  bytes: Uint8Array,
  fallbackName: string,
  onStage: (s: ReadStage) => void = () => {},
  manyUses?: number,
): ReadModel {
  const text = readStepText(bytes);
  kernel.takeMessages();
  const operators = readOperators(withoutLongComments(bytes));
  const assembly = readAssemblyText(operators.bytes, text.uses, manyUses);
  const read = (by: AssemblyText | null) => transferred(kernel, text, operators, by, fallbackName, onStage);
  const model = read(assembly);
  if (!model.isShared) return model;
  // Products that share a shape are not told apart alone.
  model.dispose();
  return read(null);
}

/** What the kernel makes of a text. @param assembly what of the structure is told by the text */
function transferred(
  kernel: LoadedKernel,
  text: StepText,
  operators: OperatorText,
  assembly: AssemblyText | null,
  fallbackName: string,
  onStage: (s: ReadStage) => void,
): ReadModel & { isShared: boolean } {
  const { oc } = kernel;
  oc.FS.writeFile('/model.stp', assembly?.bytes ?? operators.bytes);
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
    const isTransferred = reader.Transfer_1(handle, progress) as boolean;
    progress.delete();
    const model = new StructureReader(oc, document, text.densities, operators.placementOf).read(
      fallbackName,
      assembly,
    );
    if (model.parts.length === 0 && !model.isShared) throw nothingToShow(text, isTransferred);
    return {
      text,
      ...model,
      warnings: [
        ...model.warnings,
        ...textWarnings(text, model.dropped, operators.unread),
        ...structureWarnings(text, assembly?.levels ?? 0),
      ],
      dispose,
    };
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

function textWarnings(text: StepText, dropped: number, unread: number): string[] {
  const warnings: string[] = [];
  if (unread)
    warnings.push(
      `${unread} placement${unread === 1 ? '' : 's'} of mapped items could not be understood: what ${unread === 1 ? 'it places' : 'they place'} is put at its origin, unturned and unscaled, and may be wrong.`,
    );
  if (!text.lengthUnit) warnings.push('The file states no length unit; millimetres are assumed.');
  if (dropped)
    warnings.push(
      `${dropped} item${dropped === 1 ? '' : 's'} without faces (loose curves or points) ${dropped === 1 ? 'is' : 'are'} left out.`,
    );
  if (text.externalFiles.length)
    warnings.push(
      `The file refers to others that are not in it: ${text.externalFiles.slice(0, 5).join(', ')}.`,
    );
  return warnings;
}

function structureWarnings(text: StepText, levels: number): string[] {
  const warnings: string[] = [];
  if (levels > MOST_LEVELS)
    warnings.push(
      `The structure is ${levels.toLocaleString('en')} levels deep; what lies deeper than ${MOST_LEVELS} is shown there, without the assemblies between.`,
    );
  if (levels && text.coloursUses)
    warnings.push(
      'The file colours single uses of its parts. Of an assembly with so many only the colours of the parts themselves are read.',
    );
  return warnings;
}

import { readDensities } from './step-density.ts';

/** A file that cannot be opened, in a sentence that says what is wrong and what to do. */
export class ModelFileError extends Error {
  override name = 'ModelFileError';
}

/** What the plain text of a STEP file (ISO 10303-21) says before the kernel reads it. */
export interface StepText {
  /** Short symbol (mm, cm, m, in, ft …) or the name in the file; null when it states none. */
  lengthUnit: string | null;
  /** Application protocol from FILE_SCHEMA, such as AP214. */
  schema: string | null;
  /** Names of other files that the assembly refers to. */
  externalFiles: string[];
  /** By material name, kg/m³. */
  densities: Map<string, number>;
}

const HEADER = 'ISO-10303-21;';
const END = 'END-ISO-10303-21;';

/** Checks the frame of a STEP file and reads what its text says. @throws ModelFileError */
export function readStepText(bytes: Uint8Array): StepText {
  const text = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength).toString('latin1');
  const lines = () => text.split('\n').length;
  checkStepFrame(text.slice(0, FRAME_HEAD), text.slice(-FRAME_TAIL), lines);
  return { lengthUnit: readLengthUnit(text), schema: readSchema(text), externalFiles: readExternalFiles(text), densities: readDensities(text) };
}

/** How much of the start and the end of a file `checkStepFrame` needs. */
export const FRAME_HEAD = 4096;
export const FRAME_TAIL = 65536;

/**
 * Checks that a file begins and ends as a STEP file does; can be asked while the file still streams in.
 * @param lines counts the lines of the file, asked only for the message
 * @throws ModelFileError for an empty, foreign or truncated file
 */
export function checkStepFrame(head: string, tail: string, lines: () => number): void {
  if (head.length === 0) throw new ModelFileError('The file is empty. Export it again and upload the new file.');
  if (!head.replace(/^\ufeff|^\u00ef\u00bb\u00bf/, '').trimStart().startsWith(HEADER.slice(0, -1)))
    throw new ModelFileError(`This is not a STEP file: it does not begin with “${HEADER}”. Check that the right file was chosen, or export it as STEP.`);
  if (!tail.includes(END))
    throw new ModelFileError(`The STEP file breaks off at line ${lines().toLocaleString('en')}: its end mark “${END}” is missing. Copy or export it again and upload the whole file.`);
}

const SI_PREFIX: Record<string, string> = { KILO: 'km', CENTI: 'cm', MILLI: 'mm', MICRO: 'µm', DECI: 'dm', $: 'm' };

/** The length unit that the file's unit context (GLOBAL_UNIT_ASSIGNED_CONTEXT) names; else the first length unit there is. */
function readLengthUnit(text: string): string | null {
  const context = /GLOBAL_UNIT_ASSIGNED_CONTEXT\s*\(\s*\(([^)]*)\)/.exec(text);
  const ids = context ? context[1].match(/#\d+/g) ?? [] : [];
  for (const id of ids) {
    const entity = new RegExp(`${id}\\s*=\\s*\\(([^;]*LENGTH_UNIT[^;]*);`).exec(text);
    if (entity) return unitSymbol(entity[1]);
  }
  const any = /#\d+\s*=\s*\(([^;]*LENGTH_UNIT\s*\([^;]*);/.exec(text);
  return any ? unitSymbol(any[1]) : null;
}

function unitSymbol(entity: string): string | null {
  const conversion = /CONVERSION_BASED_UNIT\s*\(\s*'([^']*)'/.exec(entity);
  if (conversion) {
    const name = conversion[1].toLowerCase();
    if (/^inch(es)?$|^in$/.test(name)) return 'in';
    if (/^f(oo|ee)t$|^ft$/.test(name)) return 'ft';
    if (/^milli-?met(re|er)s?$|^mm$/.test(name)) return 'mm';
    if (/^centi-?met(re|er)s?$|^cm$/.test(name)) return 'cm';
    return conversion[1];
  }
  const si = /SI_UNIT\s*\(\s*(?:\.(\w+)\.|(\$))\s*,\s*\.METRE\./.exec(entity);
  return si ? SI_PREFIX[si[1] ?? si[2]] ?? null : null;
}

function readSchema(text: string): string | null {
  const schema = /FILE_SCHEMA\s*\(\s*\(\s*'([^']*)'/.exec(text.slice(0, 20000))?.[1].toUpperCase();
  if (!schema) return null;
  if (/^CONFIG(URATION)?_CONTROL/.test(schema)) return 'AP203';
  if (schema.startsWith('AUTOMOTIVE')) return 'AP214';
  const named = /AP(\d{3})/.exec(schema);
  return named ? `AP${named[1]}` : schema;
}

function readExternalFiles(text: string): string[] {
  const names = [...text.matchAll(/DOCUMENT_FILE\s*\(\s*'([^']+)'/g)].map((m) => m[1]);
  return [...new Set(names)].filter((n) => /\.\w{2,5}$/.test(n));
}

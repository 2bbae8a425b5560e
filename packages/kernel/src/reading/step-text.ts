import { UNCERTAINTY_LEAST, UNCERTAINTY_MOST } from '@bathyscope/core/tolerances';
import { DENSITY_TYPES, readDensities } from './step-density.ts';
import { HEAD, TAIL } from './readers/frame.ts';
import { parametersOf, stepStatements, type StepFacts } from './step-statements.ts';

/** A file that cannot be opened, in a sentence that says what is wrong and what to do. */
export class ModelFileError extends Error {
  override name = 'ModelFileError';
  /** What the kernel said, for the log. */
  override readonly cause?: string;

  constructor(sentence: string, cause?: string) {
    super(sentence);
    this.cause = cause;
  }
}

/** What the plain text of a STEP file (ISO 10303-21) says before the kernel reads it. */
export interface StepText {
  /** Short symbol (mm, cm, m, in, ft …) or the name in the file; null when it states none. */
  lengthUnit: string | null;
  /** mm: how well the file says it knows its lengths; null when it does not. */
  uncertainty: number | null;
  /** Application protocol from FILE_SCHEMA, such as AP214. */
  schema: string | null;
  /** Names of other files that the assembly refers to. */
  externalFiles: string[];
  /** By material name, kg/m³. */
  densities: Map<string, number>;
  /** What products hold, each use once: product definitions by their ids. */
  uses: [parent: string, child: string][];
  /** Whether single uses of parts have colours of their own. */
  coloursUses: boolean;
}

const HEADER = 'ISO-10303-21;';
const END = 'END-ISO-10303-21;';

const UNCERTAINTY = 'UNCERTAINTY_MEASURE_WITH_UNIT';

/** That one product holds another; and that such a use has a colour of its own. */
export const USE = 'NEXT_ASSEMBLY_USAGE_OCCURRENCE';
const USE_COLOURED = 'CONTEXT_DEPENDENT_OVER_RIDING_STYLED_ITEM';

/**
 * Statements that the text is asked about; complex entities, which have no type of their own, hold the units.
 */
const WANTED = new Set([
  '',
  UNCERTAINTY,
  'FILE_SCHEMA',
  'DOCUMENT_FILE',
  USE,
  USE_COLOURED,
  ...DENSITY_TYPES,
]);

/**
 * Checks the frame of a STEP file and reads what its text says, in time linear in its
 * size. @throws ModelFileError
 */
export function readStepText(bytes: Uint8Array): StepText {
  checkStepFrame(
    bytes.subarray(0, HEAD),
    bytes.subarray(Math.max(0, bytes.length - TAIL)),
    bytes.length,
    () => countLines(bytes),
  );
  const facts = gatherFacts(bytes);
  return {
    lengthUnit: readLengthUnit(facts.complex),
    uncertainty: readUncertainty(facts),
    schema: readSchema(facts),
    externalFiles: readExternalFiles(facts),
    densities: readDensities(facts),
    uses: [...facts.byType.get(USE)!.values()].map(
      (body) => parametersOf(body).slice(3, 5) as [string, string],
    ),
    coloursUses: facts.byType.get(USE_COLOURED)!.size > 0,
  };
}

function gatherFacts(bytes: Uint8Array): StepFacts {
  const byType = new Map<string, Map<string, string>>(
    [...WANTED].map((type) => [type, new Map<string, string>()]),
  );
  const complex = byType.get('')!;
  for (const { id, type, body } of stepStatements(bytes, (t) => WANTED.has(t))) {
    if (type === '' && !(body.startsWith('(') && /UNIT/i.test(body))) continue;
    byType.get(type)!.set(id || `header ${type}`, body);
  }
  return { byType, complex };
}

export function countLines(bytes: Uint8Array): number {
  let lines = 1;
  for (let at = bytes.indexOf(10); at >= 0; at = bytes.indexOf(10, at + 1)) lines++;
  return lines;
}

/**
 * Checks that a file begins and ends as a STEP file does; can be asked while the file still streams in.
 * @param lines counts the lines of the file, asked only for the message
 * @throws ModelFileError for an empty, foreign or truncated file
 */
export function checkStepFrame(
  first: Uint8Array,
  last: Uint8Array,
  length: number,
  lines: () => number,
): void {
  const [head, tail] = [first, last].map((bytes) => Buffer.from(bytes).toString('latin1'));
  if (length === 0) throw new ModelFileError('The file is empty. Export it again and upload the new file.');
  if (
    !head
      .replace(/^\ufeff|^\u00ef\u00bb\u00bf/, '')
      .trimStart()
      .startsWith(HEADER.slice(0, -1))
  )
    throw new ModelFileError(
      `This is not a STEP file: it does not begin with “${HEADER}”. Check that the right file was chosen, or export it as STEP.`,
    );
  if (!tail.includes(END))
    throw new ModelFileError(
      `The STEP file breaks off at line ${lines().toLocaleString('en')}: its end mark “${END}” is missing. Copy or export it again and upload the whole file.`,
    );
}

const SI_PREFIX: Record<string, string> = {
  KILO: 'km',
  CENTI: 'cm',
  MILLI: 'mm',
  MICRO: 'µm',
  DECI: 'dm',
  $: 'm',
};

/**
 * The length unit that the file's unit context (GLOBAL_UNIT_ASSIGNED_CONTEXT) names; else the
 * first length unit there is.
 */
function readLengthUnit(complex: ReadonlyMap<string, string>): string | null {
  const lengths = new Map([...complex].filter(([, body]) => /LENGTH_UNIT/i.test(body)));
  for (const body of complex.values()) {
    const named = /GLOBAL_UNIT_ASSIGNED_CONTEXT\s*\(\s*\(([^)]*)\)/i
      .exec(body)?.[1]
      .match(/#\d+/g)
      ?.find((id) => lengths.has(id));
    if (named) return unitSymbol(lengths.get(named)!);
  }
  const [any] = lengths.values();
  return any ? unitSymbol(any) : null;
}

export function unitSymbol(entity: string): string | null {
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
  return si ? (SI_PREFIX[si[1] ?? si[2]] ?? null) : null;
}

export const IN_MM: Record<string, number> = {
  km: 1e6,
  m: 1000,
  dm: 100,
  cm: 10,
  mm: 1,
  µm: 1 / 1000,
  in: 25.4,
  ft: 304.8,
};

/** The smallest length uncertainty of its contexts (ISO 10303-43); what cannot be one is left aside. */
function readUncertainty({ byType, complex }: StepFacts): number | null {
  const stated = [...byType.get(UNCERTAINTY)!.values()].flatMap((body) => {
    const [, value, unit] = /LENGTH_MEASURE\s*\(\s*([-+.\dE]+)\s*\)\s*,\s*(#\d+)/i.exec(body) ?? [];
    const mm = Number(value) * (IN_MM[unitSymbol(complex.get(unit) ?? '') ?? ''] ?? NaN);
    return mm >= UNCERTAINTY_LEAST && mm <= UNCERTAINTY_MOST ? [mm] : [];
  });
  return stated.length ? Math.min(...stated) : null;
}

function readSchema({ byType }: StepFacts): string | null {
  const body = byType.get('FILE_SCHEMA')!.values().next().value;
  const schema = body && /'([^']*)'/.exec(body)?.[1].toUpperCase();
  if (!schema) return null;
  if (/^CONFIG(URATION)?_CONTROL/.test(schema)) return 'AP203';
  if (schema.startsWith('AUTOMOTIVE')) return 'AP214';
  const named = /AP(\d{3})/.exec(schema);
  return named ? `AP${named[1]}` : schema.slice(0, 100);
}

function readExternalFiles({ byType }: StepFacts): string[] {
  const names = [...byType.get('DOCUMENT_FILE')!.values()].flatMap(
    (body) => /'([^']+)'/.exec(body)?.[1] ?? [],
  );
  return [...new Set(names)].filter((n) => /\.\w{2,5}$/.test(n));
}

import { convertStep } from '../convert-step.ts';
import { checkStepFrame, ModelFileError } from '../step-text.ts';
import type { Reader } from './reader.ts';

const step: Reader = {
  format: 'STEP',
  endings: ['.step', '.stp', '.p21'],
  advice: 'export the model as STEP (AP203, AP214 or AP242)',
  check: checkStepFrame,
  read: convertStep,
};

/**
 * Every format that can be opened. A new one is a reader and an entry here; uploading and
 * `bin/inspect` know none by name.
 */
export const READERS: readonly Reader[] = [step];

/** The reader for a file by its name. @throws ModelFileError naming what can be opened */
export function readerOf(fileName: string): Reader {
  const reader = READERS.find((r) => r.endings.some((ending) => fileName.toLowerCase().endsWith(ending)));
  if (reader) return reader;
  const formats = READERS.map((r) => r.format).join(' or ');
  const endings = READERS.flatMap((r) => r.endings);
  throw new ModelFileError(
    `“${fileName}” is not a ${formats} file. This version opens ${endings.slice(0, -1).join(', ')} and ${endings.at(-1)} files; ${READERS.map((r) => r.advice).join(', or ')}.`,
  );
}

/** A file's name without its ending, which names the model where the file does not. */
export function modelName(fileName: string): string {
  const ending = READERS.flatMap((r) => r.endings).find((e) => fileName.toLowerCase().endsWith(e)) ?? '';
  return fileName.slice(0, fileName.length - ending.length) || fileName;
}

export { HEAD, TAIL } from './frame.ts';
export type { Reader } from './reader.ts';

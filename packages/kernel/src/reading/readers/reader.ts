import type { ConvertedModel, ConvertHooks } from '../convert-step.ts';
import type { LoadedKernel } from '../../occt/load.ts';

/** How one format of model files is recognised and read. */
export interface Reader {
  /** As shown to the user. */
  format: string;
  /** Endings of file names, lower case, with the dot. */
  endings: readonly string[];
  /** What to do with a file of another kind, for the message that refuses it. */
  advice: string;
  /**
   * Checks how a file begins and ends; can be asked while it still streams in.
   * @param head the first `HEAD` bytes, and `tail` the last `TAIL`; fewer of a shorter file
   * @param length of the file, bytes
   * @param lines counts the lines of the file, asked only for the message
   * @throws ModelFileError for an empty, foreign or truncated file
   */
  check(head: Uint8Array, tail: Uint8Array, length: number, lines: () => number): void;
  /**
   * Reads a file and describes each of its parts once.
   * @param name used for the model where the file gives none
   * @throws ModelFileError with a sentence for the user
   */
  read(kernel: LoadedKernel, bytes: Uint8Array, name: string, hooks: ConvertHooks): ConvertedModel;
}

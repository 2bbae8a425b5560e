/** Bytes that a reader's `check` wants of the start and of the end of a file. */
export const HEAD = 4096;
export const TAIL = 65536;

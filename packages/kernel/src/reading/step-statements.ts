/*
 * The statements of an ISO 10303-21 file, found in one pass over its bytes. Strings and comments are stepped
 * over, so nothing in them is taken for a statement, and the time is linear in the size of
 * the file whatever it holds.
 */

const [HASH, QUOTE, SEMICOLON, EQUALS, SLASH, STAR] = [..."#';=/*"].map((c) => c.charCodeAt(0));
const BLANK = 32;
const isDigit = (c: number): boolean => c >= 48 && c <= 57;
const isSpace = (c: number): boolean => c === 32 || (c >= 9 && c <= 13);
const isWord = (c: number): boolean =>
  (c >= 65 && c <= 90) || (c >= 97 && c <= 122) || isDigit(c) || c === 95;

export interface StepStatement {
  /** Such as #12; empty for statements of the header. */
  id: string;
  /** Upper case; empty for a complex entity, which is several in one pair of brackets. */
  type: string;
  /** Everything behind the type up to the semicolon. */
  body: string;
  /** Where it stands in the file, bytes; without the semicolon. */
  from: number;
  to: number;
}

/**
 * Bytes. Units, contexts, names and densities are short; long complex entities are
 * rational curves and surfaces.
 */
const LONGEST = 4000;

/**
 * The statements whose type is wanted, in their order.
 * @param wanted decides by the type in upper case; complex entities have the type ''
 * @param longest bytes; longer ones are left out
 */
export function* stepStatements(
  bytes: Uint8Array,
  wanted: (type: string) => boolean,
  longest = LONGEST,
): Generator<StepStatement> {
  let at = 0;
  while (at < bytes.length) {
    at = skipBlank(bytes, at);
    const start = at;
    let id = '';
    if (bytes[at] === HASH) {
      while (isDigit(bytes[++at]));
      id = latin1(bytes, start, Math.min(at, start + 24));
      at = skipBlank(bytes, at);
      if (bytes[at] === EQUALS) at = skipBlank(bytes, at + 1);
    }
    const word = at;
    while (at < bytes.length && isWord(bytes[at])) at++;
    const type = at - word > 100 ? '?' : latin1(bytes, word, at).toUpperCase();
    const body = at;
    at = endOfStatement(bytes, at);
    if (at > start && wanted(type) && at - body <= longest)
      yield { id, type, body: latin1(bytes, body, at), from: start, to: at };
    at++;
  }
}

/** Index of the semicolon that ends a statement, or the end of the file. */
function endOfStatement(bytes: Uint8Array, from: number): number {
  for (let at = from; at < bytes.length; at++) {
    const c = bytes[at];
    if (c === SEMICOLON) return at;
    if (c === QUOTE) at = closing(bytes, QUOTE, at + 1);
    else if (c === SLASH && bytes[at + 1] === STAR) at = endOfComment(bytes, at);
  }
  return bytes.length;
}

function skipBlank(bytes: Uint8Array, from: number): number {
  let at = from;
  for (;;) {
    while (isSpace(bytes[at])) at++;
    if (bytes[at] !== SLASH || bytes[at + 1] !== STAR) return at;
    at = Math.min(endOfComment(bytes, at) + 1, bytes.length);
  }
}

/** A doubled quote within a string closes it and opens it again, which comes to the same. */
const closing = (bytes: Uint8Array, mark: number, from: number): number => {
  const at = bytes.indexOf(mark, from);
  return at < 0 ? bytes.length : at;
};

function endOfComment(bytes: Uint8Array, from: number): number {
  let at = from + 2;
  do at = closing(bytes, SLASH, at + 1);
  while (at < bytes.length && bytes[at - 1] !== STAR);
  return at;
}

const latin1 = (bytes: Uint8Array, from: number, to: number): string =>
  from === to ? '' : Buffer.from(bytes.buffer, bytes.byteOffset + from, to - from).toString('latin1');

/**
 * What stands between the outermost brackets of a statement's body, parted at its commas;
 * nothing where there are none.
 */
export function parametersOf(body: string): string[] {
  const text = body.trim();
  if (!text.startsWith('(') || !text.endsWith(')')) return [];
  const parts: string[] = [];
  let [depth, from] = [0, 1];
  for (let at = 1; at < text.length; at++) {
    const c = text[at];
    if (c === "'") {
      const end = text.indexOf("'", at + 1);
      at = end < 0 ? text.length : end;
    } else if (c === '(') depth++;
    else if (c === ')' && depth > 0) depth--;
    else if (depth === 0 && (c === ',' || c === ')')) {
      parts.push(text.slice(from, at).trim());
      from = at + 1;
    }
  }
  return parts;
}

const HEX = { X2: 4, X4: 8 } as const;

/**
 * The text of a string as it stands in a file, with its apostrophes (ISO 10303-21, 6.4.3: doubled apostrophes
 * and backslashes, \S\ and \X\ for Latin letters, \X2\ and \X4\ for all others); other bytes are UTF-8, as
 * most writers mean them.
 * @param raw one character for each byte
 * @returns '' for what is no string
 */
export function stringOf(raw: string): string {
  if (!raw.startsWith("'") || !raw.endsWith("'") || raw.length < 2) return '';
  const bytes = Buffer.from(raw.slice(1, -1), 'latin1');
  const utf8 = bytes.toString('utf8');
  const text = utf8.includes('\ufffd') ? bytes.toString('latin1') : utf8;
  const letter = (code: number): string => (code <= 0x10ffff ? String.fromCodePoint(code) : '\ufffd');
  return text.replace(
    /''|\\\\|\\P[A-I]\\|\\S\\(.)|\\X\\([0-9A-F]{2})|\\(X2|X4)\\((?:[0-9A-F]{4})*)\\X0\\/gs,
    (all, shifted?: string, byte?: string, wide?: keyof typeof HEX, digits?: string) => {
      if (shifted !== undefined) return letter(shifted.charCodeAt(0) + 128);
      if (byte !== undefined) return letter(parseInt(byte, 16));
      if (wide === undefined) return all === "''" ? "'" : all === '\\\\' ? '\\' : '';
      const codes = digits!.match(new RegExp(`.{${HEX[wide]}}`, 'g')) ?? [];
      return wide === 'X2'
        ? String.fromCharCode(...codes.map((hex) => parseInt(hex, 16)))
        : codes.map((hex) => letter(parseInt(hex, 16))).join('');
    },
  );
}

/** Bytes of a comment that the kernel's scanner takes in any case. */
const SHORT_COMMENT = 1000;

/** Whether something may be a long comment; it may stand in a string as well. */
function mayHoldLongComment(bytes: Uint8Array): boolean {
  const buffer = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let at = buffer.indexOf('/*'); at >= 0;) {
    const end = buffer.indexOf('*/', at + 2);
    if (end < 0 || end - at > SHORT_COMMENT) return true;
    at = buffer.indexOf('/*', end + 2);
  }
  return false;
}

/**
 * A copy of a file with its comments blanked, line breaks kept; the same bytes where there is no long one.
 * The kernel's scanner gives up at a comment of some kilobytes.
 */
export function withoutLongComments(bytes: Uint8Array): Uint8Array {
  if (!mayHoldLongComment(bytes)) return bytes;
  const copy = bytes.slice();
  for (let at = 0; at < copy.length; at++) {
    if (copy[at] === QUOTE) at = closing(copy, QUOTE, at + 1);
    else if (copy[at] === SLASH && copy[at + 1] === STAR) {
      const end = Math.min(endOfComment(copy, at), copy.length - 1);
      for (let i = at; i <= end; i++) if (!isSpace(copy[i])) copy[i] = BLANK;
      at = end;
    }
  }
  return copy;
}

/** The statements of interest of a file. */
export interface StepFacts {
  /** Bodies by type and id. */
  byType: ReadonlyMap<string, ReadonlyMap<string, string>>;
  /** Bodies of complex entities by id. */
  complex: ReadonlyMap<string, string>;
}

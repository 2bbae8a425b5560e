/** What a route takes of a body. */
export interface BodyLimits {
  /** When it is unpacked. */
  bytes: number;
  /** Numbers, texts, lists, objects and all else, at any depth. */
  values: number;
  /** Of these, what has a name in an object: making those costs the most. */
  named: number;
}

/** Brackets within brackets; what the interface sends has a dozen at most. */
const DEEPEST = 100;
const [QUOTE, ESCAPE, COMMA, COLON, OPEN_LIST, OPEN_OBJECT, CLOSE_LIST, CLOSE_OBJECT, U] = [
  ...'"\\,:[{]}u',
].map((c) => c.charCodeAt(0));

/**
 * Looks once through the bytes of a body before anything is made of it: whatever walks it later finds no more
 * than a route takes.
 * @throws an error with a `type` that the problem filter knows
 */
export function checkJson(body: Buffer, encoding: string, most: BodyLimits): void {
  // Of others these bytes would say nothing.
  if (encoding !== 'utf-8') throw refusal('charset.unsupported');
  let [depth, values, named] = [0, 1, 0];
  let escape = nextOf(ESCAPE, body, 0);
  for (let i = 0; i < body.length; i++) {
    const c = body[i];
    if (c === QUOTE) {
      const end = nextOf(QUOTE, body, i + 1);
      if (escape < i) escape = nextOf(ESCAPE, body, i);
      i = escape < end ? endOfText(body, i + 1) : end;
    } else if (c === COMMA) values++;
    else if (c === COLON) named++;
    else if (c === OPEN_LIST || c === OPEN_OBJECT) {
      values++;
      if (++depth > DEEPEST) throw refusal('body.too.deep');
    } else if (c === CLOSE_LIST || c === CLOSE_OBJECT) depth--;
    if (values > most.values) throw refusal('body.too.many', { most: `${most.values} values` });
    if (named > most.named) throw refusal('body.too.many', { most: `${most.named} values with a name` });
  }
}

function nextOf(byte: number, body: Buffer, from: number): number {
  const at = body.indexOf(byte, from);
  return at < 0 ? body.length : at;
}

/**
 * Where a text ends that has escapes; NUL and halves of surrogate pairs are no text, and nothing that
 * PostgreSQL stores.
 */
function endOfText(body: Buffer, from: number): number {
  /** Whether the first half of a pair stood just before. */
  let half = false;
  for (let i = from; i < body.length; i++) {
    const c = body[i];
    if (c === ESCAPE && body[i + 1] === U) {
      const code =
        (hex(body[i + 2]) << 12) | (hex(body[i + 3]) << 8) | (hex(body[i + 4]) << 4) | hex(body[i + 5]);
      const isSecond = code >= 0xdc00 && code <= 0xdfff;
      if (code === 0 || half !== isSecond) throw refusal('body.unstorable');
      half = code >= 0xd800 && code <= 0xdbff;
      i += 5;
      continue;
    }
    if (half) throw refusal('body.unstorable');
    if (c === ESCAPE) i++;
    else if (c === QUOTE) return i;
  }
  return body.length;
}

/** Of a digit of a hexadecimal number; of what is none the parser tells later. */
const hex = (byte: number): number => (byte <= 57 ? byte - 48 : (byte | 32) - 87);

const refusal = (type: string, more: object = {}): Error => Object.assign(new Error(type), { type, ...more });

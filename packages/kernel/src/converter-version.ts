import { createHash } from 'node:crypto';
import fs from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

/* What determines the result of a conversion, as a version: nobody has to remember to raise it. */

const here = path.dirname(fileURLToPath(import.meta.url));
/** As built, or the sources in a test. */
const ending = path.extname(fileURLToPath(import.meta.url));
const beside = (name: string): string => path.join(here, `../../${name}/${path.basename(here)}`);

/** What reads and describes models, and what stores their geometry. */
const ENTRIES = [
  path.join(here, `reading/readers/index${ending}`),
  path.join(here, `occt/load${ending}`),
  path.join(beside('contracts'), `geometry-container${ending}`),
];
/** Before the folders of the core. */
const CORE = '@bathyscope/core/';

/** Found by its name as it starts, and by nobody's import. */
const KERNEL = '@bitbybit-dev/occt/bitbybit-dev-occt/bitbybit-dev-occt.js';

let known: string | undefined;

/**
 * Part of every geometry's identity, and kept with each revision: a model of another
 * version is converted again.
 */
export const converterVersion = (): string =>
  (known ??= versionOf(filesOf(ENTRIES).set(KERNEL, packageVersion(KERNEL, ENTRIES[0]))));

function versionOf(files: ReadonlyMap<string, string>): string {
  const hash = createHash('sha256');
  for (const [name, text] of [...files].sort(([a], [b]) => (a < b ? -1 : 1)))
    hash.update(name).update('\0').update(text).update('\0');
  return hash.digest('hex').slice(0, 24);
}

/** Comments change nothing. */
const bare = (text: string): string =>
  text
    .replace(/\/\*[\s\S]*?\*\/|^\s*\/\/.*$/gm, '')
    .replace(/\s+/g, ' ')
    .trim();

/**
 * All that is reached from some files: their own text, and of packages the version. Of the core, which many
 * things use, what is imported by name.
 */
export function filesOf(
  entries: readonly string[],
  read = (file: string): string => fs.readFileSync(file, 'utf8'),
): Map<string, string> {
  const found = new Map<string, string>();
  const waiting = [...entries];
  const fronts = new Map<string, Front>();
  const fileOfCore = (folder: string, name: string): string | undefined => {
    const whole = path.join(beside('core'), folder);
    if (!fs.existsSync(whole)) return whole + ending;
    const front = fronts.get(folder) ?? new Front(path.join(whole, `index${ending}`), read);
    fronts.set(folder, front);
    return front.fileOf(name);
  };
  for (let file = waiting.pop(); file !== undefined; file = waiting.pop()) {
    const name = path.relative(path.join(here, '../..'), file);
    if (found.has(name)) continue;
    const text = read(file);
    found.set(name, bare(text));
    for (const { names, from } of importsOf(text)) {
      if (from.startsWith('.')) waiting.push(path.join(path.dirname(file), from));
      else if (from.startsWith(CORE))
        waiting.push(...names.flatMap((n) => fileOfCore(from.slice(CORE.length), n) ?? []));
      else if (!from.startsWith('node:') && !from.startsWith('@bathyscope/'))
        found.set(from, packageVersion(from, file));
    }
  }
  return found;
}

/** Imports and exports of other files that are more than types. */
function importsOf(text: string): { names: string[]; from: string }[] {
  const pattern = /^\s*(?:import|export)\s+(?!type\b)([\s\S]*?)\s*from\s*['"]([^'"]+)['"]/gm;
  return [...text.matchAll(pattern)].map(([, what, from]) => ({ names: namesIn(what), from }));
}

const namesIn = (what: string): string[] =>
  (/\{([\s\S]*)\}/.exec(what)?.[1] ?? '')
    .split(',')
    .map((n) => n.trim())
    .filter((n) => n && !n.startsWith('type '))
    .map((n) => n.split(/\s+as\s+/)[0]);

/** Where each name of a folder's front comes from. */
class Front {
  private readonly named = new Map<string, string>();
  private readonly wholes: { file: string; text: string }[] = [];

  constructor(front: string, read: (file: string) => string) {
    const text = read(front);
    for (const [, what, from] of text.matchAll(
      /^\s*export\s+(?!type\b)(\*|\{[\s\S]*?\})\s*from\s*['"]([^'"]+)['"]/gm,
    )) {
      const file = path.join(path.dirname(front), from);
      if (what === '*') this.wholes.push({ file, text: read(file) });
      else for (const name of namesIn(what)) this.named.set(name, file);
    }
  }

  /** Undefined of types, which are gone when a program runs. */
  fileOf(name: string): string | undefined {
    const declared = new RegExp(
      `export (?:async )?(?:function|const|class|let)\\*? ${name.replace(/\$/g, '\\$')}\\b`,
    );
    return this.named.get(name) ?? this.wholes.find(({ text }) => declared.test(text))?.file;
  }
}

function packageVersion(name: string, from: string): string {
  for (
    let folder = path.dirname(createRequire(from).resolve(name));
    folder !== path.dirname(folder);
    folder = path.dirname(folder)
  ) {
    const file = path.join(folder, 'package.json');
    const { version } = fs.existsSync(file)
      ? (JSON.parse(fs.readFileSync(file, 'utf8')) as { version?: string })
      : {};
    if (version) return version;
  }
  return '';
}

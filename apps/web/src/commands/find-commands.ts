import type { Command } from './command.ts';
import { COMMANDS } from './registry.ts';

/** Both spellings of the trade's words are one. */
const SPELLINGS: readonly (readonly [RegExp, string])[] = [
  [/color/g, 'colour'],
  [/center/g, 'centre'],
  [/gray/g, 'grey'],
  [/meter\b/g, 'metre'],
  [/alumin(i?)um/g, 'aluminium'],
  [/ize\b/g, 'ise'],
  [/izing\b/g, 'ising'],
];

/** Text in small letters and one spelling. */
export const plain = (text: string): string =>
  SPELLINGS.reduce((t, [from, to]) => t.replace(from, to), text.trim().toLowerCase().replace(/\s+/g, ' '));

const wordsOf = (text: string): string[] => text.split(/[^\p{L}\p{N}]+/u).filter(Boolean);

export interface FoundCommand {
  command: Command;
  /**
   * 0 the name itself, 1 a name that starts so, 2 another word for it, 3 a name with words that start so, 4
   * one whose other words mention them.
   */
  rank: number;
  /** The other word that it was found by; null where its name tells. */
  by: string | null;
}

/**
 * Commands whose name or search words hold a word that starts like each word of the text, best first. “angle”
 * is a word of its own, not the end of “triangle”. Without a text all, as they are listed.
 */
export function findCommands(text: string): FoundCommand[] {
  const wanted = plain(text);
  const words = wordsOf(wanted);
  const holds = (all: readonly string[]) => words.every((w) => all.some((word) => word.startsWith(w)));
  const found = COMMANDS.flatMap((command): FoundCommand[] => {
    const name = plain(command.name);
    const others = command.searchWords.map(plain);
    const as = (rank: number, by: string | null = null) => [{ command, rank, by }];
    if (!words.length || name === wanted) return as(0);
    if (name.startsWith(wanted)) return as(1);
    const same = others.indexOf(wanted);
    if (same >= 0) return as(2, command.searchWords[same]);
    const named = wordsOf(name);
    if (holds(named)) return as(3);
    if (!holds([...named, ...others.flatMap(wordsOf)])) return [];
    const by = others.findIndex((other) =>
      wordsOf(other).some((word) => words.some((w) => word.startsWith(w))),
    );
    return as(4, command.searchWords[by] ?? null);
  });
  // Of names that start so those with the very word, then the shortest is what is meant.
  const part = ({ command, rank }: FoundCommand) =>
    rank === 1 && !plain(command.name).startsWith(`${wanted} `) ? 1 : 0;
  const length = ({ command, rank }: FoundCommand) => (rank === 1 ? command.name.length : 0);
  return words.length
    ? found.sort((a, b) => a.rank - b.rank || part(a) - part(b) || length(a) - length(b))
    : found;
}

/** What the trade asks for and is not there, and the command that comes nearest. */
interface Absent {
  words: readonly string[];
  say: string;
  nearest: string;
}

const ABSENT: readonly Absent[] = [
  {
    words: ['explode', 'exploded view', 'explosion'],
    say: 'There are no exploded views yet.',
    nearest: 'ghost-others',
  },
  {
    words: ['note', 'annotation', 'annotate', 'markup', 'comment', 'remark', 'redline'],
    say: 'Notes cannot be pinned to the model yet. A saved view carries a name.',
    nearest: 'save-view',
  },
  {
    words: ['thread', 'tap', 'screw thread'],
    say: 'Threads are not told apart from plain holes yet.',
    nearest: 'holes',
  },
  {
    words: ['draft', 'draft angle', 'undercut', 'mould'],
    say: 'Draft is not looked for yet. Two faces picked tell their angle.',
    nearest: 'wall',
  },
  {
    words: ['language', 'translate', 'german', 'french', 'spanish', 'chinese'],
    say: 'The program speaks English only.',
    nearest: 'settings',
  },
  {
    words: ['delete', 'delete part', 'remove part', 'erase'],
    say: 'Parts cannot be deleted: the model never changes.',
    nearest: 'hide',
  },
  {
    words: ['move part', 'drag part', 'rotate part', 'edit', 'sketch', 'extrude'],
    say: 'The model cannot be changed here.',
    nearest: 'settings',
  },
  {
    words: ['curvature', 'zebra'],
    say: 'Curvature is not drawn yet. A round face that is picked tells its radius.',
    nearest: 'measure',
  },
  {
    words: ['compare', 'difference', 'revision'],
    say: 'Two models cannot be compared yet.',
    nearest: 'panel',
  },
];

/** A line on what does not exist, and the command nearest to it; null for anything else. */
export function absentFor(text: string): { say: string; nearest: Command } | null {
  const wanted = plain(text);
  if (wanted.length < 3) return null;
  const found = ABSENT.find(({ words }) =>
    words.some((w) => w.startsWith(wanted) || wanted.startsWith(`${w} `) || wanted === `${w}s`),
  );
  const nearest = found && COMMANDS.find((c) => c.id === found.nearest);
  return nearest ? { say: found.say, nearest } : null;
}

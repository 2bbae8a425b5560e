import { messageOf } from '@bathyscope/core/tables';
import type { ClashCheck, Questions } from '@bathyscope/contracts';
import type { Fact, PickFacts } from '@bathyscope/core/facts';
import {
  NO_INTERFERENCES,
  type InterferenceState,
  type FoundInterference,
} from '../../state/interference-store.ts';
import type { Picked } from '../../state/selection-store.ts';
import { acceptedClash, type AcceptedClash } from '@bathyscope/contracts/records';
import type { Of } from '../../state/record-store.ts';
import { kept } from '../keeping/records.ts';
import { distanceFacts } from './figures.ts';
import { resolve } from './references.ts';
import type { Workspace } from '../workspace.ts';

/* How components stand to each other. */

/** ms between looks at how far a check is. */
const LOOKS = 500;

type Pair = Questions['interference']['asked']['pairs'][number];

/**
 * Finds what clashes and touches among components; of some of them, with all others that are given. The
 * server does, whether or not anybody looks; what it found before is given again.
 * @param of in words, what is checked @param among paths @param some paths, or null for all
 */
export async function checkInterferences(
  ws: Workspace,
  of: string,
  among: readonly string[],
  some: readonly string[] | null,
): Promise<void> {
  const all = among.length === ws.model.getState().components.length;
  await follow(ws, { ...NO_INTERFERENCES, of }, () => ws.source.checks.ask(of, all ? null : among, some));
}

/** Takes up the last check of this model, which may be running still. */
export async function resumeInterferences(ws: Workspace): Promise<void> {
  if (ws.interference.getState().of !== null) return;
  const last = await ws.source.checks.newest().catch(() => null);
  if (last && ws.interference.getState().of === null)
    await follow(ws, { ...NO_INTERFERENCES, of: last.about }, async () => last);
}

/** Follows a check to its end, or until another one begins. */
async function follow(
  ws: Workspace,
  from: InterferenceState,
  begin: () => Promise<ClashCheck>,
): Promise<void> {
  const run: NonNullable<Workspace['players']['interferenceRun']> = { check: null };
  ws.players.interferenceRun = run;
  ws.interference.setState({ ...from, running: true });
  const isMine = () => ws.players.interferenceRun === run;
  try {
    for (let check = await begin(); isMine(); check = await ws.source.checks.find(check)) {
      run.check = check;
      ws.interference.setState({
        ofAll: check.ofAll,
        pairs: check.pairs ?? 0,
        done: check.done,
        found: [...check.found].sort((p, q) => depthOf(q) - depthOf(p)),
        running: check.state === 'running',
      });
      if (check.state === 'done') ws.players.interferenceRun = null;
      else await new Promise((again) => setTimeout(again, LOOKS));
    }
  } catch (error) {
    if (isMine()) ws.interference.setState({ error: messageOf(error) });
  } finally {
    if (isMine()) leaveInterferences(ws);
  }
}

/** Ends a check; what it has found stays in view. @returns false when none was running */
export function stopInterferences(ws: Workspace): boolean {
  const check = ws.players.interferenceRun?.check;
  if (check) void ws.source.checks.stop(check).catch(() => {});
  return leaveInterferences(ws);
}

/** No longer follows a check, which goes on. */
export function leaveInterferences(ws: Workspace): boolean {
  const { running } = ws.interference.getState();
  ws.players.interferenceRun = null;
  if (running) ws.interference.setState({ running: false });
  return running;
}

/** mm: of what does not clash nothing; what is not known comes last. */
const depthOf = (f: FoundInterference): number => ('failed' in f ? -1 : (f.clash?.depth ?? 0));

/** Whether a clash was said to be meant so, in this revision or an earlier one, whichever way round. */
export function acceptedOf(ws: Workspace, { a, b }: Pair): Of<AcceptedClash> | undefined {
  const leadsTo = (reference: AcceptedClash['a']) => {
    const found = resolve(ws, reference);
    return found.status === 'lost' ? null : found.component;
  };
  return kept(ws, acceptedClash).find((accepted) => {
    const ends = [leadsTo(accepted.a), leadsTo(accepted.b)];
    return ends.includes(a) && ends.includes(b);
  });
}

/** The figures of two components: their gap, or that they touch, or what they share. */
export function interferenceFacts(found: Exclude<FoundInterference, { failed: string }>): PickFacts {
  const accuracy: PickFacts['accuracy'] =
    found.accuracy.kind === 'exact' ? { kind: 'exact' } : { kind: 'chords', within: found.accuracy.within };
  const { clash, relation, from } = found;
  if (clash)
    return {
      title: 'Clash, depth',
      // A ball of this size fits; a larger one was not found.
      main: {
        label: 'Depth',
        value: { kind: 'length', value: clash.depth },
        note: 'of the largest ball found in it',
      },
      rows: [
        { label: 'Volume in common', value: { kind: 'volume', value: clash.volume } },
        ...(clash.within
          ? [{ label: '– within', value: { kind: 'volume' as const, value: clash.within } }]
          : []),
        { label: 'Thickest at', value: { kind: 'point', value: from } },
      ],
      accuracy,
    };
  const gap: Fact = { label: 'Gap', value: { kind: 'length', value: found.distance } };
  if (relation === 'contact')
    return {
      title: 'Contact',
      main: gap,
      rows: [{ label: 'Touch at', value: { kind: 'point', value: from } }],
      accuracy,
    };
  return { ...distanceFacts(found, accuracy), title: 'Gap', main: gap };
}

/** Whether picked things are whole components or bodies of them, whose interference can be asked for. */
export const areWhole = (ws: Workspace, items: readonly Picked[]): boolean =>
  items.every(
    (i) =>
      (i.kind === 'component' || i.kind === 'body') &&
      ws.model.getState().byPath.get(i.component)?.part !== undefined,
  );

/** Two of them as they are asked for. */
export const interferencePair = ([a, b]: readonly Picked[]): Pair => ({
  a: a.component,
  b: b.component,
  ...(a.kind === 'body' && { bodyOfA: a.index }),
  ...(b.kind === 'body' && { bodyOfB: b.index }),
});

import { messageOf } from '@bathyscope/core';
import type { ClashCheck, Questions } from '@bathyscope/contracts';
import type { Fact, PickFacts } from '@bathyscope/core';
import { NO_FITS, type FitState, type FoundFit } from '../state/fit-store.ts';
import type { Picked } from '../state/selection-store.ts';
import { acceptedClash, type AcceptedClash } from '@bathyscope/contracts/records';
import type { Of } from '../state/record-store.ts';
import { kept } from './records.ts';
import { distanceFacts } from './figures.ts';
import { resolve } from './references.ts';
import type { Workspace } from './workspace.ts';

/* How components stand to each other. */

/** ms between looks at how far a check is. */
const LOOKS = 500;

type Pair = Questions['fit']['asked']['pairs'][number];

/**
 * Finds what clashes and touches among components; of some of them, with all others that are given. The server does, whether or not
 * anybody looks; what it found before is given again.
 * @param of in words, what is checked @param among paths @param some paths, or null for all
 */
export async function checkFits(ws: Workspace, of: string, among: readonly string[], some: readonly string[] | null): Promise<void> {
  const all = among.length === ws.model.getState().components.length;
  await follow(ws, { ...NO_FITS, of }, () => ws.source.checks.ask(of, all ? null : among, some));
}

/** Takes up the last check of this model, which may be running still. */
export async function resumeFits(ws: Workspace): Promise<void> {
  if (ws.fit.getState().of !== null) return;
  const last = await ws.source.checks.newest().catch(() => null);
  if (last && ws.fit.getState().of === null) await follow(ws, { ...NO_FITS, of: last.about }, async () => last);
}

/** Follows a check to its end, or until another one begins. */
async function follow(ws: Workspace, from: FitState, begin: () => Promise<ClashCheck>): Promise<void> {
  const run: NonNullable<Workspace['players']['fitRun']> = { check: null };
  ws.players.fitRun = run;
  ws.fit.setState({ ...from, running: true });
  const isMine = () => ws.players.fitRun === run;
  try {
    for (let check = await begin(); isMine(); check = await ws.source.checks.find(check)) {
      run.check = check;
      ws.fit.setState({
        ofAll: check.ofAll,
        pairs: check.pairs ?? 0,
        done: check.done,
        found: [...check.found].sort((p, q) => depthOf(q) - depthOf(p)),
        running: check.state === 'running',
      });
      if (check.state === 'done') ws.players.fitRun = null;
      else await new Promise((again) => setTimeout(again, LOOKS));
    }
  } catch (error) {
    if (isMine()) ws.fit.setState({ error: messageOf(error) });
  } finally {
    if (isMine()) leaveFits(ws);
  }
}

/** Ends a check; what it has found stays in view. @returns false when none was running */
export function stopFits(ws: Workspace): boolean {
  const check = ws.players.fitRun?.check;
  if (check) void ws.source.checks.stop(check).catch(() => {});
  return leaveFits(ws);
}

/** No longer follows a check, which goes on. */
export function leaveFits(ws: Workspace): boolean {
  const { running } = ws.fit.getState();
  ws.players.fitRun = null;
  if (running) ws.fit.setState({ running: false });
  return running;
}

/** mm: of what does not clash nothing; what is not known comes last. */
const depthOf = (f: FoundFit): number => ('failed' in f ? -1 : (f.clash?.depth ?? 0));

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
export function fitFacts(fit: Exclude<FoundFit, { failed: string }>): PickFacts {
  const accuracy: PickFacts['accuracy'] =
    fit.accuracy.kind === 'exact' ? { kind: 'exact' } : { kind: 'chords', within: fit.accuracy.within };
  const { clash, relation, from } = fit;
  if (clash)
    return {
      title: 'Clash, depth',
      // A ball of this size fits; a larger one was not found.
      main: { label: 'Depth', value: { kind: 'length', value: clash.depth }, note: 'of the largest ball found in it' },
      rows: [
        { label: 'Volume in common', value: { kind: 'volume', value: clash.volume } },
        ...(clash.within ? [{ label: '– within', value: { kind: 'volume' as const, value: clash.within } }] : []),
        { label: 'Thickest at', value: { kind: 'point', value: from } },
      ],
      accuracy,
    };
  const gap: Fact = { label: 'Gap', value: { kind: 'length', value: fit.distance } };
  if (relation === 'contact')
    return { title: 'Contact', main: gap, rows: [{ label: 'Touch at', value: { kind: 'point', value: from } }], accuracy };
  return { ...distanceFacts(fit, accuracy), title: 'Gap', main: gap };
}

/** Whether picked things are whole components or bodies of them, whose fit can be asked for. */
export const areWhole = (ws: Workspace, items: readonly Picked[]): boolean =>
  items.every((i) => (i.kind === 'component' || i.kind === 'body') && ws.model.getState().byPath.get(i.component)?.part !== undefined);

/** Two of them as they are asked for. */
export const fitPair = ([a, b]: readonly Picked[]): Pair => ({
  a: a.component,
  b: b.component,
  ...(a.kind === 'body' && { bodyOfA: a.index }),
  ...(b.kind === 'body' && { bodyOfB: b.index }),
});

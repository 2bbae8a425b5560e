import type { Questions } from '@bathyscope/contracts';
import { boxPairs, transformBox, type Fact, type PickFacts } from '@bathyscope/core';
import { NO_FITS, type FoundFit } from '../state/fit-store.ts';
import type { Picked } from '../state/selection-store.ts';
import type { AcceptedFit } from '../state/preference-store.ts';
import type { Component } from '../state/model-store.ts';
import { distanceFacts } from './figures.ts';
import { resolve } from './references.ts';
import type { Workspace } from './workspace.ts';

/* How components stand to each other. */

/** Pairs asked at once: few, so that a check ends soon after it is stopped, and what is measured meanwhile goes first. */
const AT_ONCE = 4;

type Pair = Questions['fit']['asked']['pairs'][number];

/**
 * Finds what clashes and touches among components; of some of them, with all others that are given.
 * @param of in words, what is checked @param among paths @param some paths, or null for all
 */
export async function checkFits(ws: Workspace, of: string, among: readonly string[], some: readonly string[] | null): Promise<void> {
  stopFits(ws);
  const run = {};
  ws.players.fitRun = run;
  const pairs = pairsAmong(ws, among, some);
  ws.fit.setState({ ...NO_FITS, of, pairs: pairs.length, running: true });
  try {
    for (let i = 0; i < pairs.length && ws.players.fitRun === run; i += AT_ONCE) {
      const found = await askFits(ws, pairs.slice(i, i + AT_ONCE));
      if (ws.players.fitRun !== run) return;
      ws.fit.setState((s) => ({
        done: Math.min(pairs.length, i + AT_ONCE),
        found: [...s.found, ...found.filter((f) => 'failed' in f || f.relation !== 'gap')].sort((p, q) => depthOf(q) - depthOf(p)),
      }));
    }
  } catch (error) {
    if (ws.players.fitRun === run) ws.fit.setState({ error: error instanceof Error ? error.message : String(error) });
  } finally {
    if (ws.players.fitRun === run) stopFits(ws);
  }
}

/** Ends a check; what it has found stays. @returns false when none was running */
export function stopFits(ws: Workspace): boolean {
  const { running } = ws.fit.getState();
  ws.players.fitRun = null;
  if (running) ws.fit.setState({ running: false });
  return running;
}

/** mm: of what does not clash nothing; what is not known comes last. */
const depthOf = (f: FoundFit): number => ('failed' in f ? -1 : (f.clash?.depth ?? 0));

function pairsAmong(ws: Workspace, among: readonly string[], some: readonly string[] | null): Pair[] {
  const { byPath, parts } = ws.model.getState();
  const components = among.map((path) => byPath.get(path) as Component);
  const boxes = components.map(({ part, placement }) => transformBox(placement, parts.get(part)!.geometry.box));
  const wanted = some && new Set(some);
  return boxPairs(boxes)
    .map(([i, j]) => ({ a: components[i].path, b: components[j].path }))
    .filter(({ a, b }) => !wanted || wanted.has(a) || wanted.has(b));
}

/** What the kernel gives up is answered by the meshes. */
async function askFits(ws: Workspace, pairs: Pair[]): Promise<FoundFit[]> {
  const found = await ws.source.ask('fit', { pairs, how: 'quick' });
  const failed = found.filter((f) => 'failed' in f).map(({ a, b }) => ({ a, b }));
  if (!failed.length) return found;
  const byMesh = await ws.source.ask('fit', { pairs: failed, how: 'mesh' });
  return found.map((f) => ('failed' in f ? (byMesh.find((m) => m.a === f.a && m.b === f.b) ?? f) : f));
}

/** Whether a clash was said to be meant so, in this revision or an earlier one, whichever way round. */
export function acceptedOf(ws: Workspace, { a, b }: Pair): AcceptedFit | undefined {
  const leadsTo = (reference: AcceptedFit['a']) => {
    const found = resolve(ws, reference);
    return found.status === 'lost' ? null : found.component;
  };
  return ws.preference.getState().accepted.find((kept) => {
    const ends = [leadsTo(kept.a), leadsTo(kept.b)];
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
      main: { label: 'Depth', value: { kind: 'length', value: clash.depth } },
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

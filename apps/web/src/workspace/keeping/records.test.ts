import type { KeptRecord } from '@bathyscope/contracts';
import { componentName, ledgerEntry, partMaterial, pickSet } from '@bathyscope/contracts/records';
import { FIXTURE } from '../../testing/test-workspace.ts';
import {
  overwriteView,
  renameView,
  saveView,
  savedViews,
  viewInSlot,
} from '../../commands/keep/saved-views.ts';
import { createProfileState } from '../../state/settings-store.ts';
import { createWorkspace } from '../create-workspace.ts';
import { fixtureSource } from '../source/fixture-source.ts';
import { keepRecords, loadRecords, sendLeftovers } from './keep-records.ts';
import { memoryRecords } from '../source/memory-records.ts';
import { added, changed, changeRecords, given, kept, keptAt, moved, removed } from './records.ts';
import type { RecordStore } from '../source/source.ts';
import type { Workspace } from '../workspace.ts';

/* Several pages on one model: each has a workspace of its own, and they meet where records are stored. */

let stored: RecordStore;
let away: boolean;
const closes: (() => void)[] = [];
beforeEach(() => {
  jest.useFakeTimers();
  away = false;
  said = [];
  const memory = memoryRecords();
  const reach = <A extends unknown[], R>(call: (...args: A) => Promise<R>) => (...args: A) => away ? Promise.reject(new Error('away')) : call(...args); // prettier-ignore
  stored = { ...memory, list: reach(memory.list), change: reach(memory.change) };
});
afterEach(() => {
  closes.splice(0).forEach((close) => close());
  jest.useRealTimers();
});

const settled = () => jest.advanceTimersByTimeAsync(500);
/** Whether pages say that something is not saved, newest last. */
let said: boolean[];
async function page(outbox?: Workspace['source']['outbox']): Promise<Workspace> {
  const source = fixtureSource(FIXTURE, undefined, undefined, undefined, stored);
  const ws = createWorkspace({ ...source, ...(outbox && { outbox }) }, createProfileState());
  ws.records.setState(await loadRecords(ws.source));
  const keeping = keepRecords(ws, () => said.push(keeping.failing()));
  closes.push(keeping.close);
  return ws;
}
const names = (ws: Workspace) => kept(ws, pickSet).map((set) => set.name);
const keepSet = (ws: Workspace, name: string) =>
  changeRecords(ws, `keep “${name}”`, [added(ws, pickSet, { name, items: [] })]);
const rename = (ws: Workspace, from: string, to: string) => {
  const set = kept(ws, pickSet).find((s) => s.name === from)!;
  changeRecords(ws, `name of “${to}”`, [changed(ws, pickSet, set, { name: to })]);
};
const undo = (ws: Workspace) => ws.history.getState().undo();

test('what one page keeps the others have, and undo takes back one’s own alone', async () => {
  const [ann, ben] = [await page(), await page()];
  keepSet(ann, 'Ann’s');
  keepSet(ben, 'Ben’s');
  await settled();
  expect([names(ann).sort(), names(ben).sort()]).toEqual([
    ['Ann’s', 'Ben’s'],
    ['Ann’s', 'Ben’s'],
  ]);
  undo(ben);
  await settled();
  expect([names(ann), names(ben)]).toEqual([['Ann’s'], ['Ann’s']]);
  ben.history.getState().redo();
  undo(ann);
  await settled();
  expect([names(ann), names(ben)]).toEqual([['Ben’s'], ['Ben’s']]);
});

test('what someone else has changed since stays when it is undone; what lies beside it goes back', async () => {
  const [ann, ben] = [await page(), await page()];
  keepSet(ann, 'Bores');
  await settled();
  rename(ann, 'Bores', 'Holes');
  await settled();
  rename(ben, 'Holes', 'Ben’s holes');
  await settled();
  // Nothing of it is said to be undone.
  expect([undo(ann), undo(ann)]).toEqual([null, null]);
  await settled();
  expect([names(ann), names(ben)]).toEqual([['Ben’s holes'], ['Ben’s holes']]);
  // Ann moves what Ben renamed: each takes back what is theirs.
  keepSet(ann, 'Second');
  await settled();
  const first = kept(ann, pickSet)[0];
  changeRecords(ann, 'order', [moved(ann, pickSet, first, 1)]);
  await settled();
  expect(names(ben)).toEqual(['Second', 'Ben’s holes']);
  undo(ben);
  undo(ann);
  await settled();
  expect([names(ann), names(ben)]).toEqual([
    ['Holes', 'Second'],
    ['Holes', 'Second'],
  ]);
});

test('an undo that meets a change it has not heard of leaves that', async () => {
  const [ann, ben] = [await page(), await page()];
  keepSet(ann, 'Bores');
  await settled();
  rename(ann, 'Bores', 'Holes');
  await settled();
  rename(ben, 'Holes', 'Ben’s');
  undo(ann);
  await settled();
  expect([names(ann), names(ben)]).toEqual([['Ben’s'], ['Ben’s']]);
});

test('so with the place in the list: an undo leaves where someone else has just put it', async () => {
  const [ann, ben] = [await page(), await page()];
  ['A', 'B', 'C'].forEach((name) => keepSet(ann, name));
  await settled();
  const move = (ws: Workspace, to: number) =>
    changeRecords(ws, 'order', [
      moved(
        ws,
        pickSet,
        kept(ws, pickSet).find((s) => s.name === 'A')!,
        to,
      ),
    ]);
  move(ann, 1);
  await settled();
  move(ben, 2);
  undo(ann);
  await settled();
  expect([names(ann), names(ben)]).toEqual([
    ['B', 'C', 'A'],
    ['B', 'C', 'A'],
  ]);
});

test('two who change one thing at once: each field is whose it is, a change goes before a deletion, one of a kind is one', async () => {
  const [ann, ben] = [await page(), await page()];
  const entry = {
    name: 'Bore',
    of: [{ kind: 'component' as const, component: 'a' }],
    figure: '',
    was: 1,
    revision: 1,
  };
  changeRecords(ann, 'keep', [added(ann, ledgerEntry, entry)]);
  await settled();
  const of = (ws: Workspace) => kept(ws, ledgerEntry)[0];
  changeRecords(ann, 'a', [changed(ann, ledgerEntry, of(ann), { nominal: 8 })]);
  changeRecords(ben, 'b', [changed(ben, ledgerEntry, of(ben), { colour: '#102030' })]);
  await settled();
  expect(of(ann)).toMatchObject({ nominal: 8, colour: '#102030' });
  expect(of(ben)).toEqual(of(ann));
  changeRecords(ann, 'forget', [removed(ann, ledgerEntry, of(ann))]);
  changeRecords(ben, 'name', [changed(ben, ledgerEntry, of(ben), { name: 'Bore of the seat' })]);
  await settled();
  expect([of(ann).name, of(ben).name]).toEqual(['Bore of the seat', 'Bore of the seat']);
  // Both give the same part a material before either has heard of it.
  changeRecords(ann, 'steel', [given(ann, partMaterial, { part: 'prototype', material: 'steel' })]);
  changeRecords(ben, 'brass', [given(ben, partMaterial, { part: 'prototype', material: 'brass' })]);
  await settled();
  expect(kept(ann, partMaterial)).toHaveLength(1);
  expect(keptAt(ann, partMaterial, 'prototype')).toEqual(keptAt(ben, partMaterial, 'prototype'));
});

/**
 * A page that renamed “Bores” to “Holes” and kept “Offline” while nothing could be sent, and is closed now.
 */
async function closedUnsent(): Promise<Workspace> {
  const ann = await page();
  keepSet(ann, 'Bores');
  await settled();
  away = true;
  rename(ann, 'Bores', 'Holes');
  keepSet(ann, 'Offline');
  await settled();
  closes.splice(0).forEach((close) => close());
  return ann;
}

test('what could not be sent waits, outlives the page, and is put to what others made meanwhile', async () => {
  const ann = await closedUnsent();
  expect(ann.records.getState().unsent.size).toBe(2);
  // Someone else works on.
  away = false;
  const ben = await page();
  expect(names(ben)).toEqual(['Bores']);
  changeRecords(ben, 'order', [moved(ben, pickSet, kept(ben, pickSet)[0], 5)]);
  keepSet(ben, 'Ben’s');
  await settled();
  const again = await page(ann.source.outbox);
  expect(names(again).sort()).toEqual(['Ben’s', 'Holes', 'Offline']);
  await settled();
  expect(names(ben).sort()).toEqual(['Ben’s', 'Holes', 'Offline']);
  expect([again.records.getState().unsent.size, await ann.source.outbox.all()]).toEqual([0, []]);
  expect(await stored.list()).toHaveLength(3);
});

test('what another page of the browser has sent is not said to wait any more', async () => {
  const ann = await page();
  away = true;
  keepSet(ann, 'Bores');
  await settled();
  expect(said.at(-1)).toBe(true);
  away = false;
  await sendLeftovers(ann.source.outbox, (_, changes) => stored.change(changes));
  await settled();
  expect([said.at(-1), names(ann)]).toEqual([false, ['Bores']]);
});

test('what a closed page could not send is sent from the shelf, put to what others made meanwhile', async () => {
  const ann = await closedUnsent();
  const send = () => sendLeftovers(ann.source.outbox, (_, changes) => stored.change(changes));
  await send();
  expect(await ann.source.outbox.all()).toHaveLength(2);
  away = false;
  const ben = await page();
  changeRecords(ben, 'order', [moved(ben, pickSet, kept(ben, pickSet)[0], 5)]);
  rename(ben, 'Bores', 'Bores of Ben');
  changeRecords(ben, 'forget', [removed(ben, pickSet, kept(ben, pickSet)[0])]);
  await settled();
  await send();
  await settled();
  expect([names(ben).sort(), await ann.source.outbox.all()]).toEqual([['Holes', 'Offline'], []]);
});

test('what the server refuses is not lost: it stands in its page and waits, and is taken when the server knows it', async () => {
  const refusing = stored.change;
  stored.change = async (changes) =>
    changes.map(({ id }) => ({ id, outcome: 'refused', record: null, problem: 'knows no such kind' }));
  const ann = await page();
  keepSet(ann, 'Bores');
  await settled();
  expect([names(ann), said.at(-1)]).toEqual([['Bores'], false]);
  closes.splice(0).forEach((close) => close());
  stored.change = refusing;
  const again = await page(ann.source.outbox);
  await settled();
  expect([names(again), (await stored.list()).length, await ann.source.outbox.all()]).toEqual([
    ['Bores'],
    1,
    [],
  ]);
});

test('what only a newer version knows stays, at every depth; what it wrote whole is shown as far as it goes', async () => {
  const document = { name: 'Bores', items: [], tide: { height: [{ x: 1 }] } };
  await stored.change([
    {
      id: '7a1f6f0e-7c55-4d6e-9a6d-3f1a2b4c5d60',
      kind: 'pick-set',
      version: 1,
      document,
      position: 1,
      deleted: false,
      match: null,
    },
    { id: '7a1f6f0e-7c55-4d6e-9a6d-3f1a2b4c5d61', kind: 'pick-set', version: 99, document: { ...document, name: 'Newer' }, position: 2, deleted: false, match: null }, // prettier-ignore
    {
      id: '7a1f6f0e-7c55-4d6e-9a6d-3f1a2b4c5d62',
      kind: 'tide',
      version: 1,
      document: { of: 3 },
      position: 2,
      deleted: false,
      match: null,
    },
  ]);
  const ann = await page();
  expect(names(ann)).toEqual(['Bores', 'Newer']);
  rename(ann, 'Bores', 'Holes');
  await settled();
  const now = new Map((await stored.list()).map((r): [string, KeptRecord] => [r.id.slice(-1), r]));
  expect(now.get('0')).toMatchObject({ document: { ...document, name: 'Holes' }, version: 1 });
  expect(now.get('1')).toMatchObject({ document: { ...document, name: 'Newer' }, version: 99 });
  expect(now.get('2')!.document).toEqual({ of: 3 });
});

test('a document of an old version is lifted when it is changed, and its unknown fields go along', async () => {
  await stored.change([
    {
      id: '7a1f6f0e-7c55-4d6e-9a6d-3f1a2b4c5d60',
      kind: 'component-name',
      version: 0,
      document: { component: 'Valve/stem', name: 'Old', by: 'Ann' },
      position: 0,
      deleted: false,
      match: null,
    },
  ]);
  const ann = await page();
  expect(keptAt(ann, componentName, './stem')?.name).toBe('Old');
  changeRecords(ann, 'name', [given(ann, componentName, { component: './stem', name: 'New' })]);
  await settled();
  expect((await stored.list()).map(({ version, document }) => [version, document])).toEqual([
    [1, { component: './stem', name: 'New', by: 'Ann' }],
  ]);
});

test('a clock that is an hour off decides nothing: what two change is put together by what they began with', async () => {
  const [ann, ben] = [await page(), await page()];
  keepSet(ann, 'Rims');
  await settled();
  away = true;
  const now = Date.now();
  jest.setSystemTime(now + 3600_000);
  rename(ann, 'Rims', 'Rims, of an hour later');
  jest.setSystemTime(now - 3600_000);
  const set = kept(ben, pickSet)[0];
  changeRecords(ben, 'items', [
    changed(ben, pickSet, set, { items: [{ kind: 'component', component: './A' }] }),
  ]);
  away = false;
  await jest.advanceTimersByTimeAsync(60_000);
  for (const ws of [ann, ben])
    expect(kept(ws, pickSet)).toMatchObject([
      { name: 'Rims, of an hour later', items: [{ kind: 'component', component: './A' }] },
    ]);
});

describe('saved views', () => {
  const slots = (ws: Workspace) => savedViews(ws).map(({ name, slot }) => [name, slot]);

  test('a slot is one view’s; undoing the saving of a view gives it back, and leaves what others saved', async () => {
    const [ann, ben] = [await page(), await page()];
    saveView(ann, 3);
    await settled();
    saveView(ben, 3);
    await settled();
    expect(slots(ann)).toEqual([
      ['View 1', null],
      ['View 2', 3],
    ]);
    expect(viewInSlot(ann, 3)!.name).toBe('View 2');
    undo(ben);
    await settled();
    expect(slots(ann)).toEqual([['View 1', 3]]);
  });

  test('two that come to one slot at once are both kept, and every page says which has it', async () => {
    const [ann, ben] = [await page(), await page()];
    away = true;
    saveView(ann, 7);
    saveView(ben, 7);
    away = false;
    await settled();
    await jest.advanceTimersByTimeAsync(60_000);
    expect(savedViews(ann)).toHaveLength(2);
    expect(viewInSlot(ann, 7)!.id).toBe(viewInSlot(ben, 7)!.id);
  });

  test('of two who replace a view at once one wins whole; the name that a third gives it stays', async () => {
    const [ann, ben, cat] = [await page(), await page(), await page()];
    saveView(ann);
    await settled();
    const view = (ws: Workspace) => savedViews(ws)[0];
    const look = (ws: Workspace, height: number, hidden: string) => {
      ws.camera.getState().setCamera({ ...ws.camera.getState().panes[0].camera, height }, 0);
      ws.visibility.getState().set({ [hidden]: { visible: false, ghosted: false, keptWhole: false } });
      overwriteView(ws, view(ws));
    };
    away = true;
    look(ann, 11, './A');
    look(ben, 22, './B');
    renameView(cat, view(cat), 'Deck');
    away = false;
    await jest.advanceTimersByTimeAsync(60_000);
    const { name, state } = view(cat);
    expect(name).toBe('Deck');
    expect([
      [11, './A'],
      [22, './B'],
    ]).toContainEqual([
      (state['camera'] as { height: number }).height,
      Object.keys(state['visibility'] as object)[0],
    ]);
    expect(view(ann).state).toEqual(state);
    expect(view(ben).state).toEqual(state);
  });
});

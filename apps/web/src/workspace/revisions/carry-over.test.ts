import { encodeGeometry, type ModelDetail } from '@bathyscope/contracts';
import {
  componentMaterial,
  partMaterial,
  pickSet,
  savedView,
  RECALL_ALL,
  type SavedView,
} from '@bathyscope/contracts/records';
import type { PartGeometry } from '@bathyscope/core/geometry';
import { IDENTITY } from '@bathyscope/core/math';
import type { StructureNode } from '@bathyscope/core/model';
import type { ViewState } from '@bathyscope/core/view-state';
import { boxPart } from '../../../../../packages/core/src/testing/box-part.ts';
import {
  accept,
  giveTo,
  pointAgain,
  putAsideHere,
  takeBack,
} from '../../commands/keep/looked-up-commands.ts';
import { carriedWith } from '../../state/record-store.ts';
import { createProfileState } from '../../state/settings-store.ts';
import { MatchInPlace } from '../../testing/match-in-place.ts';
import { placedAt } from '../../testing/test-model.ts';
import { FIXTURE } from '../../testing/test-workspace.ts';
import { carryOver, stateHere } from './carry-over.ts';
import { createWorkspace } from '../create-workspace.ts';
import { fixtureSource } from '../source/fixture-source.ts';
import { lookUp } from './look-up.ts';
import { memoryRecords } from '../source/memory-records.ts';
import { added, changed, changeRecords, given, kept, keptAt } from '../keeping/records.ts';
import { nothingCarried } from './other-revisions.ts';
import { pickOf, referenceTo, statusText } from '../measuring/references.ts';
import type { Workspace } from '../workspace.ts';

jest.mock('../../workers/start-match-worker.ts', () => ({ startMatchWorker: () => new MatchInPlace() }));

/*
 * A model of a plate and three equal blocks; on its second revision the plate is thicker and a block is put
 * before the others.
 */

const CONTAINERS = new Map<string, PartGeometry>([
  ['thin', boxPart(100, 60, 4)],
  ['thick', boxPart(100, 60, 5)],
  ['block', boxPart(10, 10, 10)],
  ['other', boxPart(3, 30, 7)],
]);
const blocks = (...xs: number[]): StructureNode[] =>
  xs.map((x) => ({ name: 'Block', part: 1, placement: placedAt(x, 0, 0) }));

function revision(number: number, plate: string, children: StructureNode[]): ModelDetail {
  const parts = [
    { name: 'Plate', geometry: plate },
    { name: 'Block', geometry: 'block' },
    { name: 'Bar', geometry: 'other' },
  ];
  const root = {
    name: 'Rig',
    placement: IDENTITY,
    children: [{ name: 'Plate', part: 0, placement: IDENTITY }, ...children],
  };
  return { ...FIXTURE, name: 'Rig', revision: number, structure: { root, parts } } as unknown as ModelDetail;
}

const FIRST = revision(1, 'thin', [
  ...blocks(0, 20, 40),
  { name: 'Bar', part: 2, placement: placedAt(0, 80, 0) },
]);
const SECOND = revision(2, 'thick', blocks(-20, 0, 20, 40));

function open(detail: ModelDetail, records = memoryRecords()): Workspace {
  const containers = new Map([...CONTAINERS].map(([hash, geometry]) => [hash, encodeGeometry(geometry)]));
  const others = new Map([FIRST, SECOND].map((d) => [d.revision, d]));
  const ws = createWorkspace(
    fixtureSource(detail, containers, undefined, undefined, records, others),
    createProfileState(),
  );
  ws.model.getState().begin(detail);
  const parts = new Map(
    detail.structure.parts.map((p, i) => [i, { geometry: CONTAINERS.get(p.geometry!)!, bvh: null as never }]),
  );
  ws.model.getState().finish(parts);
  return ws;
}

const undo = (ws: Workspace) => ws.history.getState().undo();
const redo = (ws: Workspace) => ws.history.getState().redo();

/** The second revision, with all that was kept on the first. */
async function second(keep: (ws: Workspace) => Parameters<typeof changeRecords>[2]): Promise<Workspace> {
  const first = open(FIRST);
  changeRecords(first, 'keep', keep(first));
  const ws = open(SECOND);
  ws.records.setState({ ...first.records.getState(), carry: null });
  await carryOver(ws);
  return ws;
}

const ofBlock = (ws: Workspace, path: string) => referenceTo(ws, { kind: 'face', component: path, index: 1 });
const looked = (ws: Workspace) =>
  lookUp(ws).map(({ title, status, aside }) => [title, aside ? 'aside' : status]);
const placeOf = (ws: Workspace, set: string) =>
  pickOf(ws, kept(ws, pickSet).find((s) => s.name === set)!.items[0])?.component;

test('what is kept reads on the next revision as of the same things, though paths have other numbers there', async () => {
  const ws = await second((first) => [
    added(first, pickSet, { name: 'First block', items: [ofBlock(first, './Block')] }),
    added(first, pickSet, { name: 'Third block', items: [ofBlock(first, './Block~3')] }),
    added(first, pickSet, {
      name: 'Top',
      items: [referenceTo(first, { kind: 'face', component: './Plate', index: 5 })],
    }),
    added(first, pickSet, { name: 'Bar', items: [ofBlock(first, './Bar')] }),
    given(first, componentMaterial, { component: './Block', material: 'bronze' }),
    given(first, partMaterial, { part: 'Bar', material: 'steel' }),
  ]);
  expect(looked(ws)).toEqual([
    ['First block', 'found'],
    ['Third block', 'found'],
    ['Top', 'probably found'],
    ['Bar', 'lost'],
    ['material of “Bar”', 'found'],
    ['material of “Block”', 'found'],
  ]);
  expect([placeOf(ws, 'First block'), placeOf(ws, 'Third block'), placeOf(ws, 'Bar')]).toEqual([
    './Block~2',
    './Block~4',
    undefined,
  ]);
  // The block that is new has nothing of the one whose path it took.
  expect(keptAt(ws, componentMaterial, './Block')).toBeUndefined();
  expect(keptAt(ws, componentMaterial, './Block~2')).toMatchObject({ material: 'bronze' });
  changeRecords(ws, 'give', [given(ws, componentMaterial, { component: './Block', material: 'steel' })]);
  expect(keptAt(ws, componentMaterial, './Block')).toMatchObject({ material: 'steel' });
  expect(keptAt(ws, componentMaterial, './Block~2')).toMatchObject({ material: 'bronze' });
});

test('a name that is changed moves nothing; what is probable stays so until it is accepted, and that can be undone', async () => {
  const ws = await second((first) => [
    added(first, pickSet, {
      name: 'Top',
      items: [referenceTo(first, { kind: 'face', component: './Plate', index: 5 })],
    }),
  ]);
  const stored = () => [...ws.records.getState().shelves.get('pick-set')!.entries.values()][0].record;
  changeRecords(ws, 'rename', [changed(ws, pickSet, kept(ws, pickSet)[0], { name: 'Upper side' })]);
  expect(stored()).toMatchObject({
    madeOn: 1,
    document: {
      name: 'Upper side',
      items: [{ component: './Plate', index: 5, fingerprint: { position: [50, 30, 4] } }],
    },
  });
  expect(statusText(ws, kept(ws, pickSet)[0].items)).toBe('1 probably');

  accept(ws, lookUp(ws)[0]);
  expect(stored()).toMatchObject({
    madeOn: 2,
    document: { items: [{ index: 5, fingerprint: { position: [50, 30, 5] } }] },
  });
  expect(statusText(ws, kept(ws, pickSet)[0].items)).toBe('');
  expect(looked(ws)).toEqual([]);
  undo(ws);
  expect(stored()).toMatchObject({
    madeOn: 1,
    document: { items: [{ fingerprint: { position: [50, 30, 4] } }] },
  });
  expect(looked(ws)).toEqual([['Upper side', 'probably found']]);
  redo(ws);
  expect(stored().madeOn).toBe(2);
});

test('what is lost is pointed to again, one after the other, or put aside on this revision alone', async () => {
  const ws = await second((first) => [
    added(first, pickSet, {
      name: 'Two sides',
      items: [ofBlock(first, './Bar'), referenceTo(first, { kind: 'face', component: './Bar', index: 2 })],
    }),
    given(first, componentMaterial, { component: './Bar', material: 'steel' }),
  ]);
  const [sides, material] = lookUp(ws);
  expect([sides.status, material.status]).toEqual(['lost', 'lost']);
  pointAgain(ws, sides, sides.references[0], { kind: 'face', component: './Block', index: 3 });
  // The other is still to be pointed to.
  expect(looked(ws)[0]).toEqual(['Two sides', 'lost']);
  const [half] = lookUp(ws);
  expect(half.references.map((r) => r.became)).toEqual([undefined, 'lost']);
  pointAgain(ws, half, half.references[1], { kind: 'face', component: './Block', index: 0 });
  expect(looked(ws)).toEqual([['material of “Bar”', 'lost']]);
  giveTo(ws, lookUp(ws)[0], { kind: 'component', component: './Block~4', index: 0 });
  expect(keptAt(ws, componentMaterial, './Block~4')).toMatchObject({ material: 'steel' });
  undo(ws);
  putAsideHere(ws, lookUp(ws)[0]);
  expect(looked(ws)).toEqual([['material of “Bar”', 'aside']]);
  // On the first revision all is as it was.
  const first = open(FIRST);
  first.records.setState(carriedWith(ws.records.getState(), () => undefined));
  expect(keptAt(first, componentMaterial, './Bar')).toMatchObject({ material: 'steel' });
  takeBack(ws, lookUp(ws)[0]);
  expect(looked(ws)).toEqual([['material of “Bar”', 'lost']]);
});

test('views hide the same components on the next revision; planes made from a face move with it', async () => {
  const from = (first: Workspace) => referenceTo(first, { kind: 'face', component: './Plate', index: 5 });
  const stateOf = (first: Workspace) =>
    ({
      version: 3,
      visibility: { './Block': 'hidden', './Bar': 'hidden' },
      section: {
        on: true,
        combine: 'any',
        planes: [
          {
            id: 'p',
            name: 'P',
            origin: [0, 0, 4],
            normal: [0, 0, 1],
            offset: -1,
            flipped: false,
            on: true,
            from: from(first),
          },
        ],
      },
    }) as unknown as ViewState;
  const ws = await second((first) => [
    added(first, savedView, {
      name: 'V',
      slot: null,
      recall: RECALL_ALL,
      state: stateOf(first),
      revision: 1,
    } as unknown as SavedView),
  ]);
  const { state } = kept(ws, savedView)[0] as unknown as { state: ViewState };
  expect(state.visibility).toEqual({ './Block~2': 'hidden' });
  expect(state.section!.planes[0]).toMatchObject({
    origin: [0, 0, 5],
    offset: -1,
    from: { became: 'probably found' },
  });
  // A view is not lost with what it hides.
  expect(looked(ws)).toEqual([]);
  expect(stateHere(ws, stateOf(open(FIRST)), 1)!.visibility).toEqual({ './Block~2': 'hidden' });
  expect(stateHere(ws, stateOf(open(FIRST)), 2)!.visibility).toEqual({
    './Block': 'hidden',
    './Bar': 'hidden',
  });
});

test('records that come after a state was looked up are read as on this revision too, also where nothing has to be compared', async () => {
  const first = open(FIRST);
  changeRecords(first, 'keep', [
    added(first, pickSet, {
      name: 'Blocks',
      items: [referenceTo(first, { kind: 'component', component: './Block', index: 0 })],
    }),
  ]);
  const ws = open(SECOND);
  ws.carried.from = { ...nothingCarried(), states: [{ revision: 1, document: {} }] };
  await carryOver(ws);
  ws.records.setState({ ...first.records.getState(), carry: null });
  await carryOver(ws);
  expect(placeOf(ws, 'Blocks')).toBe('./Block~2');
});

test('of a revision that cannot be had each thing says for itself where it is', async () => {
  const first = open(FIRST);
  changeRecords(first, 'keep', [
    added(first, pickSet, {
      name: 'Top',
      items: [referenceTo(first, { kind: 'face', component: './Plate', index: 5 })],
    }),
  ]);
  const ws = open(SECOND);
  ws.source.revision = () => Promise.reject(new Error('gone'));
  ws.records.setState({ ...first.records.getState(), carry: null });
  await carryOver(ws);
  expect(looked(ws)).toEqual([['Top', 'probably found']]);
});

test('a model of one part is compared whatever was kept of it; where it lies otherwise in its frame, views move along', async () => {
  const plate = (number: number, geometry: string): ModelDetail => {
    const root = { name: 'Plate', part: 0, placement: IDENTITY };
    return {
      ...FIXTURE,
      revision: number,
      structure: { root, parts: [{ name: 'Plate', geometry }] },
    } as unknown as ModelDetail;
  };
  const ws = open(plate(2, 'thick'));
  ws.source.revision = () => Promise.resolve(plate(1, 'thin'));
  ws.carried.from = { ...nothingCarried(), states: [{ revision: 1, document: {} }] };
  await carryOver(ws);
  const { things } = ws.carried.from.others.get(1)!;
  expect([...things.keys()]).toEqual(['thin thick']);
  const state = {
    version: 3,
    camera: { target: [1, 2, 3], orientation: [0, 0, 0, 1], height: 10 },
  } as unknown as ViewState;
  expect(stateHere(ws, state, 1)).toEqual(state);
  // A plate is too even to tell how it was turned; of another part it is known.
  things.set('thin thick', { ...things.get('thin thick')!, motion: placedAt(1000, 0, 0) });
  expect(stateHere(ws, state, 1)!.camera).toMatchObject({ target: [1001, 2, 3], orientation: [0, 0, 0, 1] });
});

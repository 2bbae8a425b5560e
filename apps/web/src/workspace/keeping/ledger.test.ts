import { FIXTURE } from '../../testing/test-workspace.ts';
import { acceptedClash, ledgerEntry, referenceSystem } from '@bathyscope/contracts/records';
import { added, changeRecords, kept } from './records.ts';
import type { ClashCheck } from '@bathyscope/contracts';
import { boxPart } from '../../../../../packages/core/src/testing/box-part.ts';
import { cylinderPart } from '../../../../../packages/core/src/testing/round-parts.ts';
import { commandById } from '../../commands/registry.ts';
import { offerPick, runCommand } from '../../commands/run-command.ts';
import { createProfileState } from '../../state/settings-store.ts';
import type { Picked } from '../../state/selection-store.ts';
import { placedAt, showModel } from '../../testing/test-model.ts';
import { createWorkspace } from '../create-workspace.ts';
import { dimensionsNow, moveDimension } from '../measuring/drawn-dimensions.ts';
import {
  acceptedOf,
  checkInterferences,
  resumeInterferences,
  stopInterferences,
} from '../measuring/interferences.ts';
import { fixtureSource } from '../source/fixture-source.ts';
import { axesTold, holeRows } from '../measuring/hole-table.ts';
import { changeKept, keepFigure, ledgerRows } from './ledger.ts';
import { componentReferences } from '../measuring/references.ts';
import type { CheckStore } from '../source/source.ts';
import { systemNow } from '../measuring/systems.ts';
import type { Workspace } from '../workspace.ts';

/** Two pins of Ø10, 20 long, 30 mm apart along X, and a block. @param ask in place of the kernel */
function opened(ask?: (name: string, asked: unknown) => Promise<unknown>, checks?: CheckStore): Workspace {
  const ws = createWorkspace(
    fixtureSource(FIXTURE, new Map(), ask as Workspace['source']['ask'] | undefined, checks),
    createProfileState(),
  );
  showModel(
    ws,
    [cylinderPart(5, 20), boxPart(8, 6, 4)],
    [
      ['left', 0, placedAt(0, 0, 0)],
      ['right', 0, placedAt(30, 0, 0)],
      ['block', 1, placedAt(2, 0, 0)],
    ],
  );
  ws.model.setState((s) => ({ detail: { ...s.detail!, revision: 2 } }));
  return ws;
}
const face = (component: string, index = 0): Picked => ({ kind: 'face', component: `a/${component}`, index });
const noKernel = (): Promise<{ distance: number; from: number[]; to: number[] }> =>
  Promise.resolve({ distance: 20, from: [5, 0, 0], to: [25, 0, 0] });

test('a figure is kept by what it is of, told with its limits, changed and undone', async () => {
  const ws = opened(noKernel);
  await keepFigure(ws, [face('left')]);
  await keepFigure(ws, [face('left'), face('right')]);
  const [diameter, apart] = kept(ws, ledgerEntry);
  expect(diameter).toMatchObject({
    name: 'Diameter, left',
    figure: 'Diameter',
    was: 10,
    revision: 2,
    of: [{ kind: 'face', component: 'a/left' }],
  });
  expect(apart).toMatchObject({ name: 'Axis to axis, left to right', was: 30 });
  changeKept(ws, diameter, 'tolerance', {
    nominal: 10,
    tolerance: { kind: 'class', of: { position: 'h', grade: 6 } },
  });
  expect((await ledgerRows(ws, 'mm')).slice(1)).toEqual([
    ['Diameter, left', 'Diameter', '10.000', 'mm', '10.000', '9.991', '10.000', 'within', 'exact'],
    ['Axis to axis, left to right', 'Axis to axis', '30.000', 'mm', '', '', '', '', 'exact'],
  ]);
  // What is only known from the mesh is not exact because the figure that leads is; any row is drawn where
  // it is measured.
  await keepFigure(ws, [face('left'), face('right')], 'Greatest distance');
  await keepFigure(ws, [face('left'), face('right')], 'Wall to wall');
  const [greatest, walls] = (await ledgerRows(ws, 'mm')).slice(3);
  expect(greatest).toEqual([
    'Greatest distance, left to right',
    ...['Greatest distance', expect.any(String), 'mm', '', '', '', '', expect.stringMatching(/^within \d/)],
  ]);
  expect(walls.slice(2)).toEqual(['20.000', 'mm', '', '', '', '', 'exact']);
  expect((await dimensionsNow(ws)).at(-1)).toMatchObject({
    kind: 'dimension',
    text: '20.000 mm',
    ends: [
      [expect.closeTo(5, 9), expect.closeTo(0, 9), expect.anything()],
      [expect.closeTo(25, 9), expect.closeTo(0, 9), expect.anything()],
    ],
  });
  ws.history.getState().undo();
  ws.history.getState().undo();
  expect(await dimensionsNow(ws)).toEqual([
    {
      key: diameter.id,
      kind: 'round',
      centre: [0, 0, 10],
      axis: [0, 0, 1],
      radius: 5,
      towards: null,
      text: 'Ø 10.000 mm (10 h6)',
    },
    { key: apart.id, kind: 'dimension', ends: [expect.anything(), expect.anything()], text: '30.000 mm' },
  ]);
  // Moved by its text: kept where it was dropped, one step back.
  moveDimension(ws, apart.id, [10, 4], false);
  expect((await dimensionsNow(ws))[1]).toMatchObject({ moved: [10, 4] });
  moveDimension(ws, apart.id, [20, 5], true);
  expect(kept(ws, ledgerEntry)[1].moved).toEqual([20, 5]);
  ws.history.getState().undo();
  expect(kept(ws, ledgerEntry)[1]).not.toHaveProperty('moved');
  ws.ledger.setState({ hidden: [apart.id] });
  expect(await dimensionsNow(ws)).toHaveLength(1);
  ws.history.getState().undo();
  expect(kept(ws, ledgerEntry)[0]).not.toHaveProperty('tolerance');
  await expect(keepFigure(ws, [{ kind: 'vertex', component: 'a/block', index: 0 }])).rejects.toThrow(
    'no figure to keep',
  );
});

test('a figure whose thing is lost stays in the table and says so; the others are told', async () => {
  const ws = opened(noKernel);
  await keepFigure(ws, [face('left')]);
  await keepFigure(ws, [face('block')]);
  showModel(ws, [cylinderPart(5, 20)], [['left', 0, placedAt(0, 0, 0)]]);
  const rows = await ledgerRows(ws, 'mm');
  expect(rows[1][2]).toBe('10.000');
  expect(rows[2]).toEqual(['Area, block', 'Area', '', '', '', '', '', 'lost', '']);
});

test('the ledger of another model is lost figure by figure, each with its sentence, and none of it is dropped', async () => {
  const ws = opened(noKernel);
  await keepFigure(ws, [face('left')]);
  await keepFigure(ws, [face('left'), face('right')]);
  const foreign = kept(ws, ledgerEntry);
  const other = createWorkspace(fixtureSource({ ...FIXTURE, name: 'Bracket' }), createProfileState());
  showModel(other, [boxPart(4, 4, 4)], [['plate', 0, placedAt(0, 0, 0)]]);
  changeRecords(
    other,
    'from elsewhere',
    foreign.map(({ id, ...entry }) => added(other, ledgerEntry, entry, id)),
  );
  const rows = await ledgerRows(other, 'mm');
  expect(rows.slice(1).map((row) => [row[0], row[2], row[7]])).toEqual([
    ['Diameter, left', '', 'lost'],
    ['Axis to axis, left to right', '', 'lost'],
  ]);
  expect(await dimensionsNow(other)).toEqual([]);
  expect(
    kept(other, ledgerEntry)
      .map(({ id }) => id)
      .sort(),
  ).toEqual(foreign.map(({ id }) => id).sort());
});

test.each(['keep-figure', 'new-system'])(
  '“%s” started before anything is picked takes the pick it asked for',
  async (id) => {
    const ws = opened(noKernel);
    runCommand(ws, commandById(id));
    expect(offerPick(ws, face('right'))).toBe(true);
    await new Promise((done) => setTimeout(done, 0));
    const [figures, systems] = [kept(ws, ledgerEntry), kept(ws, referenceSystem)];
    expect([...figures, ...systems]).toEqual([
      expect.objectContaining({ of: [expect.objectContaining({ component: 'a/right' })] }),
    ]);
    // A system from one pick has its origin there and the model's axes.
    if (systems.length)
      expect(systemNow(ws)).toMatchObject({ origin: [30, 0, expect.any(Number)], x: [1, 0, 0] });
  },
);

const pair = { a: 'a/left', b: 'a/block' };
const clashing = (depth: number) => ({
  ...pair,
  relation: 'clash' as const,
  distance: 0,
  from: [0, 0, 0] as const,
  to: [0, 0, 0] as const,
  clash: { volume: 1, within: 0, depth },
  accuracy: { kind: 'exact' as const },
});
const touching = { ...clashing(0), b: 'a/right', relation: 'contact' as const, clash: null };

test('a check is followed while it finds, the deepest first; taken up again where the page was left; what is meant so is known either way round', async () => {
  const running: ClashCheck = {
    id: 'c',
    about: 'all that is shown',
    ofAll: true,
    jobId: 'j',
    state: 'running',
    pairs: 3,
    done: 1,
    found: [touching],
  };
  const done: ClashCheck = { ...running, state: 'done', done: 3, found: [touching, clashing(0.25)] };
  const asked: unknown[] = [];
  const checks: CheckStore = {
    ask: async (...question) => (asked.push(question), running),
    find: async () => done,
    newest: async () => running,
    stop: async () => {},
  };
  const ws = opened(undefined, checks);
  const seen: number[] = [];
  ws.interference.subscribe((s) => seen.push(s.done));
  await checkInterferences(ws, 'all that is shown', ['a/left', 'a/right', 'a/block'], null);
  expect(asked).toEqual([['all that is shown', null, null]]);
  expect(seen).toContain(1);
  expect(ws.interference.getState()).toMatchObject({
    running: false,
    done: 3,
    pairs: 3,
    found: [{ clash: { depth: 0.25 } }, { relation: 'contact' }],
    error: null,
  });
  await checkInterferences(ws, 'near', ['a/left', 'a/block'], ['a/left']);
  expect(asked[1]).toEqual(['near', ['a/left', 'a/block'], ['a/left']]);
  const [b, a] = componentReferences(ws, [pair.b, pair.a]);
  changeRecords(ws, 'meant so', [added(ws, acceptedClash, { a: b, b: a })]);
  expect(acceptedOf(ws, pair)?.id).toBe(kept(ws, acceptedClash)[0].id);
  expect(acceptedOf(ws, { a: 'a/right', b: 'a/block' })).toBeUndefined();
  const later = opened(undefined, checks);
  await resumeInterferences(later);
  expect(later.interference.getState()).toMatchObject({ of: 'all that is shown', running: false, done: 3 });
});

test('a check that is stopped, or whose server is lost, keeps what it has found and says where it ended', async () => {
  const running: ClashCheck = {
    id: 'c',
    about: 'all',
    ofAll: true,
    jobId: 'j',
    state: 'running',
    pairs: 3,
    done: 1,
    found: [clashing(0.25)],
  };
  const stopped: unknown[] = [];
  const store = (find: CheckStore['find']): CheckStore => ({
    ask: async () => running,
    find,
    newest: async () => null,
    stop: async (check) => void stopped.push(check.id),
  });
  const ws = opened(
    undefined,
    store(() => Promise.reject(new Error('The server does not answer.'))),
  );
  await checkInterferences(ws, 'all', ['a/left', 'a/block'], null);
  expect(ws.interference.getState()).toMatchObject({
    running: false,
    done: 1,
    pairs: 3,
    found: [{ a: 'a/left' }],
    error: 'The server does not answer.',
  });
  const waiting = opened(
    undefined,
    store(() => new Promise(() => {})),
  );
  void checkInterferences(waiting, 'all', ['a/left', 'a/block'], null);
  await new Promise((r) => setTimeout(r));
  expect(waiting.interference.getState().running).toBe(true);
  expect([stopInterferences(waiting), stopInterferences(waiting)]).toEqual([true, false]);
  expect(stopped).toEqual(['c']);
  expect(waiting.interference.getState()).toMatchObject({
    running: false,
    found: [{ a: 'a/left' }],
    error: null,
  });
});

test('holes are told by kind, the many first; places in the axes in force', () => {
  const ws = opened();
  const geometry = cylinderPart(5, 20);
  const hole = (diameter: number, x: number) => ({
    faces: [0],
    diameter,
    depth: 20,
    start: [x, 0, 20] as const,
    axis: [0, 0, -1] as const,
    ends: 'through' as const,
    steps: [],
    opensInto: [],
    accuracy: { kind: 'exact' as const },
  });
  const drilled = {
    ...geometry,
    holes: [hole(8, 0), hole(5.5, 1), hole(5.5, 2)],
    faces: geometry.faces.map((f, i) => (i ? f : { ...f, hole: 0 })),
  };
  showModel(ws, [drilled], [['plate', 0, placedAt(100, 7, 0)]]);
  const rows = holeRows(ws, 'shown');
  expect(rows.map((r) => [r.mark, r.hole.diameter, r.at])).toEqual([
    ['A1', 5.5, [101, 7, 20]],
    ['A2', 5.5, [102, 7, 20]],
    ['B1', 8, [100, 7, 20]],
  ]);
  expect(axesTold(ws, rows)).toEqual([0, 1]);
  // Of a picked hole all like it; of a component each once, however often it is picked.
  ws.selection.getState().pick([face('plate')]);
  expect(holeRows(ws, 'picked').map((r) => r.hole.diameter)).toEqual([8]);
  const whole: Picked = { kind: 'component', component: 'a/plate', index: 0 };
  ws.selection.getState().pick([whole, { ...whole, component: 'a' }]);
  expect(holeRows(ws, 'picked')).toHaveLength(3);
});

import { componentName, home, pickSet } from '@bathyscope/contracts/records';
import { IDENTITY } from '@bathyscope/core/math';
import { DEFAULT_STYLE } from '@bathyscope/core/style';
import { commandById } from '../commands/registry.ts';
import { runCommand } from '../commands/run-command.ts';
import { placedAt, showModel } from '../testing/test-model.ts';
import { boxPart } from '../../../../packages/core/src/testing/box-part.ts';
import { testWorkspace } from '../testing/test-workspace.ts';
import { activePane } from './view/panes.ts';
import { added, changeRecords, given, kept, keptAt, putRecords, removed } from './keeping/records.ts';
import { sectionNow } from './cutting/section-now.ts';
import { isShown } from './shown/shown.ts';
import type { Workspace } from './workspace.ts';

/** Everything that a user can have changed. */
const seen = (ws: Workspace) =>
  JSON.stringify(
    [ws.camera, ws.visibility, ws.section, ws.style, ws.reference, ws.selection, ws.waiting, ws.filter].map(
      (s) => s.getState(),
    ),
  ) + JSON.stringify([...ws.records.getState().shelves.values()].map(({ list }) => list));

const open = (): Workspace => {
  const ws = testWorkspace();
  showModel(
    ws,
    [boxPart(10, 10, 10)],
    [
      ['box', 0, IDENTITY],
      ['other', 0, placedAt(50, 0, 0)],
    ],
  );
  return ws;
};

test('two workspaces in one page share nothing: cut one, undo in the other, pick all in the first', () => {
  const [first, second] = [open(), open()];
  const run = (ws: Workspace, id: string) => runCommand(ws, commandById(id));
  second.selection.getState().pick([{ kind: 'component', component: 'a/box', index: 0 }]);
  run(second, 'hide');
  const before = seen(second);

  first.section.setState({
    planes: [
      { id: 'p', name: 'P', origin: [0, 0, 5], normal: [0, 0, 1], offset: 0, flipped: false, on: true },
    ],
    on: true,
  });
  first.camera.getState().setCamera({ ...activePane(first).camera, height: 7 });
  run(first, 'next-style');
  first.selection
    .getState()
    .pick(
      first.model.getState().components.map(({ path }) => ({ kind: 'component', component: path, index: 0 })),
    );
  expect(seen(second)).toBe(before);

  const kept = seen(first);
  second.history.getState().undo();
  expect(isShown(second, 'a/box')).toBe(true);
  expect(seen(first)).toBe(kept);
  expect([sectionNow(first).planes.length, sectionNow(second).planes.length]).toEqual([1, 0]);
  expect(first.selection.getState().picked).toHaveLength(2);
  expect(second.history.getState().done).toEqual([]);
  expect(second.style.getState().style).toEqual(DEFAULT_STYLE.style);
});

test('undoing one thing never restores another', () => {
  const ws = open();
  runCommand(ws, commandById('set-home'));
  const set = keptAt(ws, home, '');
  // A name from another tab, which is on no list here.
  putRecords(ws, 'elsewhere', [given(ws, componentName, { component: 'a/box', name: 'Lid' })]);
  ws.history.getState().undo();
  expect([keptAt(ws, home, ''), keptAt(ws, componentName, 'a/box')?.name]).toEqual([undefined, 'Lid']);
  ws.history.getState().redo();
  expect([keptAt(ws, home, ''), keptAt(ws, componentName, 'a/box')?.name]).toEqual([set, 'Lid']);
  expect(set).toMatchObject({ framesVisible: false });
});

test('what is set about a model can be undone by name: up axis, a pane’s own style, forgotten sets', () => {
  const ws = open();
  changeRecords(ws, 'keep “Set 1”', [added(ws, pickSet, { name: 'Set 1', items: [] })]);
  changeRecords(ws, 'forget “Set 1”', [removed(ws, pickSet, kept(ws, pickSet)[0])]);
  runCommand(ws, commandById('pane-style'));
  runCommand(ws, commandById('up-axis'));
  expect(ws.camera.getState().upAxis).toBe('y');
  const names: string[] = [];
  for (let step = ws.history.getState().undo(); step; step = ws.history.getState().undo())
    names.push(step.name);
  expect(names).toEqual(['Y up', 'a style for this pane only', 'forget “Set 1”', 'keep “Set 1”']);
  expect([ws.camera.getState().upAxis, ws.style.getState().panes, kept(ws, pickSet)]).toEqual(['z', {}, []]);
});

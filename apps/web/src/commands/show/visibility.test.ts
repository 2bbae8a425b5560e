import { isolate, stateOf, type ComponentState } from '@bathyscope/core/visibility';
import { boxPart } from '../../../../../packages/core/src/testing/box-part.ts';
import { placedAt, showModel } from '../../testing/test-model.ts';
import { commandById } from '../registry.ts';
import { runCommand } from '../run-command.ts';
import { hideSmallerThan, isolateWithin, sizeOf } from './visibility-commands.ts';
import { testWorkspace } from '../../testing/test-workspace.ts';
import { isShown, visiblePaths } from '../../workspace/shown/shown.ts';

const ws = testWorkspace();

/* A frame of three posts 10 × 10 × 100, two plates 60 × 40 × 4 and one pin of 3 mm. */
const PATHS = ['a/Post 1', 'a/Post 2', 'a/Post 3', 'a/Plate 1', 'a/Plate 2', 'a/Pin'];

beforeEach(() => {
  showModel(
    ws,
    [boxPart(10, 10, 100), boxPart(60, 40, 4), boxPart(3, 3, 3)],
    [
      ['Post 1', 0, placedAt(0, 0, 0)],
      ['Post 2', 0, placedAt(50, 0, 0)],
      ['Post 3', 0, placedAt(0, 30, 0)],
      ['Plate 1', 1, placedAt(0, 0, 100)],
      ['Plate 2', 1, placedAt(0, 0, -4)],
      ['Pin', 2, placedAt(20, 20, 104)],
    ],
  );
  ws.visibility.setState({ states: {}, peeking: false });
  ws.history.getState().clear();
  ws.selection.getState().pick([]);
});

const run = (id: string, ...paths: string[]) => {
  ws.selection.getState().pick(paths.map((component) => ({ kind: 'component', component, index: 0 })));
  runCommand(ws, commandById(id));
};
const hidden = () => PATHS.filter((p) => !isShown(ws, p));
const undoName = () => ws.history.getState().done.at(-1)?.name;
const state = (path: string): ComponentState => stateOf(ws.visibility.getState().states, path);

test('hide, hide all of the same part and hide what is small say in the undo list what they did', () => {
  run('hide', 'a/Pin', 'a/Post 1');
  expect([hidden(), undoName()]).toEqual([['a/Post 1', 'a/Pin'], 'hide 2 components']);
  expect(ws.selection.getState().picked).toEqual([]);
  ws.history.getState().undo();
  expect(hidden()).toEqual([]);
  ws.history.getState().redo();
  expect(hidden()).toEqual(['a/Post 1', 'a/Pin']);
  run('show-all');
  run('hide-same', 'a/Plate 2');
  expect([hidden(), undoName()]).toEqual([['a/Plate 1', 'a/Plate 2'], 'hide 2 components of the same part']);
  run('show-all');
  // A component is as large as the longest side of its box; just as large is not smaller.
  expect(PATHS.map((path) => sizeOf(ws, path))).toEqual([100, 100, 100, 60, 60, 3]);
  hideSmallerThan(ws, 60);
  expect([hidden(), undoName()]).toEqual([['a/Pin'], 'hide 1 component smaller than 60 mm']);
  hideSmallerThan(ws, 60);
  expect(ws.history.getState().done.at(-1)?.name).toBe('hide 1 component smaller than 60 mm');
});

test('an assembly takes along what is below it; isolate, invert and show all are each one step', () => {
  run('hide', 'a');
  expect(hidden()).toEqual(PATHS);
  expect(undoName()).toBe('hide 6 components');
  run('isolate', 'a/Plate 1', 'a/Pin');
  expect(visiblePaths(ws)).toEqual(['a/Plate 1', 'a/Pin']);
  run('invert');
  expect(hidden()).toEqual(['a/Plate 1', 'a/Pin']);
  run('show-all');
  expect(hidden()).toEqual([]);
  for (const names of ['show all', 'invert what is visible', 'isolate 2 components', 'hide 6 components']) {
    expect(undoName()).toBe(names);
    ws.history.getState().undo();
  }
  expect(hidden()).toEqual([]);
  // Nothing changes, nothing to undo.
  run('show-all');
  expect(ws.history.getState().done).toHaveLength(0);
});

test('ghosts: one key there and back; ghosting the others keeps the picked ones solid, also those that were hidden', () => {
  run('ghost', 'a/Post 1', 'a/Post 2');
  expect([state('a/Post 1').ghosted, state('a/Post 3').ghosted]).toEqual([true, false]);
  // Of one ghost and one solid both become ghosts; of ghosts alone none stays.
  run('ghost', 'a/Post 2', 'a/Post 3');
  expect(PATHS.filter((p) => state(p).ghosted)).toEqual(['a/Post 1', 'a/Post 2', 'a/Post 3']);
  run('ghost', 'a/Post 2', 'a/Post 3');
  expect([PATHS.filter((p) => state(p).ghosted), undoName()]).toEqual([
    ['a/Post 1'],
    'make solid 2 components',
  ]);
  run('hide', 'a/Pin');
  run('ghost-others', 'a/Pin');
  expect(PATHS.filter((p) => !state(p).ghosted)).toEqual(['a/Pin']);
  expect(hidden()).toEqual([]);
});

test('peeking turns round what is seen without changing it; there must be something hidden', () => {
  run('peek');
  expect(ws.visibility.getState().peeking).toBe(false);
  run('hide', 'a/Pin');
  run('peek');
  expect(PATHS.filter((path) => isShown(ws, path))).toEqual(['a/Pin']);
  expect(undoName()).toBe('hide 1 component');
  run('peek');
  expect(hidden()).toEqual(['a/Pin']);
});

test('neighbours are asked for by a distance in mm, and found where they touch; colours go back to the file’s and leave the visibility alone', () => {
  run('isolate-near', 'a/Pin');
  expect(ws.ask.getState().number).toMatchObject({ label: 'Nearer than', kind: 'length', value: 1 });
  isolateWithin(ws, ['a/Pin'], 1);
  expect(visiblePaths(ws)).toEqual(['a/Plate 1', 'a/Pin']);
  ws.visibility
    .getState()
    .set(
      isolate(
        { 'a/Pin': { visible: true, ghosted: false, keptWhole: true, colour: [1, 0, 0], transparency: 0.5 } },
        PATHS,
        ['a/Pin'],
      ),
    );
  run('reset-look', 'a/Pin');
  expect(state('a/Pin')).toEqual({ visible: true, ghosted: false, keptWhole: true });
  expect(hidden()).toHaveLength(5);
});

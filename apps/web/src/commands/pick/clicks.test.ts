import { boxPart } from '../../../../../packages/core/src/testing/box-part.ts';
import type { Picked } from '../../state/selection-store.ts';
import { placedAt, showModel } from '../../testing/test-model.ts';
import { testWorkspace } from '../../testing/test-workspace.ts';
import { isShown } from '../../workspace/shown/shown.ts';
import { changeStates } from '@bathyscope/core/visibility';
import { commandById } from '../registry.ts';
import { runCommand } from '../run-command.ts';
import { changeTable } from '../show/visibility-commands.ts';
import { clickAt, clickOn, openMenuAt, pickInBox } from './clicks.ts';

const ws = testWorkspace();
const face: Picked = { kind: 'face', component: 'a/Post', index: 1, point: [0, 5, 50] };
const whole = (component: string): Picked => ({ kind: 'component', component, index: 0 });
const picked = () => ws.selection.getState().picked.map((p) => `${p.kind} ${p.component}`);

/* A post 10 × 10 × 100 beside a plate 60 × 40 × 4, seen from the front in a canvas of 800 × 600. */
beforeEach(() => {
  showModel(
    ws,
    [boxPart(10, 10, 100), boxPart(60, 40, 4)],
    [
      ['Post', 0, placedAt(0, 0, 0)],
      ['Plate', 1, placedAt(40, 0, 0)],
    ],
  );
  ws.camera.getState().setCanvas({ width: 800, height: 600 });
  ws.camera.getState().setCamera({
    projection: 'orthographic',
    target: [50, 0, 50],
    orientation: [Math.SQRT1_2, 0, 0, Math.SQRT1_2],
    height: 120,
    lens: 0.6,
  });
  ws.visibility.setState({ states: {}, peeking: false });
  ws.selection.getState().pick([]);
  ws.history.getState().clear();
});

/** px of the canvas for a point x, z of the front view. */
const at = (x: number, z: number): [number, number] => [400 + (x - 50) * 5, 300 - (z - 50) * 5];

test('a click picks the face under it, a second one its component, one beside the model nothing', () => {
  clickAt(ws, ...at(5, 52), false);
  expect(picked()).toEqual(['face a/Post']);
  clickAt(ws, ...at(5, 52), false);
  expect(picked()).toEqual(['component a/Post']);
  clickAt(ws, ...at(50, 80), true);
  expect(picked()).toEqual(['component a/Post']);
  clickAt(ws, ...at(50, 80), false);
  expect(picked()).toEqual([]);
});

test('a click goes to the command that waits, on whatever drawing it was made', () => {
  runCommand(ws, commandById('hide'));
  clickOn(ws, face, false);
  expect(isShown(ws, 'a/Post')).toBe(false);
  expect(picked()).toEqual([]);
});

test('while peeking a click brings a component back, which can be undone', () => {
  changeTable(ws, 'hide', changeStates({}, ['a/Post'], { visible: false }));
  ws.visibility.setState({ peeking: true });
  clickOn(ws, face, false);
  ws.visibility.setState({ peeking: false });
  expect(isShown(ws, 'a/Post')).toBe(true);
  ws.history.getState().undo();
  expect(isShown(ws, 'a/Post')).toBe(false);
});

test('a box drawn to the right takes what it holds, to the left what it touches; what is picked already stays once', () => {
  const [left, right] = [
    { x: at(-2, 0)[0], y: at(0, 104)[1] },
    { x: at(60, 0)[0], y: at(0, -4)[1] },
  ];
  pickInBox(ws, left, right, false);
  expect(picked()).toEqual(['component a/Post']);
  pickInBox(ws, right, left, true);
  expect(picked()).toEqual(['component a/Post', 'component a/Plate']);
});

test('the menu is for what is under it, and leaves a pick alone that it belongs to', () => {
  ws.selection.getState().pick([whole('a/Post'), whole('a/Plate')]);
  openMenuAt(ws, ...at(5, 52), { x: 1, y: 2 });
  expect([picked().length, ws.menu.getState().open]).toEqual([2, { x: 1, y: 2, on: 'thing' }]);
  ws.selection.getState().pick([whole('a/Plate')]);
  openMenuAt(ws, ...at(5, 52), { x: 1, y: 2 });
  expect(picked()).toEqual(['face a/Post']);
  openMenuAt(ws, ...at(50, 80), { x: 1, y: 2 });
  expect(ws.menu.getState().open).toMatchObject({ on: 'space' });
});

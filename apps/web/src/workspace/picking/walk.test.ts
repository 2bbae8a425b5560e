import { lookFrom } from '@bathyscope/core/math';
import { boxPart } from '../../../../../packages/core/src/testing/box-part.ts';
import { commandById } from '../../commands/registry.ts';
import { runCommand } from '../../commands/run-command.ts';
import { setVisible } from '../../commands/show/visibility-commands.ts';
import { placedAt, showModel } from '../../testing/test-model.ts';
import { testWorkspace } from '../../testing/test-workspace.ts';
import { setPickFilter } from './pick-filter.ts';
import type { Workspace } from '../workspace.ts';

/* Pointing by keys. */

/** Two blocks beside each other, seen from above: two faces in view. */
function opened(): Workspace {
  const ws = testWorkspace();
  showModel(
    ws,
    [boxPart(20, 20, 6)],
    [
      ['left', 0, placedAt(0, 0, 0)],
      ['right', 0, placedAt(30, 0, 0)],
    ],
  );
  ws.camera.getState().setCanvas({ width: 600, height: 400 });
  ws.camera.getState().setCamera({
    projection: 'orthographic',
    target: [20, 10, 3],
    orientation: lookFrom([0, 0, 1], [0, 1, 0]),
    height: 60,
    lens: 0.5,
  });
  return ws;
}
const press = (ws: Workspace, id: string) => runCommand(ws, commandById(id));
const hover = (ws: Workspace) => ws.selection.getState().hover;

test('keys go through the faces in view, the nearest to the middle first, round and round, and set the cursor there', () => {
  const ws = opened();
  press(ws, 'next-in-view');
  // The left block ends nearer to the middle.
  expect(hover(ws)).toMatchObject({ kind: 'face', component: 'a/left', index: 5 });
  const { at, walked } = ws.pointer.getState();
  expect(walked).toMatchObject({ component: 'a/left' });
  expect(Math.hypot(at!.x - 300, at!.y - 200)).toBeLessThan(30);
  press(ws, 'next-in-view');
  expect(hover(ws)).toMatchObject({ component: 'a/right', index: 5 });
  press(ws, 'next-in-view');
  expect(hover(ws)).toMatchObject({ component: 'a/left' });
  press(ws, 'previous-in-view');
  expect(hover(ws)).toMatchObject({ component: 'a/right' });
  // What is hidden is not in view, whatever was seen before.
  setVisible(ws, ['a/right'], false);
  press(ws, 'next-in-view');
  expect(hover(ws)).toMatchObject({ component: 'a/left' });
});

test('from a face to its edges and corners, and back to faces; what is pointed at is picked, added and taken out', () => {
  const ws = opened();
  press(ws, 'next-in-view');
  press(ws, 'pick-pointed');
  const kinds = new Set<string>();
  for (let i = 0; i < 8; i++) {
    press(ws, 'next-bound');
    kinds.add(`${hover(ws)!.kind} ${hover(ws)!.index}`);
    expect(hover(ws)!.component).toBe('a/left');
  }
  // Four of each.
  expect([...kinds].filter((k) => k.startsWith('edge'))).toHaveLength(4);
  expect([...kinds].filter((k) => k.startsWith('vertex'))).toHaveLength(4);
  press(ws, 'add-pointed');
  expect(ws.selection.getState().picked).toHaveLength(2);
  press(ws, 'add-pointed');
  expect(ws.selection.getState().picked).toHaveLength(1);
  press(ws, 'next-in-view');
  expect(hover(ws)!.kind).toBe('face');
});

test('a filter is walked by its own kind; where nothing is in view nothing is pointed at', () => {
  const ws = opened();
  setPickFilter(ws, 'vertex');
  const found = new Set<string>();
  for (let i = 0; i < 12; i++) {
    press(ws, 'next-in-view');
    expect(hover(ws)!.kind).toBe('vertex');
    found.add(`${hover(ws)!.component} ${hover(ws)!.index}`);
  }
  expect(found.size).toBe(8);
  setPickFilter(ws, 'component');
  press(ws, 'next-in-view');
  expect(hover(ws)).toMatchObject({ kind: 'component' });
  setPickFilter(ws, 'all');
  ws.selection.getState().setHover(null);
  setVisible(ws, ['a/left', 'a/right'], false);
  press(ws, 'next-in-view');
  press(ws, 'pick-pointed');
  expect(hover(ws)).toBeNull();
});

import { FRAMES, pipOrientation } from '@bathyscope/core/camera';
import { boxPart } from '../../../../../packages/core/src/testing/box-part.ts';
import { commandById } from '../../commands/registry.ts';
import { menuEntries } from '../../commands/menu-entries.ts';
import { runCommand } from '../../commands/run-command.ts';
import { pickInBox } from '../../commands/pick/clicks.ts';
import type { PickFilter } from '../../state/filter-store.ts';
import { placedAt, showModel } from '../../testing/test-model.ts';
import { testWorkspace } from '../../testing/test-workspace.ts';
import { fittedToShown } from './camera-targets.ts';
import { nothingIn } from './in-view.ts';
import { setPickFilter } from '../picking/pick-filter.ts';

function twoBlocks() {
  const ws = testWorkspace();
  showModel(
    ws,
    [boxPart(10, 10, 10)],
    [
      ['left', 0, placedAt(0, 0, 0)],
      ['right', 0, placedAt(500, 0, 0)],
    ],
  );
  const { setCamera, panes } = ws.camera.getState();
  setCamera(fittedToShown(ws, panes[0].camera));
  return ws;
}

test('nothing is in view when all lies off the pane, is too far to be seen, or is hidden', () => {
  const ws = twoBlocks();
  const { setCamera, setPivot, panes } = ws.camera.getState();
  const { camera } = panes[0];
  expect(nothingIn(ws, 0)).toBeNull();
  // Between the two blocks there is nothing, though the box of all lies all over the pane.
  setCamera({ ...camera, target: [250, 5, 5], height: 20 });
  expect(nothingIn(ws, 0)).toBe('away');
  setCamera({ ...camera, height: 1e7 });
  expect(nothingIn(ws, 0)).toBe('away');
  setCamera({ ...camera, projection: 'perspective', target: [5, 5, 5], height: 1 });
  expect(nothingIn(ws, 0)).toBeNull();
  setCamera(camera);
  runCommand(ws, commandById('pick-all'));
  runCommand(ws, commandById('hide'));
  expect(nothingIn(ws, 0)).toBe('hidden');
  // A fit brings back what is in view and leaves the pivot where it was put.
  runCommand(ws, commandById('show-all'));
  setPivot([1, 2, 3]);
  runCommand(ws, commandById('fit'));
  expect(ws.camera.getState().pivot).toEqual([1, 2, 3]);
});

test('after an undo the pick is what it was before; home ends a command that waits, going through what lies below does not', () => {
  const ws = twoBlocks();
  const picked = () => ws.selection.getState().picked.map((p) => p.component);
  ws.selection.getState().pick([{ kind: 'component', component: 'a/left', index: 0 }]);
  runCommand(ws, commandById('isolate'));
  ws.selection.getState().pick([]);
  ws.history.getState().undo();
  expect(picked()).toEqual(['a/left']);
  ws.selection.getState().pick([]);
  for (const [id, waits] of [
    ['pick-through', true],
    ['home', false],
    ['zoom-in', false],
  ] as const) {
    runCommand(ws, commandById('hide'));
    expect(ws.waiting.getState().waiting).not.toBeNull();
    runCommand(ws, commandById(id));
    expect([id, ws.waiting.getState().waiting !== null]).toEqual([id, waits]);
    ws.waiting.setState({ waiting: null });
  }
});

test('a context menu is short: ten entries with “More”, and the rest is there behind it', () => {
  const ws = twoBlocks();
  const ids = (groups: { commands: { id: string }[] }[]) =>
    groups.flatMap((g) => g.commands.map((c) => c.id));
  for (const item of [
    { kind: 'component', component: 'a/left', index: 0 },
    { kind: 'face', component: 'a/left', index: 0 },
    { kind: 'edge', component: 'a/left', index: 0 },
  ] as const) {
    ws.selection.getState().pick([item]);
    const { short, more } = menuEntries(ws, 'thing');
    expect(ids(short).length).toBeLessThanOrEqual(9);
    expect(ids(short)).toEqual(expect.arrayContaining(['hide', 'isolate', 'fit-picked']));
    expect(ids(more)).toEqual(expect.arrayContaining(['same-part', 'colour']));
    expect(new Set([...ids(short), ...ids(more)]).size).toBe(ids(short).length + ids(more).length);
  }
  const { short } = menuEntries(ws, 'space');
  expect(ids(short)).toEqual(expect.arrayContaining(['home', 'fit', 'undo']));
  expect(ids(short).length).toBeLessThanOrEqual(9);
});

test('a drawn box picks what the filter says, inside one part too: all inside, or drawn to the left what it touches', () => {
  const ws = twoBlocks();
  const { setCamera, setCanvas } = ws.camera.getState();
  setCanvas({ width: 400, height: 300 });
  // The left block from the front: 10 × 10 mm in the middle, 20 px a mm.
  setCamera({
    ...ws.camera.getState().panes[0].camera,
    orientation: pipOrientation([0, 1, 0], FRAMES.z),
    target: [5, 5, 5],
    height: 15,
  });
  const around = { left: { x: 90, y: 40 }, right: { x: 310, y: 260 } };
  const picked = (filter: PickFilter, from = around.left, to = around.right) => {
    setPickFilter(ws, filter);
    pickInBox(ws, from, to, false);
    const items = ws.selection.getState().picked;
    expect(items.every((p) => p.component === 'a/left')).toBe(true);
    return [...new Set(items.map((p) => p.kind)), items.length];
  };
  expect(picked('all')).toEqual(['component', 1]);
  expect(picked('face')).toEqual(['face', 6]);
  expect(picked('edge')).toEqual(['edge', 12]);
  expect(picked('vertex')).toEqual(['vertex', 8]);
  // The upper half: whole edges only along its top, seen as four; touched are the upright ones too.
  const [top, half] = [
    { x: 90, y: 40 },
    { x: 310, y: 150 },
  ];
  expect(picked('edge', top, half)).toEqual(['edge', 4]);
  expect(picked('edge', half, top)).toEqual(['edge', 8]);
  expect(picked('vertex', top, half)).toEqual(['vertex', 4]);
  // Within a face, no corner of it inside.
  expect(picked('face', { x: 210, y: 160 }, { x: 190, y: 140 })).toEqual(['face', 2]);
});

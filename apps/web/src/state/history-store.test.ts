import { testWorkspace } from '../testing/test-workspace.ts';

const ws = testWorkspace();

test('a new step drops what was undone; the list is bounded', () => {
  const { record, undo, redo } = ws.history.getState();
  ws.history.getState().clear();
  const step = (name: string) => ({ name, undo: () => {}, redo: () => {} });
  for (const n of ['a', 'b']) record(step(n));
  undo();
  record(step('c'));
  expect(redo()).toBeNull();
  expect(ws.history.getState().done.map((d) => d.name)).toEqual(['a', 'c']);
  for (let i = 0; i < 300; i++) record(step(String(i)));
  expect(ws.history.getState().done).toHaveLength(200);
});

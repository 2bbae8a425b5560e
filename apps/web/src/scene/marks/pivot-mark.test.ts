import { testWorkspace } from '../../testing/test-workspace.ts';
import { PivotMark } from './pivot-mark.ts';

test('the pivot is seen for two seconds when it is set, and as long as a drag turns about it', () => {
  jest.useFakeTimers();
  const ws = testWorkspace();
  let seen = false;
  const mark = new PivotMark(ws, (visible) => (seen = visible));
  ws.camera.getState().setPivot([1, 2, 3]);
  expect(seen).toBe(true);
  jest.advanceTimersByTime(1900);
  expect(seen).toBe(true);
  jest.advanceTimersByTime(200);
  expect(seen).toBe(false);
  mark.hold(true);
  ws.camera.getState().setPivot([4, 5, 6]);
  jest.advanceTimersByTime(5000);
  expect(seen).toBe(true);
  mark.hold(false);
  expect(seen).toBe(false);
  // Set where it is already: seen all the same, also after a short drag.
  mark.flash();
  mark.hold(true);
  mark.hold(false);
  expect(seen).toBe(true);
  mark.dispose();
  ws.camera.getState().setPivot([7, 8, 9]);
  jest.advanceTimersByTime(5000);
  expect(jest.getTimerCount()).toBe(0);
  jest.useRealTimers();
});

import { testWorkspace } from '../../testing/test-workspace.ts';
import { startKeeping } from './keeping.ts';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

const NO_RECORDS = { failing: () => false, now: () => {}, close: () => {} };
const nothing = { addEventListener: () => {}, removeEventListener: () => {} };
(globalThis as { window?: unknown }).window ??= nothing;

test('changes are gathered; a save that fails is said, tried again until it succeeds, and then told to the other tabs', async () => {
  const ws = testWorkspace();
  let [saves, works, told] = [0, false, 0];
  const keeping = startKeeping(
    ws,
    async () => {
      saves++;
      if (!works) throw new Error('away');
    },
    NO_RECORDS,
    { tell: () => told++, close: () => {} },
  );
  const unsaved = () => ws.keeping.getState().unsaved;

  for (let i = 0; i < 5; i++) keeping.stateChanged();
  await jest.advanceTimersByTimeAsync(1000);
  expect([saves, unsaved(), told]).toEqual([1, true, 0]);
  await jest.advanceTimersByTimeAsync(10_000);
  expect(saves).toBeGreaterThan(1);
  expect(unsaved()).toBe(true);
  works = true;
  await jest.advanceTimersByTimeAsync(30_000);
  expect([unsaved(), told]).toEqual([false, 1]);
  const before = saves;
  await jest.advanceTimersByTimeAsync(60_000);
  expect(saves).toBe(before);
});

test('what changes while a save is under way is saved after it', async () => {
  const ws = testWorkspace();
  const done: (() => void)[] = [];
  const keeping = startKeeping(ws, () => new Promise((resolve) => done.push(resolve)), NO_RECORDS, {
    tell: () => {},
    close: () => {},
  });
  keeping.stateChanged();
  await jest.advanceTimersByTimeAsync(1000);
  keeping.stateChanged();
  done[0]();
  await jest.advanceTimersByTimeAsync(1000);
  expect(done).toHaveLength(2);
});

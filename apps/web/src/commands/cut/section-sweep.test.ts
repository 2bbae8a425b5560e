import type { SectionPlane } from '@bathyscope/core/section';
import { boxPart } from '../../../../../packages/core/src/testing/box-part.ts';
import { placedAt, showModel } from '../../testing/test-model.ts';
import { COMMANDS } from '../registry.ts';
import { runCommand } from '../run-command.ts';
import { setSweepPace, startSweep, stopSweep } from './section-sweep.ts';
import { testWorkspace } from '../../testing/test-workspace.ts';

const ws = testWorkspace();

let frames: ((now: number) => void)[] = [];
let clock = 1000;
Object.assign(globalThis, {
  requestAnimationFrame: (f: (now: number) => void) => frames.push(f),
  cancelAnimationFrame: () => (frames = []),
});
jest.spyOn(performance, 'now').mockImplementation(() => clock);
/** Lets time pass in one frame. */
const pass = (ms: number): void => {
  clock += ms;
  const now = frames;
  frames = [];
  now.forEach((f) => f(clock));
};
const offset = (): number => ws.section.getState().planes[0].offset;
const plane: SectionPlane = {
  id: 'p',
  name: 'P',
  origin: [0, 0, 0],
  normal: [0, 0, 1],
  offset: 0,
  flipped: false,
  on: true,
};

beforeEach(() => {
  // The model reaches from z = −10 to 30.
  showModel(ws, [boxPart(5, 5, 40)], [['Post', 0, placedAt(0, 0, -10)]]);
  ws.section.setState({ planes: [plane], on: true, combine: 'any' });
  ws.profile.getState().change({ sweepSeconds: 4 });
  ws.history.getState().clear();
});
afterEach(() => void stopSweep(ws));

test('a plane runs from where it is to one end of the model and back, at the set pace, whatever the frames', () => {
  startSweep(ws, 'p');
  pass(1000);
  expect(offset()).toBeCloseTo(10, 9);
  for (let i = 0; i < 10; i++) pass(150);
  expect(offset()).toBeCloseTo(25, 9);
  // Half a second to the end, half a second back.
  pass(1000);
  expect(offset()).toBeCloseTo(25, 9);
  pass(3500);
  expect(offset()).toBeCloseTo(-10, 9);
  pass(1000);
  expect(offset()).toBeCloseTo(0, 9);
});

test('stopped it stays, and is one step back; undo while it plays stops it first; started again it starts anew', () => {
  startSweep(ws, 'p');
  for (let i = 0; i < 5; i++) pass(100);
  expect(stopSweep(ws)).toBe(true);
  expect(stopSweep(ws)).toBe(false);
  const stopped = offset();
  pass(1000);
  expect(offset()).toBe(stopped);
  expect(ws.history.getState().done.map((d) => d.name)).toEqual(['sweep P']);
  runCommand(
    ws,
    COMMANDS.find((c) => c.id === 'undo')!,
  );
  expect(offset()).toBe(0);
  startSweep(ws, 'p');
  pass(500);
  runCommand(
    ws,
    COMMANDS.find((c) => c.id === 'undo')!,
  );
  expect(offset()).toBe(0);
  expect(ws.sweep.getState().plane).toBeNull();
  pass(500);
  expect(offset()).toBe(0);
});

test('a plane that is deleted while it plays ends it; the pace is kept within reason', () => {
  startSweep(ws, 'p');
  pass(100);
  ws.section.setState({ planes: [] });
  pass(100);
  expect(ws.sweep.getState().plane).toBeNull();
  expect(ws.section.getState().planes).toEqual([]);
  setSweepPace(ws, 0.01);
  expect(ws.profile.getState().sweepSeconds).toBe(0.5);
  setSweepPace(ws, 1e6);
  expect(ws.profile.getState().sweepSeconds).toBe(120);
});

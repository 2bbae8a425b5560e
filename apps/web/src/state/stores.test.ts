import { distance, FRAMES, pipOrientation, rotate, viewBack, viewUp, type Vec3 } from '@bathyscope/core';
import { changePlane } from '../commands/cut/section-changes.ts';
import { PANEL_MAX, PANEL_MIN } from './settings-store.ts';
import { testWorkspace } from '../testing/test-workspace.ts';
import { paneAt } from '../workspace/panes.ts';
import { clipsNow } from '../workspace/section-now.ts';
import { setPickFilter } from '../workspace/pick-filter.ts';
import { changeSettings } from '../workspace/change-settings.ts';
import { isShown } from '../workspace/shown.ts';

const ws = testWorkspace();

const near = (a: Vec3, b: Vec3) => expect(distance(a, b)).toBeLessThan(1e-9);

describe('panes', () => {
  const store = () => ws.camera.getState();
  beforeEach(() => {
    store().setCanvas({ width: 1000, height: 800 });
    store().setLayout('four', 'third angle');
  });
  afterAll(() => store().setLayout('one', 'third angle'));

  test('a layout divides the canvas, and a pixel knows its pane', () => {
    expect(store().panes.map((p) => [p.size.width, p.size.height])).toEqual([
      [500, 400],
      [500, 400],
      [500, 400],
      [500, 400],
    ]);
    expect(paneAt(ws, 100, 700)).toEqual({ index: 0, x: 100, y: 300 });
    expect(paneAt(ws, 100, 100).index).toBe(1);
    expect(paneAt(ws, 900, 700)).toMatchObject({ index: 2, x: 400, y: 300 });
  });

  test('linked panes follow the main one, and turning a linked one turns the main one', () => {
    const [main] = store().panes;
    store().setCamera({ ...main.camera, orientation: pipOrientation([0, 1, 0], FRAMES.z) }, 0);
    near(viewBack(store().panes[1].camera), [0, 0, 1]);
    near(viewBack(store().panes[2].camera), [1, 0, 0]);
    const top = store().panes[1].camera;
    store().setCamera({ ...top, orientation: pipOrientation([1, 0, 0], FRAMES.z) }, 1);
    near(viewUp(store().panes[0].camera), [1, 0, 0]);
    near(viewBack(store().panes[1].camera), [1, 0, 0]);
  });

  test('a fixed pane keeps its direction under pan and zoom, and goes free when it is turned; the up axis turns it', () => {
    store().setMode(3, { kind: 'fixed', pip: [0, 0, 1] });
    near(viewBack(store().panes[3].camera), [0, 0, 1]);
    store().setCamera({ ...store().panes[3].camera, height: 7, target: [1, 2, 3] }, 3);
    expect(store().panes[3].mode.kind).toBe('fixed');
    store().setUpAxis('y');
    near(viewBack(store().panes[3].camera), [0, 1, 0]);
    store().setUpAxis('z');
    store().setCamera({ ...store().panes[3].camera, orientation: pipOrientation([1, 1, 1], FRAMES.z) }, 3);
    expect(store().panes[3].mode.kind).toBe('free');
    expect(rotate(store().panes[3].camera.orientation, [0, 0, 1])[2]).toBeGreaterThan(0.5);
  });
});

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

test('peeking turns round what is shown', () => {
  ws.visibility.setState({ states: { a: { visible: false, ghosted: false, keptWhole: false } }, peeking: false });
  expect([isShown(ws, 'a'), isShown(ws, 'b')]).toEqual([false, true]);
  ws.visibility.setState({ peeking: true });
  expect([isShown(ws, 'a'), isShown(ws, 'b')]).toEqual([true, false]);
  ws.visibility.setState({ states: {}, peeking: false });
});

test('clips come from the planes that are on, on the side that is removed', () => {
  const plane = { id: 'p', name: 'P', origin: [0, 0, 10] as const, normal: [0, 0, 1] as const, offset: 5, flipped: false, on: true };
  ws.section.setState({ planes: [plane], on: true });
  const cutAway = (p: Vec3) => clipsNow(ws).some((c) => c.normal[0] * p[0] + c.normal[1] * p[1] + c.normal[2] * p[2] + c.constant < 0);
  expect([cutAway([0, 0, 16]), cutAway([0, 0, 14])]).toEqual([true, false]);
  ws.section.setState({ planes: changePlane(ws, 'p', { flipped: true }) });
  expect([cutAway([0, 0, 16]), cutAway([0, 0, 14])]).toEqual([false, true]);
  ws.section.setState({ on: false });
  expect(clipsNow(ws)).toEqual([]);
  ws.section.setState({ planes: [], on: true });
});

test('a filter takes its kind only; the panel keeps within its bounds', () => {
  setPickFilter(ws, 'edge');
  expect(ws.filter.getState().kinds).toEqual({ face: false, edge: true, vertex: false });
  setPickFilter(ws, 'body');
  expect(ws.filter.getState()).toMatchObject({ wide: 'body', kinds: { face: true, edge: false } });
  setPickFilter(ws, 'all');
  changeSettings(ws, { panelWidth: 9999 });
  expect(ws.profile.getState().panelWidth).toBe(PANEL_MAX);
  changeSettings(ws, { panelWidth: 1 });
  expect(ws.profile.getState().panelWidth).toBe(PANEL_MIN);
});

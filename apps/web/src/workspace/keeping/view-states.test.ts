import { IDENTITY } from '@bathyscope/core/math';
import { NO_SECTION, type SectionPlane } from '@bathyscope/core/section';
import { DEFAULT_STYLE, STYLE_PRESETS } from '@bathyscope/core/style';
import { migrateViewState, VIEW_STATE_VERSION } from '@bathyscope/core/view-state';
import { boxPart } from '../../../../../packages/core/src/testing/box-part.ts';
import { showModel } from '../../testing/test-model.ts';
import { currentState, recallState, restoreState } from './view-states.ts';
import { testWorkspace } from '../../testing/test-workspace.ts';
import { sectionNow } from '../cutting/section-now.ts';

const ws = testWorkspace();

const plane: SectionPlane = {
  id: 'p',
  name: 'Plane 1 · along X',
  origin: [1, 2, 3],
  normal: [1, 0, 0],
  offset: 4.5,
  flipped: true,
  on: true,
};
const style = { ...STYLE_PRESETS[1].style, edgeWeight: 2 };
/** As the server keeps it. */
const stored = () =>
  migrateViewState(
    JSON.parse(
      JSON.stringify(currentState(ws), (_, x: unknown) =>
        typeof x === 'number' ? Number(x.toFixed(12)) : x,
      ),
    ),
  );
const ALL = { camera: true, projection: true, visibility: true, style: true, section: true };

/**
 * Two panes, one component hidden and one whole, a style for the model and another for the second pane, a
 * section that pane does not show.
 */
function setUp(): void {
  const { setLayout, setCamera, setPivot, panes } = ws.camera.getState();
  setLayout('beside', 'first angle');
  setCamera({ ...panes[0].camera, projection: 'perspective', target: [7, 8, 9], height: 55 }, 0);
  setPivot([1, 1, 1]);
  ws.visibility.getState().set({
    'a/b': { visible: false, ghosted: false, keptWhole: false },
    'a/c': { visible: true, ghosted: false, keptWhole: true, colour: [1, 0, 0], transparency: 0.4 },
  });
  ws.style.setState({ style: DEFAULT_STYLE.style, panes: { 'pane 2': style } });
  ws.section.setState({ planes: [plane], on: true, combine: 'all', uncutPanes: ['pane 2'] });
}

/** As a model that is opened for the first time. */
function fresh(): void {
  restoreState(ws, null);
  const { setCamera, panes } = ws.camera.getState();
  setCamera({ ...panes[0].camera, projection: 'orthographic' }, 0);
}

beforeAll(() => showModel(ws, [boxPart(40, 20, 30)], [['b', 0, IDENTITY]]));
beforeEach(fresh);

test('a state is put in place as it was kept, down to what single panes have of their own', () => {
  setUp();
  const kept = stored();
  restoreState(ws, null);
  expect(sectionNow(ws)).toEqual(NO_SECTION);
  expect(ws.camera.getState().panes).toHaveLength(1);
  expect(ws.visibility.getState().states).toEqual({});
  restoreState(ws, kept);
  expect(stored()).toEqual(kept);
  expect(ws.section.getState()).toMatchObject({
    planes: [plane],
    combine: 'all',
    uncutPanes: ['pane 2'],
    active: null,
    before: null,
  });
  expect(ws.style.getState().panes).toEqual({ 'pane 2': style });
  expect(ws.camera.getState()).toMatchObject({
    layout: 'beside',
    arrangement: 'first angle',
    pivot: [1, 1, 1],
  });
});

test('of a saved view only the wanted parts are recalled', () => {
  setUp();
  const kept = stored();
  for (const part of Object.keys(ALL) as (keyof typeof ALL)[]) {
    fresh();
    const before = stored();
    recallState(ws, kept, {
      ...Object.fromEntries(Object.keys(ALL).map((k) => [k, false])),
      [part]: true,
    } as typeof ALL);
    const now = stored();
    expect(now.visibility).toEqual((part === 'visibility' ? kept : before).visibility);
    expect(now.section).toEqual((part === 'section' ? kept : before).section);
    expect(now.style).toEqual((part === 'style' ? kept : before).style);
    expect(now.camera!.projection).toBe(part === 'projection' ? 'perspective' : 'orthographic');
    if (part === 'camera')
      expect(now.camera).toMatchObject({ target: [7, 8, 9], height: 55, pivot: [1, 1, 1] });
    else if (part !== 'projection') expect(now.camera).toEqual(before.camera);
  }
});

test('a main pane with a style of its own keeps it; a state that knows no panes has none left over from before', () => {
  ws.style.getState().set(style, 'main');
  const kept = stored();
  expect(kept.panes?.panes).toHaveLength(1);
  restoreState(ws, { version: VIEW_STATE_VERSION });
  expect(ws.style.getState().panes).toEqual({});
  restoreState(ws, kept);
  expect(ws.style.getState().panes).toEqual({ main: style });
  // What no program wrote is left out, the rest is taken.
  const odd = migrateViewState({
    ...kept,
    panes: {
      ...kept.panes,
      panes: [{ ...kept.panes!.panes[0], uncut: 'yes', style: { surface: 'no such' } }],
    },
  });
  expect(odd.panes!.panes[0].uncut).toBeUndefined();
  expect(odd.panes!.panes[0].style).toEqual(DEFAULT_STYLE.style);
});

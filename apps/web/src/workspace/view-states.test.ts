import { DEFAULT_STYLE, IDENTITY, migrateViewState, NO_SECTION, STYLE_PRESETS, type SectionPlane } from '@bathyscope/core';
import { boxPart } from '../../../../packages/core/src/testing/box-part.ts';
import { cameraStore } from '../stores/camera-store.ts';
import { sectionNow, sectionStore } from '../stores/section-store.ts';
import { styleStore } from '../stores/style-store.ts';
import { visibilityStore } from '../stores/visibility-store.ts';
import { showModel } from '../testing/test-model.ts';
import { currentState, recallState, restoreState } from './view-states.ts';

const plane: SectionPlane = { id: 'p', name: 'Plane 1 · along X', origin: [1, 2, 3], normal: [1, 0, 0], offset: 4.5, flipped: true, on: true };
const style = { ...STYLE_PRESETS[1].style, edgeWeight: 2 };
/** As the server keeps it. */
const stored = () => migrateViewState(JSON.parse(JSON.stringify(currentState(), (_, x: unknown) => (typeof x === 'number' ? Number(x.toFixed(12)) : x))));
const ALL = { camera: true, projection: true, visibility: true, style: true, section: true };

/** Two panes, one component hidden and one whole, a style for the model and another for the second pane, a section that pane does not show. */
function setUp(): void {
  const { setLayout, setCamera, setPivot, panes } = cameraStore.getState();
  setLayout('beside', 'first angle');
  setCamera({ ...panes[0].camera, projection: 'perspective', target: [7, 8, 9], height: 55 }, 0);
  setPivot([1, 1, 1]);
  visibilityStore.getState().set({ 'a/b': { visible: false, ghosted: false, keptWhole: false }, 'a/c': { visible: true, ghosted: false, keptWhole: true, colour: [1, 0, 0], transparency: 0.4 } });
  styleStore.setState({ style: DEFAULT_STYLE.style, panes: { 'pane 2': style } });
  sectionStore.setState({ planes: [plane], on: true, combine: 'all', uncutPanes: ['pane 2'] });
}

/** As a model that is opened for the first time. */
function fresh(): void {
  restoreState(null);
  const { setCamera, panes } = cameraStore.getState();
  setCamera({ ...panes[0].camera, projection: 'orthographic' }, 0);
}

beforeAll(() => showModel([boxPart(40, 20, 30)], [['b', 0, IDENTITY]]));
beforeEach(fresh);

test('a state is put in place as it was kept, down to what single panes have of their own', () => {
  setUp();
  const kept = stored();
  restoreState(null);
  expect(sectionNow()).toEqual(NO_SECTION);
  expect(cameraStore.getState().panes).toHaveLength(1);
  expect(visibilityStore.getState().states).toEqual({});
  restoreState(kept);
  expect(stored()).toEqual(kept);
  expect(sectionStore.getState()).toMatchObject({ planes: [plane], combine: 'all', uncutPanes: ['pane 2'], active: null, before: null });
  expect(styleStore.getState().panes).toEqual({ 'pane 2': style });
  expect(cameraStore.getState()).toMatchObject({ layout: 'beside', arrangement: 'first angle', pivot: [1, 1, 1] });
});

test('of a saved view only the wanted parts are recalled', () => {
  setUp();
  const kept = stored();
  for (const part of Object.keys(ALL) as (keyof typeof ALL)[]) {
    fresh();
    const before = stored();
    recallState(kept, { ...Object.fromEntries(Object.keys(ALL).map((k) => [k, false])), [part]: true } as typeof ALL);
    const now = stored();
    expect(now.visibility).toEqual((part === 'visibility' ? kept : before).visibility);
    expect(now.section).toEqual((part === 'section' ? kept : before).section);
    expect(now.style).toEqual((part === 'style' ? kept : before).style);
    expect(now.camera!.projection).toBe(part === 'projection' ? 'perspective' : 'orthographic');
    if (part === 'camera') expect(now.camera).toMatchObject({ target: [7, 8, 9], height: 55, pivot: [1, 1, 1] });
    else if (part !== 'projection') expect(now.camera).toEqual(before.camera);
  }
});

test('a main pane with a style of its own keeps it; a state that knows no panes has none left over from before', () => {
  styleStore.getState().set(style, 'main');
  const kept = stored();
  expect(kept.panes?.panes).toHaveLength(1);
  restoreState({ version: 2 });
  expect(styleStore.getState().panes).toEqual({});
  restoreState(kept);
  expect(styleStore.getState().panes).toEqual({ main: style });
  // What no program wrote is left out, the rest is taken.
  const odd = migrateViewState({ ...kept, panes: { ...kept.panes, panes: [{ ...kept.panes!.panes[0], uncut: 'yes', style: { surface: 'no such' } }] } });
  expect(odd.panes!.panes[0].uncut).toBeUndefined();
  expect(odd.panes!.panes[0].style).toEqual(DEFAULT_STYLE.style);
});

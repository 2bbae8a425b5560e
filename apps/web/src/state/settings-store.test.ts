import { PANEL_MAX, PANEL_MIN } from './settings-store.ts';
import { testWorkspace } from '../testing/test-workspace.ts';
import { setPickFilter } from '../workspace/picking/pick-filter.ts';
import { changeSettings } from '../workspace/keeping/change-settings.ts';

const ws = testWorkspace();

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

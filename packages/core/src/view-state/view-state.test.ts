import { DEFAULT_LENS } from '../camera/view-camera.ts';
import { migrateViewState, understoodViewState, ViewStateError, VIEW_STATE_VERSION } from './view-state.ts';

describe('what is shown', () => {
  test('view states of version 1 are lifted; nonsense is refused with a sentence', () => {
    const camera = { projection: 'orthographic', target: [1, 2, 3], orientation: [0, 0, 0, 2], height: 50 };
    expect(migrateViewState({ version: 1, camera: { ...camera, orientation: [0, 0, 0, 1.5] } })).toEqual({
      version: VIEW_STATE_VERSION,
      camera: { ...camera, orientation: [0, 0, 0, 1], lens: DEFAULT_LENS },
    });
    for (const bad of [
      null,
      { version: 9 },
      { version: 2, camera: { ...camera, height: -1 } },
      { version: 2, panes: { layout: 'nine' } },
      { version: 2, camera: { ...camera, orientation: [0, 0, 0, 0] } },
    ])
      expect(() => migrateViewState(bad)).toThrow(ViewStateError);
    const panes = {
      layout: 'beside',
      arrangement: 'first angle',
      panes: [
        { mode: { kind: 'free' }, camera },
        { mode: { kind: 'linked', side: 'nowhere' }, camera },
      ],
    };
    expect(() => migrateViewState({ version: 2, panes })).toThrow(/no direction/);
  });

  test('of a newer version it is shown as far as it goes; each part that is not understood is left out', () => {
    const camera = { projection: 'orthographic', target: [1, 2, 3], orientation: [0, 0, 0, 1], height: 50 };
    const style = { nothing: 1 };
    const newer = {
      version: 99,
      camera,
      tide: { height: 3 },
      section: { planes: [] },
      panes: { layout: 'nine' },
      style,
    };
    const { version, ...parts } = understoodViewState(newer);
    expect([version, Object.keys(parts).sort()]).toEqual([
      VIEW_STATE_VERSION,
      ['camera', 'section', 'style'],
    ]);
    expect(parts.camera).toMatchObject({ target: camera.target, height: camera.height });
    expect(() => understoodViewState({ version: 99, tide: 3 })).toThrow(/another version/);
    expect(() => understoodViewState({ version: 'x', camera })).toThrow(/another version/);
  });
});

import { type Settings } from '../../state/settings-store.ts';
import { presetById, type GestureMap, type GesturePreset } from '../../state/gestures.ts';
import type { Workspace } from '../../workspace/workspace.ts';

type Chosen = Pick<Settings, 'gesturePreset' | 'ownGestures'>;

export const presetOf = (s: Chosen): GesturePreset => presetById(s.gesturePreset);

/** The gestures in force: the preset's with the user's own over them. */
export const gestureMapOf = (s: Chosen): GestureMap => ({
  ...presetOf(s).map,
  ...s.ownGestures[s.gesturePreset],
});

export const gestureMap = (ws: Workspace): GestureMap => gestureMapOf(ws.profile.getState());

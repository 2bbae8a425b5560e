import type { UpAxis, ViewState } from '@bathyscope/core';
import { createStore } from 'zustand/vanilla';

/** What a user set about one model. */
export interface ModelPreference {
  upAxis: UpAxis;
  /** Where Home leads instead of the isometric view; null for that. */
  home: ViewState | null;
  /** Home frames what is visible instead of the whole model. */
  homeFramesVisible: boolean;
}

export const PLAIN_PREFERENCE: ModelPreference = { upAxis: 'z', home: null, homeFramesVisible: true };

export const preferenceStore = createStore<ModelPreference>()(() => PLAIN_PREFERENCE);

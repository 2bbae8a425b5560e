import { DEFAULT_STYLE, STYLE_PRESETS, type StylePreset, type ViewStyle } from '@bathyscope/core';
import { createStore } from 'zustand/vanilla';
import { settingsStore } from './settings-store.ts';

interface StyleState {
  /** The style of the model. */
  style: ViewStyle;
  /** By pane id, where a pane has its own. */
  panes: Record<string, ViewStyle>;
  set: (style: ViewStyle, pane?: string) => void;
}

export const styleStore = createStore<StyleState>()((set) => ({
  style: DEFAULT_STYLE.style,
  panes: {},
  set: (style, pane) => set((s) => (pane === undefined ? { style } : { panes: { ...s.panes, [pane]: style } })),
}));

/** The style a pane is drawn in. */
export const styleOfPane = (pane: string): ViewStyle => {
  const { style, panes } = styleStore.getState();
  return panes[pane] ?? style;
};

/** The presets that come with the program, then the user's own. */
export const allPresets = (): StylePreset[] => [...STYLE_PRESETS, ...settingsStore.getState().ownStyles];

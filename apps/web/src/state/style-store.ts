import { DEFAULT_STYLE, STYLE_PRESETS, type StylePreset, type ViewStyle } from '@bathyscope/core';
import { createStore } from 'zustand/vanilla';
import type { Workspace } from '../workspace/workspace.ts';

interface StyleState {
  /** The style of the model. */
  style: ViewStyle;
  /** By pane id, where a pane has its own. */
  panes: Record<string, ViewStyle>;
  set: (style: ViewStyle, pane?: string) => void;
}

export const createStyleState = () => createStore<StyleState>()((set) => ({
  style: DEFAULT_STYLE.style,
  panes: {},
  set: (style, pane) => set((s) => (pane === undefined ? { style } : { panes: { ...s.panes, [pane]: style } })),
}));

/** The style a pane is drawn in. */
export const styleOfPane = (ws: Workspace, pane: string): ViewStyle => {
  const { style, panes } = ws.style.getState();
  return panes[pane] ?? style;
};

/** The presets that come with the program, then the user's own. */
export const allPresets = (ws: Workspace): StylePreset[] => [...STYLE_PRESETS, ...ws.profile.getState().ownStyles];

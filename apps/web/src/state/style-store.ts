import { DEFAULT_STYLE, type ViewStyle } from '@bathyscope/core';
import { createStore } from 'zustand/vanilla';

interface StyleState {
  /** The style of the model. */
  style: ViewStyle;
  /** By pane id, where a pane has its own. */
  panes: Record<string, ViewStyle>;
  set: (style: ViewStyle, pane?: string) => void;
}

export const createStyleState = () =>
  createStore<StyleState>()((set) => ({
    style: DEFAULT_STYLE.style,
    panes: {},
    set: (style, pane) => set((s) => (pane === undefined ? { style } : { panes: { ...s.panes, [pane]: style } })),
  }));

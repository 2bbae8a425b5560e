import { DEFAULT_STYLE, type StylePreset, type ViewStyle } from '@bathyscope/core/style';
import { createStore } from './tracked-store.ts';

interface StyleState {
  /** The style of the model. */
  style: ViewStyle;
  /** By pane id, where a pane has its own. */
  panes: Record<string, ViewStyle>;
  /** Styles of others that came along with a view, for components that are drawn in them. */
  carried: StylePreset[];
  set: (style: ViewStyle, pane?: string) => void;
}

export const createStyleState = () =>
  createStore<StyleState>()((set) => ({
    style: DEFAULT_STYLE.style,
    panes: {},
    carried: [],
    set: (style, pane) =>
      set((s) => (pane === undefined ? { style } : { panes: { ...s.panes, [pane]: style } })),
  }));

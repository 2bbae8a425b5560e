import { STYLE_PRESETS, type StylePreset, type ViewStyle } from '@bathyscope/core';
import type { Workspace } from './workspace.ts';

/** The style a pane is drawn in. */
export const styleOfPane = (ws: Workspace, pane: string): ViewStyle => {
  const { style, panes } = ws.style.getState();
  return panes[pane] ?? style;
};

/** The presets that come with the program, then the user's own. */
export const allPresets = (ws: Workspace): StylePreset[] => [...STYLE_PRESETS, ...ws.profile.getState().ownStyles];

/** Backgrounds a style can ask for; the theme's own is that of the page behind the canvas. */
export const BACKGROUNDS: Record<Exclude<ViewStyle['background'], 'theme'>, string> = {
  white: '#ffffff',
  grey: '#c9ced1',
  dark: '#20282e',
};

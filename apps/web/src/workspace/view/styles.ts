import { STYLE_PRESETS, type StylePreset, type ViewStyle } from '@bathyscope/core/style';
import type { Workspace } from '../workspace.ts';

/** The style a pane is drawn in. */
export const styleOfPane = (ws: Workspace, pane: string): ViewStyle => {
  const { style, panes } = ws.style.getState();
  return panes[pane] ?? style;
};

/** The presets that come with the program, the user's own, and those that a view brought along. */
export function allPresets(ws: Workspace): StylePreset[] {
  const mine = [...STYLE_PRESETS, ...ws.profile.getState().ownStyles];
  const ids = new Set(mine.map((p) => p.id));
  return [...mine, ...ws.style.getState().carried.filter((p) => !ids.has(p.id))];
}

/**
 * Of those that do not come with the program, the ones that components are drawn in: what a
 * view has to bring along.
 */
export function stylesToCarry(ws: Workspace): StylePreset[] {
  const used = new Set(Object.values(ws.visibility.getState().states).map((s) => s.style));
  return allPresets(ws).filter((p) => used.has(p.id) && !STYLE_PRESETS.some((b) => b.id === p.id));
}

/** Backgrounds a style can ask for; the theme's own is that of the page behind the canvas. */
export const BACKGROUNDS: Record<Exclude<ViewStyle['background'], 'theme'>, string> = {
  white: '#ffffff',
  grey: '#c9ced1',
  dark: '#20282e',
};

import { changeStates, presetOfStyle, type StylePreset, type ViewStyle } from '@bathyscope/core';
import { Brush, ChevronLeft, ChevronRight, Grid3x3, PanelsTopLeft, Slash } from 'lucide-react';
import { activePane } from '../stores/camera-store.ts';
import { historyStore, type Inverse } from '../stores/history-store.ts';
import { allPresets, styleOfPane, styleStore } from '../stores/style-store.ts';
import { visibilityStore } from '../stores/visibility-store.ts';
import type { Command } from './command.ts';
import { belowAll, changeTable } from './visibility-commands.ts';

/** Where a change of style goes: the pane under the cursor when it has a style of its own, else the model. */
const target = (): string | undefined => (styleStore.getState().panes[activePane().id] ? activePane().id : undefined);

export function changeStyle(name: string, style: ViewStyle, pane: string | undefined = target()): Inverse {
  const before = { ...styleStore.getState() };
  styleStore.getState().set(style, pane);
  const after = { ...styleStore.getState() };
  return { name, undo: () => styleStore.setState({ style: before.style, panes: before.panes }), redo: () => styleStore.setState({ style: after.style, panes: after.panes }) };
}

export const recordStyle = (name: string, style: ViewStyle): void => historyStore.getState().record(changeStyle(name, style));

/** Gives the pane under the cursor a style of its own, or takes it away. */
export function setPaneStyle(own: boolean): void {
  const { id } = activePane();
  const { panes } = styleStore.getState();
  const { [id]: _, ...others } = panes;
  styleStore.setState({ panes: own ? { ...panes, [id]: styleOfPane(id) } : others });
}

function step(by: 1 | -1): Inverse {
  const presets = allPresets();
  const now = presetOfStyle(styleOfPane(activePane().id), presets);
  const at = now ? presets.findIndex((p) => p.id === now.id) : by > 0 ? -1 : 0;
  const next = presets[(at + by + presets.length) % presets.length];
  return changeStyle(`style ${next.name}`, next.style);
}

const toggle = (key: 'triangles' | 'openEdges', name: string): Inverse => {
  const style = styleOfPane(activePane().id);
  return changeStyle(name, { ...style, [key]: !style[key] });
};

/** A style for single components, instead of the pane's; undefined for the pane's again. */
export function styleComponents(paths: readonly string[], preset: StylePreset | undefined): Inverse | void {
  const { states } = visibilityStore.getState();
  return changeTable(preset ? `style ${preset.name} for ${paths.length} component${paths.length === 1 ? '' : 's'}` : 'style of the pane again', changeStates(states, belowAll(paths), { style: preset?.id }));
}

const WORDS: Record<string, string[]> = {
  work: ['shaded with edges'], 'look-through': ['shaded with hidden edges'], line: ['hidden line removal', 'hidden lines removed'], 'line-dashed': ['hidden lines visible', 'dashed'],
  wireframe: ['wire', 'skeleton'], catalogue: ['rendered', 'realistic', 'soft shadow'], handout: ['sketch', 'hand drawn', 'ink'],
};

export const STYLE_COMMANDS: Command[] = [
  { id: 'next-style', name: 'Next style', group: 'Style', icon: ChevronRight, shortcut: 'V', searchWords: ['display mode', 'shading'], needs: 'nothing', keepsMode: true, run: () => step(1) },
  { id: 'previous-style', name: 'Previous style', group: 'Style', icon: ChevronLeft, shortcut: 'Shift+V', searchWords: ['display mode'], needs: 'nothing', keepsMode: true, run: () => step(-1) },
  ...allPresets().filter((p) => p.id in WORDS).map((preset): Command => ({
    id: `style-${preset.id}`, name: `Style: ${preset.name}`, group: 'Style', icon: Brush, searchWords: ['display mode', 'shading', ...WORDS[preset.id]], needs: 'nothing', keepsMode: true,
    run: () => changeStyle(`style ${preset.name}`, preset.style),
  })),
  { id: 'triangles', name: 'Triangles of the mesh', group: 'Style', icon: Grid3x3, searchWords: ['mesh', 'tessellation', 'facets'], needs: 'nothing', keepsMode: true, run: () => toggle('triangles', 'triangles of the mesh') },
  { id: 'open-edges', name: 'Open edges', group: 'Style', icon: Slash, searchWords: ['free edges', 'naked edges', 'boundary', 'mesh health'], needs: 'nothing', keepsMode: true, run: () => toggle('openEdges', 'open edges') },
  {
    id: 'pane-style', name: 'A style for this pane only', group: 'Style', icon: PanelsTopLeft, searchWords: ['viewport style'], needs: 'nothing', keepsMode: true,
    run: () => setPaneStyle(styleStore.getState().panes[activePane().id] === undefined),
  },
];

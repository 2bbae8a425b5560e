import { STYLE_PRESETS, presetOfStyle, type StylePreset, type ViewStyle } from '@bathyscope/core/style';
import { changeStates } from '@bathyscope/core/visibility';
import { Brush, ChevronLeft, ChevronRight, Grid3x3, Palette, PanelsTopLeft, Slash } from 'lucide-react';
import { type Inverse } from '../../state/history-store.ts';
import type { Command } from '../command.ts';
import { belowAll, changeTable } from '../show/visibility-commands.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { activePane } from '../../workspace/view/panes.ts';
import { allPresets, styleOfPane } from '../../workspace/view/styles.ts';
import { patched } from '../../workspace/perform.ts';

/** Where a change of style goes: the pane under the cursor when it has a style of its own, else the model. */
const target = (ws: Workspace): string | undefined =>
  ws.style.getState().panes[activePane(ws).id] ? activePane(ws).id : undefined;

export function changeStyle(
  ws: Workspace,
  name: string,
  style: ViewStyle,
  pane: string | undefined = target(ws),
): Inverse {
  return patched(
    name,
    ws.style,
    pane === undefined ? { style } : { panes: { ...ws.style.getState().panes, [pane]: style } },
  );
}

export const recordStyle = (ws: Workspace, name: string, style: ViewStyle): void =>
  ws.history.getState().record(changeStyle(ws, name, style));

/** Gives the pane under the cursor a style of its own, or takes it away. */
export function setPaneStyle(ws: Workspace, own: boolean): Inverse {
  const { id } = activePane(ws);
  const { panes } = ws.style.getState();
  const { [id]: _, ...others } = panes;
  return patched(own ? 'a style for this pane only' : 'the style of the model again', ws.style, {
    panes: own ? { ...panes, [id]: styleOfPane(ws, id) } : others,
  });
}

function step(ws: Workspace, by: 1 | -1): Inverse {
  const presets = allPresets(ws);
  const now = presetOfStyle(styleOfPane(ws, activePane(ws).id), presets);
  const at = now ? presets.findIndex((p) => p.id === now.id) : by > 0 ? -1 : 0;
  const next = presets[(at + by + presets.length) % presets.length];
  return changeStyle(ws, `style ${next.name}`, next.style);
}

const toggle = (ws: Workspace, key: 'triangles' | 'openEdges', name: string): Inverse => {
  const style = styleOfPane(ws, activePane(ws).id);
  return changeStyle(ws, name, { ...style, [key]: !style[key] });
};

/** A style for single components, instead of the pane's; undefined for the pane's again. */
export function styleComponents(
  ws: Workspace,
  paths: readonly string[],
  preset: StylePreset | undefined,
): Inverse | void {
  const { states } = ws.visibility.getState();
  return changeTable(
    ws,
    preset
      ? `style ${preset.name} for ${paths.length} component${paths.length === 1 ? '' : 's'}`
      : 'style of the pane again',
    changeStates(states, belowAll(ws, paths), { style: preset?.id }),
  );
}

const WORDS: Record<string, string[]> = {
  work: ['shaded with edges'],
  'look-through': ['shaded with hidden edges'],
  line: ['hidden line removal', 'hidden lines removed'],
  'line-dashed': ['hidden lines visible', 'dashed'],
  wireframe: ['wire', 'skeleton'],
  catalogue: ['rendered', 'realistic', 'soft shadow'],
  handout: ['sketch', 'hand drawn', 'ink'],
};

export const STYLE_COMMANDS: Command[] = [
  {
    id: 'next-style',
    name: 'Next style',
    group: 'Style',
    icon: ChevronRight,
    shortcut: 'V',
    searchWords: ['display mode', 'shading'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => step(ws, 1),
  },
  {
    id: 'previous-style',
    name: 'Previous style',
    group: 'Style',
    icon: ChevronLeft,
    shortcut: 'Shift+V',
    searchWords: ['display mode'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => step(ws, -1),
  },
  ...STYLE_PRESETS.filter((p) => p.id in WORDS).map((preset): Command => ({
    id: `style-${preset.id}`,
    name: `Style: ${preset.name}`,
    group: 'Style',
    icon: Brush,
    searchWords: ['display mode', 'shading', ...WORDS[preset.id]],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => changeStyle(ws, `style ${preset.name}`, preset.style),
  })),
  {
    id: 'triangles',
    name: 'Triangles of the mesh',
    group: 'Style',
    icon: Grid3x3,
    searchWords: ['mesh', 'tessellation', 'facets'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => toggle(ws, 'triangles', 'triangles of the mesh'),
  },
  {
    id: 'open-edges',
    name: 'Open edges',
    group: 'Style',
    icon: Slash,
    searchWords: ['free edges', 'boundary', 'holes in the mesh', 'not watertight'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => toggle(ws, 'openEdges', 'open edges'),
  },
  {
    id: 'material-colours',
    name: 'Colours of the materials or of the file',
    group: 'Style',
    icon: Palette,
    searchWords: ['material colour', 'material color', 'appearance'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => {
      const style = styleOfPane(ws, activePane(ws).id);
      // Only where materials are lit do they show a colour.
      const colours = style.surface === 'material' && style.colours === 'material' ? 'file' : 'material';
      return changeStyle(ws, 'colours', { ...style, surface: 'material', colours });
    },
  },
  {
    id: 'pane-style',
    name: 'A style for this pane only',
    group: 'Style',
    icon: PanelsTopLeft,
    searchWords: ['viewport style'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => setPaneStyle(ws, ws.style.getState().panes[activePane(ws).id] === undefined),
  },
];

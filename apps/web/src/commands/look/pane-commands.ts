import type { PaneLayout, Pip } from '@bathyscope/core/camera';
import { Columns2, Grid2x2, Link2, Rows2, Square, SquareSplitHorizontal, Unlink } from 'lucide-react';
import { fittedToShown } from '../../workspace/view/camera-targets.ts';
import type { Command } from '../command.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { activePane } from '../../workspace/view/panes.ts';
import { changeSettings } from '../../workspace/keeping/change-settings.ts';

/** Divides the canvas; every pane is fitted, for its shape is another. */
export function setLayout(ws: Workspace, layout: PaneLayout): void {
  ws.camera.getState().setLayout(layout, ws.profile.getState().arrangement);
  fitPanes(ws);
}

function fitPanes(ws: Workspace): void {
  ws.camera.getState().panes.forEach((_, i) => {
    const { panes, setCamera, setActive } = ws.camera.getState();
    setActive(i);
    if (panes[i].mode.kind !== 'linked') setCamera(fittedToShown(ws, panes[i].camera, panes[i].size), i);
  });
  ws.camera.getState().setActive(0);
}

export function setArrangement(ws: Workspace, arrangement: 'first angle' | 'third angle'): void {
  changeSettings(ws, { arrangement });
  setLayout(ws, ws.camera.getState().layout);
}

/** Gives a pane a direction of its own, or fixes it to one. */
export function setPaneDirection(ws: Workspace, index: number, pip: Pip | null): void {
  const { setMode, setCamera } = ws.camera.getState();
  setMode(index, pip ? { kind: 'fixed', pip } : { kind: 'free' });
  const pane = ws.camera.getState().panes[index];
  if (pip) setCamera(fittedToShown(ws, pane.camera, pane.size), index);
}

const layout = (
  id: string,
  name: string,
  panes: PaneLayout,
  icon: Command['icon'],
  words: string[],
): Command => ({
  id,
  name,
  group: 'Panes',
  icon,
  searchWords: ['split', 'viewports', 'windows', ...words],
  needs: 'nothing',
  keepsMode: true,
  run: (ws) => setLayout(ws, panes),
});

export const PANE_COMMANDS: Command[] = [
  layout('panes-one', 'One pane', 'one', Square, ['single']),
  layout('panes-beside', 'Two panes side by side', 'beside', Columns2, ['vertical split']),
  layout('panes-above', 'Two panes above each other', 'above', Rows2, ['horizontal split']),
  layout('panes-four', 'Four panes', 'four', Grid2x2, ['quad', 'top front right']),
  {
    id: 'arrangement',
    name: 'Linked panes: first or third angle',
    group: 'Panes',
    icon: SquareSplitHorizontal,
    searchWords: ['projection method', 'european', 'american', 'iso 5456-2'],
    needs: 'nothing',
    run: (ws) =>
      setArrangement(ws, ws.profile.getState().arrangement === 'third angle' ? 'first angle' : 'third angle'),
  },
  {
    id: 'pane-free',
    name: 'This pane’s own direction',
    group: 'Panes',
    icon: Unlink,
    searchWords: ['unlink', 'detach', 'own view', 'let it turn'],
    needs: 'nothing',
    refusal: (ws) =>
      activePane(ws).mode.kind === 'free' ? 'This pane has a direction of its own already.' : null,
    run: (ws) => setPaneDirection(ws, ws.camera.getState().active, null),
  },
  {
    id: 'panes-link',
    name: 'Link the panes again',
    group: 'Panes',
    icon: Link2,
    searchWords: ['align', 'relink'],
    needs: 'nothing',
    refusal: (ws) =>
      ws.camera.getState().panes.length > 1 ? null : 'There is one pane only; divide the scene first.',
    run: (ws) => setLayout(ws, ws.camera.getState().layout),
  },
];

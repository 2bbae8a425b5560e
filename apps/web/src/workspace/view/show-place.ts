import type { Picked } from '../../state/selection-store.ts';
import { fittedToPicked } from './camera-targets.ts';
import { activePane } from './panes.ts';
import { turnTo } from './turn-view.ts';
import type { Workspace } from '../workspace.ts';

/** Picks edges of a component and shows them large. */
export function showPlace(ws: Workspace, component: string, edges: readonly number[]): void {
  const items = edges.map((index): Picked => ({ kind: 'edge', component, index }));
  ws.selection.getState().pick(items);
  turnTo(ws, fittedToPicked(ws, activePane(ws).camera, items));
}

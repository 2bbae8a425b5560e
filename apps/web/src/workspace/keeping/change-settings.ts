import type { Workspace } from '../workspace.ts';
import type { MeasureTab } from '../../state/measure-store.ts';
import { type Settings } from '../../state/settings-store.ts';

export const changeSettings = (ws: Workspace, values: Partial<Settings>): void =>
  ws.profile.getState().change(values);

/** Opens the task Measure, with one of its pages. */
export function openMeasure(ws: Workspace, tab: MeasureTab): void {
  changeSettings(ws, { task: 'measure' });
  ws.measure.setState({ tab });
}

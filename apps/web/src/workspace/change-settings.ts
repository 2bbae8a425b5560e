import type { Workspace } from './workspace.ts';
import { type Settings } from '../state/settings-store.ts';

export const changeSettings = (ws: Workspace, values: Partial<Settings>): void => ws.profile.getState().change(values);

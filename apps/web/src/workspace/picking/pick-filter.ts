import type { Workspace } from '../workspace.ts';
import { type PickFilter, stateFor } from '../../state/filter-store.ts';

export const setPickFilter = (ws: Workspace, filter: PickFilter): void =>
  ws.filter.setState(stateFor(filter));

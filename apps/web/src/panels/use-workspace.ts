import { createContext, useContext } from 'react';
import type { Workspace } from '../workspace/workspace.ts';

export const WorkspaceContext = createContext<Workspace | null>(null);

/** The workspace that a panel stands in. */
export function useWorkspace(): Workspace {
  const ws = useContext(WorkspaceContext);
  if (!ws) throw new Error('This part of the page stands outside of a workspace.');
  return ws;
}

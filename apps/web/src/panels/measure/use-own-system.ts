import type { ReferenceSystem } from '@bathyscope/core';
import { useStore } from 'zustand';
import { ownSystem } from '../../workspace/systems.ts';
import { useWorkspace } from '../use-workspace.ts';

/** The reference system of one's own that figures are told in, if any. */
export function useOwnSystem(): ReferenceSystem | undefined {
  const ws = useWorkspace();
  useStore(ws.measure, (s) => s.toldIn);
  useStore(ws.preference, (s) => s.systems);
  return ownSystem(ws);
}

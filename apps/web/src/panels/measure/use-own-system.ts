import { referenceSystem } from '@bathyscope/contracts/records';
import type { ReferenceSystem } from '@bathyscope/core';
import { useStore } from 'zustand';
import { ownSystem } from '../../workspace/systems.ts';
import { useRecords } from '../use-records.ts';
import { useWorkspace } from '../use-workspace.ts';

/** The reference system of one's own that figures are told in, if any. */
export function useOwnSystem(): ReferenceSystem | undefined {
  const ws = useWorkspace();
  useStore(ws.measure, (s) => s.toldIn);
  useRecords(referenceSystem);
  return ownSystem(ws);
}

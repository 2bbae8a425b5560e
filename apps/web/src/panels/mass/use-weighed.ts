import { componentMaterial, partMaterial, typedMass } from '@bathyscope/contracts/records';
import { useEffect } from 'react';
import { useStore } from 'zustand';
import { weighKeptSide } from '../../workspace/kept-side.ts';
import { weighedSet } from '../../workspace/weights.ts';
import type { WeighedSetNow } from '../../workspace/weighed.ts';
import { useRecords } from '../use-records.ts';
import { useWorkspace } from '../use-workspace.ts';

/** ms. A section that is still being dragged is not weighed. */
const SETTLED = 150;

/** Follows all that weights are made of. */
function useWeighing(): readonly unknown[] {
  const ws = useWorkspace();
  const set = useStore(ws.mass, (s) => s.set);
  const { assumed, cut } = useStore(ws.mass);
  const model = useStore(ws.model);
  const own = useStore(ws.library, (s) => s.own);
  const [materials, componentMaterials, typedMasses] = [useRecords(partMaterial), useRecords(componentMaterial), useRecords(typedMass)];
  // What a set does not ask about does not weigh it anew.
  const states = useStore(ws.visibility, (s) => (set === 'shown' || set === 'kept' ? s : null));
  const picked = useStore(ws.selection, (s) => (set === 'picked' ? s.picked : null));
  const section = useStore(ws.section, (s) => (set === 'kept' ? s : null));
  const whole = useStore(ws.cut, (s) => (set === 'kept' ? s.whole : null));
  return [set, assumed, cut, model, own, materials, componentMaterials, typedMasses, states, picked, section, whole];
}

/** What the chosen set weighs, and its parts: worked out once for all who show it. */
export function useWeighed(): WeighedSetNow {
  const ws = useWorkspace();
  const of = useWeighing();
  const before = ws.memo.weighed;
  if (before?.of.every((x, i) => x === of[i])) return before.now;
  const now = weighedSet(ws);
  ws.memo.weighed = { of, now };
  return now;
}

/** Has the kept side worked out, for the panel that shows it; a section that is still being dragged is left alone. */
export function useKeptSide(): void {
  const ws = useWorkspace();
  const wanted = useStore(ws.mass, (s) => s.set === 'kept');
  const ready = useStore(ws.model, (s) => s.status === 'ready');
  const states = useStore(ws.visibility);
  const section = useStore(ws.section);
  const whole = useStore(ws.cut, (s) => s.whole);
  useEffect(() => {
    if (!wanted || !ready) return;
    const timer = setTimeout(() => weighKeptSide(ws), SETTLED);
    return () => clearTimeout(timer);
  }, [ws, wanted, ready, states, section, whole]);
}

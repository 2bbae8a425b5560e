import { useEffect, useMemo } from 'react';
import { useStore } from 'zustand';
import { weighKeptSide } from '../../workspace/kept-side.ts';
import { partWeights, pathsOf, weightOf, type PartWeight, type WeighedNow } from '../../workspace/weights.ts';
import { useWorkspace } from '../use-workspace.ts';

/** ms. A section that is still being dragged is not weighed. */
const SETTLED = 150;

/** Follows all that weights are made of; the number it gives changes with any of it. */
export function useWeighing(): readonly unknown[] {
  const ws = useWorkspace();
  const set = useStore(ws.mass, (s) => s.set);
  const { assumed, cut } = useStore(ws.mass);
  const model = useStore(ws.model);
  const own = useStore(ws.library, (s) => s.own);
  const { materials, componentMaterials, typedMasses } = useStore(ws.preference);
  // What a set does not ask about does not weigh it anew.
  const states = useStore(ws.visibility, (s) => (set === 'shown' || set === 'kept' ? s : null));
  const picked = useStore(ws.selection, (s) => (set === 'picked' ? s.picked : null));
  const section = useStore(ws.section, (s) => (set === 'kept' ? s : null));
  const whole = useStore(ws.cut, (s) => (set === 'kept' ? s.whole : null));
  useEffect(() => {
    if (set !== 'kept' || model.status !== 'ready') return;
    const timer = setTimeout(() => weighKeptSide(ws), SETTLED);
    return () => clearTimeout(timer);
  }, [ws, set, model.status, states, section, whole]);
  return [set, assumed, cut, model, own, materials, componentMaterials, typedMasses, states, picked, section, whole];
}

export interface WeighedSetNow {
  paths: readonly string[];
  weighed: WeighedNow;
  parts: readonly PartWeight[];
}

/** What the chosen set weighs, and its parts. */
export function useWeighed(): WeighedSetNow {
  const ws = useWorkspace();
  const of = useWeighing();
  return useMemo(() => {
    const { set } = ws.mass.getState();
    const paths = ws.model.getState().status === 'ready' ? pathsOf(ws, set) : [];
    return { paths, weighed: weightOf(ws, paths, set), parts: partWeights(ws, paths, set) };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- read by those functions
  }, [ws, ...of]);
}

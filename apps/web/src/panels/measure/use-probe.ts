import { figureText, type UnitStyle } from '@bathyscope/core';
import { useStore } from 'zustand';
import { samePick, type Picked } from '../../state/selection-store.ts';
import { figuresOfOne } from '../../workspace/figures.ts';
import { pairOf } from '../../workspace/measured.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { useUnits } from '../use-units.ts';
import { useWorkspace } from '../use-workspace.ts';

/** The leading figure of what is under the cursor, before any click: of it alone, or to what is picked. Null where there is none. */
export function useProbe(): string | null {
  const ws = useWorkspace();
  const hover = useStore(ws.selection, (s) => s.hover);
  const picked = useStore(ws.selection, (s) => s.picked);
  // What is said of a cut is bettered when its exact outlines come.
  useStore(ws.cut);
  return probe(ws, hover, picked, useUnits());
}

function probe(ws: Workspace, hover: Picked | null, picked: readonly Picked[], unit: UnitStyle): string | null {
  // What is whole takes longer to sum up than a cursor stays.
  if (!hover || hover.kind === 'component' || hover.kind === 'body') return null;
  const [first] = picked;
  if (picked.length === 1 && !samePick(first, hover)) {
    const pair = pairOf(ws, [first, hover]);
    return pair?.lead ? `To what is picked: ${pair.lead.label.toLowerCase()} ${figureText(pair.lead.value, pair.accuracy, unit)}` : null;
  }
  const facts = figuresOfOne(ws, hover);
  const lead = facts?.main ?? facts?.rows[0];
  if (!facts || !lead) return null;
  return `Here: ${facts.title}, ${facts.main ? '' : `${lead.label.toLowerCase()} `}${figureText(lead.value, facts.accuracy, unit)}`;
}

import { useStore } from 'zustand';
import { kindName } from '../../workspace/measuring/figures.ts';
import { probe } from '../../workspace/picking/probe.ts';
import { useDerived } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';

/** px from the cursor. */
const BESIDE = 14;

/**
 * Beside the cursor: which point is meant there, where points are picked or cycled through; what keys point
 * at; and its figure, where the user wants it there.
 */
export function CursorNote() {
  const ws = useWorkspace();
  const { at, cycled, walked } = useStore(ws.pointer);
  const hover = useStore(ws.selection, (s) => s.hover);
  const points = useStore(ws.filter, (s) => s.filter === 'point');
  const beside = useStore(ws.profile, (s) => s.probe === 'cursor');
  const here = useDerived(probe);
  if (!at || !hover) return null;
  const named = cycled || walked || points || hover.kind === 'point';
  const lines = [
    ...(named ? [`${kindName(hover)}${cycled ? ` (${cycled.nth + 1} of ${cycled.of})` : ''}`] : []),
    ...(beside && here ? [here] : []),
  ];
  if (!lines.length) return null;
  return (
    <div
      aria-hidden
      data-testid="cursor-note"
      style={{ left: at.x + BESIDE, top: at.y + BESIDE }}
      className="pointer-events-none absolute z-20 max-w-56 rounded border border-line bg-panel/95 px-1.5 text-[12.5px] whitespace-pre-line text-ink shadow-card"
    >
      {lines.join('\n')}
    </div>
  );
}

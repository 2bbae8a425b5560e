import { useStore } from 'zustand';
import { FiguresOfPicked } from '../measure/Figures.tsx';
import { useWorkspace } from '../use-workspace.ts';

/** The card that always says what is picked, and its figures; in the task Measure its panel does. */
export function Readout() {
  const ws = useWorkspace();
  const picked = useStore(ws.selection, (s) => s.picked);
  const ready = useStore(ws.model, (s) => s.status === 'ready');
  const measuring = useStore(ws.profile, (s) => s.task === 'measure');
  const { open: flat, wide } = useStore(ws.flat);
  // Beside the flat view, not over what is measured on it.
  const place = !flat ? 'top-3 right-3' : wide ? 'top-12 right-3' : 'top-3 right-[calc(50%+0.75rem)]';
  if (!ready || !picked.length || measuring) return null;
  return (
    <section
      aria-label="Readout"
      className={`absolute ${place} z-20 flex max-h-[calc(100%-3.5rem)] w-[252px] flex-col overflow-y-auto rounded-md border border-line bg-panel shadow-card`}
    >
      <FiguresOfPicked items={picked} />
    </section>
  );
}

import { useStore } from 'zustand';
import { PANEL_MAX, PANEL_MIN, settingsStore } from '../../stores/settings-store.ts';
import { PartsPanel } from '../parts/PartsPanel.tsx';

const STEP = 16;

/** The open task's panel; its right edge is a handle for hand and keys. */
export function Panel() {
  const { panelWidth, setPanelWidth } = useStore(settingsStore);
  return (
    <aside style={{ width: panelWidth }} className="relative flex shrink-0 flex-col border-r border-line bg-panel">
      <PartsPanel />
      <div role="separator" aria-label="Width of the panel" aria-orientation="vertical" tabIndex={0}
        aria-valuenow={panelWidth} aria-valuemin={PANEL_MIN} aria-valuemax={PANEL_MAX}
        className="absolute inset-y-0 -right-1 z-10 w-2 cursor-col-resize hover:bg-blue/30 focus-visible:bg-blue/40"
        onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
        onPointerMove={(e) => e.currentTarget.hasPointerCapture(e.pointerId) && setPanelWidth(panelWidth + e.movementX)}
        onKeyDown={(e) => {
          if (e.key === 'ArrowLeft') setPanelWidth(panelWidth - STEP);
          if (e.key === 'ArrowRight') setPanelWidth(panelWidth + STEP);
        }} />
    </aside>
  );
}

import type { ComponentType } from 'react';
import { ErrorBoundary } from 'react-error-boundary';
import { useStore } from 'zustand';
import { PANEL_MAX, PANEL_MIN, type Task } from '../../state/settings-store.ts';
import { MassPanel } from '../mass/MassPanel.tsx';
import { MeasurePanel } from '../measure/MeasurePanel.tsx';
import { PartsPanel } from '../parts/PartsPanel.tsx';
import { SectionPanel } from '../section/SectionPanel.tsx';
import { StylePanel } from '../style/StylePanel.tsx';
import { ViewsPanel } from '../views/ViewsPanel.tsx';
import { Fallback } from '../../ui/Fallback.tsx';
import { useWorkspace } from '../use-workspace.ts';
import { changeSettings } from '../../workspace/keeping/change-settings.ts';

const STEP = 16;

const PANELS: Record<Task, ComponentType> = {
  parts: PartsPanel,
  views: ViewsPanel,
  style: StylePanel,
  section: SectionPanel,
  measure: MeasurePanel,
  mass: MassPanel,
};

/** The open task's panel; its right edge is a handle for hand and keys. */
export function Panel() {
  const ws = useWorkspace();
  const panelWidth = useStore(ws.profile, (s) => s.panelWidth);
  const task = useStore(ws.profile, (s) => s.task) ?? 'parts';
  const Content = PANELS[task];
  const setPanelWidth = (width: number) => changeSettings(ws, { panelWidth: width });
  return (
    <aside
      style={{ width: panelWidth }}
      className="relative flex max-w-[calc(100vw-56px)] shrink-0 flex-col border-r border-line bg-panel max-[899px]:absolute max-[899px]:inset-y-0 max-[899px]:left-14 max-[899px]:z-30 max-[899px]:shadow-card"
    >
      <ErrorBoundary FallbackComponent={Fallback} resetKeys={[task]}>
        <Content />
      </ErrorBoundary>
      <div
        role="separator"
        aria-label="Width of the panel"
        aria-orientation="vertical"
        tabIndex={0}
        aria-valuenow={panelWidth}
        aria-valuemin={PANEL_MIN}
        aria-valuemax={PANEL_MAX}
        className="absolute inset-y-0 -right-1 z-10 w-2 cursor-col-resize hover:bg-blue/30 focus-visible:bg-blue/40"
        onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
        onPointerMove={(e) =>
          e.currentTarget.hasPointerCapture(e.pointerId) && setPanelWidth(panelWidth + e.movementX)
        }
        onKeyDown={(e) => {
          if (e.key === 'ArrowLeft') setPanelWidth(panelWidth - STEP);
          if (e.key === 'ArrowRight') setPanelWidth(panelWidth + STEP);
        }}
      />
    </aside>
  );
}

import { useStore } from 'zustand';
import { OverPane } from '../frame/OverPane.tsx';
import { placeIn, SystemAxes } from '../frame/SystemAxes.tsx';
import { useWorkspace } from '../use-workspace.ts';
import { useOwnSystem } from './use-own-system.ts';

/** px */
const REACH = 64;

/** The reference system of one's own that figures are told in, drawn over every pane. */
export function SystemMarks() {
  const ws = useWorkspace();
  const { panes } = useStore(ws.camera);
  const system = useOwnSystem();
  if (!system) return null;
  return panes.map((pane) => (
    <OverPane key={pane.id} rect={pane.rect}>
      <svg className="absolute inset-0 size-full" role="group" aria-label="Reference system">
        <SystemAxes
          place={placeIn(pane.camera, pane.size)}
          system={system}
          reach={(REACH * pane.camera.height) / pane.size.height}
        />
      </svg>
    </OverPane>
  ));
}

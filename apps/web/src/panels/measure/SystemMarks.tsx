import { useStore } from 'zustand';
import { systemNow } from '../../workspace/systems.ts';
import { OverPane } from '../frame/OverPane.tsx';
import { placeIn, SystemAxes } from '../frame/SystemAxes.tsx';
import { useWorkspace } from '../use-workspace.ts';

/** px */
const REACH = 64;

/** The reference system of one's own that figures are told in, drawn over every pane. */
export function SystemMarks() {
  const ws = useWorkspace();
  const toldIn = useStore(ws.measure, (s) => s.toldIn);
  useStore(ws.preference, (s) => s.systems);
  const { panes } = useStore(ws.camera);
  const system = toldIn === 'model' || toldIn === 'view' ? null : systemNow(ws);
  if (!system) return null;
  return panes.map((pane) => (
    <OverPane key={pane.id} rect={pane.rect}>
      <svg className="absolute inset-0 size-full" role="group" aria-label="Reference system">
        <SystemAxes place={placeIn(pane.camera, pane.size)} system={system} reach={(REACH * pane.camera.height) / pane.size.height} />
      </svg>
    </OverPane>
  ));
}

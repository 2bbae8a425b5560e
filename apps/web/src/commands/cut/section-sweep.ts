import { changePlane, rangeOf, startDrag } from './section-changes.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { changeSettings } from '../../workspace/keeping/change-settings.ts';

export const setSweepPace = (ws: Workspace, seconds: number): void =>
  changeSettings(ws, { sweepSeconds: Math.max(0.5, Math.min(120, seconds)) });

/**
 * Plays a plane through what is shown, from one end to the other and back, until it is stopped where it is.
 */
export function startSweep(ws: Workspace, id: string): void {
  stopSweep(ws);
  const plane = ws.section.getState().planes.find((p) => p.id === id);
  if (!plane) return;
  const [low, high] = rangeOf(ws, plane);
  const reach = high - low;
  if (!(reach > 0)) return;
  ws.players.sweepDrag = startDrag(ws, `sweep ${plane.name}`);
  ws.sweep.setState({ plane: id });
  // Counted along a line that runs there and back.
  let along = Math.min(Math.max(plane.offset - low, 0), reach);
  let last = performance.now();
  const step = (now: number) => {
    along = (along + ((now - last) / 1000 / ws.profile.getState().sweepSeconds) * reach) % (2 * reach);
    last = now;
    if (!ws.section.getState().planes.some((p) => p.id === id)) return void stopSweep(ws);
    ws.players.sweepDrag?.move(
      changePlane(ws, id, { offset: low + (along <= reach ? along : 2 * reach - along) }),
    );
    ws.players.sweepFrame = requestAnimationFrame(step);
  };
  ws.players.sweepFrame = requestAnimationFrame(step);
}

/** @returns false when none was playing */
export function stopSweep(ws: Workspace): boolean {
  cancelAnimationFrame(ws.players.sweepFrame);
  ws.players.sweepDrag?.end();
  ws.players.sweepDrag = null;
  const playing = ws.sweep.getState().plane !== null;
  ws.sweep.setState({ plane: null });
  return playing;
}

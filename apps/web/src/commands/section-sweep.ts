import { createStore } from 'zustand/vanilla';
import { changeSettings, settingsStore } from '../stores/settings-store.ts';
import { sectionStore } from '../stores/section-store.ts';
import { changePlane, rangeOf, startDrag } from './section-changes.ts';

/** The plane that is being played through the model. */
export const sweepStore = createStore<{ plane: string | null }>()(() => ({ plane: null }));

let frame = 0;
let drag: ReturnType<typeof startDrag> | null = null;

export const setSweepPace = (seconds: number): void => changeSettings({ sweepSeconds: Math.max(0.5, Math.min(120, seconds)) });

/** Plays a plane through what is shown, from one end to the other and back, until it is stopped where it is. */
export function startSweep(id: string): void {
  stopSweep();
  const plane = sectionStore.getState().planes.find((p) => p.id === id);
  if (!plane) return;
  const [low, high] = rangeOf(plane);
  const reach = high - low;
  if (!(reach > 0)) return;
  drag = startDrag(`sweep ${plane.name}`);
  sweepStore.setState({ plane: id });
  // Counted along a line that runs there and back.
  let along = Math.min(Math.max(plane.offset - low, 0), reach);
  let last = performance.now();
  const step = (now: number) => {
    along = (along + ((now - last) / 1000 / settingsStore.getState().sweepSeconds) * reach) % (2 * reach);
    last = now;
    if (!sectionStore.getState().planes.some((p) => p.id === id)) return void stopSweep();
    drag?.move(changePlane(id, { offset: low + (along <= reach ? along : 2 * reach - along) }));
    frame = requestAnimationFrame(step);
  };
  frame = requestAnimationFrame(step);
}

/** @returns false when none was playing */
export function stopSweep(): boolean {
  cancelAnimationFrame(frame);
  drag?.end();
  drag = null;
  const playing = sweepStore.getState().plane !== null;
  sweepStore.setState({ plane: null });
  return playing;
}

import { activePane } from '../stores/camera-store.ts';
import { modelStore } from '../stores/model-store.ts';
import { isGhost, isShown } from '../stores/visibility-store.ts';
import type { DrawingReply, DrawingRequest } from './drawing-worker.ts';
import { startDrawingWorker } from './start-drawing-worker.ts';

export interface MadeDrawing {
  text: string;
  curves: number;
  /** mm */
  tolerance: number;
}

/** The line drawing of what is shown in the pane under the cursor. `abort` ends it at once. */
export function makeDrawing(options: Pick<DrawingRequest, 'hidden' | 'smooth' | 'format' | 'scale'>, onProgress: (share: number) => void): { done: Promise<MadeDrawing>; abort: () => void } {
  const { components, parts, detail } = modelStore.getState();
  const drawn = components.filter((c) => isShown(c.path) && !isGhost(c.path));
  const used = new Set(drawn.map((c) => c.part));
  const worker = startDrawingWorker();
  const request: DrawingRequest = {
    ...options, orientation: activePane().camera.orientation, title: detail?.name ?? '',
    parts: new Map([...parts].flatMap(([i, p]) => (used.has(i) ? [[i, p.geometry] as const] : []))), components: drawn.map(({ part, placement }) => ({ part, placement })),
  };
  const done = new Promise<MadeDrawing>((resolve, reject) => {
    worker.onmessage = ({ data }: MessageEvent<DrawingReply>) => {
      if ('progress' in data) return onProgress(data.progress);
      worker.terminate();
      if ('error' in data) reject(new Error(`The drawing could not be made: ${data.error}`));
      else resolve(data);
    };
    worker.onerror = (e) => reject(new Error(e.message || 'The drawing could not be made.'));
    worker.postMessage(request);
  });
  return { done, abort: () => worker.terminate() };
}

import { hatchDistance, type DrawnSection } from '@bathyscope/core/drawing';
import type { DrawnDimension } from '@bathyscope/core/measure';
import { layersOf } from './cut-layers.ts';
import type { DrawingReply, DrawingRequest } from '../workers/drawing-worker.ts';
import { startDrawingWorker } from '../workers/start-drawing-worker.ts';
import type { Workspace } from '../workspace/workspace.ts';
import { activePane } from '../workspace/view/panes.ts';
import { isUncut } from '../workspace/cutting/section-now.ts';
import { isGhost, isShown } from '../workspace/shown/shown.ts';

export interface MadeDrawing {
  text: string;
  curves: number;
  /** mm */
  tolerance: number;
}

export type DrawingWishes = Pick<DrawingRequest, 'hidden' | 'smooth' | 'format' | 'scale'> & {
  hatched: boolean;
  dimensions: DrawnDimension[];
};

/** The section as it cuts what is shown in a pane, by the best outlines there are. */
function drawnSection(
  ws: Workspace,
  pane: string,
  { hatched, format, scale }: DrawingWishes,
): DrawnSection | undefined {
  const { results } = ws.cut.getState();
  if (!results.length || isUncut(ws, pane)) return undefined;
  const onPaper = format === 'dxf' ? 1 : scale;
  return {
    planes: results.map((m) => m.cut),
    combine: ws.section.getState().combine,
    caps: results.flatMap((m) =>
      layersOf(ws, m).map((layer) => ({
        frame: m.frame,
        hatch: layer.hatch,
        loops: layer.loops,
        open: layer.open,
        spacing: hatched ? hatchDistance(layer, onPaper) : 0,
      })),
    ),
  };
}

/** The line drawing of what is shown in the pane under the cursor. `abort` ends it at once. */
export function makeDrawing(
  ws: Workspace,
  { hatched, ...options }: DrawingWishes,
  onProgress: (share: number) => void,
): { done: Promise<MadeDrawing>; abort: () => void } {
  const { components, parts, detail } = ws.model.getState();
  const drawn = components.filter((c) => isShown(ws, c.path) && !isGhost(ws, c.path));
  const used = new Set(drawn.map((c) => c.part));
  const worker = startDrawingWorker();
  const { id, camera } = activePane(ws);
  const { whole } = ws.cut.getState();
  const request: DrawingRequest = {
    ...options,
    orientation: camera.orientation,
    section: drawnSection(ws, id, { hatched, ...options }),
    title: detail?.name ?? '',
    parts: new Map([...parts].flatMap(([i, p]) => (used.has(i) ? [[i, p.geometry] as const] : []))),
    components: drawn.map(({ path, part, placement }) => ({ part, placement, whole: whole.has(path) })),
  };
  const done = new Promise<MadeDrawing>((resolve, reject) => {
    worker.onmessage = ({ data }: MessageEvent<DrawingReply>) => {
      if ('progress' in data) return onProgress(data.progress);
      worker.terminate();
      if ('error' in data) reject(new Error(`The drawing could not be made: ${data.error}`));
      else resolve(data);
    };
    worker.onerror = (e) => {
      worker.terminate();
      reject(new Error(e.message || 'The drawing could not be made.'));
    };
    worker.postMessage(request);
  });
  return { done, abort: () => worker.terminate() };
}

import type { Pane } from '@bathyscope/core/camera';
import type { Workspace } from '../../workspace/workspace.ts';
import { SceneView } from '../scene-view.ts';

/**
 * Works with a scene of a workspace that nobody sees, as for pictures; nothing of the
 * scene outlives the work.
 */
export async function offScreen<T>(
  ws: Workspace,
  { width, height }: Pane,
  work: (view: SceneView) => Promise<T>,
): Promise<T> {
  const canvas = document.createElement('canvas');
  Object.assign(canvas.style, {
    position: 'fixed',
    left: '-10000px',
    width: `${width}px`,
    height: `${height}px`,
  });
  canvas.ariaHidden = 'true';
  document.body.append(canvas);
  const view = new SceneView(ws, canvas);
  try {
    return await work(view);
  } finally {
    view.dispose();
    canvas.remove();
  }
}

import { fitView, homeOrientationOf } from '@bathyscope/core/camera';
import { DEFAULT_STYLE } from '@bathyscope/core/style';
import { PLAIN_STATE, stateOf } from '@bathyscope/core/visibility';
import { shownReach } from '../../workspace/view/camera-targets.ts';
import { createWorkspace } from '../../workspace/create-workspace.ts';
import { mainPane } from '../../workspace/view/panes.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { offScreen } from './off-screen.ts';

/** px */
export const PART_PICTURE = { width: 160, height: 120 };

/**
 * Small pictures (PNG) of components, each alone and seen from home, in the order asked for. They are drawn
 * in a workspace of their own, so the working view stays as it is.
 */
export async function partPictures(ws: Workspace, paths: readonly string[]): Promise<Blob[]> {
  const { detail, parts } = ws.model.getState();
  const { states } = ws.visibility.getState();
  const alone = createWorkspace(ws.source, ws.profile);
  alone.model.getState().begin(detail!);
  alone.model.getState().finish(new Map(parts));
  const hidden = Object.fromEntries(
    alone.model.getState().components.map((c) => [c.path, { ...PLAIN_STATE, visible: false }]),
  );
  return offScreen(alone, PART_PICTURE, async (view) => {
    const pictures: Blob[] = [];
    const home = { ...mainPane(alone).camera, orientation: homeOrientationOf(ws.camera.getState().upAxis) };
    for (const path of paths) {
      const { colour } = stateOf(states, path);
      alone.visibility.getState().set({ ...hidden, [path]: { ...PLAIN_STATE, ...(colour && { colour }) } });
      const camera = fitView(home, PART_PICTURE, shownReach(alone));
      pictures.push(
        await view.picture({ camera, ...PART_PICTURE, background: '#ffffff', style: DEFAULT_STYLE.style }),
      );
    }
    return pictures;
  });
}

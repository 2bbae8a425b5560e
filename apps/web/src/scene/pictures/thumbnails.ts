import { createEventLine } from '../../api/events.ts';
import type { ModelListItem } from '@bathyscope/contracts';
import { DEFAULT_STYLE } from '@bathyscope/core/style';
import { loadGeometry } from '../../workspace/source/load-geometry.ts';
import { homeView } from '../../workspace/view/camera-targets.ts';
import { createWorkspace } from '../../workspace/create-workspace.ts';
import { serverSource } from '../../workspace/source/server-source.ts';
import type { Profile, Workspace } from '../../workspace/workspace.ts';
import type { SceneView } from '../scene-view.ts';
import { mainPane } from '../../workspace/view/panes.ts';
import { offScreen } from './off-screen.ts';

const WIDTH = 480;
const HEIGHT = 300;

/** Draws the pictures of a shelf, one after another, each in a workspace of its own. */
export class Thumbnails {
  private readonly profile: Profile;
  private readonly tried = new Set<string>();
  private busy = false;
  private readonly stop = new AbortController();

  constructor(profile: Profile) {
    this.profile = profile;
  }

  /** Draws every picture that is missing. @returns whether any was made */
  async makeMissing(models: readonly ModelListItem[]): Promise<boolean> {
    if (this.busy) return false;
    this.busy = true;
    let made = false;
    for (const { id, state, thumbnail } of models) {
      if (state !== 'ready' || thumbnail || this.tried.has(id) || this.stop.signal.aborted) continue;
      this.tried.add(id);
      made = (await this.draw(id).catch(() => false)) || made;
    }
    this.busy = false;
    return made;
  }

  close(): void {
    this.stop.abort();
  }

  private async draw(id: string): Promise<boolean> {
    const ws = createWorkspace(serverSource(id, createEventLine()), this.profile);
    const detail = await ws.source.structure();
    const parts = await loadGeometry(ws.source, detail, () => {}, this.stop.signal);
    ws.model.getState().begin(detail);
    ws.model.getState().finish(parts);
    await offScreen(ws, { width: WIDTH, height: HEIGHT }, async (view) =>
      ws.source.states.setThumbnail(await picture(ws, view)),
    );
    return true;
  }
}

const picture = (ws: Workspace, view: SceneView): Promise<Blob> =>
  view.picture({
    camera: homeView(ws, { camera: mainPane(ws).camera, size: { width: WIDTH, height: HEIGHT } }),
    width: WIDTH,
    height: HEIGHT,
    background: null,
    style: DEFAULT_STYLE.style,
    uncut: true,
  });

/** A model that is opened before the shelf drew its picture gets it here. */
export async function makeOwnThumbnail(ws: Workspace, view: SceneView): Promise<void> {
  const { detail } = ws.model.getState();
  // The shelf shows the newest revision.
  if (!detail || detail.thumbnail || detail.revision !== detail.newest) return;
  try {
    await ws.source.states.setThumbnail(await picture(ws, view));
  } catch {
    // The shelf draws it when it is next looked at.
  }
}

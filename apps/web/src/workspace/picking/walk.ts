import { samePick } from '../../state/selection-store.ts';
import { paneOrigin } from '../view/panes.ts';
import { boundsSeen, facesSeen, type Placed } from './picking.ts';
import type { Workspace } from '../workspace.ts';

/* Pointing by keys: what is in view is gone through as if the mouse pointed at it. */

/**
 * Goes on to the next face in view, or to what the filter makes of faces; from the middle of the pane
 * outwards. @returns whether there is any
 */
export function walkFaces(ws: Workspace, by: 1 | -1): boolean {
  const { filter } = ws.filter.getState();
  const faces = facesSeen(ws);
  if (filter !== 'edge' && filter !== 'vertex') return walkTo(ws, faces, by);
  const bounds = faces.flatMap((f) => boundsSeen(ws, f)).filter((b) => b.item.kind === filter);
  return walkTo(
    ws,
    bounds.filter((b, i) => bounds.findIndex((o) => samePick(o.item, b.item)) === i),
    by,
  );
}

/** Goes on to the next edge or corner of the face that was come to last. @returns whether there is any */
export function walkBounds(ws: Workspace, by: 1 | -1): boolean {
  const { hover } = ws.selection.getState();
  const { walked } = ws.pointer.getState();
  const faces = facesSeen(ws);
  const face =
    faces.find((f) => samePick(f.item, hover)) ??
    faces.find(
      (f) =>
        walked !== null && samePick(f.item, walked) && boundsSeen(ws, f).some((b) => samePick(b.item, hover)),
    ) ??
    faces[0];
  if (!face) return false;
  const done = walkTo(ws, boundsSeen(ws, face), by);
  ws.pointer.setState({ walked: face.item });
  return done;
}

function walkTo(ws: Workspace, all: readonly Placed[], by: 1 | -1): boolean {
  if (!all.length) return false;
  const { hover } = ws.selection.getState();
  const at = all.findIndex((p) => samePick(p.item, hover));
  const next = all[at < 0 ? (by > 0 ? 0 : all.length - 1) : (at + by + all.length) % all.length];
  const origin = paneOrigin(ws);
  ws.pointer.setState({
    at: { x: origin.x + next.x, y: origin.y + next.y },
    point: next.item.point ?? null,
    cycled: null,
    walked: next.item,
  });
  ws.selection.getState().setHover(next.item);
  return true;
}

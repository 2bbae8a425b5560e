import { project } from '@bathyscope/core/camera';
import { pointsOfPicked } from '../view/camera-targets.ts';
import { componentsBelow } from '../shown/components.ts';
import { activePane, paneOrigin } from '../view/panes.ts';
import { componentAt } from '../picking/picking.ts';
import type { Workspace } from '../workspace.ts';

/** px of the canvas */
export interface Rect {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** Looks across a rectangle, each way. */
const LOOKS = 6;
/** Share of a card that has to be over the model less elsewhere for the card to go there. */
const WORTH_MOVING = 0.05;

/** What a card hides: whether anything of what is picked, and on which share of it the model. */
function hiddenBy(ws: Workspace, { left, top, right, bottom }: Rect): { picked: boolean; model: number } {
  const { picked } = ws.selection.getState();
  const { camera, size } = activePane(ws);
  const origin = paneOrigin(ws);
  const components = new Set(
    picked.filter((p) => p.kind === 'component').flatMap((p) => componentsBelow(ws, p.component)),
  );
  const seen = Array.from({ length: LOOKS ** 2 }, (_, i) =>
    componentAt(
      ws,
      left + ((right - left) * ((i % LOOKS) + 0.5)) / LOOKS,
      top + ((bottom - top) * (Math.floor(i / LOOKS) + 0.5)) / LOOKS,
    ),
  );
  const within = pointsOfPicked(ws, picked).some((point) => {
    const { x, y, behind } = project(camera, size, point);
    const [cx, cy] = [origin.x + x, origin.y + y];
    return !behind && cx > left && cx < right && cy > top && cy < bottom;
  });
  return {
    picked: within || seen.some((path) => path !== null && components.has(path)),
    model: seen.filter((path) => path !== null).length / seen.length,
  };
}

/**
 * Which of some places a card takes: none where it hides what is picked, as long as there is another; of
 * those, the one that hides least of the model. It stays where it is unless moving is worth it; for a view
 * that turned, only what is picked is.
 */
export function cardPlace(ws: Workspace, places: readonly Rect[], now: number, turned: boolean): number {
  const here = hiddenBy(ws, places[now]);
  if (!here.picked && (turned || here.model <= WORTH_MOVING)) return now;
  const hidden = places.map((place, i) => (i === now ? here : hiddenBy(ws, place)));
  const free = places.map((_, i) => i).filter((i) => !hidden[i].picked);
  if (turned && !free.length) return now;
  const among = free.length ? free : places.map((_, i) => i);
  const best = among.reduce((a, b) => (hidden[b].model < hidden[a].model ? b : a));
  return among.includes(now) && hidden[now].model <= hidden[best].model + WORTH_MOVING ? now : best;
}

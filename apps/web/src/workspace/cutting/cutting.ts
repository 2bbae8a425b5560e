import { cuttingPlanes } from '@bathyscope/core/section';
import { stateOf } from '@bathyscope/core/visibility';
import { NO_ANSWERS, NOTHING_CUT } from '../../state/cut-store.ts';
import { foundAgain } from '../picking/cut-picks.ts';
import type { Cutting } from '../players.ts';
import { sectionNow } from './section-now.ts';
import { isGhost, isShown } from '../shown/shown.ts';
import type { Workspace } from '../workspace.ts';
import { ExactCuts } from './exact-cuts.ts';
import { SectionCutter, type CutResult } from './section-cutter.ts';

/**
 * Keeps what the section's planes cut as the stores say: of the mesh, by a worker, and exactly, by the
 * kernel, once the planes rest.
 * It needs no scene and writes the cut alone, and of what is picked where picked cuts are now.
 */
export function startCutting(ws: Workspace): Cutting {
  const exact = new ExactCuts(ws);
  const cutter = new SectionCutter(
    ws,
    (result) => take(ws, result, exact),
    () =>
      ws.notify.error('The section could not be cut. Move its plane a little and it is tried again.', {
        id: 'section-crash',
      }),
  );
  const off = [
    ws.derived.follow((seen) => {
      const section = sectionNow(seen);
      const planes = cuttingPlanes(section);
      // Cuts lie in their planes as the model stands.
      void seen.camera.getState().upAxis;
      if (planes.length) return cutter.cut(planes, section.combine, included(seen));
      cutter.stop();
      exact.dispose();
      if (ws.cut.getState().results.length || ws.cut.getState().whole.size) ws.cut.setState(NOTHING_CUT);
    }),
    ws.cut.subscribe(
      (now, before) => (now.results !== before.results || now.exact !== before.exact) && pickAgain(ws),
    ),
  ];
  return {
    askExact: () => {
      const { results, combine } = ws.cut.getState();
      ws.cut.setState({ asking: exact.ask(results, combine, Infinity) });
    },
    stop: () => {
      off.forEach((end) => end());
      cutter.dispose();
      exact.dispose();
      ws.cut.setState(NOTHING_CUT);
    },
  };
}

/** Asks for the exact cut of everything, however much it is. */
export const askExactCut = (ws: Workspace): void => ws.players.cutting?.askExact();

/** What is shown and solid; ghosts are cut open but not capped. */
function included(ws: Workspace): Uint8Array {
  const { states } = ws.visibility.getState();
  return Uint8Array.from(ws.model.getState().components, ({ path }) =>
    !isShown(ws, path) || isGhost(ws, path) ? 0 : stateOf(states, path).keptWhole ? 2 : 1,
  );
}

function take(ws: Workspace, { planes, combine, whole, outlinesOnly }: CutResult, exact: ExactCuts): void {
  const { components } = ws.model.getState();
  const before = ws.cut.getState().whole;
  const changed = before.size !== whole.length || whole.some((i) => !before.has(components[i].path));
  ws.cut.setState({
    results: planes,
    combine,
    outlinesOnly,
    exact: NO_ANSWERS,
    asking: !outlinesOnly && exact.ask(planes, combine),
    ...(changed && { whole: new Set(whole.map((i) => components[i].path)) }),
  });
}

/** Picked cuts are found again by their place. */
function pickAgain(ws: Workspace): void {
  const { picked, pick } = ws.selection.getState();
  if (picked.some((p) => p.plane)) pick(foundAgain(ws, picked));
}

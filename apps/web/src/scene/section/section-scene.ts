import { combineSections, cuttingPlanes, stateOf } from '@bathyscope/core';
import { toast } from '../../ui/notices.ts';
import { Plane, Vector3 } from 'three';
import { NO_ANSWERS } from '../../state/cut-store.ts';
import { ExactCuts } from './exact-cuts.ts';
import { SectionCaps } from './section-caps.ts';
import { SectionCutter, type CutResult } from './section-cutter.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { figuresOf } from '../../workspace/cuts.ts';
import { clipOf, sectionNow } from '../../workspace/section-now.ts';
import { isGhost, isShown } from '../../workspace/shown.ts';

/** What a section is in the scene: what is clipped, the caps, and the figures behind them. */
export class SectionScene {
  private readonly ws: Workspace;
  readonly caps: SectionCaps;
  clips: Plane[] = [];
  /** Only what all planes take is cut away. */
  clipAll = false;
  /** Caps are on their way: the inside of what is cut is painted flat. */
  flatBack = false;
  private readonly cutter: SectionCutter;
  private readonly exact: ExactCuts;
  private readonly onCut: (wholeChanged: boolean) => void;

  /** @param onCut called when what is clipped and the caps have changed; whether other components are left whole than before */
  constructor(ws: Workspace, onCut: (wholeChanged: boolean) => void) {
    this.ws = ws;
    this.caps = new SectionCaps(ws);
    this.cutter = new SectionCutter(
      ws,
      (result) => this.take(result),
      () => toast.error('The section could not be cut. Move its plane a little and it is tried again.', { id: 'section-crash' }),
    );
    this.exact = new ExactCuts(ws);
    this.onCut = onCut;
  }

  /** Has the model cut anew. What is clipped changes together with the caps, when they are there. */
  cut(): void {
    const section = sectionNow(this.ws);
    const planes = cuttingPlanes(section);
    if (!planes.length) {
      this.cutter.stop();
      this.take({ planes: [], combine: section.combine, whole: [], outlinesOnly: false });
      return;
    }
    const { components } = this.ws.model.getState();
    const { states } = this.ws.visibility.getState();
    // What is shown and solid; ghosts are cut open but not capped.
    const include = Uint8Array.from(components, ({ path }) =>
      !isShown(this.ws, path) || isGhost(this.ws, path) ? 0 : stateOf(states, path).keptWhole ? 2 : 1,
    );
    this.cutter.cut(planes, section.combine, include);
  }

  private take({ planes, combine, whole, outlinesOnly }: CutResult): void {
    const { components } = this.ws.model.getState();
    const before = this.ws.cut.getState().whole;
    const changed = before.size !== whole.length || whole.some((i) => !before.has(components[i].path));
    this.clips = planes.map(({ plane }) => clipOf(this.ws, plane)).map((c) => new Plane(new Vector3(...c.normal), c.constant));
    this.clipAll = combine === 'all';
    this.flatBack = outlinesOnly;
    this.caps.show(planes);
    const asking = !outlinesOnly && this.exact.ask(planes, combine);
    this.ws.cut.setState({
      made: planes,
      exact: NO_ANSWERS,
      asking,
      ...(changed && { whole: new Set(whole.map((i) => components[i].path)) }),
    });
    this.drawAxes();
    this.onCut(changed);
  }

  /** Asks for the exact cut of everything, however much it is. */
  askExact(): void {
    this.ws.cut.setState({ asking: this.exact.ask(this.ws.cut.getState().made, this.ws.section.getState().combine, Infinity) });
  }

  /** Centroid and principal axes by the best figures there are, if they are wanted. */
  drawAxes(): void {
    const { axes } = this.ws.section.getState();
    this.caps.showAxes(
      (axes ? this.ws.cut.getState().made : []).flatMap((plane) => {
        const all = combineSections(figuresOf(this.ws, plane).flatMap(({ best }) => best.properties ?? []));
        return all ? [{ frame: plane.frame, centroid: all.centroid, angle: all.principalAngle, area: all.area }] : [];
      }),
    );
  }

  dispose(): void {
    this.cutter.dispose();
    this.exact.dispose();
    this.caps.dispose();
  }
}

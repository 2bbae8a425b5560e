import { combineSections, cuttingPlanes, stateOf } from '@bathyscope/core';
import { Plane, Vector3 } from 'three';
import { cutStore, figuresOf, NO_ANSWERS } from '../stores/cut-store.ts';
import { modelStore } from '../stores/model-store.ts';
import { clipOf, sectionNow, sectionStore } from '../stores/section-store.ts';
import { isGhost, isShown, visibilityStore } from '../stores/visibility-store.ts';
import { ExactCuts } from './exact-cuts.ts';
import { SectionCaps } from './section-caps.ts';
import { SectionCutter, type CutResult } from './section-cutter.ts';

/** What a section is in the scene: what is clipped, the caps, and the figures behind them. */
export class SectionScene {
  readonly caps = new SectionCaps();
  clips: Plane[] = [];
  /** Only what all planes take is cut away. */
  clipAll = false;
  /** Caps are on their way: the inside of what is cut is painted flat. */
  flatBack = false;
  private readonly cutter = new SectionCutter((result) => this.take(result));
  private readonly exact = new ExactCuts();
  private readonly onCut: (wholeChanged: boolean) => void;

  /** @param onCut called when what is clipped and the caps have changed; whether other components are left whole than before */
  constructor(onCut: (wholeChanged: boolean) => void) {
    this.onCut = onCut;
  }

  /** Has the model cut anew. What is clipped changes together with the caps, when they are there. */
  cut(): void {
    const section = sectionNow();
    const planes = cuttingPlanes(section);
    if (!planes.length) {
      this.cutter.stop();
      this.take({ planes: [], combine: section.combine, whole: [], outlinesOnly: false });
      return;
    }
    const { components } = modelStore.getState();
    const { states } = visibilityStore.getState();
    // What is shown and solid; ghosts are cut open but not capped.
    const include = Uint8Array.from(components, ({ path }) => (!isShown(path) || isGhost(path) ? 0 : stateOf(states, path).keptWhole ? 2 : 1));
    this.cutter.cut(planes, section.combine, include);
  }

  private take({ planes, combine, whole, outlinesOnly }: CutResult): void {
    const { components } = modelStore.getState();
    const before = cutStore.getState().whole;
    const changed = before.size !== whole.length || whole.some((i) => !before.has(components[i].path));
    this.clips = planes.map(({ plane }) => clipOf(plane)).map((c) => new Plane(new Vector3(...c.normal), c.constant));
    this.clipAll = combine === 'all';
    this.flatBack = outlinesOnly;
    this.caps.show(planes);
    const asking = !outlinesOnly && this.exact.ask(planes, combine);
    cutStore.setState({ made: planes, exact: NO_ANSWERS, asking, ...(changed && { whole: new Set(whole.map((i) => components[i].path)) }) });
    this.drawAxes();
    this.onCut(changed);
  }

  /** Asks for the exact cut of everything, however much it is. */
  askExact(): void {
    cutStore.setState({ asking: this.exact.ask(cutStore.getState().made, sectionStore.getState().combine, Infinity) });
  }

  /** Centroid and principal axes by the best figures there are, if they are wanted. */
  drawAxes(): void {
    const { axes } = sectionStore.getState();
    this.caps.showAxes((axes ? cutStore.getState().made : []).flatMap((plane) => {
      const all = combineSections(figuresOf(plane).flatMap(({ best }) => best.properties ?? []));
      return all ? [{ frame: plane.frame, centroid: all.centroid, angle: all.principalAngle, area: all.area }] : [];
    }));
  }

  dispose(): void {
    this.cutter.dispose();
    this.exact.dispose();
    this.caps.dispose();
  }
}

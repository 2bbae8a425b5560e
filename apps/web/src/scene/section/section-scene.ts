import { combineSections, type CutPlane } from '@bathyscope/core/section';
import { Plane, Vector3 } from 'three';
import { SectionCaps } from './section-caps.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { figuresOf } from '../../workspace/cutting/cuts.ts';

/**
 * As three.js clips: it leaves what lies above. Where there is material behind what lies in the plane, the
 * cap takes its place.
 */
const clippingPlane = ({ normal, constant, within = 0 }: CutPlane): Plane =>
  new Plane(new Vector3(...normal).negate(), constant - within);

/** What a section is in the scene: what is clipped, the caps, and the axes of their figures. */
export class SectionScene {
  private readonly ws: Workspace;
  readonly caps: SectionCaps;
  clips: Plane[] = [];
  /** Only what all planes take is cut away. */
  clipAll = false;
  /** Caps are on their way: the inside of what is cut is painted flat. */
  flatBack = false;

  constructor(ws: Workspace) {
    this.ws = ws;
    this.caps = new SectionCaps(ws);
  }

  /** Takes over what the planes cut now: what is clipped changes together with the caps. */
  show(): void {
    const { results, combine, outlinesOnly } = this.ws.cut.getState();
    this.clips = results.map(({ cut }) => clippingPlane(cut));
    this.clipAll = combine === 'all';
    this.flatBack = outlinesOnly;
    this.caps.show(results);
  }

  /** Centroid and principal axes by the best figures there are, if they are wanted. */
  drawAxes(): void {
    const { axes } = this.ws.section.getState();
    this.caps.showAxes(
      (axes ? this.ws.cut.getState().results : []).flatMap((plane) => {
        const all = combineSections(figuresOf(this.ws, plane).flatMap(({ best }) => best.properties ?? []));
        return all
          ? [{ frame: plane.frame, centroid: all.centroid, angle: all.principalAngle, area: all.area }]
          : [];
      }),
    );
  }

  dispose(): void {
    this.caps.dispose();
  }
}

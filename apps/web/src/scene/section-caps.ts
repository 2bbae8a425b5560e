import { dot, fillLoops, fromPlane, HATCHES, hatchPatterns, nearestOnPolyline, partColour, pixelSizeAt, pointsAlong, startOf, stateOf, toPlane, transformBox, type ComponentCut, type Pane, type Vec3, type ViewCamera } from '@bathyscope/core';
import { BufferGeometry, Float32BufferAttribute, BufferAttribute, Group, LineBasicMaterial, LineSegments, Mesh, Scene } from 'three';
import { LineMaterial } from 'three/examples/jsm/lines/LineMaterial.js';
import { LineSegments2 } from 'three/examples/jsm/lines/LineSegments2.js';
import { LineSegmentsGeometry } from 'three/examples/jsm/lines/LineSegmentsGeometry.js';
import { bestCut, cutStore, loopsOf, type PlaneCut } from '../stores/cut-store.ts';
import { modelStore, type Component } from '../stores/model-store.ts';
import { isOfCut, type Picked } from '../stores/selection-store.ts';
import { visibilityStore } from '../stores/visibility-store.ts';
import { capMaterial, displayColour } from './materials.ts';
import type { CapBuffers } from './section-worker.ts';
import type { CutResult } from './section-cutter.ts';

/** px */
const OUTLINE_WIDTH = 2;
/** Principal axes are drawn so long, relative to the root of the cut's area. */
const AXIS_LENGTH = 0.75;

const colourOf = (component: Component): Vec3 => stateOf(visibilityStore.getState().states, component.path).colour ?? component.colour ?? partColour(component.part);

let hatches: { of: readonly Component[]; byPart: Map<number, number> } | null = null;

/** How a part's cuts are hatched in this model. */
export function hatchOf(part: number): (typeof HATCHES)[number] {
  const { components, parts } = modelStore.getState();
  if (hatches?.of !== components) hatches = { of: components, byPart: hatchPatterns(components.map((c) => ({ part: c.part, box: transformBox(c.placement, parts.get(c.part)!.geometry.box) }))) };
  return HATCHES[hatches.byPart.get(part) ?? 0];
}

/** The closed, hatched faces that section planes leave, each in its component's colour: two draw calls a plane. */
export class SectionCaps {
  readonly scene = new Scene();
  private readonly group = new Group();
  private readonly cap = capMaterial();
  private readonly line = new LineMaterial({ linewidth: OUTLINE_WIDTH });
  private readonly axes = new LineBasicMaterial({ depthTest: false });
  private drawn: CutResult['planes'] = [];

  constructor() {
    this.scene.add(this.group);
  }

  setColours(ink: string, mark: string): void {
    this.line.color.copy(displayColour(ink)).convertSRGBToLinear();
    this.axes.color.copy(displayColour(mark)).convertSRGBToLinear();
  }

  show(planes: CutResult['planes']): void {
    this.clear();
    this.drawn = planes;
    for (const { buffers } of planes) {
      if (buffers.indices.length) this.add(new Mesh(capGeometry(buffers), this.cap), buffers.base);
      if (buffers.outlines.length) this.add(new LineSegments2(new LineSegmentsGeometry().setPositions(buffers.outlines), this.line), buffers.base);
    }
  }

  /** The same cut in other colours. */
  recolour(): void {
    this.show(this.drawn);
  }

  /** Centroid and principal axes of each plane's whole cut. */
  showAxes(marks: readonly { frame: PlaneCut['frame']; centroid: readonly [number, number]; angle: number; area: number }[]): void {
    for (const { frame, centroid, angle, area } of marks) {
      const length = AXIS_LENGTH * Math.sqrt(area);
      const positions = [0, Math.PI / 2].flatMap((turn, i) => {
        const [c, s] = [Math.cos(angle + turn), Math.sin(angle + turn)];
        // The axis of the larger moment is the longer one.
        const reach = length * (i ? 0.6 : 1);
        return [-1, 1].flatMap((sign) => fromPlane(frame, [centroid[0] + sign * reach * c, centroid[1] + sign * reach * s]));
      });
      const g = new BufferGeometry();
      g.setAttribute('position', new Float32BufferAttribute(positions, 3));
      this.add(Object.assign(new LineSegments(g, this.axes), { renderOrder: 5 }), [0, 0, 0]);
    }
  }

  private add(object: Mesh | LineSegments, at: Vec3): void {
    object.position.set(...at);
    object.frustumCulled = false;
    this.group.add(object);
  }

  /** Hatches have one spacing on the screen. */
  prepare(camera: ViewCamera, pane: Pane, scale: number): void {
    this.cap.uniforms['pxPerMm'].value = 1 / (pixelSizeAt(camera, pane, camera.target) * scale);
    this.line.resolution.set(pane.width, pane.height);
    this.line.linewidth = OUTLINE_WIDTH * scale;
  }

  clear(): void {
    for (const object of [...this.group.children]) {
      (object as Mesh).geometry.dispose();
      this.group.remove(object);
    }
    this.drawn = [];
  }

  dispose(): void {
    this.clear();
    [this.cap, this.line, this.axes].forEach((m) => m.dispose());
  }
}

function capGeometry({ positions, inPlane, thickness, indices, ranges }: CapBuffers): BufferGeometry {
  const { components } = modelStore.getState();
  const count = thickness.length;
  const colours = new Float32Array(3 * count);
  const hatch = new Float32Array(3 * count);
  for (let r = 0; r < ranges.length; r += 3) {
    const component = components[ranges[r]];
    const colour = colourOf(component);
    const { angle, spacing } = hatchOf(component.part);
    for (let i = ranges[r + 1]; i < ranges[r + 1] + ranges[r + 2]; i++) {
      colours.set(colour, 3 * i);
      hatch.set([angle, spacing, thickness[i]], 3 * i);
    }
  }
  const g = new BufferGeometry();
  g.setAttribute('position', new BufferAttribute(positions, 3));
  g.setAttribute('inPlane', new BufferAttribute(inPlane, 2));
  g.setAttribute('tone', new BufferAttribute(colours, 3));
  g.setAttribute('hatch', new BufferAttribute(hatch, 3));
  g.setIndex(new BufferAttribute(indices, 1));
  return g;
}

/** The cut that a picked face, outline or corner belongs to. */
export function cutOfPick(item: Picked): { plane: PlaneCut; cut: ComponentCut } | null {
  const plane = cutStore.getState().made.find((m) => m.plane.id === item.plane);
  const index = modelStore.getState().components.findIndex((c) => c.path === item.component);
  const cut = plane?.cuts.find((c) => c.component === index);
  return plane && cut ? { plane, cut } : null;
}

/** mm: an outline further from where it was picked is another one. */
const SAME_PLACE = 0.05;

/** Picked cuts as they are numbered now: each outline and corner is found again by its place, or gone. */
export function foundAgain(picked: readonly Picked[]): Picked[] {
  return picked.flatMap((item) => {
    if (!isOfCut(item.kind)) return [item];
    const found = cutOfPick(item);
    if (!found || !item.point) return [];
    if (item.kind === 'cap') return [item];
    const { plane: { plane, frame }, cut } = found;
    const at = toPlane(frame, item.point);
    const away = loopsOf(plane.id, cut).flat().map((c) => {
      const near = item.kind === 'corner' ? startOf(c) : nearestOnPolyline(pointsAlong(c), at);
      return Math.hypot(near[0] - at[0], near[1] - at[1], dot(item.point!, found.plane.cut.normal) - found.plane.cut.constant);
    });
    const index = away.indexOf(Math.min(...away));
    return away[index] <= SAME_PLACE ? [{ ...item, index }] : [];
  });
}

/** What is lit of a picked face, outline or corner of a cut, in model space; null when it is not there any more. */
export function litOfCut(item: Picked): { triangles: number[]; indices: number[]; segments: number[]; point: Vec3 | null } | null {
  const found = cutOfPick(item);
  if (!found) return null;
  const { plane: { frame, plane }, cut } = found;
  const along = (points: readonly (readonly [number, number])[]) => points.slice(1).flatMap((p, i) => [...fromPlane(frame, points[i]), ...fromPlane(frame, p)]);
  const loops = loopsOf(plane.id, cut);
  const curves = loops.flat();
  if (item.kind === 'corner') return { triangles: [], indices: [], segments: [], point: item.point ?? null };
  if (item.kind === 'outline') return { triangles: [], indices: [], point: null, segments: curves[item.index] ? along(pointsAlong(curves[item.index])) : [] };
  const { positions, indices } = fillLoops(cut.loops);
  const triangles: number[] = [];
  for (let i = 0; i < positions.length; i += 2) triangles.push(...fromPlane(frame, [positions[i], positions[i + 1]]));
  return { triangles, indices, point: null, segments: curves.flatMap((c) => along(pointsAlong(c))) };
}

/** The best known figures of all cuts of a plane. */
export const figuresOf = ({ plane, cuts }: PlaneCut) => cuts.map((cut) => ({ cut, best: bestCut(plane.id, cut) }));

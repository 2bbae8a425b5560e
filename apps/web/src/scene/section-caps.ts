import { addScaled, clipPlaneOf, cutComponents, cutPlaneOf, fillLoops, fromPlane, partColour, pixelSizeAt, planeFrame, stateOf, type ComponentCut, type CutInput, type Pane, type SectionPlane, type Vec3, type ViewCamera } from '@bathyscope/core';
import { BufferGeometry, Float32BufferAttribute, Group, Mesh, Plane, Scene, Vector3, type ShaderMaterial } from 'three';
import { LineMaterial } from 'three/examples/jsm/lines/LineMaterial.js';
import { LineSegments2 } from 'three/examples/jsm/lines/LineSegments2.js';
import { LineSegmentsGeometry } from 'three/examples/jsm/lines/LineSegmentsGeometry.js';
import { modelStore, type Component } from '../stores/model-store.ts';
import { isGhost, isShown, visibilityStore } from '../stores/visibility-store.ts';
import { capMaterial, displayColour } from './materials.ts';
import { storedPlacement } from './model-scene.ts';

/** Hatches of neighbouring parts differ in angle and spacing (ISO 128-3:2020, hatching of cuts): 45° one way and the other, three spacings. px */
const ANGLES = [Math.PI / 4, -Math.PI / 4];
const SPACINGS = [9, 12, 7];
const OUTLINE_WIDTH = 2;

/** One plane's cut, for drawing and for its figures. */
export interface PlaneCut {
  plane: SectionPlane;
  cuts: ComponentCut[];
}

/** The closed, hatched faces that section planes leave, each in its component's colour. */
export class SectionCaps {
  readonly scene = new Scene();
  /** What the planes cut now. */
  made: PlaneCut[] = [];
  private readonly group = new Group();
  private readonly components: readonly Component[];
  private readonly inputs: CutInput[];
  private readonly materials: ShaderMaterial[] = [];
  private readonly lines: LineMaterial[] = [];

  constructor() {
    const { components, parts } = modelStore.getState();
    this.components = components;
    this.inputs = components.map(({ part, placement }) => {
      const { geometry, bvh } = parts.get(part)!;
      return { geometry, bvh, placement, stored: storedPlacement(placement, geometry.origin) };
    });
    this.scene.add(this.group);
  }

  /** Cuts what is shown and solid; ghosts are cut open but not capped. */
  build(planes: readonly SectionPlane[], ink: string): void {
    this.clear();
    const inputs = this.components.map((c, i) => (isShown(c.path) && !isGhost(c.path) ? this.inputs[i] : null));
    this.made = planes.map((plane) => ({ plane, cuts: cutComponents(inputs, cutPlaneOf(plane)) }));
    this.made.forEach(({ plane, cuts }) => {
      const others = planes.filter((p) => p !== plane).map((p) => clipPlaneOf(p)).map((c) => new Plane(new Vector3(...c.normal), c.constant));
      for (const cut of cuts) this.addCap(plane, cut, others, ink);
    });
  }

  private addCap(plane: SectionPlane, cut: ComponentCut, others: Plane[], ink: string): void {
    const frame = planeFrame(cutPlaneOf(plane));
    const component = this.components[cut.component];
    const state = stateOf(visibilityStore.getState().states, component.path);
    const { positions, indices } = fillLoops(cut.loops);
    if (indices.length) {
      const g = new BufferGeometry();
      const world: number[] = [];
      for (let i = 0; i < positions.length; i += 2) world.push(...fromPlane(frame, [positions[i], positions[i + 1]]));
      g.setAttribute('position', new Float32BufferAttribute(world, 3));
      g.setAttribute('inPlane', new Float32BufferAttribute(positions, 2));
      g.setIndex(indices);
      const material = capMaterial(state.colour ?? component.colour ?? partColour(component.part), ANGLES[component.part % 2], SPACINGS[component.part % 3]);
      material.clippingPlanes = others;
      this.materials.push(material);
      this.group.add(Object.assign(new Mesh(g, material), { frustumCulled: false }));
    }
    const segments: number[] = [];
    const { normal } = cutPlaneOf(plane);
    // Lifted by a hair, so that the outline lies on the cap.
    const lift = (p: Vec3) => addScaled(p, normal, 1e-4);
    for (const loop of cut.loops) loop.forEach((p, i) => segments.push(...lift(fromPlane(frame, p)), ...lift(fromPlane(frame, loop[(i + 1) % loop.length]))));
    for (const chain of cut.open) for (let i = 0; i + 1 < chain.length; i++) segments.push(...lift(fromPlane(frame, chain[i])), ...lift(fromPlane(frame, chain[i + 1])));
    if (!segments.length) return;
    const line = new LineMaterial({ linewidth: OUTLINE_WIDTH, clippingPlanes: others, clipping: true } as ConstructorParameters<typeof LineMaterial>[0]);
    line.color.copy(displayColour(ink)).convertSRGBToLinear();
    this.lines.push(line);
    this.group.add(Object.assign(new LineSegments2(new LineSegmentsGeometry().setPositions(segments), line), { frustumCulled: false }));
  }

  /** Hatches have one spacing on the screen. */
  prepare(camera: ViewCamera, pane: Pane, scale: number): void {
    const size = pixelSizeAt(camera, pane, camera.target);
    for (const m of this.materials) m.uniforms['pxPerMm'].value = 1 / (size * scale);
    for (const l of this.lines) {
      l.resolution.set(pane.width, pane.height);
      l.linewidth = OUTLINE_WIDTH * scale;
    }
  }

  private clear(): void {
    for (const object of [...this.group.children]) {
      (object as Mesh).geometry.dispose();
      this.group.remove(object);
    }
    [...this.materials, ...this.lines].forEach((m) => m.dispose());
    this.materials.length = this.lines.length = 0;
  }

  dispose(): void {
    this.clear();
  }
}

import {
  boxCorners, EMPTY_BOX, PickScene, stateOf, transformBox, uniteBoxes, viewBack, type Box3, type PickHit, type Vec3, type ViewCamera,
} from '@bathyscope/core';
import { Group, LineBasicMaterial, LineSegments, BufferGeometry, Float32BufferAttribute, OrthographicCamera, WebGLRenderer } from 'three';
import { cameraStore, mainPane, type PaneState } from '../stores/camera-store.ts';
import { componentsBelow, modelStore } from '../stores/model-store.ts';
import { selectionStore, type Picked } from '../stores/selection-store.ts';
import { settingsStore } from '../stores/settings-store.ts';
import { visibilityStore } from '../stores/visibility-store.ts';
import { Highlights } from './highlights.ts';
import { displayColour } from './materials.ts';
import { ModelScene } from './model-scene.ts';

/** What the theme says a scene looks like. */
interface SceneColours {
  ink: string;
  hover: string;
  picked: string;
}

const COLOURS: Record<'chart' | 'abyss', SceneColours> = {
  chart: { ink: '#15222c', hover: '#1f5f7e', picked: '#a3195b' },
  abyss: { ink: '#060d12', hover: '#bfe6f7', picked: '#ff6bae' },
};

/** Draws what the stores say, on demand, and answers what is under a pixel. Knows nothing of React. */
export class SceneView {
  readonly pickScene: PickScene;
  /** Frames drawn so far; for tests and benchmarks. */
  frames = 0;
  private readonly renderer: WebGLRenderer;
  private readonly model: ModelScene;
  private readonly hovered: Highlights;
  private readonly picked: Highlights;
  private readonly pivotMark = new Group();
  private readonly camera = new OrthographicCamera();
  private readonly indexOf: ReadonlyMap<string, number>;
  private readonly radius: number;
  private readonly middle: Vec3;
  private scheduled = 0;
  private readonly off: (() => void)[] = [];
  private readonly canvas: HTMLCanvasElement;

  constructor(canvas: HTMLCanvasElement) {
    this.canvas = canvas;
    const { components, parts, detail } = modelStore.getState();
    this.renderer = new WebGLRenderer({ canvas, antialias: true, alpha: true, powerPreference: 'high-performance', preserveDrawingBuffer: false });
    this.renderer.setClearColor(0, 0);
    this.renderer.info.autoReset = false;
    this.renderer.localClippingEnabled = true;
    this.model = new ModelScene(components, parts, detail!.structure.parts);
    const source = { components, parts, below: componentsBelow };
    this.hovered = new Highlights(source, { colour: '#ffffff', opacity: 0.25, lineWidth: 1.5 }, 10);
    this.picked = new Highlights(source, { colour: '#a3195b', opacity: 0.38, lineWidth: 2.5 }, 20);
    this.model.scene.add(this.hovered.group, this.picked.group, this.pivotMark);
    this.indexOf = new Map(components.map((c, i) => [c.path, i]));
    this.pickScene = new PickScene(components, new Map([...parts].map(([i, p]) => [i, p.geometry])), new Map([...parts].map(([i, p]) => [i, p.bvh])));
    const box = modelBox();
    this.middle = [0, 1, 2].map((k) => (box.min[k] + box.max[k]) / 2) as unknown as Vec3;
    this.radius = Math.hypot(...[0, 1, 2].map((k) => box.max[k] - box.min[k])) / 2 || 1;
    this.buildPivotMark();
    this.listen();
    this.applyTheme();
  }

  private listen(): void {
    const on = (unsubscribe: () => void) => this.off.push(unsubscribe);
    on(cameraStore.subscribe(() => this.invalidate()));
    on(visibilityStore.subscribe(({ states }) => {
      this.model.show(states);
      this.showHighlights();
    }));
    on(selectionStore.subscribe(() => this.showHighlights()));
    on(settingsStore.subscribe((now, before) => now.theme !== before.theme && this.applyTheme()));
    const watcher = new ResizeObserver(() => this.resize());
    watcher.observe(this.canvas);
    on(() => watcher.disconnect());
    this.model.show(visibilityStore.getState().states);
    this.resize();
  }

  private applyTheme(): void {
    const colours = COLOURS[settingsStore.getState().theme];
    this.model.setInk(colours.ink);
    this.hovered.setStyle({ colour: colours.hover, opacity: 0.22, lineWidth: 1.5 });
    this.picked.setStyle({ colour: colours.picked, opacity: 0.5, lineWidth: 2.5 });
    this.pivotMark.children.forEach((c) => (c as LineSegments<BufferGeometry, LineBasicMaterial>).material.color.copy(displayColour(colours.picked)).convertSRGBToLinear());
    this.showHighlights();
  }

  private showHighlights(): void {
    const { hover, picked } = selectionStore.getState();
    const visible = (path: string) => stateOf(visibilityStore.getState().states, path).visible;
    this.hovered.show(hover ? [hover] : [], visible);
    this.picked.show(picked, visible);
    this.invalidate();
  }

  private resize(): void {
    const { clientWidth: width, clientHeight: height } = this.canvas;
    if (!width || !height) return;
    this.renderer.setPixelRatio(Math.min(2, window.devicePixelRatio));
    this.renderer.setSize(width, height, false);
    this.hovered.setResolution(width, height);
    this.picked.setResolution(width, height);
    cameraStore.getState().setSize({ width, height });
    this.draw();
  }

  /** Asks for a frame; many asks make one. */
  invalidate(): void {
    this.scheduled ||= requestAnimationFrame(() => this.draw());
  }

  draw(): void {
    cancelAnimationFrame(this.scheduled);
    this.scheduled = 0;
    this.frames++;
    this.renderer.info.reset();
    const { panes } = cameraStore.getState();
    // Each pane has its rectangle of the one canvas; while there is one, it is all of it.
    panes.forEach((pane) => this.drawPane(pane, 0, 0));
  }

  private drawPane(pane: PaneState, x: number, y: number): void {
    const { width, height } = pane.size;
    this.renderer.setViewport(x, y, width, height);
    this.renderer.setScissor(x, y, width, height);
    this.renderer.setScissorTest(true);
    this.placeCamera(pane.camera, width / height);
    const size = (pane.camera.height / height) * 9;
    this.pivotMark.scale.setScalar(size);
    this.pivotMark.position.set(...cameraStore.getState().pivot);
    this.renderer.clear();
    this.renderer.render(this.model.scene, this.camera);
  }

  private placeCamera(view: ViewCamera, aspect: number): void {
    const back = viewBack(view);
    // The whole model lies between the planes, wherever the target is.
    const away = [0, 1, 2].reduce((sum, k) => sum + (this.middle[k] - view.target[k]) * back[k], 0);
    const reach = this.radius * 1.02 + view.height * 0.01;
    const c = this.camera;
    c.top = view.height / 2;
    c.bottom = -c.top;
    c.right = c.top * aspect;
    c.left = -c.right;
    c.near = -(away + reach);
    c.far = -(away - reach);
    c.position.set(...view.target);
    c.quaternion.set(...view.orientation);
    c.updateProjectionMatrix();
  }

  private buildPivotMark(): void {
    const g = new BufferGeometry();
    g.setAttribute('position', new Float32BufferAttribute([-1, 0, 0, 1, 0, 0, 0, -1, 0, 0, 1, 0, 0, 0, -1, 0, 0, 1], 3));
    const lines = new LineSegments(g, new LineBasicMaterial({ depthTest: false }));
    lines.renderOrder = 30;
    this.pivotMark.add(lines);
    this.pivotMark.visible = false;
  }

  showPivot(visible: boolean): void {
    this.pivotMark.visible = visible;
    this.invalidate();
  }

  /** What is under a pixel of the main pane. */
  pick(x: number, y: number): Picked | null {
    const { camera, size } = mainPane();
    const hit = this.pickScene.pick(camera, size, x, y, { pickable: this.pickable });
    return hit && this.toPicked(hit);
  }

  pointAt(x: number, y: number): Vec3 | null {
    const { camera, size } = mainPane();
    return this.pickScene.pointAt(camera, size, x, y, { pickable: this.pickable });
  }

  private readonly pickable = (component: number): boolean => {
    const { components } = modelStore.getState();
    return stateOf(visibilityStore.getState().states, components[component].path).visible;
  };

  private toPicked(hit: PickHit): Picked {
    const { components } = modelStore.getState();
    return { kind: hit.kind, component: components[hit.component].path, index: hit.index, point: hit.point };
  }

  /** Draw calls and triangles of the last frame. */
  get drawn(): { calls: number; triangles: number; lines: number } {
    const { calls, triangles, lines } = this.renderer.info.render;
    return { calls, triangles, lines };
  }

  /** The number of a component in picking and drawing. */
  componentIndex(path: string): number | undefined {
    return this.indexOf.get(path);
  }

  /** The canvas as a PNG of the given size, background transparent. */
  async picture(width: number, height: number): Promise<Blob> {
    const { size } = mainPane();
    this.renderer.setPixelRatio(1);
    this.renderer.setSize(width, height, false);
    cameraStore.getState().setSize({ width, height });
    this.draw();
    const blob = await new Promise<Blob | null>((resolve) => this.canvas.toBlob(resolve, 'image/png'));
    cameraStore.getState().setSize(size);
    this.resize();
    if (!blob) throw new Error('The browser could not make the picture.');
    return blob;
  }

  dispose(): void {
    cancelAnimationFrame(this.scheduled);
    this.off.forEach((f) => f());
    this.hovered.clear();
    this.picked.clear();
    this.model.dispose();
    this.renderer.dispose();
  }
}

/** Corners of the boxes of all given components, in model space: what a fit must hold. */
export function cornersOf(paths: Iterable<string>): Vec3[] {
  const { byPath, parts } = modelStore.getState();
  const corners: Vec3[] = [];
  for (const path of paths) {
    const component = byPath.get(path);
    const part = component?.part === undefined ? undefined : parts.get(component.part);
    if (component && part) corners.push(...boxCorners(transformBox(component.placement, part.geometry.box)));
  }
  return corners;
}

export function modelBox(): Box3 {
  const { components, parts } = modelStore.getState();
  return components.reduce((box, c) => uniteBoxes(box, transformBox(c.placement, parts.get(c.part)!.geometry.box)), EMPTY_BOX);
}


import { boxDiagonal, stateOf, type Box3, type ViewCamera } from '@bathyscope/core';
import { RGBAFormat, UnsignedByteType, WebGLRenderer, WebGLRenderTarget } from 'three';
import { cameraStore, type PaneState } from '../stores/camera-store.ts';
import { componentsBelow, modelStore } from '../stores/model-store.ts';
import { selectionStore } from '../stores/selection-store.ts';
import { settingsStore } from '../stores/settings-store.ts';
import { visibilityStore } from '../stores/visibility-store.ts';
import { Highlights } from './highlights.ts';
import { ModelScene } from './model-scene.ts';
import { PaneCameras } from './pane-cameras.ts';
import { SceneMarks } from './scene-marks.ts';
import { modelBox, ScenePicking } from './scene-picking.ts';

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

/** Draws what the stores say, on demand. Knows nothing of React. */
export class SceneView {
  readonly picking: ScenePicking;
  /** Frames drawn so far; for tests and benchmarks. */
  frames = 0;
  private readonly renderer: WebGLRenderer;
  private readonly model: ModelScene;
  private readonly hovered: Highlights;
  private readonly picked: Highlights;
  private readonly marks = new SceneMarks();
  private readonly cameras: PaneCameras;
  private readonly box: Box3;
  private scheduled = 0;
  private readonly off: (() => void)[] = [];
  private readonly canvas: HTMLCanvasElement;

  constructor(canvas: HTMLCanvasElement) {
    this.canvas = canvas;
    const { components, parts, detail } = modelStore.getState();
    this.renderer = new WebGLRenderer({ canvas, antialias: settingsStore.getState().smoothEdges, alpha: true, powerPreference: 'high-performance' });
    this.renderer.setClearColor(0, 0);
    this.renderer.info.autoReset = false;
    this.renderer.localClippingEnabled = true;
    this.model = new ModelScene(components, parts, detail!.structure.parts);
    const source = { components, parts, below: componentsBelow };
    this.hovered = new Highlights(source, { colour: '#ffffff', opacity: 0.25, lineWidth: 1.5 }, 10);
    this.picked = new Highlights(source, { colour: '#a3195b', opacity: 0.38, lineWidth: 2.5 }, 20);
    this.model.scene.add(this.hovered.group, this.picked.group, this.marks.group);
    this.picking = new ScenePicking();
    this.box = modelBox();
    this.cameras = new PaneCameras(this.box);
    this.listen();
    this.applyTheme();
  }

  private listen(): void {
    const on = (unsubscribe: () => void) => this.off.push(unsubscribe);
    on(cameraStore.subscribe((now, before) => {
      if (now.hinge !== before.hinge) this.marks.showHinge(now.hinge, boxDiagonal(this.box));
      this.invalidate();
    }));
    on(visibilityStore.subscribe(({ states }) => {
      this.model.show(states);
      this.showHighlights();
    }));
    on(selectionStore.subscribe(() => this.showHighlights()));
    on(settingsStore.subscribe((now, before) => now.theme !== before.theme && this.applyTheme()));
    const watcher = new ResizeObserver(() => this.resize());
    watcher.observe(this.canvas);
    on(() => watcher.disconnect());
    this.marks.showHinge(cameraStore.getState().hinge, boxDiagonal(this.box));
    this.model.show(visibilityStore.getState().states);
    this.resize();
  }

  private applyTheme(): void {
    const colours = COLOURS[settingsStore.getState().theme];
    this.model.setInk(colours.ink);
    this.hovered.setStyle({ colour: colours.hover, opacity: 0.22, lineWidth: 1.5 });
    this.picked.setStyle({ colour: colours.picked, opacity: 0.62, lineWidth: 2.5 });
    this.marks.setColour(colours.picked);
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
    cameraStore.getState().setCanvas({ width, height });
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
    const { panes, canvas } = cameraStore.getState();
    for (const pane of panes) this.drawPane(pane, pane.rect.x * canvas.width, (1 - pane.rect.y - pane.rect.height) * canvas.height);
  }

  /** Each pane has its rectangle of the one canvas; (x, y) is its lower left corner in px. */
  private drawPane(pane: PaneState, x: number, y: number): void {
    const { width, height } = pane.size;
    this.renderer.setViewport(x, y, width, height);
    this.renderer.setScissor(x, y, width, height);
    this.renderer.setScissorTest(true);
    this.marks.prepare(pane.camera, pane.size);
    this.hovered.setResolution(width, height);
    this.picked.setResolution(width, height);
    this.renderer.clear();
    this.renderer.render(this.model.scene, this.cameras.place(pane.camera, width / height));
  }

  showPivot(visible: boolean): void {
    this.marks.showPivot(visible, cameraStore.getState().pivot);
    this.invalidate();
  }

  /** Draw calls and triangles of the last frame, all panes. */
  get drawn(): { calls: number; triangles: number; lines: number } {
    const { calls, triangles, lines } = this.renderer.info.render;
    return { calls, triangles, lines };
  }

  /** A view of the model without marks, as a PNG with transparent background; what is on the screen stays. */
  async picture(camera: ViewCamera, width: number, height: number): Promise<Blob> {
    const target = new WebGLRenderTarget(width, height, { format: RGBAFormat, type: UnsignedByteType, samples: 4 });
    const marks = [this.hovered.group, this.picked.group, this.marks.group];
    marks.forEach((g) => (g.visible = false));
    this.renderer.setRenderTarget(target);
    this.renderer.setScissorTest(false);
    this.renderer.clear();
    this.renderer.render(this.model.scene, this.cameras.place(camera, width / height));
    const pixels = new Uint8Array(4 * width * height);
    this.renderer.readRenderTargetPixels(target, 0, 0, width, height, pixels);
    this.renderer.setRenderTarget(null);
    target.dispose();
    marks.forEach((g) => (g.visible = true));
    this.draw();
    return pngOf(pixels, width, height);
  }

  dispose(): void {
    cancelAnimationFrame(this.scheduled);
    this.off.forEach((f) => f());
    this.hovered.clear();
    this.picked.clear();
    this.marks.dispose();
    this.model.dispose();
    this.renderer.dispose();
  }
}

/** Rows as WebGL reads them, the lowest first. */
async function pngOf(pixels: Uint8Array, width: number, height: number): Promise<Blob> {
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d')!;
  const image = context.createImageData(width, height);
  for (let row = 0; row < height; row++) image.data.set(pixels.subarray(4 * width * row, 4 * width * (row + 1)), 4 * width * (height - 1 - row));
  context.putImageData(image, 0, 0);
  return canvas.convertToBlob({ type: 'image/png' });
}

import { appearanceOf } from '../workspace/mass/given-materials.ts';
import { FRAMES, viewBack, type ViewCamera } from '@bathyscope/core/camera';
import { boxCentre, boxDiagonal, isEmptyBox, dot, type Box3 } from '@bathyscope/core/math';
import type { ViewStyle } from '@bathyscope/core/style';
import { Color, Scene, WebGLRenderer } from 'three';
import { type PaneState } from '../state/camera-store.ts';
import { Ground } from './passes/ground.ts';
import { Highlights } from './marks/highlights.ts';
import { displayColour, setLit, setMultisampled } from './batches/materials.ts';
import { HOVERED, PICKED } from './batches/instance-code.ts';
import { ModelScene } from './batches/model-scene.ts';
import { PaneCameras } from './pane-cameras.ts';
import { takePicture } from './pictures/picture.ts';
import { ReferenceScene } from './marks/reference-scene.ts';
import { SceneMarks } from './marks/scene-marks.ts';
import { litLoose } from '../workspace/shown/lit-things.ts';
import { SectionScene } from './section/section-scene.ts';
import { WallScene } from './marks/wall-scene.ts';
import { StylePasses, type PassSettings } from './passes/style-passes.ts';
import type { Picked } from '../state/selection-store.ts';
import type { PictureRequest, ScenePort } from '../state/scene-port.ts';
import type { Workspace } from '../workspace/workspace.ts';
import { componentsBelow, modelBox } from '../workspace/shown/components.ts';
import { isUncut } from '../workspace/cutting/section-now.ts';
import { allPresets, styleOfPane } from '../workspace/view/styles.ts';
import { isShown, shownBox } from '../workspace/shown/shown.ts';
import { BACKGROUNDS } from '../workspace/view/styles.ts';

/** What the theme says a scene looks like. */
interface SceneColours {
  ink: string;
  /** Ink of lines without a surface behind them. */
  bareInk: string;
  hover: string;
  picked: string;
}

const COLOURS: Record<'chart' | 'abyss', SceneColours> = {
  chart: { ink: '#15222c', bareInk: '#15222c', hover: '#1f5f7e', picked: '#a3195b' },
  abyss: { ink: '#060d12', bareInk: '#cfe0e8', hover: '#bfe6f7', picked: '#ff6bae' },
};

/** How strong the tint is over what is under the cursor, and over what is picked. */
const HOVER_VEIL = 0.22;
const PICK_VEIL = 0.62;

/** What is drawn around the model. */
interface Extras {
  marks: boolean;
  references: boolean;
  /** Whether the section cuts in this view. */
  cut: boolean;
}

/** Draws what the stores say, on demand. Knows nothing of React. */
export class SceneView implements ScenePort {
  private readonly ws: Workspace;
  /** Frames drawn so far; for tests and benchmarks. */
  frames = 0;
  /** Called right after a frame was drawn, while its pixels can be read. */
  afterFrame: (() => void) | null = null;
  private readonly renderer: WebGLRenderer;
  private readonly model: ModelScene;
  private readonly passes: StylePasses;
  private readonly ground: Ground;
  private readonly references: ReferenceScene;
  private readonly overlay = new Scene();
  private readonly walls: WallScene;
  private readonly hovered: Highlights;
  private readonly picked: Highlights;
  private readonly marks = new SceneMarks();
  readonly section: SectionScene;
  private readonly cameras: PaneCameras;
  private readonly box: Box3;
  private scheduled = 0;
  private readonly off: (() => void)[] = [];
  private readonly canvas: HTMLCanvasElement;

  constructor(workspace: Workspace, canvas: HTMLCanvasElement) {
    // Read so that it is known what each thing that is drawn was made of.
    const ws = workspace.derived.seen;
    this.ws = ws;
    this.references = new ReferenceScene(ws);
    this.section = new SectionScene(ws);
    this.canvas = canvas;
    const { components, parts, detail } = this.ws.model.getState();
    setMultisampled(this.ws.profile.getState().smoothEdges);
    this.renderer = new WebGLRenderer({
      canvas,
      antialias: this.ws.profile.getState().smoothEdges,
      alpha: true,
      powerPreference: 'high-performance',
    });
    this.renderer.info.autoReset = false;
    this.renderer.autoClear = false;
    this.renderer.localClippingEnabled = true;
    this.box = modelBox(this.ws);
    this.model = new ModelScene(
      components,
      parts,
      detail!.structure.parts,
      isEmptyBox(this.box) ? [0, 0, 0] : boxCentre(this.box),
    );
    this.passes = new StylePasses(this.model, this.renderer);
    this.ground = new Ground(this.renderer);
    const source = {
      components,
      parts,
      whole: (path: string) => this.ws.cut.getState().whole.has(path),
      loose: (item: Picked) => litLoose(this.ws, item),
    };
    this.walls = new WallScene(ws);
    this.hovered = new Highlights(source, 10);
    this.picked = new Highlights(source, 20);
    this.overlay.add(this.walls.group, this.hovered.group, this.picked.group, this.marks.group);
    this.cameras = new PaneCameras(this.box);
    this.listen();
  }

  private listen(): void {
    /** Draws what follows from the stores anew whenever something that it read has changed. */
    const follow = (draw: () => void) =>
      this.off.push(
        this.ws.derived.follow(() => {
          draw();
          this.invalidate();
        }),
      );
    follow(() => this.marks.showHinge(this.ws.camera.getState().hinge, boxDiagonal(this.box)));
    follow(() => this.showCut());
    follow(() => this.section.drawAxes());
    follow(() => this.showStates());
    follow(() => this.walls.show((path) => isShown(this.ws, path)));
    follow(() => this.showReferences());
    follow(() => this.showHovered());
    follow(() => this.showPicked());
    follow(() => this.showTheme());
    // What a frame itself reads.
    for (const store of [this.ws.camera, this.ws.section, this.ws.style, this.ws.profile])
      this.off.push(store.subscribe(() => this.invalidate()));
    const watcher = new ResizeObserver(() => this.resize());
    watcher.observe(this.canvas);
    this.off.push(() => watcher.disconnect());
    this.resize();
  }

  private showStates(): void {
    const { whole } = this.ws.cut.getState();
    this.model.show(
      this.ws.visibility.getState().states,
      (path) => isShown(this.ws, path),
      (path) => whole.has(path),
      (component) => appearanceOf(this.ws, component),
      allPresets(this.ws),
    );
  }

  private showCut(): void {
    this.section.show();
    for (const drawn of [this.walls, this.hovered, this.picked])
      drawn.setClips(this.section.clips, this.section.clipAll);
  }

  private showReferences(): void {
    const state = this.ws.reference.getState();
    // Peeking shows the hidden planes and axes as well, instead of the visible ones.
    const hidden = [...state.planes, ...state.axes]
      .map((r) => r.id)
      .concat('origin', 'plane xy', 'plane xz', 'plane yz', 'axis x', 'axis y', 'axis z')
      .filter((id) => !state.shown.includes(id));
    this.references.build(
      this.ws.visibility.getState().peeking ? { ...state, shown: hidden } : state,
      shownBox(this.ws),
    );
  }

  private showTheme(): void {
    const colours = COLOURS[this.ws.profile.getState().theme];
    this.hovered.setStyle({ colour: colours.hover, opacity: HOVER_VEIL, lineWidth: 1.5 });
    this.picked.setStyle({ colour: colours.picked, opacity: PICK_VEIL, lineWidth: 2.5 });
    this.marks.setColour(colours.picked);
    this.section.caps.setColours(colours.ink, colours.picked);
  }

  private showHovered(): void {
    const { hover } = this.ws.selection.getState();
    this.hovered.show(hover ? [hover] : [], (path) => isShown(this.ws, path));
    this.light(this.hovered, HOVERED, hover ? [hover] : []);
  }

  private showPicked(): void {
    const { picked } = this.ws.selection.getState();
    this.picked.show(picked, (path) => isShown(this.ws, path));
    this.light(this.picked, PICKED, picked);
  }

  /** Whole components among what is hovered or picked. */
  private light(highlights: Highlights, how: typeof PICKED | typeof HOVERED, items: readonly Picked[]): void {
    const paths = items.flatMap((item) =>
      item.kind === 'component' ? componentsBelow(this.ws, item.component) : [],
    );
    this.model.light(how, paths);
    highlights.outlineWhole(paths, (path) => isShown(this.ws, path));
  }

  private resize(): void {
    const { clientWidth: width, clientHeight: height } = this.canvas;
    if (!width || !height) return;
    this.renderer.setPixelRatio(Math.min(2, window.devicePixelRatio));
    this.renderer.setSize(width, height, false);
    this.ws.camera.getState().setCanvas({ width, height });
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
    const { panes, canvas } = this.ws.camera.getState();
    for (const pane of panes)
      this.drawPane(pane, pane.rect.x * canvas.width, (1 - pane.rect.y - pane.rect.height) * canvas.height);
    this.afterFrame?.();
  }

  /** Each pane has its rectangle of the one canvas; (x, y) is its lower left corner in px. */
  private drawPane(pane: PaneState, x: number, y: number): void {
    const { width, height } = pane.size;
    this.renderer.setViewport(x, y, width, height);
    this.renderer.setScissor(x, y, width, height);
    this.renderer.setScissorTest(true);
    this.marks.prepare(pane.camera, pane.size);
    const style = styleOfPane(this.ws, pane.id);
    const ratio = this.renderer.getPixelRatio();
    this.drawView(
      pane.camera,
      style,
      { width: width * ratio, height: height * ratio, scale: ratio },
      style.background === 'theme' ? null : BACKGROUNDS[style.background],
      { marks: true, references: true, cut: !isUncut(this.ws, pane.id) },
    );
    this.references.drawTriad(this.renderer, pane.camera, x, y);
  }

  /** One view into what is set as viewport and target; a background of null leaves it clear. */
  private drawView(
    view: ViewCamera,
    style: ViewStyle,
    size: { width: number; height: number; scale: number },
    background: string | null,
    extras: Extras,
  ): void {
    const { up } = FRAMES[this.ws.camera.getState().upAxis];
    const { hover, picked } = COLOURS[this.ws.profile.getState().theme];
    setLit('picked', picked, extras.marks ? PICK_VEIL : 0);
    setLit('hovered', hover, extras.marks ? HOVER_VEIL : 0);
    const settings: PassSettings = {
      ...size,
      ink: this.inkFor(style, background),
      up,
      clips: extras.cut ? this.section.clips : [],
      clipAll: this.section.clipAll,
      flatBack: this.section.flatBack,
    };
    if (style.shadow || style.ground)
      this.ground.prepare(
        this.model,
        shownBox(this.ws),
        up,
        settings,
        Object.values(this.ws.visibility.getState()),
      );
    this.renderer.setClearColor(
      background ? displayColour(background).convertSRGBToLinear() : new Color(0),
      background ? 1 : 0,
    );
    this.renderer.clear();
    const camera = this.cameras.place(view, size.width / size.height);
    this.passes.draw(style, camera, settings);
    if (settings.clips.length) {
      this.section.caps.prepare(
        view,
        { width: size.width, height: size.height },
        size.scale,
        style,
        this.onDark(background),
      );
      this.renderer.render(this.section.caps.scene, camera);
    }
    this.ground.draw(camera, dot(viewBack(view), up) > 0, style.shadow, style.ground);
    if (extras.references) {
      this.references.prepare(view, { width: size.width / size.scale, height: size.height / size.scale });
      this.renderer.render(this.references.scene, camera);
    }
    if (extras.marks) {
      this.hovered.setResolution(size.width, size.height);
      this.picked.setResolution(size.width, size.height);
      this.renderer.render(this.overlay, camera);
    }
    this.passes.drawGhosts(camera, settings);
  }

  /** @param background null for the theme's water */
  private onDark(background: string | null): boolean {
    return background ? background === BACKGROUNDS.dark : this.ws.profile.getState().theme === 'abyss';
  }

  /** Lines on a dark ground are light, unless they lie on faces. */
  private inkFor(style: ViewStyle, background: string | null): string {
    const { theme } = this.ws.profile.getState();
    const bare = style.surface === 'none' || style.surface === 'see-through';
    if (bare) return this.onDark(background) ? COLOURS.abyss.bareInk : COLOURS.chart.bareInk;
    return COLOURS[theme].ink;
  }

  showPivot(visible: boolean): void {
    this.marks.showPivot(visible, this.ws.camera.getState().pivot);
    this.invalidate();
  }

  /** Draw calls and triangles of the last frame, all panes. */
  get drawn(): { calls: number; triangles: number; lines: number } {
    const { calls, triangles, lines } = this.renderer.info.render;
    return { calls, triangles, lines };
  }

  /** A picture of the model in any size, drawn in tiles; what is on the screen stays. */
  picture(request: PictureRequest): Promise<Blob> {
    return takePicture(
      this.renderer,
      request,
      (camera, size) => {
        const style = request.style ?? this.ws.style.getState().style;
        this.drawView(camera, style, size, request.background, {
          marks: false,
          references: request.references ?? false,
          cut: !request.uncut,
        });
      },
      () => this.draw(),
    );
  }

  dispose(): void {
    cancelAnimationFrame(this.scheduled);
    this.off.forEach((f) => f());
    this.walls.dispose();
    this.hovered.dispose();
    this.picked.dispose();
    this.marks.dispose();
    this.section.dispose();
    this.references.dispose();
    this.ground.dispose();
    this.passes.dispose();
    this.model.dispose();
    this.renderer.dispose();
  }
}

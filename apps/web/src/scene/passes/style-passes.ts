import type { Vec3 } from '@bathyscope/core/math';
import { readStyle, type ViewStyle } from '@bathyscope/core/style';
import {
  BackSide,
  Color,
  FrontSide,
  type Camera,
  type Plane,
  type ShaderMaterial,
  type WebGLRenderer,
} from 'three';
import { CLEAR, GHOST, SOLID } from '../batches/instance-code.ts';
import { LineMaterials, linePassesOf, shiftsFor, type LinePass } from './line-passes.ts';
import { clearMaterial, faceMaterial, type FaceKind } from '../batches/materials.ts';
import type { ModelScene } from '../batches/model-scene.ts';

/** What a picture is drawn on and with. */
export interface PassSettings {
  /** px */
  width: number;
  height: number;
  /** px of the picture for one px of the screen: line widths and dashes grow with it. */
  scale: number;
  ink: string;
  /** The up axis of the model, for the light of Catalogue. */
  up: Vec3;
  /** What is cut away. */
  clips: Plane[];
  /** Only what all planes take is cut away. */
  clipAll: boolean;
  /** Caps are on their way: the inside of what is cut is painted flat. */
  flatBack: boolean;
}

const SEE_THROUGH = 0.22;
const GHOST_OPACITY = 0.1;
const GHOST_LINES: Pick<LinePass, 'opacity' | 'weight'> = { opacity: 0.28, weight: 1 };

/**
 * Draws the model in a style: faces first, so that every line knows what lies before it, then lines, then
 * what one looks through.
 */
export class StylePasses {
  private readonly model: ModelScene;
  private readonly renderer: WebGLRenderer;
  private readonly faces = new Map<FaceKind, ShaderMaterial>();
  private readonly clearBack = clearMaterial(SEE_THROUGH, BackSide);
  private readonly clearFront = clearMaterial(SEE_THROUGH, FrontSide);
  private readonly own = clearMaterial(-1);
  private readonly ghostDepth = faceMaterial('depth');
  private readonly ghost = clearMaterial(GHOST_OPACITY);
  private readonly lines = new LineMaterials();

  constructor(model: ModelScene, renderer: WebGLRenderer) {
    this.model = model;
    this.renderer = renderer;
  }

  draw(style: ViewStyle, camera: Camera, settings: PassSettings): void {
    const groups = [style, ...this.model.styles];
    groups.forEach((s, i) => this.opaque(s, i, camera, settings));
    groups.forEach((s, i) =>
      linePassesOf(s, settings.ink).forEach((pass) => this.line(pass, SOLID, i, camera, settings)),
    );
    groups.forEach((s, i) => s.surface === 'see-through' && this.seeThrough(i, camera, settings));
    if (this.model.present.clear) this.clear(style, camera, settings);
  }

  /** Ghosts come last, after what is picked: they veil nothing that matters. */
  drawGhosts(camera: Camera, settings: PassSettings): void {
    if (!this.model.present.ghosts) return;
    this.render('faces', this.ghostDepth, GHOST, 0, camera, settings);
    this.render('faces', this.ghost, GHOST, 0, camera, settings);
    for (const pass of linePassesOf(GHOST_STYLE, settings.ink))
      this.line({ ...pass, ...GHOST_LINES }, GHOST, 0, camera, settings);
  }

  private opaque(style: ViewStyle, index: number, camera: Camera, settings: PassSettings): void {
    if (style.surface === 'see-through') return;
    // Without a surface the faces still hide what lies behind, unless everything is to be seen.
    const kind: FaceKind | null =
      style.surface !== 'none' ? style.surface : style.hiddenEdges === 'full' ? null : 'depth';
    if (!kind) return;
    const material = this.faceMaterial(kind);
    material.uniforms['materialFirst'].value = style.colours === 'material' ? 1 : 0;
    this.render('faces', material, SOLID, index, camera, settings);
  }

  private faceMaterial(kind: FaceKind): ShaderMaterial {
    let material = this.faces.get(kind);
    if (!material) this.faces.set(kind, (material = faceMaterial(kind)));
    return material;
  }

  private seeThrough(index: number, camera: Camera, settings: PassSettings): void {
    for (const material of [this.clearBack, this.clearFront])
      this.render('faces', material, SOLID, index, camera, settings);
  }

  private clear(style: ViewStyle, camera: Camera, settings: PassSettings): void {
    this.render('faces', this.own, CLEAR, 0, camera, settings);
    if (style.edges || style.outlines)
      for (const pass of linePassesOf(style, settings.ink))
        if (pass.where === 'front') this.line(pass, CLEAR, 0, camera, settings);
  }

  private render(
    kind: 'faces',
    material: ShaderMaterial,
    drawnAs: number,
    style: number,
    camera: Camera,
    settings: PassSettings,
  ): void {
    const u = material.uniforms;
    u['passClass'].value = drawnAs;
    u['passStyle'].value = style;
    (u['modelUp'].value as Color).setRGB(...(settings.up as [number, number, number]), 'srgb-linear');
    material.clippingPlanes = settings.clips;
    material.clipIntersection = settings.clipAll;
    u['flatBack'].value = settings.flatBack ? 1 : 0;
    this.renderer.render(this.model.pass(kind, material), camera);
  }

  private line(pass: LinePass, drawnAs: number, style: number, camera: Camera, settings: PassSettings): void {
    const material = this.lines.set(pass, settings.width, settings.height, settings.scale, drawnAs, style);
    material.clippingPlanes = settings.clips;
    material.clipIntersection = settings.clipAll;
    const scene = this.model.pass(pass.kind, material);
    // A stroke by hand is gone over twice.
    for (const seed of pass.wobble > 0 ? [0, 5.1] : [0])
      for (const [x, y] of shiftsFor(pass.weight * settings.scale)) {
        material.uniforms['seed'].value = seed;
        material.uniforms['shift'].value.set(x, y);
        material.uniformsNeedUpdate = true;
        this.renderer.render(scene, camera);
      }
  }

  dispose(): void {
    for (const material of [
      ...this.faces.values(),
      this.clearBack,
      this.clearFront,
      this.own,
      this.ghost,
      this.ghostDepth,
    ])
      material.dispose();
    this.lines.dispose();
  }
}

/** Only its edges are asked of it. */
const GHOST_STYLE: ViewStyle = readStyle({ surface: 'none' });

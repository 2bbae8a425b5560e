import {
  boxCentre,
  boxCorners,
  boxDiagonal,
  dot,
  lookFrom,
  scale,
  addScaled,
  type Box3,
  type Vec3,
} from '@bathyscope/core/math';
import { TINY } from '@bathyscope/core/tolerances';
import {
  Color,
  Mesh,
  OrthographicCamera,
  PlaneGeometry,
  Scene,
  ShaderMaterial,
  WebGLRenderTarget,
  type Camera,
  type WebGLRenderer,
} from 'three';
import type { ModelScene } from '../batches/model-scene.ts';
import { shadowMaterial } from '../batches/materials.ts';
import type { PassSettings } from './style-passes.ts';

const SIZE = 512;
/** Times the model's size that the ground reaches. */
const REACH = 1.7;
const BLURS = 3;

const QUAD = 'varying vec2 at; void main() { at = uv; gl_Position = vec4( position.xy, 0.0, 1.0 ); }';
const BLUR = /* glsl */ `
  varying vec2 at;
  uniform sampler2D map;
  uniform vec2 step;
  void main() {
    float sum = 0.0;
    float weights = 0.0;
    for ( int i = -8; i <= 8; i++ ) {
      float w = exp( -float( i * i ) / 32.0 );
      sum += w * texture2D( map, at + step * float( i ) ).a;
      weights += w;
    }
    gl_FragColor = vec4( 0.0, 0.0, 0.0, sum / weights );
  }`;
const GROUND = /* glsl */ `
  varying vec2 at;
  uniform sampler2D map;
  uniform float shadow;
  uniform float ground;
  void main() {
    float far = length( at - 0.5 ) * 2.0;
    float fade = 1.0 - smoothstep( 0.55, 1.0, far );
    float dark = texture2D( map, at ).a * shadow;
    float tone = ground * 0.1 * fade;
    gl_FragColor = vec4( vec3( 0.05, 0.09, 0.12 ), min( 1.0, ( dark * 0.62 + tone ) * fade ) );
  }`;

/** The ground under the model with the soft shadow of what is shown, seen straight from below and blurred. */
export class Ground {
  private readonly renderer: WebGLRenderer;
  private readonly targets = [0, 1].map(() => new WebGLRenderTarget(SIZE, SIZE));
  private readonly blur = new ShaderMaterial({
    vertexShader: QUAD,
    fragmentShader: BLUR,
    uniforms: { map: { value: null }, step: { value: [0, 0] } },
    depthTest: false,
    depthWrite: false,
  });
  private readonly material = new ShaderMaterial({
    vertexShader:
      'varying vec2 at; void main() { at = uv; gl_Position = projectionMatrix * modelViewMatrix * vec4( position, 1.0 ); }',
    fragmentShader: GROUND,
    uniforms: { map: { value: null }, shadow: { value: 1 }, ground: { value: 1 } },
    transparent: true,
    depthWrite: false,
  });
  private readonly scene = new Scene();
  private readonly blurScene = new Scene();
  private readonly plane = new Mesh(new PlaneGeometry(1, 1), this.material);
  private readonly shadow = shadowMaterial();
  private made: readonly unknown[] = [];

  constructor(renderer: WebGLRenderer) {
    this.renderer = renderer;
    this.scene.add(this.plane);
    const quad = new Mesh(new PlaneGeometry(2, 2), this.blur);
    quad.frustumCulled = false;
    this.blurScene.add(quad);
  }

  /**
   * Makes the shadow anew when what is shown changed; it was made of these things, each
   * the same object as before.
   * @param cut what the section takes away casts none
   */
  prepare(
    model: ModelScene,
    box: Box3,
    up: Vec3,
    cut: Pick<PassSettings, 'clips' | 'clipAll'>,
    shown: readonly unknown[],
  ): void {
    const of = [...shown, up, ...cut.clips, cut.clipAll];
    if (this.made.length === of.length && of.every((thing, i) => thing === this.made[i])) return;
    this.made = of;
    const size = (boxDiagonal(box) || 1) * REACH;
    const low = Math.min(...boxCorners(box).map((c) => dot(c, up)));
    const high = Math.max(...boxCorners(box).map((c) => dot(c, up)));
    const middle = boxCentre(box);
    const at = addScaled(middle, up, low - dot(middle, up));
    // From below the ground, looking up: what is nearest to the ground casts the darkest shadow.
    const camera = new OrthographicCamera(
      -size / 2,
      size / 2,
      size / 2,
      -size / 2,
      0,
      Math.max(high - low, TINY) * 1.001,
    );
    camera.position.set(...(at as [number, number, number]));
    camera.quaternion.set(
      ...(lookFrom(scale(up, -1), Math.abs(up[2]) > 0.5 ? [0, 1, 0] : [0, 0, 1]) as [
        number,
        number,
        number,
        number,
      ]),
    );
    camera.updateMatrixWorld();
    this.shadow.clippingPlanes = cut.clips;
    this.shadow.clipIntersection = cut.clipAll;
    this.renderInto(this.targets[0], () => {
      for (let style = 0; style <= model.styles.length; style++) {
        this.shadow.uniforms['passStyle'].value = style;
        this.shadow.uniformsNeedUpdate = true;
        this.renderer.render(model.pass('faces', this.shadow), camera);
      }
    });
    for (let i = 0; i < BLURS; i++) {
      this.blurInto(this.targets[0], this.targets[1], [1.6 / SIZE, 0]);
      this.blurInto(this.targets[1], this.targets[0], [0, 1.6 / SIZE]);
    }
    this.material.uniforms['map'].value = this.targets[0].texture;
    this.plane.scale.set(size, size, 1);
    this.plane.position.set(...(addScaled(at, up, -size * 1e-4) as [number, number, number]));
    this.plane.quaternion.set(
      ...(lookFrom(scale(up, -1), Math.abs(up[2]) > 0.5 ? [0, 1, 0] : [0, 0, 1]) as [
        number,
        number,
        number,
        number,
      ]),
    );
    this.material.side = 2;
  }

  private renderInto(target: WebGLRenderTarget, work: () => void): void {
    const before = this.renderer.getRenderTarget();
    const scissor = this.renderer.getScissorTest();
    const colour = this.renderer.getClearColor(new Color());
    const alpha = this.renderer.getClearAlpha();
    this.renderer.setRenderTarget(target);
    this.renderer.setScissorTest(false);
    // Where nothing stands there is no shadow, whatever the ground of the picture before was.
    this.renderer.setClearColor(0, 0);
    this.renderer.clear();
    work();
    this.renderer.setClearColor(colour, alpha);
    this.renderer.setRenderTarget(before);
    this.renderer.setScissorTest(scissor);
  }

  private blurInto(from: WebGLRenderTarget, to: WebGLRenderTarget, step: [number, number]): void {
    this.blur.uniforms['map'].value = from.texture;
    this.blur.uniforms['step'].value = step;
    this.renderInto(to, () => this.renderer.render(this.blurScene, new OrthographicCamera()));
  }

  /** Draws it, unless the eye is below. */
  draw(camera: Camera, eyeAbove: boolean, shadow: boolean, ground: boolean): void {
    if (!eyeAbove || (!shadow && !ground)) return;
    this.material.uniforms['shadow'].value = shadow ? 1 : 0;
    this.material.uniforms['ground'].value = ground ? 1 : 0;
    this.renderer.render(this.scene, camera);
  }

  dispose(): void {
    this.targets.forEach((t) => t.dispose());
    this.blur.dispose();
    this.material.dispose();
    this.shadow.dispose();
    this.plane.geometry.dispose();
  }
}

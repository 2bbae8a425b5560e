import {
  FRAMES,
  type Pane,
  pixelSizeAt,
  project,
  type ViewCamera,
  viewRight,
  viewUp,
} from '@bathyscope/core/camera';
import {
  add,
  addScaled,
  type Box3,
  boxCentre,
  boxCorners,
  boxDiagonal,
  cross,
  dot,
  normalize,
  scale,
  subtract,
  toVec3,
  transformDirection,
  transformPoint,
  type Vec3,
} from '@bathyscope/core/math';
import {
  checkEnvelope,
  drawnAxis,
  drawnPlane,
  gridStep,
  type ReferenceGeometry,
} from '@bathyscope/core/references';
import {
  BufferGeometry,
  CanvasTexture,
  DoubleSide,
  Float32BufferAttribute,
  Group,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
  OrthographicCamera,
  Scene,
  Sprite,
  SpriteMaterial,
  type Object3D,
  type WebGLRenderer,
} from 'three';
import { displayColour } from '../batches/materials.ts';
import type { Workspace } from '../../workspace/workspace.ts';

export const AXIS_COLOURS = { x: '#c8362c', y: '#2c8a4b', z: '#2a6f9e' } as const;
const AXES = [
  ['x', [1, 0, 0]],
  ['y', [0, 1, 0]],
  ['z', [0, 0, 1]],
] as const;
const OWN = '#8f5400';
const TRIAD = 84;
/** Grounds of the letters in the corner: white is read on each, and each is its axis's colour, darker. */
export const BADGES = { x: '#b3261e', y: '#23703c', z: '#1f5f7e' } as const;
/** px that a name keeps from the edge of its pane. */
const INSIDE = 4;

/** Planes, axes, grid, envelope and the triad: drawn with the model, never part of it. */
export class ReferenceScene {
  private readonly ws: Workspace;
  readonly scene = new Scene();
  private readonly group = new Group();
  private readonly sized: { object: Object3D; px: number; at: Vec3; aspect: number }[] = [];
  private readonly triad = new Scene();
  private readonly triadCamera = new OrthographicCamera(-1.8, 1.8, 1.8, -1.8, -5, 5);
  private showTriad = false;

  constructor(ws: Workspace) {
    this.ws = ws;
    this.scene.add(this.group);
    for (const [name, axis] of AXES) {
      this.triad.add(lines([[0, 0, 0], toVec3(axis)], AXIS_COLOURS[name], 1, false));
      const letter = badge(name.toUpperCase(), BADGES[name]);
      letter.position.set(...(scale(toVec3(axis), 1.3) as [number, number, number]));
      letter.scale.setScalar(0.8);
      this.triad.add(letter);
    }
  }

  /** Builds what the state shows; `box` is that of the shown model. */
  build(state: ReferenceGeometry, box: Box3): void {
    this.clear();
    const shown = new Set(state.shown);
    this.showTriad = shown.has('triad');
    const size = boxDiagonal(box) || 1;
    const { upAxis } = this.ws.camera.getState();
    if (shown.has('origin')) this.addSized(label('●', OWN), 14, [0, 0, 0]);
    for (const [name, axis] of AXES) {
      const d = toVec3(axis);
      if (shown.has(`axis ${name}`)) this.addAxis([0, 0, 0], d, size, AXIS_COLOURS[name], name.toUpperCase());
    }
    for (const [name, normal] of [
      ['plane xy', [0, 0, 1]],
      ['plane xz', [0, 1, 0]],
      ['plane yz', [1, 0, 0]],
    ] as const)
      if (shown.has(name))
        this.addPlane(
          [0, 0, 0],
          toVec3(normal),
          box,
          AXIS_COLOURS[(['x', 'y', 'z'] as const)[normal.findIndex((v) => v === 1)]],
          name.slice(6).toUpperCase(),
        );
    for (const p of state.planes) if (shown.has(p.id)) this.addPlane(p.origin, p.normal, box, OWN, p.name);
    for (const a of state.axes)
      if (shown.has(a.id)) this.addAxis(a.origin, a.direction, size, OWN, a.name, true);
    if (shown.has('hole axes')) this.addHoleAxes();
    if (shown.has('grid')) this.addGrid(box, FRAMES[upAxis].up);
    if (shown.has('envelope') && state.envelope) this.addEnvelope(state, box);
  }

  private addAxis(origin: Vec3, d: Vec3, size: number, colour: string, name: string, own = false): void {
    const ends = drawnAxis(origin, d, size, own);
    this.group.add(lines(ends, colour));
    this.addSized(label(name, colour), 24, ends[1]);
  }

  private addPlane(origin: Vec3, n: Vec3, box: Box3, colour: string, name: string): void {
    const { middle: at, corners: quad } = drawnPlane(origin, n, box);
    const g = new BufferGeometry();
    g.setAttribute(
      'position',
      new Float32BufferAttribute(
        [0, 1, 2, 0, 2, 3].flatMap((i) => subtract(quad[i], at)),
        3,
      ),
    );
    const material = new MeshBasicMaterial({
      transparent: true,
      opacity: 0.1,
      side: DoubleSide,
      depthWrite: false,
    });
    material.color.copy(displayColour(colour)).convertSRGBToLinear();
    const plane = new Mesh(g, material);
    plane.position.set(...at);
    this.group.add(
      plane,
      lines(
        quad.flatMap((p, i) => [p, quad[(i + 1) % 4]]),
        colour,
      ),
    );
    this.addSized(label(name, colour), 24, quad[2]);
  }

  private addHoleAxes(): void {
    const { components, parts } = this.ws.model.getState();
    const points = components.flatMap(({ part, placement }) =>
      parts.get(part)!.geometry.holes.flatMap((h) => {
        const reach = Math.max(h.diameter * 0.6, h.depth * 0.15);
        const d = normalize(transformDirection(placement, h.axis));
        const start = transformPoint(placement, h.start);
        return [addScaled(start, d, -reach), addScaled(start, d, h.depth + reach)];
      }),
    );
    if (points.length) this.group.add(lines(points, AXIS_COLOURS.z, 1, false));
  }

  private addGrid(box: Box3, up: Vec3): void {
    const low = Math.min(...boxCorners(box).map((c) => dot(c, up)));
    const step = gridStep(boxDiagonal(box));
    const u: Vec3 = Math.abs(up[0]) > 0.5 ? [0, 1, 0] : [1, 0, 0];
    const v = cross(up, u);
    const range = (d: Vec3) => {
      const along = boxCorners(box).map((c) => dot(c, d));
      return [
        Math.floor(Math.min(...along) / step - 4) * step,
        Math.ceil(Math.max(...along) / step + 4) * step,
      ];
    };
    const [[u0, u1], [v0, v1]] = [range(u), range(v)];
    const at = (a: number, b: number): Vec3 => add(scale(up, low), add(scale(u, a), scale(v, b)));
    const fine: Vec3[] = [];
    const coarse: Vec3[] = [];
    const is10th = (x: number) => Math.abs(Math.round(x / step) % 10) === 0;
    for (let a = u0; a <= u1 + step / 2; a += step) (is10th(a) ? coarse : fine).push(at(a, v0), at(a, v1));
    for (let b = v0; b <= v1 + step / 2; b += step) (is10th(b) ? coarse : fine).push(at(u0, b), at(u1, b));
    this.group.add(lines(fine, '#857b5e', 0.28), ...(coarse.length ? [lines(coarse, '#857b5e', 0.7)] : []));
    this.addSized(label(`grid ${step >= 1 ? step : step.toPrecision(1)} mm`, '#5b5340'), 24, at(u1, v0));
  }

  private addEnvelope(state: ReferenceGeometry, box: Box3): void {
    const { size, at } = state.envelope!;
    const low = at ?? addScaled(boxCentre(box), size, -0.5);
    const corners = boxCorners({ min: low, max: add(low, size) });
    const pairs = [
      [0, 1],
      [2, 3],
      [4, 5],
      [6, 7],
      [0, 2],
      [1, 3],
      [4, 6],
      [5, 7],
      [0, 4],
      [1, 5],
      [2, 6],
      [3, 7],
    ];
    const { fitsAsPlaced, best } = checkEnvelope(box, { size, at });
    const colour = fitsAsPlaced ? '#2c7a4b' : best.fits ? '#8f5400' : '#b3261e';
    this.group.add(
      lines(
        pairs.flatMap(([a, b]) => [corners[a], corners[b]]),
        colour,
      ),
    );
    this.addSized(
      label(fitsAsPlaced ? 'fits' : best.fits ? 'fits when turned' : 'does not fit', colour),
      26,
      corners[7],
    );
  }

  private addSized(sprite: Sprite, px: number, at: Vec3): void {
    sprite.position.set(...(at as [number, number, number]));
    this.group.add(sprite);
    this.sized.push({
      object: sprite,
      px,
      at,
      aspect: (sprite.userData['aspect'] as number | undefined) ?? 1,
    });
  }

  /** Letters have one size on the screen, and stay within the pane while what they name is near it. */
  prepare(camera: ViewCamera, pane: Pane): void {
    for (const { object, px, at, aspect } of this.sized) {
      const mm = pixelSizeAt(camera, pane, at);
      object.scale.set(mm * px * aspect, mm * px, 1);
      const seen = project(camera, pane, at);
      const dx = seen.behind ? 0 : inwards(seen.x, (px * aspect) / 2 + INSIDE, pane.width);
      const dy = seen.behind ? 0 : inwards(seen.y, px / 2 + INSIDE, pane.height);
      const near = Math.abs(dx) < pane.width && Math.abs(dy) < pane.height;
      const moved = near
        ? addScaled(addScaled(at, viewRight(camera), dx * mm), viewUp(camera), -dy * mm)
        : at;
      object.position.set(...(moved as [number, number, number]));
    }
  }

  /** The axes of the model in the lower left corner of a pane. */
  drawTriad(renderer: WebGLRenderer, view: ViewCamera, x: number, y: number): void {
    if (!this.showTriad) return;
    renderer.setViewport(x + 4, y + 22, TRIAD, TRIAD);
    renderer.setScissor(x + 4, y + 22, TRIAD, TRIAD);
    this.triadCamera.quaternion.set(...(view.orientation as [number, number, number, number]));
    renderer.clearDepth();
    renderer.render(this.triad, this.triadCamera);
  }

  private clear(): void {
    for (const object of [...this.group.children]) {
      const o = object as Mesh<BufferGeometry, MeshBasicMaterial>;
      o.geometry?.dispose();
      o.material.map?.dispose();
      o.material.dispose();
      this.group.remove(object);
    }
    this.sized.length = 0;
  }

  dispose(): void {
    this.clear();
    for (const object of this.triad.children) {
      const o = object as Mesh<BufferGeometry, MeshBasicMaterial>;
      o.geometry?.dispose();
      o.material.map?.dispose();
      o.material.dispose();
    }
  }
}

function lines(points: readonly Vec3[], colour: string, opacity = 1, depthTest = true): LineSegments {
  const g = new BufferGeometry();
  const base = points[0] ?? [0, 0, 0];
  g.setAttribute(
    'position',
    new Float32BufferAttribute(
      points.flatMap((p) => subtract(p, base)),
      3,
    ),
  );
  const material = new LineBasicMaterial({ transparent: opacity < 1, opacity, depthTest });
  material.color.copy(displayColour(colour)).convertSRGBToLinear();
  const object = new LineSegments(g, material);
  object.position.set(...base);
  object.frustumCulled = false;
  return object;
}

/** How far a name moves so that it lies within the pane along one of its sides, px. */
const inwards = (at: number, half: number, side: number): number =>
  Math.max(half, Math.min(side - half, at)) - at;

/** A letter on a round ground. */
function badge(letter: string, colour: string): Sprite {
  const canvas = document.createElement('canvas');
  canvas.width = canvas.height = BADGE;
  const context = canvas.getContext('2d')!;
  context.fillStyle = colour;
  context.arc(BADGE / 2, BADGE / 2, BADGE / 2, 0, 2 * Math.PI);
  context.fill();
  context.fillStyle = '#ffffff';
  context.font = `600 ${BADGE * 0.68}px Barlow, sans-serif`;
  context.textAlign = 'center';
  context.textBaseline = 'middle';
  context.fillText(letter, BADGE / 2, BADGE * 0.53);
  return spriteOf(canvas);
}

/** px of its picture. */
const BADGE = 64;

/** A word as a sprite, in the interface's letters. */
function label(text: string, colour: string): Sprite {
  const canvas = document.createElement('canvas');
  const context = canvas.getContext('2d')!;
  const font = '600 44px Barlow, sans-serif';
  context.font = font;
  canvas.width = Math.ceil(context.measureText(text).width) + 16;
  canvas.height = 60;
  context.font = font;
  context.textAlign = 'center';
  context.textBaseline = 'middle';
  context.lineWidth = 6;
  context.lineJoin = 'round';
  context.strokeStyle = 'rgba(251,248,239,0.9)';
  context.strokeText(text, canvas.width / 2, 31);
  context.fillStyle = colour;
  context.fillText(text, canvas.width / 2, 31);
  return spriteOf(canvas);
}

function spriteOf(canvas: HTMLCanvasElement): Sprite {
  const texture = new CanvasTexture(canvas);
  texture.colorSpace = 'srgb';
  const sprite = new Sprite(new SpriteMaterial({ map: texture, depthTest: false, transparent: true }));
  sprite.userData['aspect'] = canvas.width / canvas.height;
  return sprite;
}

import { componentColour } from '@bathyscope/core/colours';
import type { Vec3 } from '@bathyscope/core/math';
import type { PartDefinition } from '@bathyscope/core/model';
import type { StylePreset, ViewStyle } from '@bathyscope/core/style';
import { stateOf, type ComponentStates } from '@bathyscope/core/visibility';
import { BatchedMesh, Matrix4, Scene, type BufferGeometry, type Material, type Vector4 } from 'three';
import type { Component, LoadedPart } from '../../state/model-store.ts';
import { storedPlacement } from '../../workspace/picking/placed-points.ts';
import type { Appearance } from '../../workspace/mass/given-materials.ts';
import { CLEAR, GHOST, HOVERED, instanceCode, litCode, PICKED, SOLID } from './instance-code.ts';
import { LineBatch } from './line-batch.ts';
import { edgeGeometry, faceGeometry, outlineGeometry, triangleGeometry } from './part-buffers.ts';

export type BatchKind = 'faces' | 'sharp' | 'smooth' | 'open' | 'outlines' | 'triangles';

interface Shown {
  visible: boolean;
  code: Vector4;
}

/**
 * The model as drawn: one batch for each kind of geometry, whatever the number of components.
 * Instance i of each batch is component i; how it is shown comes from the state table alone. Batches that no
 * style asks for are never built.
 */
export class ModelScene {
  /**
   * What the state table holds of ghosts and clear components, so that their passes are left
   * out when there are none.
   */
  readonly present = { ghosts: false, clear: false };
  /** Styles in force besides the pane's own (which is number 0). */
  styles: ViewStyle[] = [];
  private readonly components: readonly Component[];
  private readonly parts: ReadonlyMap<number, LoadedPart>;
  private readonly definitions: readonly PartDefinition[];
  private readonly batches = new Map<BatchKind, { batch: BatchedMesh; scene: Scene }>();
  private shown: Shown[] = [];
  private readonly indexOf: ReadonlyMap<string, number>;
  private readonly lit: Uint8Array;
  private readonly litNow: Record<number, ReadonlySet<number>> = {
    [PICKED]: new Set(),
    [HOVERED]: new Set(),
  };

  private readonly middle: Vec3;

  /**
   * @param middle of the model: single precision counts from there, so that a model far from its origin is
   * drawn as finely as any
   */
  constructor(
    components: readonly Component[],
    parts: ReadonlyMap<number, LoadedPart>,
    definitions: readonly PartDefinition[],
    middle: Vec3,
  ) {
    this.middle = middle;
    this.components = components;
    this.parts = parts;
    this.definitions = definitions;
    this.indexOf = new Map(components.map((c, i) => [c.path, i]));
    this.lit = new Uint8Array(components.length);
  }

  /**
   * Draws every component as the table says. `visible` tells what is drawn at all, which peeking turns round;
   * `whole` what no plane cuts, `appearance` how its material looks.
   */
  show(
    states: ComponentStates,
    visible: (path: string) => boolean,
    whole: (path: string) => boolean,
    appearance: (component: Component) => Appearance,
    presets: readonly StylePreset[],
  ): void {
    const ids: string[] = [];
    this.present.ghosts = this.present.clear = false;
    this.shown = this.components.map((component) => {
      const state = stateOf(states, component.path);
      const preset = state.style === undefined ? undefined : presets.find((p) => p.id === state.style);
      if (preset && !ids.includes(preset.id)) ids.push(preset.id);
      const drawnAs = state.ghosted ? GHOST : state.transparency ? CLEAR : SOLID;
      const isShown = visible(component.path);
      if (isShown && drawnAs === GHOST) this.present.ghosts = true;
      if (isShown && drawnAs === CLEAR) this.present.clear = true;
      // Ghosts and clear components have passes of their own, whatever style they are in.
      const style = preset && drawnAs === SOLID ? ids.indexOf(preset.id) + 1 : 0;
      return {
        visible: isShown,
        code: instanceCode({
          colour: componentColour(component, state),
          ownFaceColours: !state.colour,
          drawnAs,
          style,
          opacity: 1 - (state.transparency ?? 0),
          whole: whole(component.path),
          ...appearance(component),
        }),
      };
    });
    this.styles = ids.map((id) => presets.find((p) => p.id === id)!.style);
    for (const { batch } of this.batches.values()) this.apply(batch);
  }

  private apply(batch: BatchedMesh): void {
    this.shown.forEach(({ visible, code }, i) => {
      batch.setVisibleAt(i, visible);
      batch.setColorAt(i, litCode(code, this.lit[i]));
    });
  }

  /** Lights components as a whole; only those that were not, or were and are no more, are touched. */
  light(how: typeof PICKED | typeof HOVERED, paths: Iterable<string>): void {
    const before = this.litNow[how];
    const now = new Set<number>();
    for (const path of paths) {
      const i = this.indexOf.get(path);
      if (i !== undefined) now.add(i);
    }
    this.litNow[how] = now;
    const changed = [...[...before].filter((i) => !now.has(i)), ...[...now].filter((i) => !before.has(i))];
    for (const i of changed) {
      this.lit[i] ^= how;
      for (const { batch } of this.batches.values())
        batch.setColorAt(i, litCode(this.shown[i].code, this.lit[i]));
    }
  }

  /** A scene that holds one batch with a material on it, ready to be drawn as a pass. */
  pass(kind: BatchKind, material: Material): Scene {
    const { batch, scene } = this.batches.get(kind) ?? this.build(kind, material);
    batch.material = material;
    return scene;
  }

  private build(kind: BatchKind, material: Material): { batch: BatchedMesh; scene: Scene } {
    const used = [...new Set(this.components.map((c) => c.part))];
    const geometries = new Map(used.map((p) => [p, this.geometryOf(kind, p)]));
    const Batch = kind === 'faces' ? BatchedMesh : LineBatch;
    const batch = new Batch(this.components.length, ...capacity(geometries), material);
    fill(batch, this.components, this.parts, geometries, this.middle);
    this.apply(batch);
    const scene = new Scene();
    scene.add(batch);
    const entry = { batch, scene };
    this.batches.set(kind, entry);
    return entry;
  }

  private geometryOf(kind: BatchKind, part: number): BufferGeometry {
    const loaded = this.parts.get(part)!;
    if (kind === 'faces') return faceGeometry(loaded, this.definitions[part]);
    if (kind === 'outlines') return outlineGeometry(loaded);
    if (kind === 'triangles') return triangleGeometry(loaded);
    return edgeGeometry(loaded, this.definitions[part], kind);
  }

  dispose(): void {
    for (const { batch } of this.batches.values()) batch.dispose();
  }
}

const capacity = (geometries: ReadonlyMap<number, BufferGeometry>): [number, number] => {
  let [vertices, indices] = [3, 3];
  for (const g of geometries.values()) {
    vertices += g.getAttribute('position').count;
    indices += g.index!.count;
  }
  return [vertices, indices];
};

function fill(
  batch: BatchedMesh,
  components: readonly Component[],
  parts: ReadonlyMap<number, LoadedPart>,
  geometries: ReadonlyMap<number, BufferGeometry>,
  middle: Vec3,
): void {
  const ids = new Map([...geometries].map(([part, g]) => [part, batch.addGeometry(g)]));
  const matrix = new Matrix4();
  for (const component of components) {
    const id = batch.addInstance(ids.get(component.part)!);
    const [x, y, z] = middle;
    const placed = matrix.fromArray(
      storedPlacement(component.placement, parts.get(component.part)!.geometry.origin),
    );
    placed.elements[12] -= x;
    placed.elements[13] -= y;
    placed.elements[14] -= z;
    batch.setMatrixAt(id, placed);
  }
  batch.position.set(...middle);
  // Culling and sorting each component costs more script than drawing it.
  batch.perObjectFrustumCulled = false;
  batch.sortObjects = false;
  batch.frustumCulled = false;
}

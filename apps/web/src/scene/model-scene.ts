import { IDENTITY, multiply, partColour, stateOf, type ComponentStates, type Mat4, type PartDefinition, type Vec3 } from '@bathyscope/core';
import { BatchedMesh, BufferAttribute, BufferGeometry, Matrix4, Scene, Vector4 } from 'three';
import type { Component, LoadedPart } from '../stores/model-store.ts';
import { LineBatch } from './line-batch.ts';
import { displayColour, faceMaterial, lineMaterial } from './materials.ts';

/** Placement of a component's stored positions, which are relative to their geometry's origin. */
export const storedPlacement = (placement: Mat4, origin: Vec3): Mat4 => multiply(placement, [...IDENTITY.slice(0, 12), ...origin, 1]);

/**
 * The model as drawn: one batch for all faces and one for all edges, whatever the number of components. Instance i of
 * each batch is component i; how it is shown comes from the state table alone.
 */
export class ModelScene {
  readonly scene = new Scene();
  private readonly components: readonly Component[];
  private readonly definitions: readonly PartDefinition[];
  private readonly faces: BatchedMesh;
  private readonly edges: LineBatch;
  private readonly edgeMaterial = lineMaterial('#15222c');

  constructor(components: readonly Component[], parts: ReadonlyMap<number, LoadedPart>, definitions: readonly PartDefinition[]) {
    this.components = components;
    this.definitions = definitions;
    const used = [...new Set(components.map((c) => c.part))];
    const meshes = new Map(used.map((p) => [p, faceGeometry(parts.get(p)!, definitions[p])]));
    const lines = new Map(used.map((p) => [p, edgeGeometry(parts.get(p)!)]));
    this.faces = new BatchedMesh(components.length, ...capacity(meshes), faceMaterial());
    this.edges = new LineBatch(components.length, ...capacity(lines), this.edgeMaterial);
    fill(this.faces, components, parts, meshes);
    fill(this.edges, components, parts, lines);
    this.edges.renderOrder = 1;
    this.scene.add(this.faces, this.edges);
    this.show({});
  }

  /** Draws every component as the table says. */
  show(states: ComponentStates): void {
    this.components.forEach((component, i) => {
      const state = stateOf(states, component.path);
      this.faces.setVisibleAt(i, state.visible);
      this.edges.setVisibleAt(i, state.visible);
      const [r, g, b] = state.colour ?? component.colour ?? partColour(component.part);
      // The fourth number says whether faces keep the colours that the file gives them singly.
      this.faces.setColorAt(i, new Vector4(r, g, b, state.colour ? 0 : 1));
    });
  }

  setInk(colour: string): void {
    this.edgeMaterial.uniforms['colour'].value = displayColour(colour);
  }

  /** For tests and benchmarks. */
  get partCount(): number {
    return this.definitions.length;
  }

  dispose(): void {
    for (const batch of [this.faces, this.edges]) {
      (batch.material as { dispose(): void }).dispose();
      batch.dispose();
    }
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

function fill(batch: BatchedMesh, components: readonly Component[], parts: ReadonlyMap<number, LoadedPart>, geometries: ReadonlyMap<number, BufferGeometry>): void {
  const ids = new Map([...geometries].map(([part, g]) => [part, batch.addGeometry(g)]));
  const matrix = new Matrix4();
  for (const component of components) {
    const id = batch.addInstance(ids.get(component.part)!);
    batch.setMatrixAt(id, matrix.fromArray(storedPlacement(component.placement, parts.get(component.part)!.geometry.origin)));
  }
  // Culling and sorting each component costs more script than drawing it.
  batch.perObjectFrustumCulled = false;
  batch.sortObjects = false;
  batch.frustumCulled = false;
}

function faceGeometry({ geometry }: LoadedPart, definition: PartDefinition): BufferGeometry {
  const { mesh } = geometry;
  const tint = new Float32Array((mesh.positions.length / 3) * 4);
  for (const [face, colour] of Object.entries(definition.faceColours ?? {}))
    for (let i = 3 * mesh.faceStart[+face]; i < 3 * mesh.faceStart[+face + 1]; i++) tint.set([...colour, 1], 4 * mesh.indices[i]);
  const g = new BufferGeometry();
  g.setAttribute('position', new BufferAttribute(mesh.positions, 3));
  g.setAttribute('normal', new BufferAttribute(mesh.normals, 3));
  g.setAttribute('tint', new BufferAttribute(tint, 4));
  g.setIndex(new BufferAttribute(mesh.indices, 1));
  return g;
}

/** Sharp edges only: smooth ones and seams are no edges to the eye. */
function edgeGeometry({ geometry }: LoadedPart): BufferGeometry {
  const indices: number[] = [];
  geometry.edges.forEach((edge, e) => {
    if (edge.seam || edge.smooth) return;
    for (let i = geometry.lines.start[e]; i + 1 < geometry.lines.start[e + 1]; i++) indices.push(i, i + 1);
  });
  const g = new BufferGeometry();
  const positions = geometry.lines.positions.length ? geometry.lines.positions : new Float32Array(3);
  g.setAttribute('position', new BufferAttribute(positions, 3));
  g.setIndex(new BufferAttribute(Uint32Array.from(indices.length ? indices : [0, 0]), 1));
  return g;
}

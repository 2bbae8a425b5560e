import type { PartGeometry, Vec3 } from '@bathyscope/core';
import { BufferAttribute, BufferGeometry, Group, Mesh, type Plane, Points, PointsMaterial, type Material, type Object3D } from 'three';
import { LineMaterial } from 'three/examples/jsm/lines/LineMaterial.js';
import { LineSegments2 } from 'three/examples/jsm/lines/LineSegments2.js';
import { LineSegmentsGeometry } from 'three/examples/jsm/lines/LineSegmentsGeometry.js';
import type { Component, LoadedPart } from '../../state/model-store.ts';
import { isOfCut, type Picked } from '../../state/selection-store.ts';
import { displayColour, veilMaterial } from '../batches/materials.ts';
import { storedPlacement } from '../../workspace/placed-points.ts';

export interface HighlightStyle {
  colour: string;
  /** Of the veil over faces. */
  opacity: number;
  /** px */
  lineWidth: number;
}

export interface HighlightSource {
  components: readonly Component[];
  parts: ReadonlyMap<number, LoadedPart>;
  /** Components at or below a path. */
  below: (path: string) => string[];
  /** Whether sections leave a component whole. */
  whole: (path: string) => boolean;
  /** What is lit of a cut, in model space. */
  ofCut: (item: Picked) => { triangles: number[]; indices: number[]; segments: number[]; point: Vec3 | null } | null;
}

/** What is hovered or picked, drawn over the model: a veil on faces, outlines on edges, dots on vertices. */
export class Highlights {
  readonly group = new Group();
  private style: HighlightStyle;
  private readonly byPath: ReadonlyMap<string, Component>;
  private readonly source: HighlightSource;
  private readonly resolution = { width: 1, height: 1 };
  private clips: Plane[] = [];
  private clipAll = false;

  constructor(source: HighlightSource, style: HighlightStyle, order: number) {
    this.source = source;
    this.style = style;
    this.byPath = new Map(source.components.map((c) => [c.path, c]));
    this.group.renderOrder = order;
  }

  setStyle(style: HighlightStyle): void {
    this.style = style;
  }

  /** What is cut away is not lit up either. */
  setClips(clips: Plane[], all: boolean): void {
    this.clips = clips;
    this.clipAll = all;
  }

  setResolution(width: number, height: number): void {
    Object.assign(this.resolution, { width, height });
    this.group.traverse((o) => o instanceof LineSegments2 && o.material.resolution.set(width, height));
  }

  /** Replaces what is shown. `visible` tells which components are drawn at all. */
  show(items: readonly Picked[], visible: (path: string) => boolean): void {
    this.clear();
    for (const item of items) {
      if (isOfCut(item.kind)) {
        if (visible(item.component)) this.addCut(item);
        continue;
      }
      for (const path of item.kind === 'component' ? this.source.below(item.component) : [item.component]) {
        const component = this.byPath.get(path);
        const part = component && this.source.parts.get(component.part);
        if (component && part && visible(path)) this.add(item, component, part.geometry);
      }
    }
  }

  private add(item: Picked, component: Component, geometry: PartGeometry): void {
    const { faces, edges } = membersOf(item, geometry);
    const objects: Object3D[] = [];
    if (faces.length) objects.push(new Mesh(facesOf(geometry, faces), veilMaterial(this.style.colour, this.style.opacity)));
    if (edges.length) objects.push(this.outline(geometry, edges));
    if (item.kind === 'vertex') objects.push(this.dot([0, 1, 2].map((k) => geometry.vertices[3 * item.index + k] - geometry.origin[k])));
    const clips = this.source.whole(component.path) ? [] : this.clips;
    for (const object of objects) {
      object.matrixAutoUpdate = false;
      object.matrix.fromArray(storedPlacement(component.placement, geometry.origin));
      object.renderOrder = this.group.renderOrder + (object instanceof Mesh && !(object instanceof LineSegments2) ? 0 : 1);
      object.frustumCulled = false;
      const { material } = object as Mesh<BufferGeometry, Material>;
      material.clippingPlanes = clips;
      material.clipIntersection = this.clipAll;
      this.group.add(object);
    }
  }

  /** A cut lies in its plane, which cuts nothing of it away. */
  private addCut(item: Picked): void {
    const lit = this.source.ofCut(item);
    if (!lit) return;
    const objects: Object3D[] = [];
    if (lit.triangles.length) {
      const g = new BufferGeometry();
      g.setAttribute('position', new BufferAttribute(Float32Array.from(lit.triangles), 3));
      g.setIndex(lit.indices);
      objects.push(new Mesh(g, veilMaterial(this.style.colour, this.style.opacity)));
    }
    if (lit.segments.length) objects.push(this.lines(lit.segments));
    if (lit.point) objects.push(this.dot(lit.point));
    objects.forEach((object, i) => {
      object.renderOrder = this.group.renderOrder + i;
      object.frustumCulled = false;
      this.group.add(object);
    });
  }

  private outline(geometry: PartGeometry, edges: readonly number[]): LineSegments2 {
    const points: number[] = [];
    const { positions, start } = geometry.lines;
    for (const e of edges) for (let i = start[e]; i + 1 < start[e + 1]; i++) points.push(...positions.subarray(3 * i, 3 * i + 6));
    return this.lines(points);
  }

  private lines(points: number[]): LineSegments2 {
    const lines = new LineSegmentsGeometry().setPositions(points);
    const material = new LineMaterial({ linewidth: this.style.lineWidth, depthTest: true, transparent: true });
    material.color.copy(displayColour(this.style.colour)).convertSRGBToLinear();
    material.resolution.set(this.resolution.width, this.resolution.height);
    // Pulled to the eye, so that a wide line is not half sunk into the faces beside it.
    material.polygonOffset = true;
    material.polygonOffsetFactor = -2;
    material.polygonOffsetUnits = -4;
    return new LineSegments2(lines, material);
  }

  private dot(p: readonly number[]): Points {
    const g = new BufferGeometry();
    g.setAttribute('position', new BufferAttribute(Float32Array.from(p), 3));
    const material = new PointsMaterial({ size: 9, sizeAttenuation: false, depthTest: false });
    material.color.copy(displayColour(this.style.colour)).convertSRGBToLinear();
    return new Points(g, material);
  }

  clear(): void {
    for (const object of [...this.group.children]) {
      const drawn = object as Mesh<BufferGeometry, Material>;
      drawn.geometry.dispose();
      drawn.material.dispose();
      this.group.remove(object);
    }
  }
}

/** The faces and edges of a part that an item covers. A face of a hole stands for the whole hole. */
function membersOf(item: Picked, geometry: PartGeometry): { faces: number[]; edges: number[] } {
  const drawn = (e: number) => !geometry.edges[e].seam;
  if (item.kind === 'edge') return { faces: [], edges: [item.index] };
  if (item.kind === 'vertex') return { faces: [], edges: [] };
  if (item.kind === 'body') {
    const { faces } = geometry.bodies[item.index];
    return {
      faces,
      edges: [...new Set(faces.flatMap((f) => geometry.faces[f].edges))].filter((e) => drawn(e) && !geometry.edges[e].smooth),
    };
  }
  if (item.kind === 'component')
    return { faces: geometry.faces.map((_, f) => f), edges: geometry.edges.flatMap((e, i) => (drawn(i) && !e.smooth ? [i] : [])) };
  const { hole } = geometry.faces[item.index];
  const faces = hole === undefined ? [item.index] : geometry.holes[hole].faces;
  const inner = (e: number) => geometry.edges[e].faces.length > 1 && geometry.edges[e].faces.every((f) => faces.includes(f));
  return { faces, edges: [...new Set(faces.flatMap((f) => geometry.faces[f].edges))].filter((e) => drawn(e) && !inner(e)) };
}

/** The triangles of some faces, over the part's own vertices. */
function facesOf({ mesh }: PartGeometry, faces: readonly number[]): BufferGeometry {
  const g = new BufferGeometry();
  g.setAttribute('position', new BufferAttribute(mesh.positions, 3));
  const pieces = faces.map((f) => mesh.indices.subarray(3 * mesh.faceStart[f], 3 * mesh.faceStart[f + 1]));
  const indices = new Uint32Array(pieces.reduce((n, p) => n + p.length, 0));
  pieces.reduce((at, p) => (indices.set(p, at), at + p.length), 0);
  g.setIndex(new BufferAttribute(indices, 1));
  return g;
}

import { facesOfHole, type PartGeometry } from '@bathyscope/core/geometry';
import { pointAt, type Vec3 } from '@bathyscope/core/math';
import { BufferAttribute, BufferGeometry, Group, Mesh, type Plane, Points, type Object3D } from 'three';
import { LineSegments2 } from 'three/examples/jsm/lines/LineSegments2.js';
import { LineSegmentsGeometry } from 'three/examples/jsm/lines/LineSegmentsGeometry.js';
import type { Component, LoadedPart } from '../../state/model-store.ts';
import { isOfCut, type Picked } from '../../state/selection-store.ts';
import { HighlightMaterials, type HighlightStyle } from './highlight-materials.ts';
import { storedPlacement } from '../../workspace/picking/placed-points.ts';

export interface HighlightSource {
  components: readonly Component[];
  parts: ReadonlyMap<number, LoadedPart>;
  /** Whether sections leave a component whole. */
  whole: (path: string) => boolean;
  /** What is lit of a cut, of reference geometry, or a point, in model space. */
  loose: (
    item: Picked,
  ) => { triangles: number[]; indices: number[]; segments: number[]; point: Vec3 | null } | null;
}

/** Components that get an outline of their own. */
const MOST_OUTLINED = 60;

/**
 * What is hovered or picked and less than a component, drawn over the model: a veil on faces, outlines on
 * edges, dots on vertices.
 */
export class Highlights {
  readonly group = new Group();
  /** Of what sections cut, and of what they leave whole. */
  private readonly cut = new HighlightMaterials();
  private readonly uncut = new HighlightMaterials();
  private readonly byPath: ReadonlyMap<string, Component>;
  private readonly source: HighlightSource;

  constructor(source: HighlightSource, order: number) {
    this.source = source;
    this.byPath = new Map(source.components.map((c) => [c.path, c]));
    this.group.renderOrder = order;
  }

  setStyle(style: HighlightStyle): void {
    for (const materials of [this.cut, this.uncut]) materials.setStyle(style);
  }

  /** What is cut away is not lit up either. */
  setClips(clips: Plane[], all: boolean): void {
    this.cut.setClips(clips, all);
  }

  setResolution(width: number, height: number): void {
    for (const { line } of [this.cut, this.uncut]) line.resolution.set(width, height);
  }

  /** Replaces what is shown. `visible` tells which components are drawn at all. */
  show(items: readonly Picked[], visible: (path: string) => boolean): void {
    this.clear();
    for (const item of items) {
      if (isOfCut(item.kind) || item.kind === 'point' || item.kind === 'datum') {
        if (item.kind === 'datum' || visible(item.component)) this.addLoose(item);
        continue;
      }
      if (item.kind === 'component') continue;
      const component = this.byPath.get(item.component);
      const part = component && this.source.parts.get(component.part);
      if (component && part && visible(item.component)) this.add(item, component, part.geometry);
    }
  }

  /**
   * Heavier outlines around components that are lit as a whole in their batch: for a few, which an object
   * each costs nothing.
   */
  outlineWhole(paths: readonly string[], visible: (path: string) => boolean): void {
    if (paths.length > MOST_OUTLINED) return;
    for (const path of paths) {
      const component = this.byPath.get(path);
      const geometry = component && this.source.parts.get(component.part)?.geometry;
      if (!component || !geometry || !visible(path)) continue;
      const edges = geometry.edges.flatMap((e, i) => (e.seam || e.smooth ? [] : [i]));
      if (edges.length) this.place([outline(geometry, edges, this.of(component))], component, geometry);
    }
  }

  private add(item: Picked, component: Component, geometry: PartGeometry): void {
    const { faces, edges } = membersOf(item, geometry);
    const materials = this.of(component);
    const objects: Object3D[] = [];
    if (faces.length) objects.push(new Mesh(facesOf(geometry, faces), materials.veil));
    if (edges.length) objects.push(outline(geometry, edges, materials));
    if (item.kind === 'vertex')
      objects.push(
        dot(
          [0, 1, 2].map((k) => geometry.vertices[3 * item.index + k] - geometry.origin[k]),
          materials,
        ),
      );
    this.place(objects, component, geometry);
  }

  private of(component: Component): HighlightMaterials {
    return this.source.whole(component.path) ? this.uncut : this.cut;
  }

  /** Puts what is drawn of a component where the component is. */
  private place(objects: readonly Object3D[], component: Component, geometry: PartGeometry): void {
    for (const object of objects) {
      object.matrixAutoUpdate = false;
      object.matrix.fromArray(storedPlacement(component.placement, geometry.origin));
      object.renderOrder =
        this.group.renderOrder + (object instanceof Mesh && !(object instanceof LineSegments2) ? 0 : 1);
      object.frustumCulled = false;
      this.group.add(object);
    }
  }

  /**
   * A cut lies in its plane, which cuts nothing of it away; reference geometry is not cut, and a point is
   * seen wherever it is.
   */
  private addLoose(item: Picked): void {
    const lit = this.source.loose(item);
    if (!lit) return;
    const objects: Object3D[] = [];
    // Single precision counts from a point of the cut, wherever the model lies.
    const first = lit.triangles.length
      ? lit.triangles
      : lit.segments.length
        ? lit.segments
        : (lit.point ?? [0, 0, 0]);
    const base = pointAt(first, 0);
    const near = (flat: readonly number[]) => flat.map((x, i) => x - base[i % 3]);
    if (lit.triangles.length) {
      const g = new BufferGeometry();
      g.setAttribute('position', new BufferAttribute(Float32Array.from(near(lit.triangles)), 3));
      g.setIndex(lit.indices);
      objects.push(new Mesh(g, this.uncut.veil));
    }
    if (lit.segments.length) objects.push(lines(near(lit.segments), this.uncut));
    if (lit.point) objects.push(dot(near(lit.point), this.uncut));
    objects.forEach((object, i) => {
      object.position.set(...base);
      object.renderOrder = this.group.renderOrder + i;
      object.frustumCulled = false;
      this.group.add(object);
    });
  }

  clear(): void {
    for (const object of [...this.group.children]) {
      (object as Mesh).geometry.dispose();
      this.group.remove(object);
    }
  }

  dispose(): void {
    this.clear();
    for (const materials of [this.cut, this.uncut]) materials.dispose();
  }
}

function outline(
  geometry: PartGeometry,
  edges: readonly number[],
  materials: HighlightMaterials,
): LineSegments2 {
  const points: number[] = [];
  const { positions, start } = geometry.lines;
  for (const e of edges)
    for (let i = start[e]; i + 1 < start[e + 1]; i++) points.push(...positions.subarray(3 * i, 3 * i + 6));
  return lines(points, materials);
}

const lines = (points: number[], { line }: HighlightMaterials): LineSegments2 =>
  new LineSegments2(new LineSegmentsGeometry().setPositions(points), line);

function dot(p: readonly number[], materials: HighlightMaterials): Points {
  const g = new BufferGeometry();
  g.setAttribute('position', new BufferAttribute(Float32Array.from(p), 3));
  return new Points(g, materials.dot);
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
      edges: [...new Set(faces.flatMap((f) => geometry.faces[f].edges))].filter(
        (e) => drawn(e) && !geometry.edges[e].smooth,
      ),
    };
  }
  const { hole } = geometry.faces[item.index];
  const faces = hole === undefined ? [item.index] : facesOfHole(geometry.holes[hole]);
  const inner = (e: number) =>
    geometry.edges[e].faces.length > 1 && geometry.edges[e].faces.every((f) => faces.includes(f));
  return {
    faces,
    edges: [...new Set(faces.flatMap((f) => geometry.faces[f].edges))].filter((e) => drawn(e) && !inner(e)),
  };
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

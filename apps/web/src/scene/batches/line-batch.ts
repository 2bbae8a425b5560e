import { BatchedMesh, type Material } from 'three';

/** A batch that draws line segments: many components' edges in one call. */
export class LineBatch extends BatchedMesh {
  constructor(maxInstances: number, maxVertices: number, maxIndices: number, material: Material) {
    super(maxInstances, maxVertices, maxIndices, material);
    // The renderer asks for `isMesh` first and would draw triangles.
    Object.assign(this, { isMesh: false, isLine: true, isLineSegments: true });
  }
}

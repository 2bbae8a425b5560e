import type { PartGeometry, RingMesh } from '@bathyscope/core/geometry';
import {
  addScaled,
  boxCentre,
  boxDiagonal,
  boxOfPoints,
  pointAt,
  type Box3,
  type Vec3,
} from '@bathyscope/core/math';
import type { RawLine } from './mesh-shape.ts';

/* What the kernel's triangles and lines become: single precision about an origin of the part's own. */

export function boxOfMeshes(faces: RingMesh[], vertices: ArrayLike<number> = []): Box3 {
  const corners = [...faces.map((f) => f.positions), vertices].flatMap((points) => {
    if (!points.length) return [];
    const { min, max } = boxOfPoints(points);
    return [...min, ...max];
  });
  return boxOfPoints(corners);
}

/** Zero where single precision is fine about the part's own origin, else the middle of its box. */
export function chooseOrigin(faces: RingMesh[], vertices: Float64Array): Vec3 {
  const box = boxOfMeshes(faces, vertices);
  const centre = boxCentre(box);
  const far = Math.max(...centre.map(Math.abs)) > 2 * boxDiagonal(box);
  return far ? centre : [0, 0, 0];
}

export function packFaces(faces: RingMesh[], origin: Vec3): PartGeometry['mesh'] {
  const points = faces.reduce((n, f) => n + f.positions.length, 0);
  const corners = faces.reduce((n, f) => n + f.indices.length, 0);
  const mesh = {
    positions: new Float32Array(points),
    normals: new Float32Array(points),
    indices: new Uint32Array(corners),
    faceStart: new Uint32Array(faces.length + 1),
  };
  let p = 0;
  let i = 0;
  faces.forEach((face, f) => {
    for (const index of face.indices) mesh.indices[i++] = index + p / 3;
    for (let k = 0; k < face.positions.length; k++) mesh.positions[p + k] = face.positions[k] - origin[k % 3];
    mesh.normals.set(face.normals, p);
    p += face.positions.length;
    mesh.faceStart[f + 1] = i / 3;
  });
  return mesh;
}

export function packLines(
  polylines: ReadonlyMap<number, RawLine>,
  count: number,
  origin: Vec3,
): PartGeometry['lines'] {
  const start = new Uint32Array(count + 1);
  for (let e = 0; e < count; e++) start[e + 1] = start[e] + (polylines.get(e)?.positions.length ?? 0) / 3;
  const positions = new Float32Array(3 * start[count]);
  for (const [e, { positions: line }] of polylines)
    for (let k = 0; k < line.length / 3; k++)
      positions.set(addScaled(pointAt(line, k), origin, -1), 3 * (start[e] + k));
  return { positions, start };
}

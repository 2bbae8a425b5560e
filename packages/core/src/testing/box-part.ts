import type { EdgeFacts, FaceFacts, PartGeometry } from '../geometry/part-geometry.ts';
import { distance, scale, subtract, normalize, type Vec3 } from '../math/vec3.ts';

/**
 * A box from the origin, with faces in the order −X +X −Y +Y −Z +Z, its 12 edges and 8 vertices: a part for
 * tests, without a kernel.
 */
export function boxPart(x: number, y: number, z: number): PartGeometry {
  const corner = (i: number): Vec3 => [i & 1 ? x : 0, i & 2 ? y : 0, i & 4 ? z : 0];
  const quads = [
    [0, 4, 6, 2],
    [1, 3, 7, 5],
    [0, 1, 5, 4],
    [2, 6, 7, 3],
    [0, 2, 3, 1],
    [4, 5, 7, 6],
  ];
  const normals: Vec3[] = [
    [-1, 0, 0],
    [1, 0, 0],
    [0, -1, 0],
    [0, 1, 0],
    [0, 0, -1],
    [0, 0, 1],
  ];
  const ends = [
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
  const edges = ends.map(([a, b]): EdgeFacts => ({
    curve: 'line',
    accuracy: { kind: 'exact' },
    length: distance(corner(a), corner(b)),
    axis: normalize(subtract(corner(b), corner(a))),
    smooth: false,
    seam: false,
    faces: quads.flatMap((q, f) => (q.includes(a) && q.includes(b) ? [f] : [])),
    vertices: [a, b],
  }));
  const areas = [y * z, y * z, x * z, x * z, x * y, x * y];
  const faces = quads.map((q, f): FaceFacts => ({
    surface: 'plane',
    accuracy: { kind: 'exact' },
    origin: corner(q[0]),
    axis: normals[f],
    area: areas[f],
    concave: false,
    body: 0,
    edges: edges.flatMap((e, i) => (e.faces.includes(f) ? [i] : [])),
  }));
  const volume = x * y * z;
  return {
    origin: [0, 0, 0],
    box: { min: [0, 0, 0], max: [x, y, z] },
    mesh: {
      positions: Float32Array.from(quads.flatMap((q) => q.flatMap(corner))),
      normals: Float32Array.from(quads.flatMap((q, f) => q.flatMap(() => normals[f]))),
      indices: Uint32Array.from(quads.flatMap((_, f) => [0, 1, 2, 0, 2, 3].map((k) => 4 * f + k))),
      faceStart: Uint32Array.from([0, 2, 4, 6, 8, 10, 12]),
    },
    lines: {
      positions: Float32Array.from(ends.flatMap((e) => e.flatMap(corner))),
      start: Uint32Array.from(Array.from({ length: 13 }, (_, i) => 2 * i)),
    },
    vertices: Float64Array.from(Array.from({ length: 8 }, (_, i) => corner(i)).flat()),
    faces,
    edges,
    bodies: [{ closed: true, faces: [0, 1, 2, 3, 4, 5] }],
    holes: [],
    area: areas.reduce((a, b) => a + b),
    chordTolerance: 0,
    warnings: [],
    mass: {
      volume,
      volumeErrorEstimate: 0,
      centreOfGravity: scale([x, y, z], 0.5),
      accuracy: { kind: 'exact' },
      inertia: [
        [(volume / 12) * (y * y + z * z), 0, 0],
        [0, (volume / 12) * (x * x + z * z), 0],
        [0, 0, (volume / 12) * (x * x + y * y)],
      ],
    },
  };
}

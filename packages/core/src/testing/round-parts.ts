import type { EdgeFacts, FaceFacts, PartGeometry } from '../geometry/part-geometry.ts';
import { scale, type Vec3 } from '../math/vec3.ts';

interface Face {
  facts: Partial<FaceFacts> & Pick<FaceFacts, 'surface'>;
  points: Vec3[];
  normals: Vec3[];
  triangles: number[];
}

function partOf(
  faces: Face[],
  edges: { facts: Partial<EdgeFacts>; points: Vec3[] }[],
  box: PartGeometry['box'],
): PartGeometry {
  let vertex = 0;
  const indices: number[] = [];
  const faceStart = [0];
  for (const f of faces) {
    for (const i of f.triangles) indices.push(i + vertex);
    vertex += f.points.length;
    faceStart.push(indices.length / 3);
  }
  let at = 0;
  const start = [0, ...edges.map((e) => (at += e.points.length))];
  return {
    origin: [0, 0, 0],
    box,
    area: 0,
    mass: null,
    holes: [],
    chordTolerance: 0.01,
    warnings: [],
    bodies: [{ closed: true, faces: faces.map((_, i) => i) }],
    mesh: {
      positions: Float32Array.from(faces.flatMap((f) => f.points.flat())),
      normals: Float32Array.from(faces.flatMap((f) => f.normals.flat())),
      indices: Uint32Array.from(indices),
      faceStart: Uint32Array.from(faceStart),
    },
    lines: {
      positions: Float32Array.from(edges.flatMap((e) => e.points.flat())),
      start: Uint32Array.from(start),
    },
    vertices: new Float64Array(0),
    faces: faces.map((f, i) => ({
      accuracy: { kind: 'exact' },
      area: 0,
      concave: false,
      body: 0,
      edges: edges.flatMap((e, at) => (e.facts.faces?.includes(i) ? [at] : [])),
      ...f.facts,
    })),
    edges: edges.map((e) => ({
      curve: 'circle',
      accuracy: { kind: 'exact' },
      length: 0,
      smooth: false,
      seam: false,
      faces: [],
      vertices: [],
      ...e.facts,
    })),
  };
}

const SIDES = 64;
const around = (i: number): [number, number] => [
  Math.cos((2 * Math.PI * i) / SIDES),
  Math.sin((2 * Math.PI * i) / SIDES),
];

/** A cylinder about Z from z = 0, for tests without a kernel. */
export function cylinderPart(r: number, h: number): PartGeometry {
  const ring = (z: number): Vec3[] =>
    Array.from({ length: SIDES }, (_, i) => [r * around(i)[0], r * around(i)[1], z]);
  const wall: Face = {
    facts: { surface: 'cylinder', origin: [0, 0, 0], axis: [0, 0, 1], radius: r },
    points: [...ring(0), ...ring(h)],
    normals: [0, 0].flatMap(() => Array.from({ length: SIDES }, (_, i): Vec3 => [...around(i), 0])),
    triangles: Array.from({ length: SIDES }, (_, i) => [
      i,
      (i + 1) % SIDES,
      SIDES + ((i + 1) % SIDES),
      i,
      SIDES + ((i + 1) % SIDES),
      SIDES + i,
    ]).flat(),
  };
  const cap = (z: number, up: 1 | -1): Face => ({
    facts: { surface: 'plane', axis: [0, 0, up], origin: [0, 0, z] },
    points: [[0, 0, z], ...ring(z)],
    normals: Array.from({ length: SIDES + 1 }, (): Vec3 => [0, 0, up]),
    triangles: Array.from({ length: SIDES }, (_, i) =>
      up > 0 ? [0, 1 + i, 1 + ((i + 1) % SIDES)] : [0, 1 + ((i + 1) % SIDES), 1 + i],
    ).flat(),
  });
  const edge = (z: number, faces: number[]) => ({
    facts: { axis: [0, 0, 1] as Vec3, centre: [0, 0, z] as Vec3, radius: r, arcAngle: 2 * Math.PI, faces },
    points: [...ring(z), ring(z)[0]],
  });
  return partOf([wall, cap(0, -1), cap(h, 1)], [edge(0, [0, 1]), edge(h, [0, 2])], {
    min: [-r, -r, 0],
    max: [r, r, h],
  });
}

/** A sphere about the origin. */
export function spherePart(r: number): PartGeometry {
  const rows = SIDES / 2;
  const point = (i: number, j: number): Vec3 => {
    const lat = -Math.PI / 2 + (Math.PI * j) / rows;
    return [Math.cos(lat) * around(i)[0], Math.cos(lat) * around(i)[1], Math.sin(lat)];
  };
  const normals = Array.from({ length: (rows + 1) * SIDES }, (_, n) =>
    point(n % SIDES, Math.floor(n / SIDES)),
  );
  const triangles: number[] = [];
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < SIDES; i++) {
      const [a, b, c, d] = [
        j * SIDES + i,
        j * SIDES + ((i + 1) % SIDES),
        (j + 1) * SIDES + ((i + 1) % SIDES),
        (j + 1) * SIDES + i,
      ];
      if (j > 0) triangles.push(a, b, c);
      if (j < rows - 1) triangles.push(a, c, d);
    }
  const points = normals.map((n) => scale(n, r));
  return partOf(
    [{ facts: { surface: 'sphere', origin: [0, 0, 0], radius: r }, points, normals, triangles }],
    [],
    {
      min: [-r, -r, -r],
      max: [r, r, r],
    },
  );
}

/**
 * What a closed outline in the half-plane of Z sweeps when it turns about Z: tubes, cones, rings, tori.
 * Radius and height of each corner, anticlockwise seen with the radius to the right; no corner on the axis.
 */
export function turnedPart(
  outline: readonly (readonly [r: number, z: number])[],
  sides = SIDES,
): PartGeometry {
  const at = (i: number): readonly [number, number] => [
    Math.cos((2 * Math.PI * i) / sides),
    Math.sin((2 * Math.PI * i) / sides),
  ];
  const points = outline.flatMap(([r, z]) =>
    Array.from({ length: sides }, (_, i): Vec3 => [r * at(i)[0], r * at(i)[1], z]),
  );
  const triangles = outline.flatMap((_, j) =>
    Array.from({ length: sides }, (__, i) => {
      const k = (j + 1) % outline.length;
      const [a, b, c, d] = [
        j * sides + i,
        j * sides + ((i + 1) % sides),
        k * sides + ((i + 1) % sides),
        k * sides + i,
      ];
      return [a, b, c, a, c, d];
    }).flat(),
  );
  const [rs, zs] = [outline.map(([r]) => r), outline.map(([, z]) => z)];
  const r = Math.max(...rs);
  return partOf(
    [
      {
        facts: { surface: 'revolution', origin: [0, 0, 0], axis: [0, 0, 1] },
        points,
        normals: points.map(() => [0, 0, 1]),
        triangles,
      },
    ],
    [],
    { min: [-r, -r, Math.min(...zs)], max: [r, r, Math.max(...zs)] },
  );
}

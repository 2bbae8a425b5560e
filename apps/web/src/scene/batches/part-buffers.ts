import { meshEdges, triangleEdges } from '@bathyscope/core/drawing';
import type { Vec3 } from '@bathyscope/core/math';
import type { PartDefinition } from '@bathyscope/core/model';
import { BufferAttribute, BufferGeometry } from 'three';
import type { LoadedPart } from '../../state/model-store.ts';

/* The vertex buffers of one part, as the batches take them. */

export function faceGeometry({ geometry }: LoadedPart, definition: PartDefinition): BufferGeometry {
  const { mesh } = geometry;
  const tint = new Float32Array((mesh.positions.length / 3) * 4);
  for (const [face, colour] of Object.entries(definition.faceColours ?? {}))
    for (let i = 3 * mesh.faceStart[+face]; i < 3 * mesh.faceStart[+face + 1]; i++)
      tint.set([...colour, 1], 4 * mesh.indices[i]);
  const g = new BufferGeometry();
  g.setAttribute('position', new BufferAttribute(mesh.positions, 3));
  g.setAttribute('normal', new BufferAttribute(mesh.normals, 3));
  g.setAttribute('tint', new BufferAttribute(tint, 4));
  g.setIndex(new BufferAttribute(mesh.indices, 1));
  return g;
}

/** Pieces a straight edge is drawn in, so that a stroke by hand can bend. */
const PIECES = 4;

export type EdgeClass = 'sharp' | 'smooth' | 'open';

/** The edges of one class as segments. Seams are no edges to the eye. */
export function edgeGeometry(
  { geometry }: LoadedPart,
  { faceColours }: PartDefinition,
  wanted: EdgeClass,
): BufferGeometry {
  const { lines } = geometry;
  const segments: number[] = [];
  const tints: number[] = [];
  geometry.edges.forEach((edge, e) => {
    const open = edge.faces.length < 2;
    if (edge.seam || (wanted === 'open' ? !open : edge.smooth !== (wanted === 'smooth'))) return;
    const count = lines.start[e + 1] - lines.start[e];
    const at = (i: number, k: number) => lines.positions[3 * (lines.start[e] + i) + k];
    if (count === 2)
      for (let p = 0; p < PIECES; p++)
        for (const t of [p / PIECES, (p + 1) / PIECES])
          for (let k = 0; k < 3; k++) segments.push(at(0, k) + (at(1, k) - at(0, k)) * t);
    else
      for (let i = 0; i + 1 < count; i++)
        for (const j of [i, i + 1]) for (let k = 0; k < 3; k++) segments.push(at(j, k));
    if (!faceColours) return;
    const tint = lighterOf(edge.faces.map((f) => faceColours[f] as Vec3 | undefined));
    while (tints.length < (4 * segments.length) / 3)
      if (tint) tints.push(...tint.map((x) => Math.round(255 * x)), 255);
      else tints.push(0);
  });
  return segmentGeometry(Float32Array.from(segments), Uint8Array.from(tints));
}

/**
 * The lighter of the colours on both sides of an edge, which its ink must stand out from;
 * null unless all are known.
 */
function lighterOf(colours: readonly (Vec3 | undefined)[]): Vec3 | null {
  const known = colours.filter((c) => c !== undefined);
  if (!known.length || known.length < colours.length) return null;
  return known.reduce((light, c) => (brightness(c) > brightness(light) ? c : light));
}

const brightness = ([r, g, b]: Vec3): number => 0.299 * r + 0.587 * g + 0.114 * b;

/** What can become the outline of curved faces, with the directions of the faces on both sides. */
export function outlineGeometry({ geometry }: LoadedPart): BufferGeometry {
  const edges = meshEdges(geometry);
  const { positions, indices } = geometry.mesh;
  const count = edges.faces.length;
  const [segments, sideA, sideB, middle] = [0, 1, 2, 3].map(() => new Float32Array(6 * count));
  for (let i = 0; i < count; i++) {
    const [a, b] = [3 * edges.vertices[2 * i], 3 * edges.vertices[2 * i + 1]];
    const normals = [0, 1].map((s) => triangleNormal(positions, indices, edges.triangles[2 * i + s]));
    for (let k = 0; k < 3; k++) {
      segments[6 * i + k] = positions[a + k];
      segments[6 * i + 3 + k] = positions[b + k];
      for (const end of [0, 3]) {
        sideA[6 * i + end + k] = normals[0][k];
        sideB[6 * i + end + k] = normals[1][k];
        middle[6 * i + end + k] = (positions[a + k] + positions[b + k]) / 2;
      }
    }
  }
  const g = segmentGeometry(segments);
  const few = g.getAttribute('position').count;
  for (const [name, array] of [
    ['sideA', sideA],
    ['sideB', sideB],
    ['middle', middle],
  ] as const)
    g.setAttribute(name, new BufferAttribute(array.length ? array : new Float32Array(3 * few), 3));
  return g;
}

/** The triangles themselves, as lines. */
export function triangleGeometry({ geometry }: LoadedPart): BufferGeometry {
  const edges = triangleEdges(geometry);
  const segments = new Float32Array(3 * edges.length);
  edges.forEach((v, i) => segments.set(geometry.mesh.positions.subarray(3 * v, 3 * v + 3), 3 * i));
  return segmentGeometry(segments);
}

function triangleNormal(p: Float32Array, indices: Uint32Array, t: number): [number, number, number] {
  const [a, b, c] = [0, 1, 2].map((k) => 3 * indices[3 * t + k]);
  const u = [0, 1, 2].map((k) => p[b + k] - p[a + k]);
  const v = [0, 1, 2].map((k) => p[c + k] - p[a + k]);
  const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
  const l = Math.hypot(...n) || 1;
  return [n[0] / l, n[1] / l, n[2] / l];
}

/**
 * Two points a segment, each with the direction of the line and the colour of the faces beside it, where they
 * have one of their own. A part without any gets one of no length: a batch wants something.
 */
function segmentGeometry(segments: Float32Array, tints?: Uint8Array): BufferGeometry {
  const positions = segments.length ? segments : new Float32Array(6);
  const tangents = new Float32Array(positions.length);
  for (let i = 0; i < positions.length; i += 6) {
    const d = [0, 1, 2].map((k) => positions[i + 3 + k] - positions[i + k]);
    const l = Math.hypot(...d) || 1;
    for (let k = 0; k < 3; k++) tangents[i + k] = tangents[i + 3 + k] = d[k] / l;
  }
  const g = new BufferGeometry();
  g.setAttribute('position', new BufferAttribute(positions, 3));
  g.setAttribute('tangent3', new BufferAttribute(tangents, 3));
  g.setAttribute(
    'tint',
    new BufferAttribute(tints?.length ? tints : new Uint8Array((4 * positions.length) / 3), 4, true),
  );
  g.setIndex(
    new BufferAttribute(
      Uint32Array.from({ length: positions.length / 3 }, (_, i) => i),
      1,
    ),
  );
  return g;
}

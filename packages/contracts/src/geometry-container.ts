import type { BodyFacts, Box3, EdgeFacts, FaceFacts, Hole, MassFigures, PartGeometry, Vec3 } from '@bathyscope/core';

/*
 * The geometry container: how one part's geometry is stored and sent. Little-endian.
 *
 *   0   4  magic "BSGC"
 *   4   4  version (1)
 *   8   4  length of the header in bytes
 *  12   …  header: JSON, UTF-8, padded with spaces to a multiple of 8
 *   …   …  the arrays in the order of SECTIONS, each padded to a multiple of 8
 *
 * Positions are stored as 32-bit floats, normals octahedrally in two 16-bit integers (Meyer et al., On floating-point
 * normal vectors, EGSR 2010), indices as 16-bit numbers within each face: faces share no vertices, so they are small.
 */

const MAGIC = 0x43475342;
const VERSION = 1;
const LARGEST_SHORT = 65535;

interface Header {
  origin: Vec3;
  box: Box3;
  faces: FaceFacts[];
  edges: EdgeFacts[];
  bodies: BodyFacts[];
  holes: Hole[];
  area: number;
  mass: MassFigures | null;
  chordTolerance: number;
  warnings: string[];
  /** Number of vertices of each face. */
  faceVertices: number[];
  wideIndices: boolean;
  lengths: number[];
}

export class ContainerError extends Error {
  override name = 'ContainerError';
}

/** Bytes of a geometry as stored, not yet compressed. */
export function encodeGeometry(part: PartGeometry): Uint8Array {
  const { mesh, lines } = part;
  const faceVertices = countFaceVertices(part);
  const wideIndices = faceVertices.some((n) => n > LARGEST_SHORT);
  const local = wideIndices ? new Uint32Array(mesh.indices.length) : new Uint16Array(mesh.indices.length);
  let base = 0;
  faceVertices.forEach((count, f) => {
    for (let i = 3 * mesh.faceStart[f]; i < 3 * mesh.faceStart[f + 1]; i++) local[i] = mesh.indices[i] - base;
    base += count;
  });
  const sections = [mesh.positions, encodeNormals(mesh.normals), local, mesh.faceStart, lines.positions, lines.start, part.vertices];
  const header: Header = {
    origin: part.origin,
    box: part.box,
    faces: part.faces,
    edges: part.edges,
    bodies: part.bodies,
    holes: part.holes,
    area: part.area,
    mass: part.mass,
    chordTolerance: part.chordTolerance,
    warnings: part.warnings,
    faceVertices,
    wideIndices,
    lengths: sections.map((s) => s.length),
  };
  const json = new TextEncoder().encode(JSON.stringify(header));
  const headerLength = padded(12 + json.length) - 12;
  const size = sections.reduce((sum, s) => sum + padded(s.byteLength), 12 + headerLength);
  const bytes = new Uint8Array(size);
  const view = new DataView(bytes.buffer);
  view.setUint32(0, MAGIC, true);
  view.setUint32(4, VERSION, true);
  view.setUint32(8, headerLength, true);
  bytes.fill(0x20, 12, 12 + headerLength).set(json, 12);
  let at = 12 + headerLength;
  for (const s of sections) {
    bytes.set(new Uint8Array(s.buffer, s.byteOffset, s.byteLength), at);
    at += padded(s.byteLength);
  }
  return bytes;
}

/** @throws ContainerError when the bytes are no container, or one of another version */
export function decodeGeometry(bytes: Uint8Array): PartGeometry {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.byteLength < 12 || view.getUint32(0, true) !== MAGIC) throw new ContainerError('These bytes are not a geometry container.');
  if (view.getUint32(4, true) !== VERSION)
    throw new ContainerError(`Geometry container of version ${view.getUint32(4, true)}; this program reads version ${VERSION}.`);
  const headerLength = view.getUint32(8, true);
  const header = JSON.parse(new TextDecoder().decode(bytes.subarray(12, 12 + headerLength))) as Header;
  // Sections are aligned within the container, not within whatever buffer it arrived in; `slice` of Node's own kind of bytes copies nothing.
  const body = new Uint8Array(bytes.subarray(12 + headerLength)).buffer;
  let at = 0;
  let next = 0;
  const section = <T>(make: (b: ArrayBuffer, offset: number, length: number) => T, size: number): T => {
    const length = header.lengths[next++];
    const array = make(body, at, length);
    at += padded(length * size);
    return array;
  };
  const positions = section((b, o, n) => new Float32Array(b, o, n), 4);
  const packed = section((b, o, n) => new Int16Array(b, o, n), 2);
  const local = header.wideIndices ? section((b, o, n) => new Uint32Array(b, o, n), 4) : section((b, o, n) => new Uint16Array(b, o, n), 2);
  const faceStart = section((b, o, n) => new Uint32Array(b, o, n), 4);
  const linePositions = section((b, o, n) => new Float32Array(b, o, n), 4);
  const start = section((b, o, n) => new Uint32Array(b, o, n), 4);
  const vertices = section((b, o, n) => new Float64Array(b, o, n), 8);

  const indices = new Uint32Array(local.length);
  let base = 0;
  header.faceVertices.forEach((count, f) => {
    for (let i = 3 * faceStart[f]; i < 3 * faceStart[f + 1]; i++) indices[i] = local[i] + base;
    base += count;
  });
  const { faceVertices: _, wideIndices: __, lengths: ___, ...facts } = header;
  return {
    ...facts,
    // What was stored before holes had steps has none.
    holes: facts.holes.map((h) => ({ ...h, steps: h.steps ?? [], opensInto: h.opensInto ?? [] })),
    mesh: { positions, normals: decodeNormals(packed), indices, faceStart },
    lines: { positions: linePositions, start },
    vertices,
  };
}

const padded = (n: number): number => (n + 7) & ~7;

function countFaceVertices({ mesh, faces }: PartGeometry): number[] {
  const counts: number[] = [];
  let base = 0;
  for (let f = 0; f < faces.length; f++) {
    let last = base - 1;
    for (let i = 3 * mesh.faceStart[f]; i < 3 * mesh.faceStart[f + 1]; i++) if (mesh.indices[i] > last) last = mesh.indices[i];
    counts.push(last + 1 - base);
    base = last + 1;
  }
  return counts;
}

function encodeNormals(normals: Float32Array): Int16Array {
  const out = new Int16Array((normals.length / 3) * 2);
  for (let i = 0; i < normals.length / 3; i++) {
    const [x, y, z] = [normals[3 * i], normals[3 * i + 1], normals[3 * i + 2]];
    const sum = Math.abs(x) + Math.abs(y) + Math.abs(z) || 1;
    let [u, v] = [x / sum, y / sum];
    if (z < 0) [u, v] = [(1 - Math.abs(v)) * (u >= 0 ? 1 : -1), (1 - Math.abs(u)) * (v >= 0 ? 1 : -1)];
    out[2 * i] = Math.round(u * 32767);
    out[2 * i + 1] = Math.round(v * 32767);
  }
  return out;
}

function decodeNormals(packed: Int16Array): Float32Array {
  const out = new Float32Array((packed.length / 2) * 3);
  for (let i = 0; i < packed.length / 2; i++) {
    let u = packed[2 * i] / 32767;
    let v = packed[2 * i + 1] / 32767;
    const z = 1 - Math.abs(u) - Math.abs(v);
    if (z < 0) [u, v] = [(1 - Math.abs(v)) * (u >= 0 ? 1 : -1), (1 - Math.abs(u)) * (v >= 0 ? 1 : -1)];
    const l = Math.hypot(u, v, z) || 1;
    out[3 * i] = u / l;
    out[3 * i + 1] = v / l;
    out[3 * i + 2] = z / l;
  }
  return out;
}

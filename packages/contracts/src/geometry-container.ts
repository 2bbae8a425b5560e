import type {
  BodyFacts,
  EdgeFacts,
  FaceFacts,
  Hole,
  MassFigures,
  PartGeometry,
} from '@bathyscope/core/geometry';
import type { Box3, Vec3 } from '@bathyscope/core/math';

/*
 * The geometry container: how one part's geometry is stored and sent. Little-endian.
 *
 *   0   4  magic "BSGC"
 *   4   4  version (2)
 *   8   4  length of the header in bytes
 * 12 … header: JSON, UTF-8, padded with spaces to a multiple of 8; what the geometry can do, its facts, and
 * the sections by name
 *   …   …  the sections, each padded to a multiple of 8
 *
 * Sections are found by their name: one that a program does not know is passed over, so that more can be
 * added (levels of detail, fitted surfaces, regions of meshes) without another version. Version 1 had no
 * names but an order, and stays readable.
 *
 * Positions are stored as 32-bit floats, normals octahedrally in two 16-bit integers (Meyer et al., On
 * floating-point normal vectors, EGSR 2010), indices as 16-bit numbers within each face: faces share no
 * vertices, so they are small.
 */

const MAGIC = 0x43475342;
const VERSION = 2;
const LARGEST_SHORT = 65535;

/** What a geometry can do, and what is in its container. */
export interface GeometryHead {
  /** It has surfaces that figures are taken from and questions put to; otherwise it is a mesh only. */
  exact: boolean;
  /** mm: how far mesh and lines may lie from the shape. */
  bound: number;
  sections: readonly string[];
}

const ARRAYS = {
  i16: Int16Array,
  u16: Uint16Array,
  u32: Uint32Array,
  f32: Float32Array,
  f64: Float64Array,
} as const;
type ElementType = keyof typeof ARRAYS;
type Elements = Int16Array | Uint16Array | Uint32Array | Float32Array | Float64Array;

interface Section {
  name: string;
  type: ElementType;
  /** Bytes from the end of the header, and number of elements. */
  at: number;
  length: number;
}

/** What version 1 held, in its order. */
const FIRST_SECTIONS = (wide: boolean): readonly (readonly [name: string, type: ElementType])[] => [
  ['positions', 'f32'],
  ['normals', 'i16'],
  ['indices', wide ? 'u32' : 'u16'],
  ['face start', 'u32'],
  ['line positions', 'f32'],
  ['line start', 'u32'],
  ['vertices', 'f64'],
];

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
  exact: boolean;
  sections: Section[];
  /** Of version 1. */
  wideIndices?: boolean;
  lengths?: number[];
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
  const contents: readonly (readonly [string, Elements])[] = [
    ['positions', mesh.positions],
    ['normals', encodeNormals(mesh.normals)],
    ['indices', local],
    ['face start', mesh.faceStart],
    ['line positions', lines.positions],
    ['line start', lines.start],
    ['vertices', part.vertices],
  ];
  let end = 0;
  const sections = contents.map(([name, array]): Section => {
    const at = end;
    end += padded(array.byteLength);
    return { name, type: typeOf(array), at, length: array.length };
  });
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
    exact: part.exact !== false,
    sections,
  };
  const json = new TextEncoder().encode(JSON.stringify(header));
  const headerLength = padded(12 + json.length) - 12;
  const bytes = new Uint8Array(12 + headerLength + end);
  const view = new DataView(bytes.buffer);
  view.setUint32(0, MAGIC, true);
  view.setUint32(4, VERSION, true);
  view.setUint32(8, headerLength, true);
  bytes.fill(0x20, 12, 12 + headerLength).set(json, 12);
  contents.forEach(([, array], i) =>
    bytes.set(
      new Uint8Array(array.buffer, array.byteOffset, array.byteLength),
      12 + headerLength + sections[i].at,
    ),
  );
  return bytes;
}

const typeOf = (array: Elements): ElementType =>
  (Object.keys(ARRAYS) as ElementType[]).find((type) => array instanceof ARRAYS[type])!;

/**
 * What a geometry can do, without reading more of its container than that. @throws ContainerError as
 * `decodeGeometry` does
 */
export function geometryHead(bytes: Uint8Array): GeometryHead {
  const { header } = readHeader(bytes);
  return {
    exact: header.exact,
    bound: header.chordTolerance,
    sections: header.sections.map(({ name }) => name),
  };
}

function readHeader(bytes: Uint8Array): { header: Header; start: number } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.byteLength < 12 || view.getUint32(0, true) !== MAGIC)
    throw new ContainerError('These bytes are not a geometry container.');
  const version = view.getUint32(4, true);
  if (version < 1 || version > VERSION)
    throw new ContainerError(
      `Geometry container of version ${version}; this program reads up to version ${VERSION}. Load the page anew.`,
    );
  const start = 12 + view.getUint32(8, true);
  const header = JSON.parse(new TextDecoder().decode(bytes.subarray(12, start))) as Header;
  return {
    header: version === 1 ? { ...header, exact: true, sections: firstSections(header) } : header,
    start,
  };
}

function firstSections({ lengths = [], wideIndices = false }: Header): Section[] {
  let end = 0;
  return FIRST_SECTIONS(wideIndices).map(([name, type], i) => {
    const at = end;
    end += padded(lengths[i] * ARRAYS[type].BYTES_PER_ELEMENT);
    return { name, type, at, length: lengths[i] };
  });
}

/**
 * @throws ContainerError when the bytes are no container, one of a newer version, or
 * lack what every geometry has
 */
export function decodeGeometry(bytes: Uint8Array): PartGeometry {
  const { header, start } = readHeader(bytes);
  // Sections are aligned within the container, not within whatever buffer it arrived in; `slice` of Node's
  // own kind of bytes copies nothing.
  const body = new Uint8Array(bytes.subarray(start)).buffer;
  const section = <T extends Elements>(name: string, ...types: ElementType[]): T => {
    const found = header.sections.find((s) => s.name === name);
    const within =
      found &&
      types.includes(found.type) &&
      found.at + found.length * ARRAYS[found.type].BYTES_PER_ELEMENT <= body.byteLength;
    if (!within) throw new ContainerError(`This geometry container has no ${name}: it is damaged.`);
    return new ARRAYS[found.type](body, found.at, found.length) as Elements as T;
  };
  const positions = section<Float32Array>('positions', 'f32');
  const packed = section<Int16Array>('normals', 'i16');
  const local = section<Uint16Array | Uint32Array>('indices', 'u16', 'u32');
  const faceStart = section<Uint32Array>('face start', 'u32');
  const linePositions = section<Float32Array>('line positions', 'f32');
  const lineStart = section<Uint32Array>('line start', 'u32');
  const vertices = section<Float64Array>('vertices', 'f64');

  const indices = new Uint32Array(local.length);
  let base = 0;
  header.faceVertices.forEach((count, f) => {
    for (let i = 3 * faceStart[f]; i < 3 * faceStart[f + 1]; i++) indices[i] = local[i] + base;
    base += count;
  });
  const { faceVertices: _, wideIndices: __, lengths: ___, sections: ____, exact, ...facts } = header;
  return {
    ...facts,
    ...(!exact && { exact }),
    // What was stored before holes had steps has none.
    holes: facts.holes.map((h) => ({ ...h, steps: h.steps ?? [], opensInto: h.opensInto ?? [] })),
    mesh: { positions, normals: decodeNormals(packed), indices, faceStart },
    lines: { positions: linePositions, start: lineStart },
    vertices,
  };
}

const padded = (n: number): number => (n + 7) & ~7;

function countFaceVertices({ mesh, faces }: PartGeometry): number[] {
  const counts: number[] = [];
  let base = 0;
  for (let f = 0; f < faces.length; f++) {
    let last = base - 1;
    for (let i = 3 * mesh.faceStart[f]; i < 3 * mesh.faceStart[f + 1]; i++)
      if (mesh.indices[i] > last) last = mesh.indices[i];
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

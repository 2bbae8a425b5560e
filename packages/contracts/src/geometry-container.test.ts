import type { PartGeometry } from '@bathyscope/core/geometry';
import type { Vec3 } from '@bathyscope/core/math';
import fc from 'fast-check';
import fs from 'node:fs';
import path from 'node:path';
import { ContainerError, decodeGeometry, encodeGeometry, geometryHead } from './geometry-container.ts';

const number = fc.double({ min: -1e7, max: 1e7, noNaN: true }).map((x) => (Object.is(x, -0) ? 0 : x));
const vec = fc.tuple(number, number, number) as fc.Arbitrary<Vec3>;
const unit = vec.map((v): Vec3 => {
  const l = Math.hypot(...v);
  // Without -0, which JSON does not know.
  return l > 1e-3 ? [v[0] / l + 0, v[1] / l + 0, v[2] / l + 0] : [0, 0, 1];
});
const index = fc.nat(1000);
const accuracy = fc.oneof(
  fc.constant({ kind: 'exact' as const }),
  number.map((deviation) => ({ kind: 'recognised' as const, deviation })),
);
/** Every field that may be absent is there or not. */
const facts = fc.record(
  {
    surface: fc.constantFrom('plane', 'cylinder', 'cone', 'sphere', 'torus', 'freeform'),
    accuracy,
    origin: vec,
    axis: unit,
    radius: number,
    minorRadius: number,
    semiAngle: number,
    area: number,
    concave: fc.boolean(),
    body: index,
    edges: fc.array(index),
    hole: index,
  },
  { requiredKeys: ['surface', 'accuracy', 'area', 'concave', 'body', 'edges'] },
);
const edge = fc.record(
  {
    curve: fc.constantFrom('line', 'circle', 'ellipse', 'freeform'),
    accuracy,
    length: number,
    centre: vec,
    axis: unit,
    radius: number,
    minorRadius: number,
    arcAngle: number,
    smooth: fc.boolean(),
    seam: fc.boolean(),
    faces: fc.array(index),
    vertices: fc.array(index),
  },
  { requiredKeys: ['curve', 'accuracy', 'length', 'smooth', 'seam', 'faces', 'vertices'] },
);
const mass = fc.record({
  volume: number,
  volumeErrorEstimate: number,
  centreOfGravity: vec,
  inertia: fc.tuple(vec, vec, vec),
  accuracy: fc.constant({ kind: 'exact' as const }),
});
const rest = fc.record({
  origin: vec,
  box: fc.record({ min: vec, max: vec }),
  bodies: fc.array(fc.record({ closed: fc.boolean(), faces: fc.array(index) })),
  holes: fc.array(
    fc.record({
      faces: fc.array(index),
      diameter: number,
      depth: number,
      start: vec,
      axis: unit,
      ends: fc.constantFrom('through', 'blind', 'closed'),
      steps: fc.array(
        fc.record(
          {
            kind: fc.constantFrom('counterbore', 'drill point', 'keyway'),
            diameter: number,
            depth: number,
            angle: number,
            side: fc.constantFrom('near', 'far'),
            faces: fc.array(index),
          },
          { requiredKeys: ['kind', 'diameter', 'depth', 'side', 'faces'] },
        ),
      ),
      opensInto: fc.array(index),
      accuracy,
    }),
  ),
  area: number,
  mass: fc.option(mass),
  chordTolerance: number,
  warnings: fc.array(fc.string({ unit: 'grapheme' })),
});

/** A part whose faces have so many vertices each, no vertex shared, every vertex in a triangle. */
const partOf = (
  faceSizes: number[],
  normals: Vec3[],
  more: object,
  faces: unknown[],
  edges: unknown[],
  polylines: number[],
): PartGeometry => {
  const vertices = faceSizes.reduce((sum, n) => sum + n, 0);
  const indices: number[] = [];
  const faceStart = [0];
  let base = 0;
  for (const n of faceSizes) {
    for (let i = 0; i < n; i += 3)
      indices.push(base + i, base + Math.min(i + 1, n - 1), base + Math.min(i + 2, n - 1));
    faceStart.push(indices.length / 3);
    base += n;
  }
  const start = polylines.reduce((s, n) => [...s, s.at(-1)! + n], [0]);
  return {
    ...(more as Omit<PartGeometry, 'mesh' | 'lines' | 'vertices' | 'faces' | 'edges'>),
    faces: faces as PartGeometry['faces'],
    edges: edges as PartGeometry['edges'],
    mesh: {
      positions: Float32Array.from({ length: 3 * vertices }, (_, i) => Math.fround(Math.sin(i) * 100)),
      normals: Float32Array.from({ length: vertices }, (_, i) => i).reduce(
        (all, i) => (all.set(normals[i % normals.length], 3 * i), all),
        new Float32Array(3 * vertices),
      ),
      indices: Uint32Array.from(indices),
      faceStart: Uint32Array.from(faceStart),
    },
    lines: {
      positions: Float32Array.from({ length: 3 * start.at(-1)! }, (_, i) => i),
      start: Uint32Array.from(start),
    },
    vertices: Float64Array.from({ length: 9 }, (_, i) => i / 7),
  };
};

const part = fc.array(fc.tuple(fc.integer({ min: 0, max: 9 }), facts), { maxLength: 6 }).chain((faces) =>
  fc
    .tuple(
      fc.array(unit, { minLength: 1, maxLength: 9 }),
      rest,
      fc.array(fc.tuple(fc.nat(5), edge), { maxLength: 5 }),
    )
    .map(([normals, more, edges]) =>
      partOf(
        faces.map(([n]) => n),
        normals,
        more,
        faces.map(([, f]) => f),
        edges.map(([, e]) => e),
        edges.map(([n]) => n),
      ),
    ),
);

/** Octahedral normals of 16 bits are within this of the true ones. */
const NORMAL_WITHIN = 1e-4;

function expectSame(found: PartGeometry, wanted: PartGeometry): void {
  const { normals, ...mesh } = wanted.mesh;
  const { normals: read, ...readMesh } = found.mesh;
  expect({ ...found, mesh: readMesh }).toEqual({ ...wanted, mesh });
  expect(read).toHaveLength(normals.length);
  for (let i = 0; i < normals.length; i++)
    if (Math.abs(read[i] - normals[i]) > NORMAL_WITHIN)
      throw new Error(`normal ${i}: ${read[i]} for ${normals[i]}`);
}

test('what is packed is unpacked the same: every optional field, faces without triangles, parts without faces', () => {
  fc.assert(fc.property(part, (wanted) => expectSame(decodeGeometry(encodeGeometry(wanted)), wanted)));
});

test('a container reads the same from the middle of a larger buffer', () => {
  fc.assert(
    fc.property(part, fc.nat(17), (wanted, offset) => {
      const bytes = encodeGeometry(wanted);
      const larger = new Uint8Array(bytes.length + 40);
      larger.set(bytes, offset);
      expectSame(decodeGeometry(larger.subarray(offset, offset + bytes.length)), wanted);
      // What Node reads from files and databases cuts itself without copying.
      expectSame(decodeGeometry(Buffer.from(larger.buffer, offset, bytes.length)), wanted);
    }),
    { numRuns: 30 },
  );
});

test.each([65_535, 65_536, 65_539])('a face of %i vertices keeps its indices, of 16 bits or 32', (n) => {
  const face = {
    surface: 'freeform',
    accuracy: { kind: 'exact' },
    area: 1,
    concave: false,
    body: 0,
    edges: [],
  };
  const more = {
    origin: [0, 0, 0],
    box: { min: [0, 0, 0], max: [1, 1, 1] },
    bodies: [],
    holes: [],
    area: 1,
    mass: null,
    chordTolerance: 0,
    warnings: [],
  };
  const wanted = partOf([n, 3], [[0, 0, 1]], more, [face, face], [], []);
  expectSame(decodeGeometry(encodeGeometry(wanted)), wanted);
});

test('what is no container, or one of another version, is refused in a sentence', () => {
  const bytes = encodeGeometry(fc.sample(part, 1)[0]);
  expect(() => decodeGeometry(new Uint8Array())).toThrow(ContainerError);
  expect(() => decodeGeometry(bytes.subarray(0, 11))).toThrow(/not a geometry container/);
  expect(() => decodeGeometry(Uint8Array.from(bytes, (b, i) => (i === 0 ? 1 : b)))).toThrow(
    /not a geometry container/,
  );
  expect(() => decodeGeometry(Uint8Array.from(bytes, (b, i) => (i === 4 ? 9 : b)))).toThrow(
    /version 9; this program reads up to version 2/,
  );
  expect(() => decodeGeometry(bytes.subarray(0, -8))).toThrow(/has no vertices: it is damaged/);
});

test('what was stored by version 1 reads as it did', () => {
  // A box of 10 by 20 by 30 mm, written by the program as it was then.
  const box = decodeGeometry(
    fs.readFileSync(path.join(path.dirname(__filename), 'testing', 'container-1.bin')),
  );
  expect(box.faces.map((f) => f.area)).toEqual([600, 600, 300, 300, 200, 200]);
  expect([...box.vertices.slice(21)]).toEqual([10, 20, 30]);
  expect([...box.mesh.positions.slice(0, 12)]).toEqual([0, 0, 0, 0, 0, 30, 0, 20, 30, 0, 20, 0]);
  expect([...box.mesh.indices.slice(-3), ...box.lines.start.slice(-2)]).toEqual([20, 22, 23, 22, 24]);
  expect(box).not.toHaveProperty('exact');
});

test('sections that a program does not know are passed over; a geometry says what it can do', () => {
  const wanted = fc.sample(part, 1)[0];
  const names = ['positions', 'normals', 'indices', 'face start', 'line positions', 'line start', 'vertices'];
  expect(geometryHead(encodeGeometry(wanted))).toEqual({
    exact: true,
    bound: wanted.chordTolerance,
    sections: names,
  });
  expect(geometryHead(encodeGeometry({ ...wanted, exact: false })).exact).toBe(false);
  expect(decodeGeometry(encodeGeometry({ ...wanted, exact: false })).exact).toBe(false);
  const more = withSection(encodeGeometry(wanted), 'levels of detail');
  expect(geometryHead(more).sections).toEqual(['levels of detail', ...names]);
  expectSame(decodeGeometry(more), wanted);
});

/** The same container with one section more, before the others. */
function withSection(bytes: Uint8Array, name: string): Uint8Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset);
  const start = 12 + view.getUint32(8, true);
  const header = JSON.parse(new TextDecoder().decode(bytes.subarray(12, start))) as {
    sections: { at: number }[];
  };
  const sections = [
    { name, type: 'u32', at: 0, length: 2 },
    ...header.sections.map((s) => ({ ...s, at: s.at + 8 })),
  ];
  const text = JSON.stringify({ ...header, sections });
  const json = new TextEncoder().encode(text.padEnd(text.length + 7));
  const length = ((12 + json.length) & ~7) - 12;
  const grown = new Uint8Array(12 + length + 8 + bytes.length - start);
  grown.set(bytes.subarray(0, 12));
  new DataView(grown.buffer).setUint32(8, length, true);
  grown.set(json.subarray(0, length), 12);
  grown.set(bytes.subarray(start), 12 + length + 8);
  return grown;
}

import { IDENTITY } from '@bathyscope/core/math';
import { convertStep, serialise } from '../reading/convert-step.ts';
import { describePart } from '../describing/describe-part.ts';
import fs from 'node:fs';
import { madeSolids } from '../testing/made-solids.ts';
import { testKernel } from '../testing/test-kernel.ts';
import { publicFile } from '../testing/public-file.ts';
import { ShapeSession } from './shape-session.ts';

const moved = (x: number, y: number, z: number) => [...IDENTITY.slice(0, 12), x, y, z, 1];

test('distances between placed shapes are exact, and shapes give way when the session is full', async () => {
  const kernel = await testKernel();
  const shapes: { hash: string; shape: Uint8Array }[] = [];
  for (const file of ['cube-mm.step', 'rounded-cube.step'])
    convertStep(kernel, fs.readFileSync(publicFile(file)), 'Test', {
      onGeometry: ({ hash, shape }) => shapes.push({ hash, shape: shape! }),
    });
  const session = new ShapeSession(kernel, 1);
  const [cube, other] = shapes;
  session.load(cube.hash, cube.shape);

  // Two cubes of 1 m (what the file calls mm is 1000 of them) whose near edges are 3 m and
  // 4 m apart: 5 m by 3-4-5.
  const at = { hash: cube.hash, kind: 'part', index: 0 } as const;
  const found = session.leastDistance(
    { ...at, placement: IDENTITY },
    { ...at, placement: moved(4000, 5000, 0) },
  );
  expect(found.distance).toBeCloseTo(5000, 6);
  expect(() =>
    session.leastDistance(
      { ...at, kind: 'face', index: 99, placement: IDENTITY },
      { ...at, placement: IDENTITY },
    ),
  ).toThrow(/no face number 99/);

  session.load(other.hash, other.shape);
  expect(session.hashes()).toEqual([other.hash]);
  expect(() => session.leastDistance({ ...at, placement: IDENTITY }, { ...at, placement: IDENTITY })).toThrow(
    /not loaded/,
  );
});

test('a body of a part is measured alone, and a point of the model to anything', async () => {
  const kernel = await testKernel();
  const made = madeSolids(kernel.oc);
  // Two blocks 7 mm apart and a ball, in one part.
  const shape = made.together(
    made.box([0, 0, 0], [10, 10, 10]),
    made.box([17, 0, 0], [20, 10, 10]),
    made.sphere([5, 5, 30], 4),
  );
  const geometry = describePart(kernel.oc, shape);
  expect(geometry.bodies).toHaveLength(3);
  const session = new ShapeSession(kernel);
  session.load('blocks', serialise(kernel.oc, shape));
  const part = { hash: 'blocks', placement: IDENTITY };
  const bodyAt = (x: number, z: number): number =>
    geometry.bodies.findIndex((b) => {
      const [from, to] = [geometry.mesh.faceStart[b.faces[0]], geometry.mesh.faceStart[b.faces[0] + 1]];
      const corners = Array.from(geometry.mesh.indices.subarray(3 * from, 3 * to), (i) =>
        [0, 1, 2].map((k) => geometry.mesh.positions[3 * i + k] + geometry.origin[k]),
      );
      return corners.every(([px, , pz]) => Math.abs(px - x) <= 10 && Math.abs(pz - z) <= 10);
    });
  const [first, second, ball] = [bodyAt(5, 5), bodyAt(18.5, 5), bodyAt(5, 30)];
  const body = (index: number) => ({ kind: 'body' as const, index, ...part });
  expect(session.leastDistance(body(first), body(second)).distance).toBeCloseTo(7, 9);
  expect(session.leastDistance(body(first), body(ball)).distance).toBeCloseTo(16, 9);
  expect(session.interference({ ...part, body: first }, { ...part, body: second }, 'exact')).toMatchObject({
    relation: 'gap',
  });
  expect(
    session.interference(
      { ...part, body: first },
      { ...part, placement: moved(9, 0, 0), body: first },
      'exact',
    ).clash!.volume,
  ).toBeCloseTo(100, 8);
  expect(session.leastDistance(body(ball), { kind: 'point', at: [5, 5, 40] }).distance).toBeCloseTo(6, 9);
  expect(
    session.leastDistance({ kind: 'point', at: [13, 14, 10] }, { kind: 'part', index: 0, ...part }).distance,
  ).toBeCloseTo(5, 9);
  expect(() => session.leastDistance(body(7), body(0))).toThrow(/no body number 7/);
});

import { IDENTITY } from '@bathyscope/core';
import { convertStep } from './convert-step.ts';
import fs from 'node:fs';
import { testKernel } from './testing/test-kernel.ts';
import { publicFile } from './testing/public-file.ts';
import { ShapeSession } from './shape-session.ts';

const moved = (x: number, y: number, z: number) => [...IDENTITY.slice(0, 12), x, y, z, 1];

test('distances between placed shapes are exact, and shapes give way when the session is full', async () => {
  const kernel = await testKernel();
  const shapes: { hash: string; shape: Uint8Array }[] = [];
  for (const file of ['cube-mm.step', 'rounded-cube.step'])
    convertStep(kernel, fs.readFileSync(publicFile(file)), 'Test', { onGeometry: (g) => shapes.push(g) });
  const session = new ShapeSession(kernel, 1);
  const [cube, other] = shapes;
  session.load(cube.hash, cube.shape);

  // Two cubes of 1 m (what the file calls mm is 1000 of them) whose near edges are 3 m and 4 m apart: 5 m by 3-4-5.
  const at = { hash: cube.hash, kind: 'part', index: 0 } as const;
  const found = session.leastDistance({ ...at, placement: IDENTITY }, { ...at, placement: moved(4000, 5000, 0) });
  expect(found.distance).toBeCloseTo(5000, 6);
  expect(() => session.leastDistance({ ...at, kind: 'face', index: 99, placement: IDENTITY }, { ...at, placement: IDENTITY })).toThrow(
    /no face number 99/,
  );

  session.load(other.hash, other.shape);
  expect(session.hashes()).toEqual([other.hash]);
  expect(() => session.leastDistance({ ...at, placement: IDENTITY }, { ...at, placement: IDENTITY })).toThrow(/not loaded/);
});

import { spawnSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import ManifoldModule from 'manifold-3d';
import type { PartGeometry } from '../geometry/part-geometry.ts';
import { boxPart } from '../testing/box-part.ts';
import { cylinderPart, turnedPart } from '../testing/round-parts.ts';
import { meshMass } from './mesh-mass.ts';

/* Volumes of meshes by two programs that share no code with ours. */

const PARTS: [string, PartGeometry][] = [
  ['block', boxPart(10, 20, 30)],
  ['pin', cylinderPart(5, 20)],
  [
    'bush',
    turnedPart([
      [3, 0],
      [9, 0],
      [9, 4],
      [5, 6],
      [5, 12],
      [3, 12],
    ]),
  ],
];

test.each(PARTS)('%s: the volume that manifold-3d 3.5.4 gives', async (_, { mesh }) => {
  const api = await ManifoldModule();
  api.setup();
  const given = new api.Mesh({ numProp: 3, vertProperties: mesh.positions, triVerts: mesh.indices });
  given.merge();
  const solid = new api.Manifold(given);
  expect(Math.abs(meshMass(mesh.positions, mesh.indices, 0)!.volume / solid.volume() - 1)).toBeLessThan(1e-6);
  solid.delete();
});

test.each(PARTS)('%s: the volume that Debian’s admesh gives', (_, { mesh }) => {
  const file = path.join(fs.mkdtempSync(path.join(os.tmpdir(), 'admesh-')), 'part.stl');
  const corner = (i: number) =>
    `vertex ${[0, 1, 2].map((k) => mesh.positions[3 * i + k].toFixed(6)).join(' ')}`;
  const facets: string[] = [];
  for (let t = 0; t < mesh.indices.length; t += 3)
    facets.push(
      `facet normal 0 0 0\nouter loop\n${[0, 1, 2].map((k) => corner(mesh.indices[t + k])).join('\n')}\nendloop\nendfacet`,
    );
  fs.writeFileSync(file, `solid part\n${facets.join('\n')}\nendsolid part\n`);
  const said = spawnSync('admesh', [file], { encoding: 'utf8' }).stdout;
  const volume = Number(/Volume\s*:\s*([\d.]+)/.exec(said)?.[1]);
  // It prints six digits behind the point and counts in single precision.
  expect(Math.abs(meshMass(mesh.positions, mesh.indices, 0)!.volume / volume - 1)).toBeLessThan(1e-4);
});

import type { FaceFacts, RingMesh } from '@bathyscope/core/geometry';
import { boxDiagonal, pointAt } from '@bathyscope/core/math';
import { meshWithinChord, roundSurface } from '@bathyscope/core/meshing';
import { ROUND_CHORD_RELATIVE } from '@bathyscope/core/tolerances';
import { describeSurface } from '../packages/kernel/src/describing/describe-faces.ts';
import { clean, DEFAULT_MESH, meshShape, readFace } from '../packages/kernel/src/describing/mesh-shape.ts';
import { compileKernel, loadKernel, type Occt } from '../packages/kernel/src/occt/load.ts';
import { indexedMap, ShapeType } from '../packages/kernel/src/occt/shapes.ts';
import { boxOfMeshes } from '../packages/kernel/src/describing/pack-mesh.ts';
import { madeSolids } from '../packages/kernel/src/testing/made-solids.ts';
import { publicShapes } from './figures.ts';
import { report } from './report.ts';

/*
 * Budget: meshing round faces again costs little more than half of the kernel's meshing at most, makes fewer
 * triangles in all, and none that lies farther off.
 */

export async function benchOutlines(): Promise<void> {
  const { oc } = await loadKernel(await compileKernel());
  const made = madeSolids(oc);
  compare(oc, 'public files', publicShapes(oc));
  compare(oc, 'a torus, a sphere, and both as B-splines', [
    made.torus([0, 0, 0], 30, 10),
    made.sphere([0, 0, 0], 20),
    made.asSplines(made.torus([0, 0, 0], 30, 10)),
    made.asSplines(made.sphere([0, 0, 0], 20)),
  ]);
}

function compare(oc: Occt, what: string, shapes: readonly Occt[]): void {
  const spent = { kernel: 0, ours: 0 };
  const triangles = { kernel: 0, ours: 0 };
  const worst = { kernel: 0, ours: 0 };
  for (const shape of shapes) {
    clean(oc, shape);
    const start = performance.now();
    meshShape(oc, shape, DEFAULT_MESH);
    const map = indexedMap(oc, shape, ShapeType.face);
    const faces = Array.from({ length: map.Size() as number }, (_, f) => ({
      mesh: readFace(oc, map.FindKey(f + 1)),
      facts: describeSurface(oc, oc.TopoDS.Face_1(map.FindKey(f + 1))) as FaceFacts,
    }));
    spent.kernel += performance.now() - start;
    const diagonal = boxDiagonal(boxOfMeshes(faces.map((face) => face.mesh)));
    for (const { mesh, facts } of faces) {
      triangles.kernel += mesh.indices.length / 3;
      const surface = mesh.indices.length ? roundSurface(facts) : null;
      const begun = performance.now();
      const again = surface
        ? meshWithinChord(mesh, surface, ROUND_CHORD_RELATIVE * diagonal, DEFAULT_MESH.angle)
        : mesh;
      spent.ours += performance.now() - begun;
      triangles.ours += again.indices.length / 3;
      if (surface) {
        worst.kernel = Math.max(worst.kernel, farthest(mesh, surface) / diagonal);
        worst.ours = Math.max(worst.ours, farthest(again, surface) / diagonal);
      }
    }
  }
  report(
    `round faces meshed again, ${what}`,
    spent.ours / spent.kernel,
    'of the kernel’s meshing',
    'budget 0.6',
  );
  report(`triangles in all, ${what}`, triangles.ours / triangles.kernel, 'of the kernel’s', 'budget 1');
  report(`farthest off, ${what}`, worst.ours / worst.kernel, 'of the kernel’s', 'budget 1');
}

/** mm: how far middles of triangles and of their sides lie off. */
function farthest(
  { positions, indices }: RingMesh,
  surface: NonNullable<ReturnType<typeof roundSurface>>,
): number {
  let most = 0;
  for (let t = 0; t < indices.length; t += 3) {
    const corners = [0, 1, 2].map((k) => pointAt(positions, indices[t + k]));
    for (const among of [corners, corners.slice(1), corners.slice(0, 2), [corners[0], corners[2]]]) {
      const [x, y, z] = [0, 1, 2].map((k) => among.reduce((sum, p) => sum + p[k], 0) / among.length);
      most = Math.max(most, surface.distance(x, y, z));
    }
  }
  return most;
}

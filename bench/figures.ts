import fs from 'node:fs';
import path from 'node:path';
import { createRequire } from 'node:module';
import type { MassFigures } from '@bathyscope/core/geometry';
import { meshMass, massOfSet, type MassInput } from '@bathyscope/core/mass';
import { IDENTITY } from '@bathyscope/core/math';
import { VOLUME_RELATIVE } from '@bathyscope/core/tolerances';
import { weighBodies } from '../packages/kernel/src/describing/describe-bodies.ts';
import { boxWithFreeForms } from '../packages/kernel/src/describing/describe-box.ts';
import { describePart } from '../packages/kernel/src/describing/describe-part.ts';
import { FaceReader } from '../packages/kernel/src/describing/face-sums.ts';
import { FaceSurfaces } from '../packages/kernel/src/describing/face-surface.ts';
import { fitMeshes, lineDeviation, meshRoundFaces } from '../packages/kernel/src/describing/fit-meshes.ts';
import { compileKernel, loadKernel, type Occt } from '../packages/kernel/src/occt/load.ts';
import { explore, indexedMap, ShapeType } from '../packages/kernel/src/occt/shapes.ts';
import {
  DEFAULT_MESH,
  meshShape,
  readFace,
  type RawLine,
} from '../packages/kernel/src/describing/mesh-shape.ts';
import { adaptiveMass } from '../packages/kernel/src/testing/adaptive-mass.ts';
import { madeSolids } from '../packages/kernel/src/testing/made-solids.ts';
import { medianTime, report } from './report.ts';

/*
 * Budget: our figures of parts cost a fifth of the kernel's adaptive integration in all, and less than
 * meshing the same parts; rolling up thousands of components costs little more than reading their figures.
 */

export async function benchFigures(): Promise<void> {
  const { oc } = await loadKernel(await compileKernel());
  const made = madeSolids(oc);
  const bores = Array.from({ length: 900 }, (_, i) =>
    made.cylinder([12 * (i % 30) + 6, 12 * Math.floor(i / 30) + 6, -1], 4, 12),
  );
  compare(oc, 'public files', publicShapes(oc));
  compare(oc, 'a plate of 900 bores', [
    made.minus(made.box([0, 0, 0], [360, 360, 10]), made.together(...bores)),
  ]);
  compare(oc, 'a plate of 100 bores as B-splines', [
    made.asSplines(
      made.minus(
        made.box([0, 0, 0], [120, 120, 10]),
        made.together(...bores.filter((_, i) => i % 30 < 10 && i < 300)),
      ),
    ),
  ]);
  rollUp(5_000);
  rollUp(50_000);
  benchMesh(1_000_000);
}

export function publicShapes(oc: Occt): Occt[] {
  const folder = path.join(
    path.dirname(createRequire(import.meta.url).resolve('occt-import-js/package.json')),
    'test',
    'testfiles',
  );
  const files = (fs.readdirSync(folder, { recursive: true }) as string[]).filter((f) =>
    /\.st(e)?p$/i.test(f),
  );
  return files.flatMap((file) => {
    oc.FS.writeFile('/bench.stp', fs.readFileSync(path.join(folder, file)));
    const reader = new oc.STEPControl_Reader_1();
    reader.ReadFile('/bench.stp');
    reader.TransferRoots(new oc.Message_ProgressRange_1());
    const shape = reader.OneShape();
    reader.delete();
    return shape.IsNull() ? [] : [shape];
  });
}

function compare(oc: Occt, what: string, shapes: readonly Occt[]): void {
  const faces = shapes.map((shape) => {
    const map = indexedMap(oc, shape, ShapeType.face);
    return Array.from({ length: map.Size() as number }, (_, i) => map.FindKey(i + 1));
  });
  const own = () => {
    const reader = new FaceReader(oc);
    for (const shape of faces) for (const face of shape) reader.sums(face, [0, 0, 0]);
    reader.delete();
  };
  const kernels = () => {
    for (const shape of shapes)
      explore(oc, shape, ShapeType.solid, (s) => void adaptiveMass(oc, s, VOLUME_RELATIVE));
    for (const shape of faces)
      for (const face of shape) {
        const properties = new oc.GProp_GProps_1();
        oc.BRepGProp.SurfaceProperties_2(face, properties, 1e-6, false);
        properties.delete();
      }
  };
  const { meshing, checked } = checksOf(oc, shapes);
  const [ours, theirs] = [medianTime(3, own), medianTime(3, kernels)];
  const count = faces.reduce((sum, f) => sum + f.length, 0);
  report(
    `${what}: figures of ${count} faces`,
    theirs / ours,
    '× less time than the kernel’s adaptive integration',
    '',
  );
  report(`${what}: figures`, ours / meshing, '× of meshing the same', '');
  report(
    `${what}: figures, slits, boxes, and how far meshes are off`,
    checked / meshing,
    '× of meshing the same',
    'at most 0.30 is wanted',
  );
}

/**
 * ms for meshing, round faces by ourselves, and for all that is worked out of it so that figures can be
 * called exact or bounded.
 */
function checksOf(oc: Occt, shapes: readonly Occt[]): { meshing: number; checked: number } {
  const kernels = medianTime(1, () => shapes.forEach((shape) => void meshShape(oc, shape, DEFAULT_MESH)));
  const made = shapes.map((shape) => {
    const part = describePart(oc, shape);
    const [faceMap, edgeMap] = [indexedMap(oc, shape, ShapeType.face), indexedMap(oc, shape, ShapeType.edge)];
    const lines = new Map<number, RawLine>();
    const raw = part.faces.map((_, f) => readFace(oc, faceMap.FindKey(f + 1), edgeMap, lines));
    return { part, faceMap, edgeMap, lines, raw };
  });
  const round = medianTime(1, () =>
    made.forEach(({ part, raw }) => meshRoundFaces(part.faces, raw, DEFAULT_MESH.angle)),
  );
  const checked = medianTime(3, () => {
    for (const { part, faceMap, edgeMap, lines, raw } of made) {
      const held = new FaceSurfaces(oc);
      const surfaces = raw.map(({ uv }, f) => held.of(faceMap.FindKey(f + 1), uv));
      const fitted = [...raw];
      const { now: deviations } = fitMeshes(part.faces, fitted, surfaces, part.chordTolerance);
      const lineOff = lineDeviation(oc, edgeMap, part.edges, lines);
      weighBodies(
        {
          oc,
          faceMap,
          edgeMap,
          surfaces,
          bodies: part.bodies,
          faces: part.faces.map((f) => ({ ...f })),
          raw: fitted,
          deviations,
        },
        [],
        () => {},
      );
      boxWithFreeForms(
        {
          oc,
          edgeMap,
          edges: part.edges,
          lines,
          lineOff,
          faces: part.faces,
          surfaces,
          raw: fitted,
          deviations,
        },
        part.box,
      );
      held.delete();
    }
  });
  return { meshing: kernels + round, checked };
}

const CUBE: MassFigures = {
  volume: 1000,
  volumeErrorEstimate: 0,
  centreOfGravity: [5, 5, 5],
  inertia: [
    [16667, 0, 0],
    [0, 16667, 0],
    [0, 0, 16667],
  ],
  accuracy: { kind: 'exact' },
};

function rollUp(count: number): void {
  const items = Array.from({ length: count }, (_, i): MassInput => ({
    figures: { ...CUBE },
    placement: [...IDENTITY.slice(0, 12), 20 * (i % 100), 20 * Math.floor(i / 100), 0, 1],
    density: 7850,
  }));
  let sum = 0;
  const read = medianTime(9, () => {
    for (const { figures, placement, density } of items) {
      const { volume, centreOfGravity, inertia } = figures!;
      for (let i = 0; i < 3; i++)
        for (let j = 0; j < 3; j++)
          sum += volume * density! * inertia[i][j] * placement[4 * i + j] + centreOfGravity[i];
    }
  });
  const rolled = medianTime(9, () => void massOfSet(items));
  report(
    `roll-up of ${count} components`,
    rolled / read,
    '× one pass over their figures',
    `${rolled.toFixed(1)} ms${sum === 0 ? '!' : ''}`,
  );
}

function benchMesh(triangles: number): void {
  const side = Math.floor(Math.sqrt(triangles / 2));
  const positions = new Float32Array(3 * (side + 1) ** 2);
  for (let i = 0, n = 0; i <= side; i++)
    for (let j = 0; j <= side; j++) positions.set([i, j, Math.sin(i / 9) * Math.cos(j / 7)], 3 * n++);
  const indices = new Uint32Array(6 * side * side);
  for (let i = 0, n = 0; i < side; i++)
    for (let j = 0; j < side; j++, n += 6) {
      const a = i * (side + 1) + j;
      indices.set([a, a + 1, a + side + 1, a + 1, a + side + 2, a + side + 1], n);
    }
  let sum = 0;
  const read = medianTime(5, () => {
    for (let t = 0; t < indices.length; t++)
      sum += positions[3 * indices[t]] + positions[3 * indices[t] + 1] + positions[3 * indices[t] + 2];
  });
  const weighed = medianTime(5, () => void meshMass(positions, indices, 0));
  report(
    `mesh integration of ${triangles} triangles`,
    weighed / read,
    '× one read of the arrays',
    `${weighed.toFixed(0)} ms${sum === 0 ? '!' : ''}`,
  );
}

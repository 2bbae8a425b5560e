import fs from 'node:fs';
import { DEFAULT_LENS, project, type ViewCamera } from '@bathyscope/core/camera';
import type { PartGeometry } from '@bathyscope/core/geometry';
import { IDENTITY, lookFrom, type Vec3 } from '@bathyscope/core/math';
import { measurePair, shapeOfPick, type MeasuredShape } from '@bathyscope/core/measure';
import { componentsOf, listOccurrences } from '@bathyscope/core/model';
import { buildPartBvh, PickScene } from '@bathyscope/core/picking';
import { snapPoints } from '@bathyscope/core/snaps';
import { cylinderPart } from '../packages/core/src/testing/round-parts.ts';
import { convertStep } from '../packages/kernel/src/reading/convert-step.ts';
import { compileKernel, loadKernel } from '../packages/kernel/src/occt/load.ts';
import { nearestOfShapes } from '../packages/kernel/src/occt/nearest.ts';
import { indexedMap, placedShape, ShapeType } from '../packages/kernel/src/occt/shapes.ts';
import { ShapeSession, type PlacedShape } from '../packages/kernel/src/shapes/shape-session.ts';
import { publicFile } from '../packages/kernel/src/testing/public-file.ts';
import { report } from './report.ts';

/*
 * Budget: points under the cursor against a plain pick; figures of pairs within a frame; exact distances
 * against the bare kernel.
 */

const time = (work: () => void): number => {
  const start = performance.now();
  work();
  return performance.now() - start;
};
/** ms */
const FRAME = 1000 / 60;

export async function benchPicking(): Promise<void> {
  hover();
  await distances();
}

/** Four thousand pins side by side, a million triangles, seen aslant. */
function hover(): void {
  const part = cylinderPart(9, 5);
  const components = Array.from({ length: 4000 }, (_, i) => ({
    part: 0,
    placement: [...IDENTITY.slice(0, 12), 20 * (i % 80), 20 * Math.floor(i / 80), 0, 1],
  }));
  const triangles = (components.length * part.mesh.indices.length) / 3;
  const scene = new PickScene(components, new Map([[0, part]]), new Map([[0, buildPartBvh(part)]]));
  const pane = { width: 1280, height: 800 };
  const camera: ViewCamera = {
    projection: 'orthographic',
    target: [400, 250, 0],
    orientation: lookFrom([1, -1, 1], [0, 0, 1]),
    height: 300,
    lens: DEFAULT_LENS,
  };
  const options = { pickable: () => true };
  // On rims, where there is most to find.
  const at = Array.from({ length: 400 }, (_, i): Vec3 => [
    20 * (i % 40) + 9 * Math.cos(i),
    20 * Math.floor(i / 20) + 9 * Math.sin(i),
    5,
  ]).map((p) => project(camera, pane, p));
  let found = 0;
  const once = (): void =>
    at.forEach(({ x, y }) => (found += snapPoints(scene, camera, pane, x, y, options).length));
  once();
  found = 0;
  const plain = time(() => at.forEach(({ x, y }) => void scene.pick(camera, pane, x, y, options)));
  const snaps = time(once);
  report(
    `hover with points, ${(triangles / 1e6).toFixed(2)} million triangles`,
    snaps / plain,
    '× a plain pick',
    `${found} points at ${at.length} places, ${(snaps / at.length).toFixed(2)} ms each`,
  );
}

async function distances(): Promise<void> {
  const kernel = await loadKernel(await compileKernel());
  const { oc } = kernel;
  const geometries = new Map<string, { geometry: PartGeometry; shape: Uint8Array }>();
  const model = convertStep(kernel, fs.readFileSync(publicFile('as1-oc-214.stp')), 'Bench', {
    onGeometry: ({ hash, geometry, shape }) => geometries.set(hash, { geometry, shape: shape! }),
  });
  const components = componentsOf(listOccurrences(model.structure));
  const hashOf = (part: number): string => model.structure.parts[part].geometry!;
  const faces = components.flatMap(({ part, placement }) =>
    geometries
      .get(hashOf(part))!
      .geometry.faces.map((_, index) => ({ hash: hashOf(part), index, placement })),
  );
  const shapes = faces.map(({ hash, index, placement }): MeasuredShape =>
    shapeOfPick('face', index, { geometry: geometries.get(hash)!.geometry, placement }),
  );
  const pairs = Array.from({ length: 2000 }, (_, i) => [i % faces.length, (i * 37 + 11) % faces.length]);
  const analytic = time(() => pairs.forEach(([i, j]) => void measurePair(shapes[i], shapes[j])));
  report(
    'figures of two faces from their descriptions',
    analytic / pairs.length / FRAME,
    'of a frame',
    `${pairs.length} pairs`,
  );

  const session = new ShapeSession(kernel);
  const placed = faces.map((f): PlacedShape => ({ kind: 'face', ...f }));
  const some = pairs.slice(0, 60);
  const cold = time(() => {
    for (const hash of geometries.keys()) session.load(hash, geometries.get(hash)!.shape);
    session.leastDistance(placed[some[0][0]], placed[some[0][1]]);
  });
  const ask = (): void => some.forEach(([i, j]) => void session.leastDistance(placed[i], placed[j]));
  const warm = time(ask);
  const loaded = new Map([...geometries].map(([hash, { shape }]) => [hash, read(oc, shape)]));
  const face = (i: number) => {
    const map = indexedMap(oc, loaded.get(faces[i].hash), ShapeType.face);
    return placedShape(oc, map.FindKey(faces[i].index + 1), faces[i].placement);
  };
  const bare = some.map(([i, j]) => [face(i), face(j)]);
  const kernelAlone = time(() => bare.forEach(([a, b]) => void nearestOfShapes(oc, a, b)));
  report(
    'exact least distance of two faces, warm',
    warm / kernelAlone,
    '× the bare kernel call',
    `${(warm / some.length).toFixed(1)} ms each`,
  );
  report(
    'the first one, with its shapes read',
    cold / (warm / some.length),
    '× a warm one',
    `${cold.toFixed(0)} ms`,
  );
}

// eslint-disable-next-line @typescript-eslint/no-explicit-any
function read(oc: any, bytes: Uint8Array): any {
  const [shape, builder, progress] = [
    new oc.TopoDS_Shape(),
    new oc.BRep_Builder(),
    new oc.Message_ProgressRange_1(),
  ];
  oc.FS.writeFile('/bench.brep', bytes);
  oc.BRepTools.Read_2(shape, '/bench.brep', builder, progress);
  return shape;
}

import { boxPairs } from '@bathyscope/core/interference';
import { boxOfPoints, IDENTITY, type Mat4 } from '@bathyscope/core/math';
import {
  solidMeshOf,
  interferenceOfPair,
  type InterferenceBody,
} from '../packages/kernel/src/shapes/interference-of-pair.ts';
import { compileKernel, loadKernel, type Occt } from '../packages/kernel/src/occt/load.ts';
import { placedShape } from '../packages/kernel/src/occt/shapes.ts';
import { madeSolids } from '../packages/kernel/src/testing/made-solids.ts';
import { report } from './report.ts';

/*
 * Budget: finding the clashes of an assembly, against the kernel's own common volume of all
 * pairs, and how that grows.
 */

const time = (work: () => void): number => {
  const start = performance.now();
  work();
  return performance.now() - start;
};

export async function benchClashes(): Promise<void> {
  const kernel = await loadKernel(await compileKernel());
  const { oc } = kernel;
  const made = madeSolids(oc);
  const plate = made.minus(made.box([-15, -15, 0], [15, 15, 8]), made.cylinder([0, 0, -1], 5, 10));
  const bolt = made.plus(made.cylinder([0, 0, -12], 4.9, 20), made.cylinder([0, 0, 8], 8, 6));
  const [plateBody, boltBody] = [plate, bolt].map((shape) => ({ shape, mesh: solidMeshOf(oc, shape) }));
  const asSplines = [plate, bolt]
    .map(made.asSplines)
    .map((shape) => ({ shape, mesh: solidMeshOf(oc, shape) }));
  const at = (x: number, y: number): Mat4 => [...IDENTITY.slice(0, 12), x, y, 0, 1];
  /** Plates side by side that touch, with a bolt each; every tenth bolt stands 0.5 mm off and clashes. */
  const assembly = (
    count: number,
    [plate, bolt]: readonly Omit<InterferenceBody, 'placement'>[] = [plateBody, boltBody],
  ): InterferenceBody[] => {
    const side = Math.ceil(Math.sqrt(count / 2));
    return Array.from({ length: count }, (_, i) => {
      const k = i >> 1;
      const [x, y] = [30 * (k % side), 30 * Math.floor(k / side)];
      return i % 2
        ? { ...bolt, placement: at(x + (k % 10 === 0 ? 0.5 : 0), y) }
        : { ...plate, placement: at(x, y) };
    });
  };
  const boxes = (bodies: readonly InterferenceBody[]) =>
    bodies.map(({ mesh, placement }) => {
      const box = boxOfPoints(mesh.mesh.positions);
      const by = [placement[12], placement[13], placement[14]];
      const moved = (v: readonly number[]) => [v[0] + by[0], v[1] + by[1], v[2] + by[2]] as const;
      return { min: moved(box.min), max: moved(box.max) };
    });
  const find = (bodies: readonly InterferenceBody[]): number =>
    boxPairs(boxes(bodies)).filter(
      ([i, j]) => interferenceOfPair(kernel, bodies[i], bodies[j], 'quick').clash,
    ).length;

  const few = assembly(30);
  let clashes = 0;
  const ours = time(() => (clashes = find(few)));
  const placed = few.map((b): Occt => placedShape(oc, b.shape, b.placement));
  const all = time(() => {
    for (let i = 0; i < placed.length; i++)
      for (let j = i + 1; j < placed.length; j++)
        new oc.BRepAlgoAPI_Common_3(placed[i], placed[j], new oc.Message_ProgressRange_1()).delete();
  });
  report(
    '30 components: clashes with volume and depth',
    ours / all,
    '× the kernel’s common of all pairs',
    `${clashes} found`,
  );
  const [exact, free] = [assembly(38), assembly(38, asSplines)].map((bodies) => {
    let found = 0;
    return { time: time(() => (found = find(bodies))), found };
  });
  report(
    '38 components of B-splines',
    free.time / exact.time,
    '× the same as planes and cylinders',
    `${free.found} and ${exact.found} found`,
  );
  const many = assembly(500);
  const more = time(() => (clashes = find(many)));
  report(
    '500 components: growth',
    Math.log(more / ours) / Math.log(500 / 30),
    'exponent',
    `${clashes} found`,
  );
  const pairs = time(() => void boxPairs(boxes(assembly(5000))));
  report('5,000 components: pairs whose boxes meet', pairs / more, '× the check of 500', 'sweep alone');
}

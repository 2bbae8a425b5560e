import { describePart } from './describing/describe-part.ts';
import type { LoadedKernel, Occt } from './occt/load.ts';
import { SELF_TEST_WITHIN } from '@bathyscope/core/tolerances';

/**
 * Checks the kernel and everything that reads its memory against closed forms: box,
 * cylinder, cone, sphere, torus.
 * @throws Error naming the first figure that is off
 */
export function selfTest({ oc }: LoadedKernel): void {
  const frustum = (r1: number, r2: number, h: number) => (Math.PI * h * (r1 * r1 + r1 * r2 + r2 * r2)) / 3;
  const cases: [string, () => Occt, number, string, number | undefined][] = [
    ['box', () => new oc.BRepPrimAPI_MakeBox_2(1, 2, 3), 6, 'plane', undefined],
    ['cylinder', () => new oc.BRepPrimAPI_MakeCylinder_1(5, 40), Math.PI * 1000, 'cylinder', 5],
    ['cone', () => new oc.BRepPrimAPI_MakeCone_1(5, 2, 10), frustum(5, 2, 10), 'cone', 5],
    ['sphere', () => new oc.BRepPrimAPI_MakeSphere_1(7), (4 / 3) * Math.PI * 343, 'sphere', 7],
    ['torus', () => new oc.BRepPrimAPI_MakeTorus_1(20, 4), 2 * Math.PI ** 2 * 20 * 16, 'torus', 20],
  ];
  for (const [name, make, volume, surface, radius] of cases) {
    const builder = make();
    const part = describePart(oc, builder.Shape(), { chord: 0.01, angle: 1 });
    builder.delete();
    const found = part.mass?.volume ?? 0;
    if (Math.abs(found - volume) > volume * SELF_TEST_WITHIN)
      throw new Error(`Kernel self-test: the ${name} has volume ${found} instead of ${volume}.`);
    const face = part.faces[0];
    if (
      face.surface !== surface ||
      (radius !== undefined && Math.abs((face.radius ?? 0) - radius) > SELF_TEST_WITHIN * radius)
    )
      throw new Error(`Kernel self-test: the ${name} reads as ${face.surface} of radius ${face.radius}.`);
    if (part.mesh.indices.length < 12 * 3)
      throw new Error(`Kernel self-test: the ${name} has ${part.mesh.indices.length / 3} triangles.`);
  }
}

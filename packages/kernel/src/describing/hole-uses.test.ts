import { likelyFor } from '@bathyscope/core/holes';
import type { Occt } from '../occt/load.ts';
import { madeSolids } from '../testing/made-solids.ts';
import { testKernel } from '../testing/test-kernel.ts';
import { describePart } from './describe-part.ts';

test('what a hole is likely for: no clearance for a shallow recess, nor for the hole of a washer', async () => {
  const { oc } = await testKernel();
  const made = madeSolids(oc);
  const plate = () => made.box([-30, -30, 0], [30, 30, 40]);
  const uses = (shape: Occt) => describePart(oc, shape).holes.flatMap((h) => likelyFor(h).map((l) => l.use));
  expect(uses(made.minus(plate(), made.cylinder([0, 0, -1], 4.5, 42)))).toEqual(['clearance hole for M8']);
  expect(uses(made.minus(plate(), made.cylinder([0, 0, 37], 4.5, 10)))).toEqual(['fit bore of 9']);
  expect(uses(made.minus(made.cylinder([0, 0, 0], 8, 1.6), made.cylinder([0, 0, -1], 4.2, 4)))).toEqual([]);
});

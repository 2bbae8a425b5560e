import { IDENTITY, multiply, type Vec3 } from '@bathyscope/core/math';
import { buildPartBvh } from '@bathyscope/core/picking';
import { cutComponents, cutsAgree, type CutPlane } from '@bathyscope/core/section';
import { describePart } from '../packages/kernel/src/describing/describe-part.ts';
import { compileKernel, loadKernel, type LoadedKernel, type Occt } from '../packages/kernel/src/occt/load.ts';
import { cuttingFrame } from '../packages/kernel/src/sections/cutting-frame.ts';
import { sectionShape } from '../packages/kernel/src/sections/section-shape.ts';
import { madeSolids } from '../packages/kernel/src/testing/made-solids.ts';
import { medianTime, report } from './report.ts';

/* Budget: what an exact cut costs beyond the kernel's own section of the same shapes by the same plane. */

const PLANE: CutPlane = { normal: [0, 0, 1], constant: 5.3 };

export async function benchExactSections(): Promise<void> {
  const kernel = await loadKernel(await compileKernel());
  const made = madeSolids(kernel.oc);
  const plate = (side: number) =>
    made.minus(
      made.box([0, 0, 0], [12 * side, 12 * side, 10]),
      made.together(
        ...Array.from({ length: side * side }, (_, i) =>
          made.cylinder([12 * (i % side) + 6, 12 * Math.floor(i / side) + 6, -1], 4, 12),
        ),
      ),
    );

  compare(kernel, 'a plate of 400 bores', [plate(20)]);
  compare(kernel, 'a plate of 25 bores as B-splines', [made.asSplines(plate(5))]);
  const bolt = () => made.plus(made.cylinder([0, 0, 0], 4, 30), made.cylinder([0, 0, 26], 7, 6));
  const shapes = Array.from({ length: 60 }, (_, i) =>
    made.moved(i % 2 ? bolt() : plate(3), [50 * (i % 8), 50 * Math.floor(i / 8), 0]),
  );
  compare(kernel, '60 components', shapes);
}

function compare(kernel: LoadedKernel, what: string, shapes: readonly Occt[]): void {
  const { oc } = kernel;
  const frame = cuttingFrame(PLANE, IDENTITY);
  const bare = medianTime(5, () => {
    const at = new oc.gp_Pnt_3(0, 0, PLANE.constant);
    const plane = new oc.gp_Pln_3(at, new oc.gp_Dir_4(...(PLANE.normal as [number, number, number])));
    for (const shape of shapes) {
      const section = new oc.BRepAlgoAPI_Section_5(shape, plane, false);
      section.Build(new oc.Message_ProgressRange_1());
      section.delete();
    }
  });
  const exact = medianTime(5, () => shapes.forEach((shape) => void sectionShape(kernel, shape, frame)));
  const inputs = shapes.map((shape) => {
    const geometry = describePart(oc, shape);
    return {
      geometry,
      bvh: buildPartBvh(geometry),
      placement: IDENTITY,
      stored: multiply(IDENTITY, [...IDENTITY.slice(0, 12), ...(geometry.origin as Vec3), 1]),
    };
  });
  const mesh = cutComponents(inputs, PLANE);
  const agree = mesh.filter((cut) =>
    cutsAgree(
      sectionShape(kernel, shapes[cut.component], frame),
      cut,
      inputs[cut.component].geometry.chordTolerance,
    ),
  );
  report(
    `${what}: exact cut, outlines and figures`,
    exact / bare,
    '× the bare kernel’s section',
    `${agree.length} of ${mesh.length} agree with their mesh`,
  );
  const check = medianTime(5, () => void cutComponents(inputs, PLANE));
  report(`${what}: the mesh’s cut that checks it`, check / exact, '× the exact cut', '');
}

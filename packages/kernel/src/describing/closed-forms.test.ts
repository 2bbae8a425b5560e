import { describePick } from '@bathyscope/core/facts';
import type { PartGeometry } from '@bathyscope/core/geometry';
import { IDENTITY } from '@bathyscope/core/math';
import { describePart } from './describe-part.ts';
import { testKernel } from '../testing/test-kernel.ts';
import type { LoadedKernel } from '../occt/load.ts';

/*
 * Solids whose figures have closed forms. Source of volumes, areas and moments of inertia:
 * any handbook of mechanics, such as Dubbel, Taschenbuch für den Maschinenbau, section B (solid box,
 * cylinder, sphere, frustum, torus).
 */
let kernel: LoadedKernel;
beforeAll(async () => {
  kernel = await testKernel();
});

const make = (name: string, ...sizes: number[]): PartGeometry => {
  const { oc } = kernel;
  return describePart(oc, new oc[name](...sizes).Shape());
};

const close = (found: number, wanted: number, relative = 1e-9) =>
  expect(Math.abs(found - wanted)).toBeLessThanOrEqual(Math.abs(wanted) * relative + 1e-9);

function expectMass(
  part: PartGeometry,
  wanted: { volume: number; area: number; inertia: [number, number, number] },
) {
  close(part.mass!.volume, wanted.volume);
  close(part.area, wanted.area);
  wanted.inertia.forEach((i, k) => close(part.mass!.inertia[k][k], i));
  expect(part.mass!.volumeErrorEstimate).toBeLessThanOrEqual(1e-10);
}

test('box 10 × 20 × 30', () => {
  const part = make('BRepPrimAPI_MakeBox_2', 10, 20, 30);
  const v = 6000;
  expectMass(part, {
    volume: v,
    area: 2200,
    inertia: [(v / 12) * (400 + 900), (v / 12) * (100 + 900), (v / 12) * (100 + 400)],
  });
  expect(part.mass!.centreOfGravity.map((x) => Math.round(x * 1e9) / 1e9)).toEqual([5, 10, 15]);
  expect(part.faces.every((f) => f.surface === 'plane')).toBe(true);
  expect(part.box).toEqual({ min: [0, 0, 0], max: [10, 20, 30] });
  expect(part.edges).toHaveLength(12);
});

test('cylinder Ø10 × 40', () => {
  const [r, h] = [5, 40];
  const part = make('BRepPrimAPI_MakeCylinder_1', r, h);
  const v = Math.PI * r * r * h;
  const across = (v * (3 * r * r + h * h)) / 12;
  expectMass(part, {
    volume: v,
    area: 2 * Math.PI * r * (r + h),
    inertia: [across, across, (v * r * r) / 2],
  });
  const wall = part.faces.find((f) => f.surface === 'cylinder')!;
  expect(wall.radius).toBeCloseTo(5, 12);
  expect(wall.concave).toBe(false);
  expect(part.holes).toHaveLength(0);
});

test('frustum of a cone, radii 5 and 2, height 10', () => {
  const [a, b, h] = [5, 2, 10];
  const part = make('BRepPrimAPI_MakeCone_1', a, b, h);
  const v = (Math.PI * h * (a * a + a * b + b * b)) / 3;
  const slant = Math.hypot(h, a - b);
  close(part.mass!.volume, v);
  close(part.area, Math.PI * (a * a + b * b + (a + b) * slant));
  close(part.mass!.inertia[2][2], (Math.PI * h * (a ** 5 - b ** 5)) / (10 * (a - b)));
  close(part.mass!.centreOfGravity[2], (h * (a * a + 2 * a * b + 3 * b * b)) / (4 * (a * a + a * b + b * b)));
  close(part.faces.find((f) => f.surface === 'cone')!.semiAngle!, Math.atan((a - b) / h));
});

test('sphere of radius 7', () => {
  const part = make('BRepPrimAPI_MakeSphere_1', 7);
  const v = (4 / 3) * Math.PI * 343;
  const i = 0.4 * v * 49;
  expectMass(part, { volume: v, area: 4 * Math.PI * 49, inertia: [i, i, i] });
  expect(part.box.max.every((x) => Math.abs(x - 7) < 1e-9)).toBe(true);
});

test('torus, radii 20 and 4', () => {
  const [R, r] = [20, 4];
  const part = make('BRepPrimAPI_MakeTorus_1', R, r);
  const v = 2 * Math.PI ** 2 * R * r * r;
  const across = v * ((R * R) / 2 + (5 / 8) * r * r);
  expectMass(part, {
    volume: v,
    area: 4 * Math.PI ** 2 * R * r,
    inertia: [across, across, v * (R * R + 0.75 * r * r)],
  });
  expect(part.box.max.map((x) => Math.round(x * 1e6) / 1e6)).toEqual([24, 24, 4]);
});

test('arcs are drawn with at most 6° a segment, whatever the size', () => {
  for (const [r, h] of [
    [5, 40],
    [0.5, 400],
    [500, 2],
  ]) {
    const part = make('BRepPrimAPI_MakeCylinder_1', r, h);
    part.edges.forEach((edge, e) => {
      if (edge.curve !== 'circle') return;
      const segments = part.lines.start[e + 1] - part.lines.start[e] - 1;
      expect(((edge.arcAngle! / segments) * 180) / Math.PI).toBeLessThanOrEqual(6 + 1e-9);
    });
  }
});

test('a blind drilled hole is one hole with its diameter, depth and open end', () => {
  const { oc } = kernel;
  const block = new oc.BRepPrimAPI_MakeBox_2(30, 30, 20).Shape();
  const drill = new oc.BRepPrimAPI_MakeCylinder_3(
    new oc.gp_Ax2_3(new oc.gp_Pnt_3(15, 15, 20), new oc.gp_Dir_4(0, 0, -1)),
    4,
    12,
  ).Shape();
  const cut = new oc.BRepAlgoAPI_Cut_3(block, drill, new oc.Message_ProgressRange_1());
  const part = describePart(oc, cut.Shape());
  expect(part.holes).toHaveLength(1);
  expect(part.holes[0]).toMatchObject({ ends: 'blind', accuracy: { kind: 'exact' } });
  expect(part.holes[0].diameter).toBeCloseTo(8, 9);
  expect(part.holes[0].depth).toBeCloseTo(12, 6);
  expect(part.holes[0].axis[2]).toBeCloseTo(-1, 9);
  expect(part.holes[0].start[2]).toBeCloseTo(20, 6);
});

test('an open shell has no volume', () => {
  const { oc } = kernel;
  const box = new oc.BRepPrimAPI_MakeBox_2(10, 10, 10).Shape();
  const compound = new oc.TopoDS_Compound();
  const builder = new oc.BRep_Builder();
  builder.MakeCompound(compound);
  const explorer = new oc.TopExp_Explorer_2(
    box,
    oc.TopAbs_ShapeEnum.TopAbs_FACE,
    oc.TopAbs_ShapeEnum.TopAbs_SHAPE,
  );
  for (let i = 0; i < 5; i++, explorer.Next()) builder.Add(compound, explorer.Current());
  const part = describePart(oc, compound);
  expect(part.mass).toBeNull();
  expect(part.bodies.every((b) => !b.closed)).toBe(true);
  expect(part.area).toBeCloseTo(500, 6);
});

test('a cone tells the radii where it ends, not those of its reference circle', () => {
  const radii = (part: PartGeometry) => {
    const face = part.faces.findIndex((f) => f.surface === 'cone');
    const { rows } = describePick('face', face, { geometry: part, placement: IDENTITY });
    return ['Largest radius', 'Smallest radius'].map(
      (label) => (rows.find((r) => r.label === label)!.value as { value: number }).value,
    );
  };
  expect(radii(make('BRepPrimAPI_MakeCone_1', 5, 2, 10))).toEqual([
    expect.closeTo(5, 9),
    expect.closeTo(2, 9),
  ]);
  expect(radii(make('BRepPrimAPI_MakeCone_1', 5, 0, 10))).toEqual([
    expect.closeTo(5, 9),
    expect.closeTo(0, 9),
  ]);
  // Cut off at z = 4, where its radius is 5 − 0.3 · 4: it is still stored by the circle at its foot.
  const { oc } = kernel;
  const cone = new oc.BRepPrimAPI_MakeCone_1(5, 2, 10).Shape();
  const foot = new oc.BRepPrimAPI_MakeBox_4(new oc.gp_Pnt_3(-9, -9, -1), new oc.gp_Pnt_3(9, 9, 4)).Shape();
  const rest = new oc.BRepAlgoAPI_Cut_3(cone, foot, new oc.Message_ProgressRange_1()).Shape();
  expect(radii(describePart(oc, rest))).toEqual([expect.closeTo(3.8, 9), expect.closeTo(2, 9)]);
});

test('a sheet beside a solid is said not to be in the volume', () => {
  const { oc } = kernel;
  const [builder, compound] = [new oc.BRep_Builder(), new oc.TopoDS_Compound()];
  builder.MakeCompound(compound);
  builder.Add(compound, new oc.BRepPrimAPI_MakeBox_2(10, 10, 10).Shape());
  const plane = new oc.gp_Pln_3(new oc.gp_Pnt_3(0, 0, 20), new oc.gp_Dir_4(0, 0, 1));
  builder.Add(compound, new oc.BRepBuilderAPI_MakeFace_9(plane, 0, 5, 0, 5).Face());
  const part = describePart(oc, compound);
  close(part.mass!.volume, 1000);
  expect(part.warnings).toEqual([
    'Beside what is solid there is one open sheet, which is not in the volume.',
  ]);
  const { rows } = describePick('component', 0, { geometry: part, placement: IDENTITY });
  expect(rows.find((r) => r.label === 'Volume')).toMatchObject({ note: 'without one open sheet' });
});

import type { MassFigures } from '@bathyscope/core/geometry';
import { combineMass, placeMass } from '@bathyscope/core/mass';
import { componentsOf, listOccurrences, type ModelStructure } from '@bathyscope/core/model';
import { convertStep } from './convert-step.ts';
import type { LoadedKernel } from '../occt/load.ts';
import { madeSolids, type MadeSolids } from '../testing/made-solids.ts';
import { testKernel } from '../testing/test-kernel.ts';

/*
 * Mapped items placed by operators (ISO 10303-42, cartesian_transformation_operator_3d): mirrors, scales, odd
 * numbers of names.
 */
let kernel: LoadedKernel;
let made: MadeSolids;
beforeAll(async () => {
  kernel = await testKernel();
  made = madeSolids(kernel.oc);
});

/**
 * A file whose product is the solid mapped by each operator; `#A` to `#D` are directions X, Y, Z and −X, `#O`
 * is (100, 0, 0), `#P` the origin.
 */
function mappedFile(text: string, operators: readonly string[], names: readonly string[] = []): string {
  const [, brep, axis, , context] =
    /(#\d+) = ADVANCED_BREP_SHAPE_REPRESENTATION\('',\((#\d+),(#\d+)\),(#\d+)\)/.exec(text)!;
  const [whole, link, product] = /(#\d+) = SHAPE_DEFINITION_REPRESENTATION\((#\d+),(#\d+)\)/.exec(text)!;
  const ids: Record<string, string> = {
    A: '#9010',
    B: '#9011',
    C: '#9012',
    D: '#9013',
    O: '#9014',
    P: '#9015',
  };
  const items = operators.map((_, i) => `#${9200 + i}`);
  return text.replace(
    whole,
    `#9000=REPRESENTATION_MAP(${axis},${brep});
#9010=DIRECTION('',(1.,0.,0.));#9011=DIRECTION('',(0.,1.,0.));#9012=DIRECTION('',(0.,0.,1.));#9013=DIRECTION('',(-1.,0.,0.));
#9014=CARTESIAN_POINT('',(100.,0.,0.));#9015=CARTESIAN_POINT('',(0.,0.,0.));
${operators.map((o, i) => `#${9100 + i}=${o.replace(/#([A-DOP])\b/g, (_, k: string) => ids[k])};`).join('\n')}
${items.map((id, i) => `${id}=MAPPED_ITEM('${names[i] ?? ''}',#9000,#${9100 + i});`).join('\n')}
#9300=SHAPE_REPRESENTATION('',(${axis},${items.join(',')}),${context});
${link} = SHAPE_DEFINITION_REPRESENTATION(${product},#9300)`,
  );
}

interface Placed {
  structure: ModelStructure;
  warnings: string[];
  each: MassFigures[];
  areas: number[];
}

function read(text: string): Placed {
  const parts = new Map<string, { mass: MassFigures; area: number }>();
  const { structure, warnings } = convertStep(kernel, new TextEncoder().encode(text), 'Mapped', {
    onGeometry: ({ hash, geometry }) => void parts.set(hash, { mass: geometry.mass!, area: geometry.area }),
  });
  const placed = componentsOf(listOccurrences(structure)).map(({ part, placement }) => ({
    ...parts.get(structure.parts[part].geometry!)!,
    placement,
  }));
  return {
    structure,
    warnings,
    each: placed.map(({ mass, placement }) => placeMass(mass, placement)),
    areas: placed.map(({ area }) => area),
  };
}

const OPERATOR = 'CARTESIAN_TRANSFORMATION_OPERATOR_3D';
/** 3 × 5 × 7 at (1, 2, 3). */
const boxText = () => made.stepText(made.box([1, 2, 3], [4, 7, 10]));

test('a mirror is a mirror: the centre of gravity changes sides, products of inertia their sign', () => {
  const wedge = made.minus(
    made.box([0, 0, 0], [10, 20, 30]),
    made.turned(made.box([0, 0, -1], [50, 50, 50]), [0, 0, 1], 0.6),
  );
  const { each, warnings } = read(
    mappedFile(made.stepText(wedge), [
      `${OPERATOR}('','','',#A,#B,#P,1.,#C)`,
      `${OPERATOR}('','','',#D,#B,#O,1.,#C)`,
    ]),
  );
  const [plain, mirrored] = each;
  expect(mirrored.volume).toBeCloseTo(plain.volume, 9);
  expect(mirrored.centreOfGravity[0]).toBeCloseTo(100 - plain.centreOfGravity[0], 9);
  expect(mirrored.centreOfGravity[1]).toBeCloseTo(plain.centreOfGravity[1], 9);
  expect(Math.abs(plain.inertia[0][1])).toBeGreaterThan(100);
  expect(mirrored.inertia[0][1]).toBeCloseTo(-plain.inertia[0][1], 6);
  expect(mirrored.inertia[0][0]).toBeCloseTo(plain.inertia[0][0], 6);
  expect(warnings).toEqual(['1 component is placed as a mirror image.']);
});

test('a scale counts squared in areas, cubed in volumes, to the fifth in inertia; mirrored and scaled at once too', () => {
  const { each, areas, warnings, structure } = read(
    mappedFile(boxText(), [
      `${OPERATOR}('','','',$,$,#P,$,$)`,
      `${OPERATOR}('','','',#A,#B,#O,2.5,#C)`,
      `${OPERATOR}('','','',#D,#B,#P,2.5,#C)`,
    ]),
  );
  expect(structure.parts).toHaveLength(2);
  expect(areas).toEqual([142, 142 * 2.5 ** 2, 142 * 2.5 ** 2].map((a) => expect.closeTo(a, 9)));
  expect(each.map((m) => m.volume)).toEqual(
    [105, 105 * 2.5 ** 3, 105 * 2.5 ** 3].map((v) => expect.closeTo(v, 9)),
  );
  expect(each[1].inertia[0][0]).toBeCloseTo((105 / 12) * (25 + 49) * 2.5 ** 5, 6);
  expect(each.map((m) => m.centreOfGravity[0])).toEqual(
    [2.5, 106.25, -6.25].map((x) => expect.closeTo(x, 9)),
  );
  expect(warnings.join()).toContain('1 component is placed as a mirror image');
  expect(warnings.join()).toContain('times 2.5');
});

test('operators with fewer names, and those written as complex entities, are read as well; no axes mean the model’s', () => {
  const { each, warnings } = read(
    mappedFile(boxText(), [
      `${OPERATOR}('',$,$,#O,$,$)`,
      `${OPERATOR}('','',#B,#D,#O,1.,#C)`,
      `(CARTESIAN_TRANSFORMATION_OPERATOR(#A,#B,#O,3.)${OPERATOR}(#C)FUNCTIONALLY_DEFINED_TRANSFORMATION('','')GEOMETRIC_REPRESENTATION_ITEM()REPRESENTATION_ITEM(''))`,
    ]),
  );
  // A quarter turn about Z takes (2.5, 4.5) to (−4.5, 2.5).
  expect(each.map((m) => m.centreOfGravity)).toEqual(
    [
      [102.5, 4.5, 6.5],
      [95.5, 2.5, 6.5],
      [107.5, 13.5, 19.5],
    ].map((c) => c.map((x) => expect.closeTo(x, 9))),
  );
  expect(warnings.join()).not.toContain('could not be understood');
});

test('axis 1 turned round alone is a mirror: axis 2 is the model’s Y where none is given (base_axis)', () => {
  const { each, warnings } = read(
    mappedFile(boxText(), [`${OPERATOR}('','','',#D,$,#O,1.,$)`, `${OPERATOR}('','','',#B,$,#P,1.,$)`]),
  );
  expect(warnings.join()).toContain('1 component is placed as a mirror image');
  expect(each.map((m) => m.centreOfGravity)).toEqual(
    [
      [97.5, 4.5, 6.5],
      [-4.5, 2.5, 6.5],
    ].map((c) => c.map((x) => expect.closeTo(x, 9))),
  );
});

test('scales within scales multiply, and a nested mirror of a mirror is none', () => {
  const text = mappedFile(boxText(), [`${OPERATOR}('','','',#D,#B,#O,2.,#C)`]);
  const [, axis] = /REPRESENTATION_MAP\((#\d+),/.exec(text)!;
  const [whole, link, product] = /(#\d+) = SHAPE_DEFINITION_REPRESENTATION\((#\d+),#9300\)/.exec(text)!;
  const context = /#9300=SHAPE_REPRESENTATION\('',\([^)]*\),(#\d+)\)/.exec(text)![1];
  const nested = text.replace(
    whole,
    `#9400=REPRESENTATION_MAP(${axis},#9300);#9401=MAPPED_ITEM('',#9400,#9100);#9402=MAPPED_ITEM('',#9400,${axis});
#9403=SHAPE_REPRESENTATION('',(${axis},#9401,#9402),${context});
${link} = SHAPE_DEFINITION_REPRESENTATION(${product},#9403)`,
  );
  const { each } = read(nested);
  expect(each.map((m) => m.volume)).toEqual([105 * 64, 105 * 8].map((v) => expect.closeTo(v, 6)));
  // x ↦ 100 − 2x twice: 4x − 100; once: 100 − 2x.
  expect(each.map((m) => m.centreOfGravity[0])).toEqual([4 * 2.5 - 100, 95].map((x) => expect.closeTo(x, 9)));
  expect(combineMass(each)!.volume).toBeCloseTo(105 * 72, 6);
});

test('an operator that makes no sense is said, and the rest is read', () => {
  const { each, warnings } = read(
    mappedFile(boxText(), [
      `${OPERATOR}('','','',#A,#A,#P,1.,#A)`,
      `${OPERATOR}('','','',$,$,#O,-2.,$)`,
      `${OPERATOR}('','','',$,$,#O,2.,$)`,
    ]),
  );
  expect(each).toHaveLength(3);
  expect(warnings.join()).toContain('2 placements of mapped items could not be understood');
});

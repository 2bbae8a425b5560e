import { ring } from './fasteners.ts';
import { MATERIALS } from './materials.ts';
import type { Modeller, Point, Shape } from './modeller.ts';
import type { DemoPart } from './step-writer.ts';

/* The housing of the winch gearbox, its cap and brackets, and where they are bored and bolted. */

export const INTERMEDIATE = 45;
export const OUTPUT = 105;
/** Half the gasket. */
const FACE = 0.25;
const [OUTSIDE, CAVITY] = [48, 30];

export const GREY: Point = [128, 140, 148];
/** Flange bolts: along both sides, then at the ends. */
export const BOLTS: readonly (readonly [y: number, z: number])[] = [
  [-24, 70],
  [38, 70],
  [98, 70],
  [156, 70],
  [-24, -70],
  [38, -70],
  [98, -70],
  [156, -70],
  [-44, 0],
  [176, 0],
];
export const DOWELS: readonly (readonly [y: number, z: number])[] = [
  [-42, 40],
  [174, -40],
];
export const CAP_SCREWS = Array.from({ length: 6 }, (_, i) => (i * Math.PI) / 3 + Math.PI / 6);
export const CAP_CIRCLE = 33;
export const BRACKET_SCREWS: readonly (readonly [x: number, y: number])[] = [
  [29, 40],
  [29, 90],
];

export interface Bearing {
  bore: number;
  outside: number;
  width: number;
}
export const BEARINGS = {
  input: { bore: 15, outside: 32, width: 9 },
  intermediate: { bore: 17, outside: 40, width: 12 },
  output: { bore: 25, outside: 52, width: 15 },
} satisfies Record<string, Bearing>;
export const SEATS: readonly (readonly [y: number, bearing: Bearing])[] = [
  [0, BEARINGS.input],
  [INTERMEDIATE, BEARINGS.intermediate],
  [OUTPUT, BEARINGS.output],
];

/** One half without what is special to it; `side` is where it lies along X. */
function half(m: Modeller, side: 1 | -1): Shape {
  const box = (from: number, to: number, y: readonly [number, number], z: number, round: number): Shape => {
    const [low, high] = side > 0 ? [from, to] : [-to, -from];
    const solid = m.box([low, y[0], -z], [high, y[1], z]);
    const corner = (p: Point, length: number) =>
      Math.abs(length - (to - from)) < 1e-6 &&
      Math.abs(Math.abs(p[2]) - z) < 1e-6 &&
      y.some((edge) => Math.abs(p[1] - edge) < 1e-6);
    return m.dress(solid, 'fillet', round, corner);
  };
  const outside = m.fuse(box(FACE, OUTSIDE, [-36, 168], 62, 18), box(FACE, 10.25, [-54, 186], 80, 24));
  const hollow = m.cut(outside, box(FACE - 1, CAVITY, [-26, 158], 52, 12));
  const bore = (y: number, from: number, to: number, radius: number) =>
    m.cylinder([side > 0 ? from : -to, y, 0], 'x', radius, to - from);
  const seats = SEATS.map(([y, b]) => bore(y, CAVITY - 1, CAVITY + b.width, b.outside / 2 + 0.01));
  const reliefs = SEATS.map(([y, b]) =>
    bore(y, CAVITY - 1, Math.min(OUTSIDE - 2, CAVITY + b.width + 4), b.bore / 2 + 3.5),
  );
  const flange = BOLTS.map(([y, z]) => m.cylinder([side > 0 ? -1 : -12, y, z], 'x', 3.3, 13));
  const dowels = DOWELS.map(([y, z]) =>
    m.cylinder([side > 0 ? -1 : -12, y, z], 'x', side > 0 ? 3.005 : 3.01, 13),
  );
  return m.cut(hollow, ...seats, ...reliefs, ...flange, ...dowels);
}

export function motorHalf(m: Modeller): DemoPart {
  const shape = m.cut(
    half(m, -1),
    m.cylinder([-49, 0, 0], 'x', 8, 20),
    m.cylinder([-49, 0, 0], 'x', 12.01, 6),
    m.cylinder([-49, 146, -34], 'x', 10, 30),
    ...[-24, 24].flatMap((y) => [-24, 24].map((z) => m.cylinder([-49, y, z], 'x', 2.5, 11))),
  );
  return { name: 'Housing, motor side', shape, colour: GREY, material: MATERIALS.aluminium };
}

export function drumHalf(m: Modeller): DemoPart {
  const boss = m.cylinder([OUTSIDE - 1, OUTPUT, 0], 'x', 40, 5);
  const shape = m.cut(
    m.fuse(half(m, 1), boss),
    m.cylinder([CAVITY - 1, OUTPUT, 0], 'x', BEARINGS.output.outside / 2 + 0.01, BEARINGS.output.width + 1),
    m.cylinder([CAVITY, OUTPUT, 0], 'x', 16, 30),
    ...CAP_SCREWS.map((a) =>
      m.cylinder([OUTSIDE - 8, OUTPUT + CAP_CIRCLE * Math.cos(a), CAP_CIRCLE * Math.sin(a)], 'x', 2.52, 13),
    ),
    m.cylinder([29, 150, 0], 'y', 5.1, 20),
    m.cylinder([29, -40, 0], 'y', 5.05, 20),
    ...BRACKET_SCREWS.flatMap(([x, y]) => [
      m.cylinder([x, y, 54], 'z', 2.52, 9),
      m.cylinder([x, y, -63], 'z', 2.52, 9),
    ]),
  );
  return { name: 'Housing, drum side', shape, colour: GREY, material: MATERIALS.aluminium };
}

export function gasket(m: Modeller): DemoPart {
  const outer = m.dress(
    m.box([-FACE, -54, -80], [FACE, 186, 80]),
    'fillet',
    24,
    alongXCorner(80, [-54, 186]),
  );
  const inner = m.dress(m.box([-1, -26, -52], [1, 158, 52]), 'fillet', 12, alongXCorner(52, [-26, 158]));
  const holes = [...BOLTS.map((at) => [at, 3.3] as const), ...DOWELS.map((at) => [at, 3.2] as const)];
  return {
    name: 'Flange gasket',
    shape: m.cut(outer, inner, ...holes.map(([[y, z], r]) => m.cylinder([-2, y, z], 'x', r, 4))),
    colour: [96, 112, 74],
  };
}

const alongXCorner = (z: number, y: readonly number[]) => (p: Point) =>
  Math.abs(Math.abs(p[2]) - z) < 1e-6 &&
  y.some((edge) => Math.abs(p[1] - edge) < 1e-6) &&
  Math.abs(p[0]) < 1e-6;

export function bearingCap(m: Modeller): DemoPart {
  const turned = m.turned('x', [
    [0, 14],
    [0, 39, 1],
    [10, 39, 2],
    [10, 20.01],
    [3, 20.01],
    [3, 14],
  ]);
  const holes = CAP_SCREWS.map((a) =>
    m.cylinder([-1, CAP_CIRCLE * Math.cos(a), CAP_CIRCLE * Math.sin(a)], 'x', 2.75, 12),
  );
  const heads = CAP_SCREWS.map((a) =>
    m.cylinder([4.6, CAP_CIRCLE * Math.cos(a), CAP_CIRCLE * Math.sin(a)], 'x', 4.9, 6),
  );
  return {
    name: 'Bearing cap',
    shape: m.cut(turned, ...holes, ...heads),
    colour: GREY,
    material: MATERIALS.aluminium,
  };
}

/** On the side z > 0; the other hand is its mirror image. */
export function bracket(m: Modeller): Shape {
  const upright = m.box([18, 20, 62], [44, 110, 70]);
  const foot = m.box([18, 20, 62], [44, 28, 112]);
  const rib = m.prism(
    [
      [18, 26, 68],
      [18, 90, 68],
      [18, 26, 106],
    ],
    [6, 0, 0],
  );
  const screws = BRACKET_SCREWS.map(([x, y]) => m.cylinder([x, y, 60], 'z', 2.75, 12));
  const feet = [84, 102].map((z) => m.cylinder([33, 18, z], 'y', 4.5, 12));
  return m.cut(m.fuse(upright, foot, rib), ...screws, ...feet);
}

/** A bush that is pressed into the housing, and the glass in it. */
export function sight(m: Modeller): [bush: DemoPart, glass: DemoPart] {
  return [
    { name: 'Sight bush', shape: ring(m, 7, 10.015, 14), colour: [188, 158, 84], material: MATERIALS.brass },
    {
      name: 'Sight glass 14x8',
      shape: m.cylinder([3, 0, 0], 'x', 7, 8),
      colour: [204, 226, 230],
      material: MATERIALS.glass,
    },
  ];
}

export function breather(m: Modeller): DemoPart {
  const head = m.fuse(m.hexagon([0, 0, 0], 'y', 17, 6), m.cylinder([0, 6, 0], 'y', 6, 8));
  const shape = m.cut(
    m.fuse(head, m.cylinder([0, -10, 0], 'y', 6, 10.5)),
    // Between its bores a membrane of 2 mm keeps the water out.
    m.cylinder([0, -11, 0], 'y', 2, 6),
    m.cylinder([0, -3, 0], 'y', 2, 12),
    m.cylinder([-9, 10, 0], 'x', 1.5, 18),
  );
  return { name: 'Breather M12', shape, colour: [188, 158, 84], material: MATERIALS.brass };
}

export function drainPlug(m: Modeller): DemoPart {
  const shape = m.fuse(m.hexagon([0, -6, 0], 'y', 14, 6), m.cylinder([0, -0.5, 0], 'y', 5, 9.5));
  return { name: 'Drain plug 10', shape, colour: [188, 158, 84], material: MATERIALS.brass };
}

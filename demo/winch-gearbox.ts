import { hexBolt, hexNut, ring, socketScrew, washer } from './fasteners.ts';
import { spurGear } from './gears.ts';
import { MATERIALS } from './materials.ts';
import {
  bearingCap,
  BOLTS,
  bracket,
  BRACKET_SCREWS,
  breather,
  CAP_CIRCLE,
  CAP_SCREWS,
  DOWELS,
  drainPlug,
  drumHalf,
  gasket,
  INTERMEDIATE,
  motorHalf,
  OUTPUT,
  SEATS,
  sight,
  type Bearing,
} from './winch-housing.ts';
import type { Modeller, Point, ProfilePoint, Shape } from './modeller.ts';
import type { DemoAssembly, DemoPart } from './step-writer.ts';

/*
 * Winch gearbox WG-16: two spur stages in a housing of two halves that meet at x = 0. The shafts run along X
 * and lie above each other in Y. Stage 1: module 1.5, 16 and 44 teeth, 45 mm apart; stage 2: module 2, 15 and
 * 45 teeth, 60 mm apart.
 * Fits: shafts 0.01 mm smaller than the bores of the bearings, housing seats 0.02 mm
 * larger than their outsides.
 * Two overlaps are meant so: the sight bush is pressed in (Ø20.03 in Ø20), the breather's M12 thread stands
 * in its tapping hole of Ø10.2.
 */
const STEEL: Point = [176, 182, 188];
const GEAR: Point = [150, 134, 104];

const STAGE_1 = {
  pinion: { module: 1.5, teeth: 16, play: 0.06, phase: 0 },
  wheel: { module: 1.5, teeth: 44, play: 0.06 },
};
const STAGE_2 = {
  pinion: { module: 2, teeth: 15, play: 0.08, phase: 0 },
  wheel: { module: 2, teeth: 45, play: 0.08 },
};
/**
 * A wheel of even or odd teeth, turned so that a space faces the pinion, which lies below it
 * (−Y) with a tooth upwards.
 */
const facingDown = (teeth: number): number => Math.PI + Math.PI / teeth;

/** Rings with a groove, and nine balls between them: three and more bodies in one part. */
function bearing(m: Modeller, { bore, outside, width }: Bearing): DemoPart {
  const pitch = (bore + outside) / 4;
  const ball = 0.15 * (outside - bore);
  const [land, bottom, beside] = [0.6 * ball, 1.02 * ball, 0.85 * ball];
  const race = (rim: number, side: 1 | -1): Shape => {
    const r = (away: number) => pitch + side * away;
    const profile: ProfilePoint[] = [
      [0, rim],
      [width, rim],
      [width, r(land)],
      [width / 2 + beside, r(land)],
      [width / 2 + beside, r(bottom)],
      [width / 2 - beside, r(bottom)],
      [width / 2 - beside, r(land)],
      [0, r(land)],
    ];
    return m.turned('x', side > 0 ? [...profile].reverse() : profile);
  };
  const [outer, inner] = [race(outside / 2, 1), race(bore / 2, -1)];
  const balls = Array.from({ length: 9 }, (_, i) => {
    const a = (2 * Math.PI * i) / 9;
    return m.sphere([width / 2, pitch * Math.cos(a), pitch * Math.sin(a)], ball);
  });
  return {
    name: `Ball bearing ${bore}x${outside}x${width}`,
    shape: m.together(outer, inner, ...balls),
    colour: STEEL,
    material: MATERIALS.bearing,
  };
}

const keyway = (m: Modeller, from: number, to: number, width: number, bottom: number): Shape =>
  m.box([from, bottom, -width / 2], [to, bottom + 20, width / 2]);

function inputShaft(m: Modeller): DemoPart {
  const profile: ProfilePoint[] = [
    [-80, 0],
    [-80, 6.5],
    [-79.5, 7],
    [-39.2, 7],
    [-39.2, 7.495],
    [-30, 7.495],
    [-30, 9],
    [30, 9],
    [30, 7.495],
    [39.1, 7.495],
    [39.1, 7.15],
    [40.2, 7.15],
    [40.2, 7.495],
    [41.6, 7.495],
    [42, 7],
    [42, 0],
  ];
  const pinion = m.moved(spurGear(m, STAGE_1.pinion, 12), [-24, 0, 0]);
  return {
    name: 'Input pinion shaft',
    shape: m.cut(m.fuse(m.turned('x', profile), pinion), keyway(m, -76, -56, 5, 4)),
    colour: GEAR,
    material: MATERIALS.gear,
  };
}

function intermediateShaft(m: Modeller): DemoPart {
  const profile: ProfilePoint[] = [
    [-43.6, 0],
    [-43.6, 8.495],
    [-43.4, 8.495],
    [-43.4, 8.1],
    [-42.1, 8.1],
    [-42.1, 8.495],
    [-30, 8.495],
    [-30, 9.995],
    [-12, 9.995],
    [-12, 12],
    [30, 12],
    [30, 8.495],
    [42.1, 8.495],
    [42.1, 8.1],
    [43.4, 8.1],
    [43.4, 8.495],
    [43.6, 8.495],
    [43.6, 0],
  ];
  const pinion = m.moved(spurGear(m, STAGE_2.pinion, 20), [2, 0, 0]);
  return {
    name: 'Intermediate pinion shaft',
    shape: m.cut(m.fuse(m.turned('x', profile), pinion), keyway(m, -23, -13, 6, 6.5)),
    colour: GEAR,
    material: MATERIALS.gear,
  };
}

function outputShaft(m: Modeller): DemoPart {
  const profile: ProfilePoint[] = [
    [-45.2, 0],
    [-45.2, 12],
    [-44.7, 12.495],
    [-30, 12.495],
    [-30, 15],
    [-6, 15],
    [-6, 20, 1],
    [2, 20],
    [2, 15.995],
    [22.1, 15.995],
    [22.1, 15.15],
    [23.7, 15.15],
    [23.7, 15.995],
    [30, 15.995],
    [30, 12.495],
    [104.5, 12.495],
    [105, 12],
    [105, 0],
  ];
  return {
    name: 'Output shaft',
    shape: m.cut(m.turned('x', profile), keyway(m, 4, 20, 10, 11), keyway(m, 72, 100, 8, 8.5)),
    colour: STEEL,
    material: MATERIALS.duplex,
  };
}

/** A wheel with hub, web and six holes, from x = 0. */
function wheel(
  m: Modeller,
  name: string,
  gear: { module: number; teeth: number; play: number },
  width: number,
  bore: number,
  key: number,
): DemoPart {
  const pitch = (gear.module * gear.teeth) / 2;
  const hub = bore + 9;
  const rim = pitch - 4.5 * gear.module;
  const blank = spurGear(m, { ...gear, phase: facingDown(gear.teeth) }, width);
  const pockets = [
    m.cut(m.cylinder([-1, 0, 0], 'x', rim, 1 + width / 4), m.cylinder([-2, 0, 0], 'x', hub, width)),
    m.cut(m.cylinder([(3 * width) / 4, 0, 0], 'x', rim, width), m.cylinder([0, 0, 0], 'x', hub, 2 * width)),
  ];
  const web = (hub + rim) / 2;
  const holes = Array.from({ length: 6 }, (_, i) => {
    const a = (Math.PI * i) / 3;
    return m.cylinder([-1, web * Math.cos(a), web * Math.sin(a)], 'x', (rim - hub) / 3, width + 2);
  });
  return {
    name,
    shape: m.cut(
      blank,
      m.cylinder([-1, 0, 0], 'x', bore, width + 2),
      m.box([-1, 0, -key / 2], [width + 1, bore + key * 0.47, key / 2]),
      ...pockets,
      ...holes,
    ),
    colour: GEAR,
    material: MATERIALS.gear,
  };
}

const key = (m: Modeller, width: number, height: number, length: number): DemoPart => ({
  name: `Parallel key ${width}x${height}x${length}`,
  shape: m.box([0, 0, -width / 2 + 0.01], [length, height, width / 2 - 0.01]),
  colour: [134, 138, 120],
  material: MATERIALS.duplex,
});

/** An open ring with lugs, from x = 0. */
function circlip(m: Modeller, shaft: number, groove: number, thick: number): DemoPart {
  const outer = shaft / 2 + 2.2;
  const body = m.cut(ring(m, groove / 2 + 0.02, outer, thick), m.box([-1, 0, -1.6], [thick + 1, shaft, 1.6]));
  const lug = (z: number) =>
    m.cut(
      m.cylinder([0, outer - 0.6, z], 'x', 1.3, thick),
      m.cylinder([-1, outer - 0.6, z], 'x', 0.6, thick + 2),
      m.cylinder([-1, 0, 0], 'x', groove / 2 + 0.02, thick + 2),
      m.box([-1, 0, -1.6], [thick + 1, shaft, 1.6]),
    );
  return {
    name: `Circlip ${shaft}x${thick}`,
    shape: m.fuse(body, lug(2.6), lug(-2.6)),
    colour: [88, 92, 98],
    material: MATERIALS.spring,
  };
}

function coupling(m: Modeller): DemoPart {
  const turned = m.turned('x', [
    [0, 12.505],
    [0, 21],
    [22, 21, 3],
    [22, 42],
    [23, 43],
    [31, 43],
    [32, 42],
    [32, 12.505],
  ]);
  const holes = Array.from({ length: 8 }, (_, i) => {
    const a = (i * Math.PI) / 4;
    return m.cylinder([20, 34 * Math.cos(a), 34 * Math.sin(a)], 'x', 3.3, 14);
  });
  return {
    name: 'Drum coupling',
    shape: m.cut(turned, m.box([-1, 0, -4], [33, 15.8, 4]), ...holes),
    colour: [104, 122, 142],
    material: MATERIALS.duplex,
  };
}

export function winchGearbox(m: Modeller): DemoAssembly {
  const [b1, b2, b3] = SEATS.map(([, b]) => bearing(m, b));
  const bolt = hexBolt(m, 6, 30, 10, 4);
  const nut = hexNut(m, 6, 10, 5.2);
  const washer6 = washer(m, 6, 6.4, 12, 1.6);
  const screw = socketScrew(m, 5, 12, 8.5, 4);
  const dowel: DemoPart = {
    name: 'Dowel ISO 2338 6x20',
    shape: m.cylinder([-10, 0, 0], 'x', 3, 20),
    colour: STEEL,
    material: MATERIALS.bearing,
  };
  const spacer: DemoPart = {
    name: 'Spacer 20',
    shape: ring(m, 10.02, 13, 5.9),
    colour: STEEL,
    material: MATERIALS.duplex,
  };
  const collar: DemoPart = {
    name: 'Spacer 25',
    shape: ring(m, 12.52, 17, 9.8),
    colour: STEEL,
    material: MATERIALS.duplex,
  };
  const seal = (inner: number, outer: number, width: number): DemoPart => ({
    name: `Shaft seal ${2 * inner}x${2 * outer}x${width}`,
    shape: m.cut(
      ring(m, inner, outer, width),
      m.cut(
        m.cylinder([-1, 0, 0], 'x', outer - 1.5, width - 0.5),
        m.cylinder([-2, 0, 0], 'x', inner + 1.5, width + 2),
      ),
    ),
    colour: [70, 88, 120],
    material: MATERIALS.nitrile,
  });
  const circlips = [circlip(m, 15, 14.3, 1), circlip(m, 17, 16.2, 1), circlip(m, 32, 30.3, 1.5)];
  const right = bracket(m);
  const brackets: DemoPart[] = [
    { name: 'Bracket, right hand', shape: right, colour: [92, 112, 128], material: MATERIALS.a4 },
    { name: 'Bracket, left hand', shape: m.mirrored(right), colour: [92, 112, 128], material: MATERIALS.a4 },
  ];
  const [bush, glass] = sight(m);

  const housing: DemoAssembly = {
    name: 'Housing group',
    children: [
      { item: motorHalf(m), instance: 'Housing, motor side' },
      { item: drumHalf(m), instance: 'Housing, drum side' },
      { item: gasket(m), instance: 'Flange gasket' },
      ...DOWELS.map(([y, z], i) => ({
        item: dowel,
        instance: `Dowel ${i + 1}`,
        at: { move: [0, y, z] as Point },
      })),
      { item: bush, instance: 'Sight bush', at: { move: [-48, 146, -34] } },
      { item: glass, instance: 'Sight glass', at: { move: [-48, 146, -34] } },
      { item: breather(m), instance: 'Breather', at: { move: [29, 168, 0] } },
      { item: drainPlug(m), instance: 'Drain plug', at: { move: [29, -36, 0] } },
      ...brackets.map((item, i) => ({ item, instance: `Bracket ${i + 1}` })),
      ...BRACKET_SCREWS.flatMap(([x, y], i) => [
        {
          item: screw,
          instance: `Bracket screw ${2 * i + 1}`,
          at: { move: [x, y, 70] as Point, turnY: -90 },
        },
        {
          item: screw,
          instance: `Bracket screw ${2 * i + 2}`,
          at: { move: [x, y, -70] as Point, turnY: 90 },
        },
      ]),
    ],
  };
  const flange: DemoAssembly = {
    name: 'Flange fasteners',
    children: BOLTS.flatMap(([y, z], i) => [
      { item: bolt, instance: `Flange bolt ${i + 1}`, at: { move: [11.85, y, z] as Point } },
      { item: washer6, instance: `Washer ${2 * i + 1}`, at: { move: [10.25, y, z] as Point } },
      { item: washer6, instance: `Washer ${2 * i + 2}`, at: { move: [-11.85, y, z] as Point } },
      { item: nut, instance: `Nut ${i + 1}`, at: { move: [-17.05, y, z] as Point } },
    ]),
  };
  const input: DemoAssembly = {
    name: 'Input shaft group',
    children: [
      { item: inputShaft(m), instance: 'Input pinion shaft' },
      { item: b1, instance: 'Bearing, motor side', at: { move: [-39, 0, 0] } },
      { item: b1, instance: 'Bearing, drum side', at: { move: [30, 0, 0] } },
      { item: key(m, 5, 5, 20), instance: 'Motor key', at: { move: [-76, 4, 0] } },
      { item: circlips[0], instance: 'Circlip', at: { move: [39.15, 0, 0] } },
      { item: seal(7.01, 12, 5), instance: 'Input seal', at: { move: [-48, 0, 0] } },
    ],
  };
  const intermediate: DemoAssembly = {
    name: 'Intermediate shaft group',
    children: [
      { item: intermediateShaft(m), instance: 'Intermediate pinion shaft' },
      {
        item: wheel(m, 'Wheel 1, 44 teeth', STAGE_1.wheel, 12, 10, 6),
        instance: 'Wheel 1',
        at: { move: [-24, 0, 0] },
      },
      { item: key(m, 6, 6, 10), instance: 'Wheel 1 key', at: { move: [-23, 6.5, 0] } },
      { item: spacer, instance: 'Spacer', at: { move: [-29.95, 0, 0] } },
      { item: b2, instance: 'Bearing, motor side', at: { move: [-42, 0, 0] } },
      { item: b2, instance: 'Bearing, drum side', at: { move: [30, 0, 0] } },
      { item: circlips[1], instance: 'Circlip, motor side', at: { move: [-43.2, 0, 0] } },
      { item: circlips[1], instance: 'Circlip, drum side', at: { move: [42.2, 0, 0] } },
    ],
  };
  const output: DemoAssembly = {
    name: 'Output shaft group',
    children: [
      { item: outputShaft(m), instance: 'Output shaft' },
      {
        item: wheel(m, 'Wheel 2, 45 teeth', STAGE_2.wheel, 20, 16, 10),
        instance: 'Wheel 2',
        at: { move: [2.05, 0, 0] },
      },
      { item: key(m, 10, 8, 16), instance: 'Wheel 2 key', at: { move: [4, 11, 0] } },
      { item: key(m, 8, 7, 28), instance: 'Coupling key', at: { move: [72, 8.5, 0] } },
      { item: circlips[2], instance: 'Circlip', at: { move: [22.15, 0, 0] } },
      { item: b3, instance: 'Bearing, motor side', at: { move: [-45, 0, 0] } },
      { item: b3, instance: 'Bearing, drum side', at: { move: [30, 0, 0] } },
      { item: collar, instance: 'Spacer', at: { move: [62.1, 0, 0] } },
      { item: bearingCap(m), instance: 'Bearing cap', at: { move: [52, 0, 0] } },
      { item: seal(12.5, 20, 7), instance: 'Output seal', at: { move: [55, 0, 0] } },
      ...CAP_SCREWS.map((a, i) => ({
        item: screw,
        instance: `Cap screw ${i + 1}`,
        at: { move: [56.6, CAP_CIRCLE * Math.cos(a), CAP_CIRCLE * Math.sin(a)] as Point },
      })),
      { item: coupling(m), instance: 'Drum coupling', at: { move: [72, 0, 0] } },
    ],
  };
  return {
    name: 'Winch gearbox WG-16',
    children: [
      { item: housing, instance: 'Housing group' },
      { item: flange, instance: 'Flange fasteners' },
      { item: input, instance: 'Input shaft group' },
      { item: intermediate, instance: 'Intermediate shaft group', at: { move: [0, INTERMEDIATE, 0] } },
      { item: output, instance: 'Output shaft group', at: { move: [0, OUTPUT, 0] } },
    ],
  };
}

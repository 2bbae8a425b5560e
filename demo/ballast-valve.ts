import { hexBolt, hexNut, ring, washer } from './fasteners.ts';
import { MATERIALS } from './materials.ts';
import type { Modeller, Point, Shape } from './modeller.ts';
import type { DemoAssembly, DemoPart } from './step-writer.ts';

/*
 * Ballast valve BV-40: a spool in a bored body, opened by a handwheel. All parts share the spool's axis, X.
 * Fasteners to ISO 4017 (bolt), ISO 4032 (nut) and ISO 7089 (washers), nominal sizes, threads left plain.
 * One fault is built in on purpose: the middle land of the spool is Ø26.25 in a bore of Ø26.05.
 */
const BOLT_CIRCLE = 33;
const BOLT_ANGLES = [45, 135, 225, 315];

const onCircle = (degrees: number, radius: number): [number, number] => [
  radius * Math.cos((degrees * Math.PI) / 180),
  radius * Math.sin((degrees * Math.PI) / 180),
];

const boltHoles = (m: Modeller, from: number, length: number, radius: number): Shape[] =>
  BOLT_ANGLES.map((a) => {
    const [y, z] = onCircle(a, BOLT_CIRCLE);
    return m.cylinder([from, y, z], 'x', radius, length);
  });

function valveBody(m: Modeller): DemoPart {
  const barrel = m.turned('x', [
    [-44, 0],
    [-44, 41],
    [-43, 42],
    [-31, 42],
    [-30, 41],
    [-30, 26, 5],
    [30, 26, 5],
    [30, 41],
    [31, 42],
    [43, 42],
    [44, 41],
    [44, 0],
  ]);
  const neck = (x: number, up: 1 | -1) =>
    m.fuse(m.cylinder([x, 0, 0], [0, 0, up], 12, 52), m.cylinder([x, 0, 46 * up], [0, 0, up], 21, 8));
  const outside = m.fuse(barrel, neck(-12, -1), neck(12, 1), m.cylinder([0, 0, 0], [0, -1, 0], 10, 30));
  const rounded = m.dress(
    outside,
    'fillet',
    2,
    ([x, y, z], length) =>
      [-12, 12].some((neckX) => Math.abs(Math.hypot(x - neckX, y) - 12) < 0.1 && z * neckX > 0) &&
      Math.abs(z) < 40 &&
      length > 20,
  );
  const bore = m.turned('x', [
    [-45, 0],
    [-45, 16.5],
    [-34, 16.5],
    [-34, 13.025],
    [-17, 13.025],
    [-17, 17, 1],
    [-7, 17, 1],
    [-7, 13.025],
    [7, 13.025],
    [7, 17, 1],
    [17, 17, 1],
    [17, 13.025],
    [34, 13.025],
    [34, 16.5],
    [45, 16.5],
    [45, 0],
  ]);
  const flow = [m.cylinder([-12, 0, -55], 'z', 8, 55), m.cylinder([12, 0, 0], 'z', 8, 55)];
  const neckHoles = [-1, 1].flatMap((side) =>
    [45, 135, 225, 315].map((a) => {
      const [x, y] = onCircle(a, 16.5);
      return m.cylinder([12 * side + x, y, side > 0 ? 45 : -55], 'z', 1.65, 10);
    }),
  );
  const drain = m.cylinder([0, -31, 0], 'y', 5, 9);
  return {
    name: 'Valve body',
    shape: m.cut(
      rounded,
      bore,
      ...flow,
      ...boltHoles(m, -45, 20, 4.1),
      ...boltHoles(m, 25, 20, 4.1),
      ...neckHoles,
      drain,
    ),
    colour: [196, 164, 96],
    material: MATERIALS.bronze,
    faceColour: {
      colour: [214, 196, 152],
      choose: ([x, y, z]) => Math.abs(z) > 53.9 && Math.abs(y) < 1 && Math.abs(Math.abs(x) - 12) < 1,
    },
  };
}

function spool(m: Modeller): DemoPart {
  const turned = m.turned('x', [
    [-50, 0],
    [-50, 7],
    [-49, 8],
    [-31, 8, 1],
    [-31, 12.6],
    [-30.6, 13],
    [-19.4, 13],
    [-19, 12.6],
    [-19, 8, 1],
    [-6, 8, 1],
    [-6, 12.725],
    [-5.6, 13.125],
    [5.6, 13.125],
    [6, 12.725],
    [6, 8, 1],
    [19, 8, 1],
    [19, 12.6],
    [19.4, 13],
    [30.6, 13],
    [31, 12.6],
    [31, 8, 1],
    [80, 8],
    [80, 5],
    [104, 5, 0.8],
    [104, 0],
  ]);
  return {
    name: 'Spool',
    shape: m.cut(turned, m.box([52, -2.5, 5], [68, 2.5, 9])),
    colour: [176, 84, 48],
    material: MATERIALS.duplex,
  };
}

function bonnet(m: Modeller): DemoPart {
  const turned = m.turned('x', [
    [45, 8.1],
    [45, 41],
    [46, 42],
    [56, 42],
    [57, 41],
    [57, 18, 4],
    [77, 18],
    [78, 17],
    [78, 8.1],
    [75, 8.1],
    [75, 11],
    [72, 11],
    [72, 8.1],
  ]);
  return {
    name: 'Bonnet',
    shape: m.cut(turned, ...boltHoles(m, 44, 14, 4.2), m.box([44, -2.55, 0], [71, 2.55, 10.2])),
    colour: [116, 160, 152],
    material: MATERIALS.titanium,
  };
}

function endCap(m: Modeller): DemoPart {
  const turned = m.turned('x', [
    [-57, 0],
    [-57, 12],
    [-60, 12, 1],
    [-60, 19, 1],
    [-57, 19],
    [-57, 41],
    [-56, 42],
    [-46, 42],
    [-45, 41],
    [-45, 11],
    [-48, 11],
    [-48, 8.2],
    [-52, 8.2],
    [-52, 0],
  ]);
  return {
    name: 'End cap',
    shape: m.cut(turned, ...boltHoles(m, -58, 14, 4.2)),
    colour: [116, 160, 152],
    material: MATERIALS.titanium,
  };
}

function handwheel(m: Modeller): DemoPart {
  const hub = m.turned('x', [
    [80, 5.05],
    [80, 11, 1],
    [92, 11, 1],
    [92, 5.05],
  ]);
  const rim = m.torus([88, 0, 0], 'x', 40, 5);
  const spokes = [90, 210, 330].map((a) => {
    const [y, z] = onCircle(a, 1);
    return m.cylinder([86, 9 * y, 9 * z], [2 / 31, y, z], 3.2, 31);
  });
  const drilled = m.cut(m.fuse(hub, ...spokes, rim), m.cylinder([70, 0, 0], 'x', 5.05, 40));
  return { name: 'Handwheel', shape: drilled, colour: [44, 92, 96], material: MATERIALS.aluminium };
}

function drainPlug(m: Modeller): DemoPart {
  const head = m.cut(m.hexagon([0, -36, 0], 'y', 13, 6), m.cylinder([0, -36.5, 0], 'y', 3, 4));
  return {
    name: 'Drain plug',
    shape: m.fuse(head, m.cylinder([0, -30.5, 0], 'y', 4.95, 8)),
    colour: [146, 126, 98],
    material: MATERIALS.a4,
  };
}

function seatRing(m: Modeller): DemoPart {
  const shape = m.turned('x', [
    [0, 13.2],
    [0, 16.05],
    [0.4, 16.45],
    [3.8, 16.45],
    [3.8, 14.7],
    [6.2, 14.7],
    [6.2, 16.45],
    [9.6, 16.45],
    [10, 16.05],
    [10, 13.2],
  ]);
  return { name: 'Seat ring', shape, colour: [150, 136, 178], material: MATERIALS.peek };
}

export function ballastValve(m: Modeller): DemoAssembly {
  const body = valveBody(m);
  const seat = seatRing(m);
  const oRing: DemoPart = {
    name: 'O-ring 29.4x1.8',
    shape: m.torus([0, 0, 0], 'x', 15.6, 0.9),
    colour: [52, 54, 60],
    material: MATERIALS.nitrile,
  };
  const wiper: DemoPart = {
    name: 'Wiper ring 16x22x3',
    shape: ring(m, 8.02, 10.98, 2.98),
    colour: [70, 88, 120],
    material: MATERIALS.nitrile,
  };
  const gasket: DemoPart = {
    name: 'Gasket',
    shape: m.cut(ring(m, 17, 42, 1), ...boltHoles(m, -1, 4, 4.3)),
    colour: [96, 112, 74],
  };
  const key: DemoPart = {
    name: 'Parallel key 5x5x16',
    shape: m.box([0, -2.5, 0], [16, 2.5, 5]),
    colour: [134, 138, 120],
    material: MATERIALS.duplex,
  };
  const bolt = hexBolt(m, 8, 30, 13, 5.3);
  const washer8 = washer(m, 8, 8.4, 16, 1.6);
  const washer10 = washer(m, 10, 10.5, 20, 2);

  /** Four bolts with washers on a flange face; `far` turns them round to face −X. */
  const fasteners = (face: number, far: boolean): DemoAssembly['children'] =>
    BOLT_ANGLES.flatMap((a, i) => {
      const [y, z] = onCircle(a, BOLT_CIRCLE);
      const washerFace = far ? face - 1.6 : face + 1.6;
      return [
        {
          item: bolt,
          instance: `Bolt ${i + 1}`,
          at: { move: [washerFace, y, z] as Point, turnZ: far ? 180 : 0 },
        },
        {
          item: washer8,
          instance: `Washer ${i + 1}`,
          at: { move: [far ? face - 1.6 : face, y, z] as Point },
        },
      ];
    });

  const bodyGroup: DemoAssembly = {
    name: 'Body group',
    children: [
      { item: body, instance: 'Body' },
      { item: seat, instance: 'Seat ring, bonnet side', at: { move: [34, 0, 0] } },
      { item: seat, instance: 'Seat ring, cap side', at: { move: [-44, 0, 0] } },
      { item: oRing, instance: 'O-ring, bonnet side', at: { move: [39, 0, 0] } },
      { item: oRing, instance: 'O-ring, cap side', at: { move: [-39, 0, 0] } },
      { item: drainPlug(m), instance: 'Drain plug' },
    ],
  };
  const spoolGroup: DemoAssembly = {
    name: 'Spool group',
    children: [
      { item: spool(m), instance: 'Spool' },
      { item: key, instance: 'Guide key', at: { move: [52, 0, 5] } },
    ],
  };
  const wheelGroup: DemoAssembly = {
    name: 'Handwheel group',
    children: [
      { item: handwheel(m), instance: 'Handwheel' },
      { item: washer10, instance: 'Washer', at: { move: [92, 0, 0] } },
      { item: hexNut(m, 10, 16, 8.4), instance: 'Nut', at: { move: [94, 0, 0] } },
    ],
  };
  const bonnetGroup: DemoAssembly = {
    name: 'Bonnet group',
    children: [
      { item: bonnet(m), instance: 'Bonnet' },
      { item: gasket, instance: 'Gasket', at: { move: [44, 0, 0] } },
      { item: wiper, instance: 'Wiper ring', at: { move: [72, 0, 0] } },
      ...fasteners(57, false),
      { item: wheelGroup, instance: 'Handwheel group' },
    ],
  };
  const capGroup: DemoAssembly = {
    name: 'End cap group',
    children: [
      { item: endCap(m), instance: 'End cap' },
      { item: gasket, instance: 'Gasket', at: { move: [-45, 0, 0] } },
      { item: wiper, instance: 'Wiper ring', at: { move: [-48, 0, 0] } },
      ...fasteners(-57, true),
    ],
  };
  return {
    name: 'Ballast valve BV-40',
    children: [
      { item: bodyGroup, instance: 'Body group' },
      { item: spoolGroup, instance: 'Spool group' },
      { item: bonnetGroup, instance: 'Bonnet group' },
      { item: capGroup, instance: 'End cap group' },
    ],
  };
}

import { MATERIALS } from './materials.ts';
import type { Modeller, Shape } from './modeller.ts';
import type { DemoPart } from './step-writer.ts';

/** What can be made otherwise in a revision of it. mm and degrees. */
export interface LampDimensions {
  /** Where the screws of the window ring stand. */
  screws: readonly number[];
  /** Tapped holes in the floor. */
  taps: readonly number[];
  /** Radius of the port. */
  port: number;
}

const FIRST_ISSUE: LampDimensions = { screws: [30, 90, 150, 210, 270, 330], taps: [0, 120, 240], port: 6 };

/** Lamp housing LH-20: pressure housing of the lander's lamp, turned about Z with the window at the top. */
export function lampHousing(m: Modeller, otherwise: Partial<LampDimensions> = {}): DemoPart {
  const body = m.turned('z', [
    [0, 0],
    [0, 37],
    [1.5, 38.5],
    [18, 38.5, 2],
    [18, 42, 1.5],
    [84, 42, 5],
    [84, 58.5],
    [85.5, 60],
    [96.5, 60],
    [98, 58.5],
    [98, 43],
    [95.4, 43, 0.4],
    [95.4, 39, 0.4],
    [98, 39],
    [98, 36.8],
    [97.2, 36],
    [90, 36, 0.5],
    [90, 32],
    [14, 32, 4],
    [14, 0],
  ]);
  const ribs = Array.from({ length: 11 }, (_, i) => rib(m, 30 * (i + 1)));
  const boss = m.cylinder([38, 0, 52], 'x', 13, 19);
  const lug = m.cut(
    m.fuse(m.box([-66, -9, 34], [-38, 9, 70]), m.cylinder([-66, -9, 52], 'y', 18, 18)),
    m.cylinder([-68, -30, 52], 'y', 8, 60),
  );
  const solid = m.cut(
    m.fuse(body, ...ribs.filter((_, i) => i !== 5), boss, lug),
    m.cylinder([0, 0, 14], 'z', 32, 70),
  );
  const filleted = m.dress(
    solid,
    'fillet',
    3,
    ([x, y, z], length) => Math.abs(Math.hypot(y, z - 52) - 13) < 0.2 && x < 46 && length > 30,
  );
  return {
    name: 'Lamp housing LH-20',
    shape: m.cut(filleted, ...drillings(m, { ...FIRST_ISSUE, ...otherwise })),
    colour: [124, 150, 158],
    material: MATERIALS.titanium,
    faceColour: { colour: [196, 120, 62], choose: ([x, y, z]) => Math.hypot(x, y) < 2 && z > 95 && z < 95.6 },
  };
}

/** A cooling rib with a sloped top end, standing on the barrel. */
function rib(m: Modeller, degrees: number): Shape {
  const plate = m.cut(m.box([40, -1.5, 24], [55, 1.5, 78]), wedge(m));
  return m.turnedAbout(plate, 'z', degrees);
}

const wedge = (m: Modeller): Shape =>
  m.moved(m.turnedAbout(m.box([0, -5, -30], [60, 5, 0]), 'y', -40), [46, 0, 24]);

function drillings(m: Modeller, dimensions: LampDimensions): Shape[] {
  const counterbored = dimensions.screws.map((degrees) => {
    const a = (degrees * Math.PI) / 180;
    const [x, y] = [51 * Math.cos(a), 51 * Math.sin(a)];
    return m.fuse(m.cylinder([x, y, 80], 'z', 3.3, 20), m.cylinder([x, y, 91.6], 'z', 5.5, 10));
  });
  const port = m.fuse(
    m.cylinder([25, 0, 52], 'x', dimensions.port, 40),
    m.cylinder([54, 0, 52], 'x', 9, 10),
    m.cone([53, 0, 52], 'x', dimensions.port, 9, 1),
  );
  const gland = m.fuse(m.cylinder([0, 0, -1], 'z', 8.1, 20), m.cone([0, 0, -0.01], 'z', 9.6, 8.1, 1.5));
  const taps = dimensions.taps.map((degrees) => {
    const a = (degrees * Math.PI) / 180;
    const [x, y] = [26 * Math.cos(a), 26 * Math.sin(a)];
    return m.fuse(
      m.cylinder([x, y, -1], 'z', 2.1, 11),
      m.cone([x, y, 10], 'z', 2.1, 0, 2.1 / Math.tan((59 * Math.PI) / 180)),
    );
  });
  return [...counterbored, port, gland, ...taps];
}

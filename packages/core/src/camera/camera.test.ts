import fc from 'fast-check';
import { distance, dot, length, normalize, scale, subtract, vecOf, type Vec3 } from '../math/vec3.ts';
import {
  lookFrom,
  multiplyQuaternions,
  rotate,
  rotationAbout,
  slerp,
  unitQuaternion,
  type Quaternion,
} from '../math/quaternion.ts';
import { betweenViews } from './between-views.ts';
import {
  behind,
  DIMETRIC,
  FRAMES,
  frameOrientation,
  neighbourPip,
  pipDirection,
  pipKind,
  pipName,
  pipOf,
  pipOrientation,
  PIPS,
  TRIMETRIC,
  viewName,
  VIEW_PAD,
  type Pip,
} from './directions.ts';
import { FIT_MARGIN, fitView, supportOfPoints } from './fit-view.ts';
import {
  hingeAngle,
  orbitFree,
  orbitTurntable,
  pan,
  roll,
  sixAxisStep,
  STILL,
  turnAboutHinge,
  withProjection,
  zoomAbout,
  zoomWindow,
  isBehindEye,
} from './move-camera.ts';
import { fitLinked, linkedView } from './pane-layout.ts';
import {
  DEFAULT_LENS,
  eyePoint,
  project,
  unproject,
  viewBack,
  viewRay,
  viewRight,
  viewUp,
  type ViewCamera,
} from './view-camera.ts';

const PANE = { width: 900, height: 600 };
const base: ViewCamera = {
  projection: 'orthographic',
  target: [3, -2, 5],
  orientation: lookFrom([1, -1, 1], [0, 0, 1]),
  height: 120,
  lens: DEFAULT_LENS,
};
const degrees = (d: number) => (d * Math.PI) / 180;

const coordinate = fc.double({ min: -50, max: 50, noNaN: true });
const point = fc.tuple(coordinate, coordinate, coordinate) as fc.Arbitrary<Vec3>;
const quaternion = fc
  .tuple(...[0, 1, 2, 3].map(() => fc.double({ min: -1, max: 1, noNaN: true })))
  .filter((q) => Math.hypot(...q) > 0.1)
  .map((q) => unitQuaternion(q as unknown as Quaternion));
const camera: fc.Arbitrary<ViewCamera> = fc.record({
  projection: fc.constantFrom('orthographic' as const, 'perspective' as const),
  target: point,
  orientation: quaternion,
  height: fc.double({ min: 300, max: 2000, noNaN: true }),
  lens: fc.double({ min: degrees(10), max: degrees(60), noNaN: true }),
});
const angle = fc.double({ min: -3, max: 3, noNaN: true });
const samePixel = (a: { x: number; y: number }, b: { x: number; y: number }) =>
  expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeLessThan(1e-5);

describe('what stays where it is', () => {
  test('the pivot keeps its place on the screen while orbiting and rolling, in both projections', () => {
    fc.assert(
      fc.property(camera, point, angle, angle, (c, pivot, yaw, pitch) => {
        fc.pre(!isBehindEye(c, pivot));
        const before = project(c, PANE, pivot);
        for (const moved of [
          orbitTurntable(c, pivot, yaw, pitch),
          orbitFree(c, pivot, yaw, pitch),
          roll(c, pivot, yaw),
        ])
          samePixel(project(moved, PANE, pivot), before);
      }),
    );
  });

  test('the point under the cursor keeps its place while zooming; the eye comes nearer and never passes it', () => {
    fc.assert(
      fc.property(camera, point, fc.double({ min: 0.2, max: 8, noNaN: true }), (c, anchor, factor) => {
        fc.pre(!isBehindEye(c, anchor));
        const zoomed = zoomAbout(c, anchor, factor);
        samePixel(project(zoomed, PANE, anchor), project(c, PANE, anchor));
        expect(zoomed.height).toBeCloseTo(c.height / factor, 6);
        if (c.projection === 'perspective')
          expect(dot(subtract(eyePoint(zoomed), anchor), viewBack(c))).toBeGreaterThan(0);
      }),
    );
  });

  test('the grabbed point follows the hand while panning', () => {
    fc.assert(
      fc.property(camera, point, (c, held) => {
        fc.pre(!isBehindEye(c, held));
        const before = project(c, PANE, held);
        samePixel(project(pan(c, PANE, 31, -17, held), PANE, held), { x: before.x + 31, y: before.y - 17 });
      }),
    );
  });

  test('switching the projection keeps the place and size of what is at the pivot', () => {
    fc.assert(
      fc.property(camera, point, (c, pivot) => {
        fc.pre(!isBehindEye(c, pivot) && c.projection === 'orthographic');
        const onAxis = subtract(pivot, scale(viewBack(c), 0));
        const tip: Vec3 = vecOf((k) => onAxis[k] + 5 * viewUp(c)[k]);
        const there = withProjection(c, 'perspective', pivot);
        const size = (v: ViewCamera) => project(v, PANE, onAxis).y - project(v, PANE, tip).y;
        expect(size(there)).toBeCloseTo(size(c), 6);
        expect(size(withProjection(there, 'orthographic', pivot))).toBeCloseTo(size(c), 6);
      }),
    );
  });

  test('a point and the pixel it is seen at belong together, and its line of sight passes through it', () => {
    fc.assert(
      fc.property(camera, point, (c, p) => {
        fc.pre(!isBehindEye(c, p));
        const seen = project(c, PANE, p);
        expect(distance(unproject(c, PANE, seen.x, seen.y, seen.depth), p)).toBeLessThan(1e-6);
        const { origin, direction } = viewRay(c, PANE, seen.x, seen.y);
        const along = subtract(p, origin);
        expect(length(subtract(along, scale(direction, dot(along, direction))))).toBeLessThan(1e-6);
      }),
    );
  });
});

describe('turning', () => {
  test('turntable never tips: the up axis stays upright on the screen and the pole is never passed', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(angle, angle), { minLength: 1, maxLength: 40 }), (moves) => {
        let c = base;
        for (const [yaw, pitch] of moves) {
          c = orbitTurntable(c, [0, 0, 0], yaw, pitch);
          expect(dot(viewRight(c), [0, 0, 1])).toBeCloseTo(0, 6);
          expect(dot(viewUp(c), [0, 0, 1])).toBeGreaterThan(-1e-6);
        }
      }),
    );
  });

  test('a full circle of 1° steps returns to the start within 1e-9', () => {
    for (const turn of [
      (c: ViewCamera) => orbitTurntable(c, [7, 1, 2], degrees(1), 0),
      (c: ViewCamera) => orbitFree(c, [7, 1, 2], 0, degrees(1)),
      (c: ViewCamera) => roll(c, [7, 1, 2], degrees(1)),
    ]) {
      let c = base;
      for (let i = 0; i < 360; i++) c = turn(c);
      expect(distance(c.target, base.target)).toBeLessThan(1e-9);
      // A whole turn may come back as the other of the two quaternions of one orientation.
      expect(
        1 - Math.abs(c.orientation.reduce((sum, x, k) => sum + x * base.orientation[k], 0)),
      ).toBeLessThan(1e-9);
    }
  });

  test('between two views the eye takes the shortest arc at even speed', () => {
    fc.assert(
      fc.property(quaternion, quaternion, (a, b) => {
        const turned = (p: Quaternion, q: Quaternion) =>
          2 * Math.acos(Math.min(1, Math.abs(p.reduce((sum, x, k) => sum + x * q[k], 0))));
        const whole = turned(a, b);
        expect(whole).toBeLessThanOrEqual(Math.PI + 1e-9);
        for (const t of [0.25, 0.5, 0.75]) expect(turned(a, slerp(a, b, t))).toBeCloseTo(t * whole, 5);
      }),
    );
    expect(betweenViews(base, { ...base, height: 480 }, 0.5).height).toBeCloseTo(240, 9);
  });

  test('about a hinge, what lies in front of it follows the hand; end on, the hand goes round it', () => {
    const front: ViewCamera = { ...base, orientation: lookFrom([0, -1, 0], [0, 0, 1]), target: [0, 0, 0] };
    for (const axis of [[0, 0, 1], [1, 0, 0], normalize([1, 0, 1])] as Vec3[]) {
      const hinge = { origin: [0, 0, 0] as Vec3, axis };
      const near: Vec3 = [0, -20, 0];
      const across = { x: 450 + 40 * axis[2], y: 300 + 40 * axis[0] };
      const turn = hingeAngle(front, PANE, hinge, { x: 450, y: 300 }, across, 0.002);
      const after = project(turnAboutHinge(front, hinge, turn), PANE, near);
      expect((after.x - 450) * axis[2] + (after.y - 300) * axis[0]).toBeGreaterThan(5);
    }
    const endOn = { origin: [0, 0, 0] as Vec3, axis: [0, -1, 0] as Vec3 };
    expect(hingeAngle(front, PANE, endOn, { x: 550, y: 300 }, { x: 450, y: 200 }, 0.002)).toBeCloseTo(
      Math.PI / 2,
      9,
    );
    samePixel(project(turnAboutHinge(front, endOn, Math.PI / 2), PANE, unproject(front, PANE, 550, 300)), {
      x: 450,
      y: 200,
    });
  });

  test('the helm moves all six axes at once, as much as each alone', () => {
    const rates = { right: 0.1, up: -0.2, nearer: 0.3, pitch: 0.4, yaw: -0.5, roll: 0.6 };
    const moved = sixAxisStep(base, base.target, rates, 0.5);
    expect(moved.height).toBeCloseTo(base.height * Math.exp(-0.15), 9);
    const spin =
      2 * Math.acos(Math.abs(moved.orientation.reduce((sum, x, k) => sum + x * base.orientation[k], 0)));
    expect(spin).toBeCloseTo(0.5 * Math.hypot(0.4, 0.5, 0.6), 9);
    expect(sixAxisStep(base, base.target, STILL, 1)).toEqual(base);
    // The model slides the way the stick does.
    expect(
      project(sixAxisStep(base, base.target, { ...STILL, right: 0.1 }, 1), PANE, base.target).x,
    ).toBeCloseTo(450 + 60, 6);
  });
});

describe('fitting', () => {
  // Never seen edge on: a tetrahedron is always among the points.
  const cloud = fc
    .array(point, { maxLength: 60 })
    .map((points): Vec3[] => [...points, [60, 0, 0], [0, 60, 0], [0, 0, 60], [-20, -20, -20]]);
  test('the exact outline lies within the margin and touches it, in both projections', () => {
    fc.assert(
      fc.property(camera, cloud, (c, points) => {
        const seen = points.map((p) => project(fitView(c, PANE, supportOfPoints(points)), PANE, p));
        const [left, right] = [Math.min(...seen.map((p) => p.x)), Math.max(...seen.map((p) => p.x))];
        const [top, bottom] = [Math.min(...seen.map((p) => p.y)), Math.max(...seen.map((p) => p.y))];
        const [mx, my] = [FIT_MARGIN * PANE.width, FIT_MARGIN * PANE.height];
        expect(seen.every((p) => !p.behind)).toBe(true);
        expect(
          Math.min(left - mx, PANE.width - mx - right, top - my, PANE.height - my - bottom),
        ).toBeGreaterThan(-0.01);
        expect(
          Math.min(
            Math.abs(left - mx) + Math.abs(PANE.width - mx - right),
            Math.abs(top - my) + Math.abs(PANE.height - my - bottom),
          ),
        ).toBeLessThan(0.1);
      }),
    );
  });

  test('linked panes: every one holds the exact outline within the margin; in orthographic one touches it', () => {
    const panes = [
      { side: 'top' as const, size: { width: 900, height: 300 } },
      { side: 'right' as const, size: { width: 400, height: 600 } },
    ];
    fc.assert(
      fc.property(camera, fc.array(point, { minLength: 2, maxLength: 12 }), (c, points) => {
        fc.pre(points.some((p) => distance(p, points[0]) > 1));
        const main = fitLinked(c, PANE, panes, supportOfPoints(points));
        const views = [
          { camera: main, size: PANE },
          ...panes.map(({ side, size }) => ({
            camera: linkedView(main, side, size.height / PANE.height),
            size,
          })),
        ];
        const reaches = views.flatMap(({ camera: view, size }) =>
          points.map((p) => {
            const { x, y } = project(view, size, p);
            return Math.max(Math.abs(x / size.width - 0.5), Math.abs(y / size.height - 0.5));
          }),
        );
        expect(Math.max(...reaches)).toBeLessThan(0.5 - FIT_MARGIN + 1e-9);
        if (c.projection === 'orthographic') expect(Math.max(...reaches)).toBeCloseTo(0.5 - FIT_MARGIN, 6);
      }),
    );
  });

  test('a zoomed window fills the pane', () => {
    const zoomed = zoomWindow(base, PANE, { x: 100, y: 50, width: 300, height: 200 });
    samePixel(project(zoomed, PANE, unproject(base, PANE, 100, 50)), { x: 0, y: 0 });
    samePixel(project(zoomed, PANE, unproject(base, PANE, 400, 250)), { x: 900, y: 600 });
  });
});

describe('directions', () => {
  test('there are 26, six faces, twelve edges, eight corners, each found again and upright', () => {
    expect(PIPS).toHaveLength(26);
    expect(['face', 'edge', 'corner'].map((k) => PIPS.filter((p) => pipKind(p) === k).length)).toEqual([
      6, 12, 8,
    ]);
    for (const frame of Object.values(FRAMES))
      for (const pip of PIPS) {
        const q = pipOrientation(pip, frame);
        expect(pipOf(q, frame)).toBe(pip);
        if (pip[0] || pip[1]) expect(dot(rotate(q, [1, 0, 0]), frame.up)).toBeCloseTo(0, 12);
      }
    expect(pipName([1, 1, 1])).toBe('front right top');
  });

  test('front, top and right of a Z-up and a Y-up model', () => {
    expect(pipDirection([0, 1, 0], FRAMES.z)).toEqual([0, -1, 0]);
    expect(pipDirection([0, 0, 1], FRAMES.y)).toEqual([0, 1, 0]);
    // Unfolded projection: the top view has the front at its lower edge, the bottom view at its
    // upper edge (ISO 5456-2).
    expect(rotate(pipOrientation([0, 0, 1], FRAMES.z), [0, 1, 0])[1]).toBeCloseTo(1, 12);
    expect(rotate(pipOrientation([0, 0, -1], FRAMES.z), [0, 1, 0])[1]).toBeCloseTo(-1, 12);
    expect(pipDirection(VIEW_PAD['KeyA'], behind(FRAMES.z))).toEqual(pipDirection([1, 0, 0], FRAMES.z));
  });

  /** Drawn angle of a model axis off the horizontal, and how much of its length is seen. */
  const drawn = (q: Quaternion, axis: Vec3) => {
    const [x, y] = [dot(axis, rotate(q, [1, 0, 0])), dot(axis, rotate(q, [0, 1, 0]))];
    return { angle: (Math.atan2(Math.abs(y), Math.abs(x)) * 180) / Math.PI, length: Math.hypot(x, y) };
  };

  test('isometric: elevation 35.264°, axes at 30°, foreshortening 0.8165 (ISO 5456-3:1996, 5.2)', () => {
    const q = pipOrientation([1, 1, 1], FRAMES.z);
    expect((Math.asin(rotate(q, [0, 0, 1])[2]) * 180) / Math.PI).toBeCloseTo(35.2644, 4);
    for (const axis of [
      [1, 0, 0],
      [0, 1, 0],
    ] as Vec3[]) {
      expect(drawn(q, axis).angle).toBeCloseTo(30, 9);
      expect(drawn(q, axis).length).toBeCloseTo(0.81649658, 8);
    }
    expect(drawn(q, [0, 0, 1])).toMatchObject({ angle: 90 });
  });

  test('dimetric: axes at 7° and 42°, scales 1 : 1 : 1/2 (ISO 5456-3:1996, 5.3)', () => {
    const q = frameOrientation(DIMETRIC, FRAMES.z);
    const [right, front, up] = [FRAMES.z.right, FRAMES.z.front, FRAMES.z.up].map((a) => drawn(q, a));
    expect(Math.abs(right.angle - 7)).toBeLessThan(0.5);
    expect(Math.abs(front.angle - 42)).toBeLessThan(1);
    expect(right.length / up.length).toBeCloseTo(1, 9);
    expect(front.length / up.length).toBeCloseTo(0.5, 9);
    // Closed form: sum of squares 2, so √(8/9).
    expect(up.length).toBeCloseTo(Math.sqrt(8 / 9), 9);
  });

  test('trimetric: three different scales, from our stated 35° and 25°', () => {
    const back = rotate(frameOrientation(TRIMETRIC, FRAMES.z), [0, 0, 1]);
    expect((Math.asin(back[2]) * 180) / Math.PI).toBeCloseTo(25, 9);
    expect((Math.atan2(back[0], -back[1]) * 180) / Math.PI).toBeCloseTo(35, 9);
    const scales = back.map((d) => Math.sqrt(1 - d * d));
    expect(new Set(scales.map((x) => x.toFixed(3))).size).toBe(3);
    expect(scales.reduce((sum, x) => sum + x * x, 0)).toBeCloseTo(2, 12);
  });

  test('stepping to the neighbouring pip goes round in eight and over the top', () => {
    let q = pipOrientation([0, 1, 0], FRAMES.z);
    const names: string[] = [];
    for (let i = 0; i < 8; i++) {
      const next = neighbourPip(q, FRAMES.z, 1, 0);
      names.push(pipName(next.pip));
      q = next.orientation;
    }
    expect(names).toEqual([
      'front right',
      'right',
      'back right',
      'back',
      'back left',
      'left',
      'front left',
      'front',
    ]);
    const over: Pip[] = [];
    for (let i = 0; i < 2; i++) {
      const next = neighbourPip(q, FRAMES.z, 0, 1);
      over.push(next.pip);
      q = next.orientation;
    }
    expect(over).toEqual([
      [0, 1, 1],
      [0, 0, 1],
    ]);
    expect(rotate(q, [0, 1, 0])[1]).toBeCloseTo(1, 9);
    expect(multiplyQuaternions(rotationAbout([0, 0, 1], 0), q)).toEqual(q);
  });
});

test('a view that is rolled says so; upright it is plainly what it is', () => {
  const frame = FRAMES.z;
  for (const pip of PIPS) {
    const upright = pipOrientation(pip, frame);
    expect(viewName(upright, frame)).toBe(pipName(pip));
    for (const degrees of [90, -90, 30]) {
      const rolled = multiplyQuaternions(
        rotationAbout(rotate(upright, [0, 0, 1]), (degrees * Math.PI) / 180),
        upright,
      );
      expect(viewName(rolled, frame)).toBe(`${pipName(pip)}, rolled ${Math.abs(degrees)}°`);
    }
  }
});

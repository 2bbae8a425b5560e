import fc from 'fast-check';
import { project } from '../camera/view-camera.ts';
import { rotationAbout, rotate, type Quaternion } from '../math/quaternion.ts';
import type { Mat4 } from '../math/mat4.ts';
import { transformPoint } from '../math/mat4.ts';
import { add, dot, normalize, subtract, type Vec3 } from '../math/vec3.ts';
import { carryOverOf, carryState } from './carry-document.ts';

const number = fc.double({ min: -500, max: 500, noNaN: true });
const point = fc.tuple(number, number, number);
const direction = point.filter((p) => Math.hypot(...p) > 1).map(normalize);
const turn = fc
  .tuple(direction, fc.double({ min: -3, max: 3, noNaN: true }))
  .map(([axis, angle]) => rotationAbout(axis, angle));

const motionOf = (q: Quaternion, by: Vec3): Mat4 => {
  const [x, y, z] = [rotate(q, [1, 0, 0]), rotate(q, [0, 1, 0]), rotate(q, [0, 0, 1])];
  return [...x, 0, ...y, 0, ...z, 0, ...by, 1] as unknown as Mat4;
};

test('where the model was shifted and turned as a whole, a view shows it as before, and what was put freely cuts it where it did', () => {
  fc.assert(
    fc.property(
      point,
      turn,
      point,
      turn,
      direction,
      point,
      (target, orientation, by, turned, normal, seen) => {
        const whole = motionOf(turned, by);
        const camera = { projection: 'orthographic' as const, target, orientation, height: 300, lens: 0.5 };
        const state = {
          version: 3,
          camera: { ...camera, pivot: target },
          panes: { panes: [{ mode: 'own', camera }] },
          section: { planes: [{ id: 'a', origin: target, normal, offset: 3 }], on: true },
        };
        const now = carryState(state, carryOverOf({ whole }));
        const pane = { width: 400, height: 300 };
        const [before, after] = [
          project(camera, pane, seen),
          project(now.camera, pane, transformPoint(whole, seen)),
        ];
        expect(Math.hypot(before.x - after.x, before.y - after.y)).toBeLessThan(1e-6);
        expect(now.panes.panes[0].camera).toEqual({ ...now.camera, pivot: undefined });
        expect(Math.hypot(...subtract(now.camera.pivot, transformPoint(whole, target)))).toBe(0);
        const [was, is] = [state.section.planes[0], now.section.planes[0]];
        expect(dot(subtract(transformPoint(whole, seen), is.origin), is.normal)).toBeCloseTo(
          dot(subtract(seen, was.origin), was.normal),
          6,
        );
      },
    ),
    { numRuns: 200 },
  );
});

test('what was made from a thing goes with that thing; with the whole only where it is lost', () => {
  const whole = motionOf([0, 0, 0, 1], [100, 0, 0]);
  const plane = (index: number) => ({
    id: `${index}`,
    origin: [1, 2, 3],
    normal: [0, 0, 1],
    from: { kind: 'face', component: './A', index },
  });
  const state = {
    version: 3,
    section: { planes: [plane(0), plane(1)] },
    style: { painted: [{ kind: 'face', component: './A', index: 0 }] },
  };
  const now = carryState(
    state,
    carryOverOf({
      whole,
      reference: (r) => ('index' in r && r.index === 1 ? { ...r, became: 'lost' } : r),
      motion: (r) => ('index' in r && r.index === 1 ? null : motionOf([0, 0, 0, 1], [0, 0, 7])),
    }),
  );
  expect(now.section.planes.map((p) => p.origin)).toEqual([[1, 2, 10], add([1, 2, 3], [100, 0, 0])]);
  expect(now.style).toEqual(state.style);
});

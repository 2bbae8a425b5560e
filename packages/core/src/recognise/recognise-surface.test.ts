import fc from 'fast-check';
import { cross, normalize, vecOf, type Vec3 } from '../math/vec3.ts';
import { recogniseSurface } from './recognise-surface.ts';

describe('analytic shapes found in samples', () => {
  const random = fc.double({ min: -1, max: 1, noNaN: true });
  const frame = fc
    .tuple(random, random, random)
    .filter((v) => Math.hypot(...v) > 0.2)
    .map((v) => {
      const z = normalize(v as Vec3);
      const x = normalize(cross(Math.abs(z[0]) < 0.9 ? [1, 0, 0] : [0, 1, 0], z));
      return { x, y: cross(z, x), z };
    });
  const sizes = fc.record({
    r: fc.double({ min: 1, max: 50, noNaN: true }),
    a: fc.double({ min: 0.2, max: 1, noNaN: true }),
  });
  const grid = Array.from({ length: 7 }, (_, i) =>
    Array.from({ length: 7 }, (_, j) => [i / 6, j / 6] as const),
  ).flat();

  /** A patch of a surface of revolution in any frame: radius and height of the profile, and its slope. */
  const patch = (
    f: { x: Vec3; y: Vec3; z: Vec3 },
    profile: (v: number) => [radius: number, height: number, normalOut: number, normalUp: number],
  ) => {
    const at = (u: number, v: number) => {
      const [r, h, out, up] = profile(v);
      const [c, s] = [Math.cos(2 * u), Math.sin(2 * u)];
      const mix = (a: number, b: number): Vec3 => vecOf((k) => a * (c * f.x[k] + s * f.y[k]) + b * f.z[k]);
      return { point: mix(r, h), normal: mix(out, up) };
    };
    const all = grid.map(([u, v]) => at(u, v));
    return { points: all.map((s) => s.point), normals: all.map((s) => s.normal) };
  };

  test('cylinder, cone, sphere and torus in any position, with their sizes', () => {
    fc.assert(
      fc.property(frame, sizes, (f, { r, a }) => {
        const cylinder = recogniseSurface(patch(f, (v) => [r, r * v, 1, 0]))!;
        expect(cylinder.kind).toBe('cylinder');
        expect(cylinder.radius).toBeCloseTo(r, 6);
        const cone = recogniseSurface(
          patch(f, (v) => [r * (1 + v * Math.sin(a)), r * v * Math.cos(a), Math.cos(a), -Math.sin(a)]),
        )!;
        expect(cone.kind).toBe('cone');
        expect(cone.semiAngle).toBeCloseTo(a, 6);
        const sphere = recogniseSurface(
          patch(f, (v) => [r * Math.cos(v), r * Math.sin(v), Math.cos(v), Math.sin(v)]),
        )!;
        expect(sphere).toMatchObject({ kind: 'sphere' });
        expect(sphere.radius).toBeCloseTo(r, 6);
        const torus = recogniseSurface(
          patch(f, (v) => [
            2 * r + a * r * Math.cos(v * 3),
            a * r * Math.sin(v * 3),
            Math.cos(v * 3),
            Math.sin(v * 3),
          ]),
        )!;
        expect(torus.kind).toBe('torus');
        expect(torus.radius).toBeCloseTo(2 * r, 5);
        expect(torus.minorRadius).toBeCloseTo(a * r, 5);
      }),
      { numRuns: 40 },
    );
  });

  test('a shape that is none of them stays free-form', () => {
    const wavy = patch({ x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] }, (v) => [
      10 + 0.05 * Math.sin(9 * v),
      10 * v,
      1,
      0,
    ]);
    expect(recogniseSurface(wavy)).toBeNull();
  });
});

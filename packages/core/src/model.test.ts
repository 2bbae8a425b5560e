import fc from 'fast-check';
import { DEFAULT_LENS } from './camera/view-camera.ts';
import { directionOfPick, normalAt } from './facts/direction-of-pick.ts';
import { combineMass, placeMass } from './mass/combine-mass.ts';
import { meshMass } from './mass/mesh-mass.ts';
import { symmetricEigen } from './math/eigen.ts';
import { invertAffine, multiply, transformPoint, IDENTITY, type Mat4 } from './math/mat4.ts';
import { lookFrom, rotate, rotationAbout } from './math/quaternion.ts';
import { cross, distance, normalize, type Vec3 } from './math/vec3.ts';
import { componentsOf, liftPath, listOccurrences, type ModelStructure } from './model/structure.ts';
import { boxesOnScreen } from './picking/boxes-on-screen.ts';
import { buildPartBvh, PickScene } from './picking/pick-scene.ts';
import { nearestOnScreen } from './camera/nearest-on-screen.ts';
import { reachOfComponents } from './camera/reach-of-components.ts';
import { recogniseSurface } from './recognise/recognise-surface.ts';
import { boxPart } from './testing/box-part.ts';
import { formatQuantity } from './units/format-quantity.ts';
import { migrateViewState, ViewStateError, VIEW_STATE_VERSION } from './view-state/view-state.ts';
import { changeStates, visibilityOf } from './visibility/component-states.ts';

const placed = (m: Vec3, turn: Vec3 = [1, 0, 0]): Mat4 => {
  const q = rotationAbout(normalize(turn), 0.7);
  const [x, y, z] = (
    [
      [1, 0, 0],
      [0, 1, 0],
      [0, 0, 1],
    ] as Vec3[]
  ).map((a) => rotate(q, a));
  return [...x, 0, ...y, 0, ...z, 0, ...m, 1];
};

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
  const sizes = fc.record({ r: fc.double({ min: 1, max: 50, noNaN: true }), a: fc.double({ min: 0.2, max: 1, noNaN: true }) });
  const grid = Array.from({ length: 7 }, (_, i) => Array.from({ length: 7 }, (_, j) => [i / 6, j / 6] as const)).flat();

  /** A patch of a surface of revolution in any frame: radius and height of the profile, and its slope. */
  const patch = (
    f: { x: Vec3; y: Vec3; z: Vec3 },
    profile: (v: number) => [radius: number, height: number, normalOut: number, normalUp: number],
  ) => {
    const at = (u: number, v: number) => {
      const [r, h, out, up] = profile(v);
      const [c, s] = [Math.cos(2 * u), Math.sin(2 * u)];
      const mix = (a: number, b: number): Vec3 => [0, 1, 2].map((k) => a * (c * f.x[k] + s * f.y[k]) + b * f.z[k]) as unknown as Vec3;
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
        const cone = recogniseSurface(patch(f, (v) => [r * (1 + v * Math.sin(a)), r * v * Math.cos(a), Math.cos(a), -Math.sin(a)]))!;
        expect(cone.kind).toBe('cone');
        expect(cone.semiAngle).toBeCloseTo(a, 6);
        const sphere = recogniseSurface(patch(f, (v) => [r * Math.cos(v), r * Math.sin(v), Math.cos(v), Math.sin(v)]))!;
        expect(sphere).toMatchObject({ kind: 'sphere' });
        expect(sphere.radius).toBeCloseTo(r, 6);
        const torus = recogniseSurface(
          patch(f, (v) => [2 * r + a * r * Math.cos(v * 3), a * r * Math.sin(v * 3), Math.cos(v * 3), Math.sin(v * 3)]),
        )!;
        expect(torus.kind).toBe('torus');
        expect(torus.radius).toBeCloseTo(2 * r, 5);
        expect(torus.minorRadius).toBeCloseTo(a * r, 5);
      }),
      { numRuns: 40 },
    );
  });

  test('a shape that is none of them stays free-form', () => {
    const wavy = patch({ x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] }, (v) => [10 + 0.05 * Math.sin(9 * v), 10 * v, 1, 0]);
    expect(recogniseSurface(wavy)).toBeNull();
  });
});

describe('mass', () => {
  test('the inertia of two boxes set together is that of the whole (Steiner; Dubbel, section B)', () => {
    const half = boxPart(10, 20, 30).mass!;
    const whole = boxPart(20, 20, 30).mass!;
    const both = combineMass([half, placeMass(half, [...IDENTITY.slice(0, 12), 10, 0, 0, 1])])!;
    expect(both.volume).toBeCloseTo(whole.volume, 9);
    for (let i = 0; i < 3; i++) for (let j = 0; j < 3; j++) expect(both.inertia[i][j]).toBeCloseTo(whole.inertia[i][j], 4);
  });

  test('the mesh figures of a box are the closed form, wherever it is placed', () => {
    const part = boxPart(3, 4, 5);
    const found = meshMass(part.mesh.positions, part.mesh.indices, 0)!;
    expect(found.volume).toBeCloseTo(60, 9);
    for (let k = 0; k < 3; k++) expect(found.inertia[k][k]).toBeCloseTo(part.mass!.inertia[k][k], 6);
    const turnedMoments = symmetricEigen(placeMass(part.mass!, placed([5, 6, 7], [1, 2, 3])).inertia.map((r) => [...r])).values;
    const moments = [0, 1, 2].map((k) => part.mass!.inertia[k][k]).sort((a, b) => a - b);
    turnedMoments.forEach((m, k) => expect(m).toBeCloseTo(moments[k], 6));
  });
});

describe('identity', () => {
  const structure: ModelStructure = {
    parts: [
      { name: 'Bolt', geometry: 'a' },
      { name: 'Plate/half~1', geometry: 'b', colour: [1, 0, 0] },
    ],
    root: {
      name: 'Rig',
      placement: IDENTITY,
      children: [
        { name: 'Bolt', part: 0, placement: IDENTITY },
        { name: 'Bolt', part: 0, placement: placed([1, 2, 3]) },
        {
          name: 'Sub',
          placement: placed([0, 0, 5]),
          colour: [0, 1, 0],
          children: [
            { name: 'Plate/half~1', part: 1, placement: IDENTITY },
            { name: 'Bolt', part: 0, placement: [-1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1] },
          ],
        },
      ],
    },
  };

  test('a file by another name has the same paths, and what was kept by the paths of before is found', () => {
    const paths = (name: string) => listOccurrences({ ...structure, root: { ...structure.root, name } }).map((o) => o.path);
    expect(paths('Rig, checked')).toEqual(paths('Rig'));
    const hidden = { visible: false, ghosted: false, keptWhole: false };
    expect(migrateViewState({ version: 2, visibility: { 'Rig/Sub/Bolt': hidden, Rig: hidden } }).visibility).toEqual({
      './Sub/Bolt': hidden,
      '.': hidden,
    });
    expect(paths('Rig')).toEqual(paths('Rig').map(liftPath));
  });

  test('components are known by paths of names with ordinals; nested placements multiply; mirrored ones are flagged', () => {
    const all = listOccurrences(structure);
    expect(componentsOf(all).map((o) => o.path)).toEqual(['./Bolt', './Bolt~2', './Sub/Plate%2Fhalf%7E1', './Sub/Bolt']);
    const last = all.at(-1)!;
    expect(last.mirrored).toBe(true);
    expect(last.colour).toEqual([0, 1, 0]);
    expect(distance(transformPoint(last.placement, [1, 1, 1]), transformPoint(placed([0, 0, 5]), [-1, 1, 1]))).toBeLessThan(1e-12);
    const back = multiply(last.placement, invertAffine(last.placement));
    back.forEach((x, i) => expect(x).toBeCloseTo(IDENTITY[i], 12));
  });
});

describe('what is shown', () => {
  test('a change of states leaves the old table as it was; plain ones are not kept', () => {
    const hidden = changeStates({}, ['a', 'b'], { visible: false });
    expect(visibilityOf(hidden, ['a', 'b'])).toBe('none');
    expect(visibilityOf(hidden, ['a', 'c'])).toBe('some');
    expect(changeStates(hidden, ['a', 'b'], { visible: true })).toEqual({});
    expect(Object.keys(hidden)).toHaveLength(2);
  });

  test('view states of version 1 are lifted; nonsense is refused with a sentence', () => {
    const camera = { projection: 'orthographic', target: [1, 2, 3], orientation: [0, 0, 0, 2], height: 50 };
    expect(migrateViewState({ version: 1, camera: { ...camera, orientation: [0, 0, 0, 1.5] } })).toEqual({
      version: VIEW_STATE_VERSION,
      camera: { ...camera, orientation: [0, 0, 0, 1], lens: DEFAULT_LENS },
    });
    for (const bad of [
      null,
      { version: 9 },
      { version: 2, camera: { ...camera, height: -1 } },
      { version: 2, panes: { layout: 'nine' } },
      { version: 2, camera: { ...camera, orientation: [0, 0, 0, 0] } },
    ])
      expect(() => migrateViewState(bad)).toThrow(ViewStateError);
    const panes = {
      layout: 'beside',
      arrangement: 'first angle',
      panes: [
        { mode: { kind: 'free' }, camera },
        { mode: { kind: 'linked', side: 'nowhere' }, camera },
      ],
    };
    expect(() => migrateViewState({ version: 2, panes })).toThrow(/no direction/);
  });

  test('quantities are rounded to what is shown, in the chosen unit', () => {
    expect(formatQuantity(25.4, 'length', 'in').text).toBe('1.0000');
    expect(formatQuantity(-0.00001, 'length', 'mm').text).not.toMatch(/^[-\u2212]/);
  });
});

describe('picking', () => {
  const PANE = { width: 400, height: 400 };
  const part = boxPart(10, 10, 10);
  const bvh = buildPartBvh(part);
  const components = [
    { part: 0, placement: IDENTITY },
    { part: 0, placement: [...IDENTITY.slice(0, 12), 0, 30, 0, 1] },
  ];
  const scene = new PickScene(components, new Map([[0, part]]), new Map([[0, bvh]]));
  const front = {
    projection: 'orthographic' as const,
    target: [5, 0, 5] as Vec3,
    orientation: lookFrom([0, -1, 0], [0, 0, 1]),
    height: 40,
    lens: DEFAULT_LENS,
  };
  const any = { pickable: () => true };

  test.each(['orthographic', 'perspective'] as const)(
    'faces in the middle, edges and vertices near them, nothing beside; what is hidden or cut away lets through (%s)',
    (projection) => {
      const camera = { ...front, projection };
      expect(scene.pick(camera, PANE, 200, 200, any)).toMatchObject({ kind: 'face', component: 0, index: 2 });
      expect(scene.pick(camera, PANE, 200, 152, any)).toMatchObject({ kind: 'edge' });
      expect(scene.pick(camera, PANE, 152, 152, any)).toMatchObject({ kind: 'vertex' });
      expect(scene.pick(camera, PANE, 20, 20, any)).toBeNull();
      expect(scene.pick(camera, PANE, 200, 200, { pickable: (i) => i === 1 })).toMatchObject({ component: 1 });
      // Cut away in front of y = 5: the inside of the back wall is seen.
      expect(scene.pick(camera, PANE, 200, 200, { ...any, clips: [{ normal: [0, 1, 0], constant: -5 }] })).toMatchObject({
        component: 0,
        index: 3,
      });
    },
  );

  test('a box picks what lies fully inside, or what it touches', () => {
    const onScreen = components.map((c) => ({ placement: c.placement, box: part.box, bvh }));
    const side = { ...front, target: [5, 20, 5] as Vec3, orientation: lookFrom([1, 0, 0], [0, 0, 1]), height: 80 };
    // Seen from the right, the first spans x 100…150 px and the second 250…300.
    const box = { left: 90, right: 260, top: 100, bottom: 300 };
    expect(boxesOnScreen(side, PANE, box, false, onScreen)).toEqual([0]);
    expect(boxesOnScreen(side, PANE, box, true, onScreen)).toEqual([0, 1]);
    expect(boxesOnScreen(side, PANE, { left: 160, right: 240, top: 100, bottom: 300 }, true, onScreen)).toEqual([]);
  });

  test('beside the model the nearest point of its silhouette is found; a fit reaches its last vertex', () => {
    const onScreen = components.map((c) => ({ placement: c.placement, box: part.box, bvh }));
    const found = nearestOnScreen(front, PANE, 10, 200, onScreen)!;
    expect(found[0]).toBeCloseTo(0, 9);
    expect(found[2]).toBeCloseTo(5, 6);
    const turned = placed([3, 4, 5], [1, 1, 0]);
    const reach = reachOfComponents([{ placement: turned, geometry: part }]);
    const d: Vec3 = [0.3, -2, 1];
    const exact = Math.max(
      ...Array.from({ length: 8 }, (_, i) => {
        const p = transformPoint(turned, [i & 1 ? 10 : 0, i & 2 ? 10 : 0, i & 4 ? 10 : 0]);
        return p[0] * d[0] + p[1] * d[1] + p[2] * d[2];
      }),
    );
    expect(reach(d)).toBeCloseTo(exact, 6);
  });

  test('directions of picked things: outward normal, along an edge, none for a vertex', () => {
    const base = { geometry: part, placement: placed([0, 0, 0], [0, 0, 1]) };
    const up = directionOfPick({ ...base, kind: 'face', index: 5, point: [1, 1, 10] })!;
    expect(up).toMatchObject({ kind: 'normal', origin: [1, 1, 10] });
    expect(up.direction[2]).toBeCloseTo(1, 9);
    expect(directionOfPick({ ...base, kind: 'edge', index: 8 })).toMatchObject({ kind: 'along' });
    expect(directionOfPick({ ...base, kind: 'vertex', index: 0 })).toBeNull();
    expect(normalAt({ ...base, kind: 'face', index: 5, point: [1, 1, 10] })!.direction[2]).toBeCloseTo(1, 6);
  });
});

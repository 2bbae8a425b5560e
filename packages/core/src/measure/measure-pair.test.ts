import fs from 'node:fs';
import path from 'node:path';
import fc from 'fast-check';
import type { Fact } from '../facts/describe-pick.ts';
import { rotate, rotationAbout } from '../math/quaternion.ts';
import { add, distance, dot, normalize, scale, toVec3, type Vec3, vecOf } from '../math/vec3.ts';
import { measurePair, PAIR_RULES } from './measure-pair.ts';
import type { MeasuredShape, Shape } from './measured-shape.ts';
import { measuringTable } from './measuring-table.ts';

const exact = { accuracy: { kind: 'exact' }, span: 20 } as const;
const X: Vec3 = [1, 0, 0];
const Y: Vec3 = [0, 1, 0];
const Z: Vec3 = [0, 0, 1];
const tilted = (angle: number): Vec3 => [Math.sin(angle), 0, Math.cos(angle)];

const point = (...at: number[]): MeasuredShape => ({ ...exact, kind: 'point', at: toVec3(at) });
const line = (origin: Vec3, axis: Vec3): MeasuredShape => ({
  ...exact,
  kind: 'line',
  origin,
  axis,
  ends: [add(origin, scale(axis, -10)), add(origin, scale(axis, 10))],
});
const circle = (origin: Vec3, axis: Vec3, radius = 5): MeasuredShape => ({
  ...exact,
  kind: 'circle',
  origin,
  axis,
  radius,
});
const plane = (origin: Vec3, axis: Vec3, bounds = true): MeasuredShape => ({
  ...exact,
  kind: 'plane',
  origin,
  axis,
  bounds,
});
const turned = (
  origin: Vec3,
  axis: Vec3,
  radius: number | null,
  hollow = true,
  from = 0,
  to = 20,
): MeasuredShape => ({
  ...exact,
  kind: 'turned',
  what: radius === null ? 'cone' : hollow ? 'hole' : 'cylinder',
  origin,
  axis,
  radius,
  hollow,
  from,
  to,
});
const sphere = (origin: Vec3, radius = 3): MeasuredShape => ({ ...exact, kind: 'sphere', origin, radius });
const O: Vec3 = [0, 0, 0];

/**
 * Two things for every case of the table, and their leading figure by hand: mm, or
 * degrees where it is an angle.
 */
const SAMPLES: Record<string, [MeasuredShape, MeasuredShape, number]> = {
  'point point any': [point(1, 2, 3), point(4, 6, 15), 13],
  'point line any': [point(3, 4, 50), line(O, Z), 5],
  'point circle any': [point(0, 3, 4), circle(O, Z), 5],
  'point plane any': [point(7, 8, -6), plane(O, Z), 6],
  'point turned any': [point(6, 8, 3), turned(O, Z, 4), 10],
  'point sphere any': [point(0, 0, 10), sphere(O), 10],
  'line line parallel': [line(O, Z), line([3, 4, 7], scale(Z, -1)), 5],
  'line line meeting': [line(O, Z), line([0, 0, 4], tilted(Math.PI / 6)), 30],
  'line line skew': [line(O, Z), line([0, 6, 0], X), 6],
  'line circle square': [line([3, 4, 0], Z), circle(O, Z), 5],
  'line circle any': [line([0, 7, 0], X), circle(O, Z), 7],
  'line plane parallel': [line([0, 0, 9], X), plane(O, Z), 9],
  'line plane any': [line(O, tilted(Math.PI / 3)), plane(O, Z), 30],
  'line turned parallel': [line([3, 4, 0], Z), turned(O, Z, 2), 5],
  'line turned meeting': [line(O, X), turned(O, Z, 2), 90],
  'line turned skew': [line([0, 8, 0], X), turned(O, Z, 2), 8],
  'line sphere any': [line([0, 5, 0], X), sphere(O), 5],
  'circle circle same': [circle(O, Z), circle([0, 0, 12], Z, 3), 12],
  'circle circle parallel': [circle(O, Z), circle([3, 4, 12], Z), 13],
  'circle circle any': [circle(O, Z), circle([3, 4, 12], X), 13],
  'circle plane parallel': [circle([0, 0, 5], Z), plane(O, Z), 5],
  'circle plane any': [circle([0, 0, 5], X), plane(O, Z), 5],
  'circle turned same': [circle([0, 0, 3], Z, 5), turned(O, Z, 3), 4],
  'circle turned parallel': [circle([3, 4, 3], Z), turned(O, Z, 3), 5],
  'circle turned any': [circle([0, 6, 0], X), turned(O, Z, 3), 6],
  'circle sphere any': [circle([0, 3, 4], Z), sphere(O), 5],
  'plane plane same': [plane(O, Z), plane([50, 3, 0], scale(Z, -1)), 0],
  'plane plane parallel': [plane(O, Z), plane([50, 3, 25], scale(Z, -1)), 25],
  'plane plane material': [plane([5, 0, 0], Z), plane([10, 0, -5], X), 90],
  'plane plane air': [plane([5, 0, 0], Z), plane([0, 0, 5], X), 90],
  'plane plane any': [plane(O, Z, false), plane(O, tilted(Math.PI / 4)), 45],
  'plane turned parallel': [plane(O, Z), turned([0, 0, 11], X, 4), 11],
  'plane turned square': [plane(O, Z), turned([5, 5, 8], Z, 4), 8],
  'plane turned any': [plane(O, Z), turned(O, tilted(Math.PI / 3), 4), 30],
  'plane sphere any': [plane(O, Z), sphere([0, 0, -9]), 9],
  'turned turned fit': [turned(O, Z, 10.02), turned([0, 0, 5], Z, 10, false), 0.04],
  'turned turned same': [turned(O, Z, 10), turned([0, 0, 30], Z, 7), 6],
  'turned turned axis': [turned(O, Z, null), turned([0, 0, 30], Z, 7), 0],
  'turned turned parallel': [turned(O, Z, 3.5), turned([22.5, 30, 4], Z, 3.5), 37.5],
  'turned turned inside': [turned(O, Z, 10), turned([0, 3, 4], Z, 4, false), 3],
  'turned turned meeting': [turned(O, Z, 3), turned([0, 0, 5], X, 3), 90],
  'turned turned skew': [turned(O, Z, 3), turned([0, 9, 5], X, 3), 9],
  'turned sphere any': [turned(O, Z, 5), sphere([3, 4, 50]), 5],
  'sphere sphere any': [sphere(O), sphere([0, 0, 10]), 10],
};

const labelOf = (f: Fact) => f.label;
const numberOf = (f: Fact): number =>
  f.value.kind === 'length' || f.value.kind === 'angle' ? f.value.value : NaN;

describe('the table of pairs', () => {
  const all = PAIR_RULES.flatMap((rule) =>
    Object.entries(rule.cases).map(([name, said]) => ({ rule, name, said })),
  );

  test.each(all.map(({ rule, name, said }) => [`${rule.of.join(' ')} ${name}`, said] as const))(
    '%s',
    (key, said) => {
      const [, last] = key.split(' ');
      if (last === 'free' || last === 'solid') {
        const [a, b] = key.split(' ').map((kind) => ({ ...exact, kind }) as unknown as MeasuredShape);
        return expect(measurePair(a, b)).toMatchObject({ lead: null, rows: [] });
      }
      expect(SAMPLES[key]).toBeDefined();
      const [a, b, value] = SAMPLES[key];
      const found = measurePair(a, b);
      expect(found.case).toBe(key.split(' ')[2]);
      if (said.leads === 'Least distance') return expect(found.lead).toBeNull();
      expect(found.lead!.label).toBe(said.leads);
      const figure = numberOf(found.lead!);
      expect(found.lead!.value.kind === 'angle' ? (figure * 180) / Math.PI : figure).toBeCloseTo(value, 9);
      const allowed = said.beneath.map((l) => l.replace(/ \(.*/, ''));
      for (const label of found.rows.map(labelOf)) expect(allowed).toContain(label);
      if (found.dimension?.kind === 'dimension' && found.lead!.value.kind === 'length')
        expect(distance(...found.dimension.ends)).toBeCloseTo(Math.abs(figure), 9);
      // An angle is drawn between two directions that enclose it, at a place of both.
      if (found.lead!.value.kind !== 'angle') return;
      expect(found.dimension).toMatchObject({ kind: 'angle', angle: figure });
      if (found.dimension?.kind === 'angle')
        expect(Math.acos(dot(...found.dimension.ways))).toBeCloseTo(figure, 6);
    },
  );

  test('there is a rule for every two kinds, and one only', () => {
    const pairs = PAIR_RULES.map((r) => r.of.join(' '));
    expect(new Set(pairs).size).toBe(pairs.length);
    expect(pairs).toHaveLength((8 * 9) / 2);
  });

  test('docs/MEASURING.md holds the table of the rules (npm run measuring-table writes it)', () => {
    const docs = fs.readFileSync(
      path.join(__dirname, '..', '..', '..', '..', 'docs', 'MEASURING.md'),
      'utf8',
    );
    const plain = (s: string) => s.replace(/ +/g, ' ').replace(/-+/g, '-');
    expect(plain(docs)).toContain(plain(measuringTable()));
  });
});

describe('round walls', () => {
  const row = (a: MeasuredShape, b: MeasuredShape, label: string) => {
    const found = measurePair(a, b).rows.find((r) => r.label === label);
    return found && numberOf(found);
  };

  test('one inside the other: least and greatest between them, R − r ∓ e, and nothing over both', () => {
    // A tube of 20 and 18 with its bore 1.5 off centre, and a shaft of 8 in a bore of 20, 4 off.
    for (const [large, small, off] of [
      [20, 18, 1.5],
      [20, 8, 4],
      [10, 9.9, 0.1],
    ])
      for (const [a, b] of [
        [turned(O, Z, large), turned([off, 0, 0], Z, small, false)],
        [turned([0, off, 0], Z, small), turned(O, scale(Z, -1), large, false)],
      ]) {
        expect(measurePair(a, b).case).toBe('inside');
        expect(row(a, b, 'Least between the walls')).toBeCloseTo(large - small - off, 9);
        expect(row(a, b, 'Greatest between the walls')).toBeCloseTo(large - small + off, 9);
        expect(row(a, b, 'Over both walls')).toBeUndefined();
      }
  });

  test('what cuts a wall is at no distance from it; no distance is below nil', () => {
    expect(row(turned(O, Z, 10), turned([12, 0, 0], Z, 5), 'Wall to wall')).toBe(0);
    expect(row(turned(O, Z, 10), turned([22, 0, 0], Z, 5), 'Wall to wall')).toBeCloseTo(7, 9);
    expect(row(plane([0, 0, 3], Z), turned(O, X, 4), 'Least to the wall')).toBe(0);
    expect(row(plane([0, 0, 9], Z), turned(O, X, 4), 'Least to the wall')).toBeCloseTo(5, 9);
    expect(row(plane([0, 0, 2], Z), sphere(O, 3), 'Least to the surface')).toBe(0);
    expect(row(line([0, 2, 0], X), sphere(O, 3), 'From the surface')).toBe(0);
    expect(row(sphere(O, 10), sphere([7, 0, 0], 8), 'Surface to surface')).toBe(0);
    expect(row(sphere(O, 10), sphere([3, 0, 0], 2), 'Surface to surface')).toBeCloseTo(5, 9);
    const place = fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -9, max: 9, noNaN: true })));
    const radius = fc.double({ min: 0.1, max: 9, noNaN: true });
    fc.assert(
      fc.property(place, radius, radius, fc.nat(5), (p, r, s, which) => {
        const at = toVec3(p);
        const pairs: [MeasuredShape, MeasuredShape][] = [
          [turned(O, Z, r), turned(at, Z, s)],
          [plane(O, Z), turned(at, X, r)],
          [plane(O, Z), sphere(at, r)],
          [line(O, Z), sphere(at, r)],
          [sphere(O, r), sphere(at, s)],
          [point(...at), plane(O, Z)],
        ];
        const { lead, rows } = measurePair(...pairs[which]);
        for (const f of [lead!, ...rows])
          if (f.value.kind === 'length') expect(f.value.value).toBeGreaterThanOrEqual(0);
      }),
    );
  });

  test('on which side of a plane something lies is said in words', () => {
    const said = (a: MeasuredShape, b: MeasuredShape) =>
      measurePair(a, b).rows.find((r) => r.label === 'It lies')?.value.value;
    expect(said(point(0, 0, 5), plane(O, Z))).toBe('in front of the face');
    expect(said(point(0, 0, -5), plane(O, Z))).toMatch(/^behind the face/);
    expect(said(sphere([0, 0, -5]), plane(O, Z))).toMatch(/^behind the face/);
    expect(said(point(0, 0, -5), plane(O, Z, false))).toBe('on the other side');
    expect(said(point(1, 2, 0), plane(O, Z))).toBeUndefined();
  });
});

describe('what is nearly so is said, and by how much', () => {
  test('parallel planes: exactly, all but, nearly, not', () => {
    const at = (angle: number) => measurePair(plane(O, Z), plane([0, 0, 25], tilted(angle)));
    expect(at(0).lead).toEqual({ label: 'Normal distance', value: { kind: 'length', value: 25 } });
    expect(at(4e-6).lead!.note).toBe('parallel, 0.00023° off');
    expect(at(2e-5).lead!.note).toBe('nearly parallel, 0.0011° off');
    expect(at(2e-5).rows.map(labelOf)).toContain('Angle');
    expect(at(1e-3).lead!.label).toMatch(/^Angle/);
  });

  test('the same axis: 0.05 µm off is, 0.5 µm nearly, 5 µm is not', () => {
    const at = (mm: number) => measurePair(turned(O, Z, 10), turned([mm, 0, 0], Z, 9.9, false));
    expect(at(5e-5)).toMatchObject({ case: 'fit' });
    expect(at(5e-5).rows.find((r) => r.label === 'Axis')!.value).toEqual({
      kind: 'text',
      value: 'same axis, 0.05 µm off',
    });
    expect(at(5e-4).rows.find((r) => r.label === 'Axis')!.value).toEqual({
      kind: 'text',
      value: 'nearly the same axis, 0.5 µm off',
    });
    expect(at(5e-3)).toMatchObject({
      case: 'inside',
      lead: { label: 'Axis to axis', value: { value: expect.closeTo(5e-3, 12) } },
    });
  });

  test('what was recognised in splines is judged by its own deviation as well', () => {
    const bore = (radius: number, x: number): MeasuredShape => ({
      ...turned([x, 0, 0], Z, radius),
      accuracy: { kind: 'recognised', deviation: 1e-3 },
    });
    const found = measurePair(bore(10, 0), bore(8, 1.5e-3));
    expect(found.case).toBe('same');
    expect(found.accuracy).toEqual({ kind: 'recognised', deviation: 1e-3 });
  });
});

test('a bore and a shaft say clearance or interference, and over what length they engage', () => {
  const rows = (shaft: number, from: number) => {
    const found = measurePair(turned(O, Z, 10), turned([0, 0, from], scale(Z, -1), shaft, false, -20, 0));
    return found.rows.map((r) => (r.value.kind === 'text' ? r.value.value : numberOf(r)));
  };
  expect(rows(9.99, 15)).toEqual(['clearance', 5, 'the same']);
  expect(rows(10.01, 0)).toEqual(['interference', 20, 'the same']);
});

const number = fc.integer({ min: -20_000, max: 20_000 }).map((n) => n / 1000);
const vec = fc.tuple(number, number, number);
const direction = vec.filter((v) => Math.hypot(...v) > 1).map((v) => normalize(v));
const shapes: fc.Arbitrary<MeasuredShape> = fc.oneof(
  vec.map((v) => point(...v)),
  fc.tuple(vec, direction).map(([o, d]) => line(o, d)),
  fc.tuple(vec, direction).map(([o, d]) => circle(o, d)),
  fc.tuple(vec, direction).map(([o, d]) => plane(o, d)),
  fc.tuple(vec, direction, fc.boolean()).map(([o, d, h]) => turned(o, d, 4, h)),
  vec.map((o) => sphere(o)),
);

function moved(shape: MeasuredShape, axis: Vec3, angle: number, by: Vec3): MeasuredShape {
  const turn = rotationAbout(axis, angle);
  const at = (p: Vec3) => add(rotate(turn, p), by);
  const s = shape as Partial<Shape<'line'>> & { at?: Vec3 };
  return {
    ...shape,
    ...(s.at && { at: at(s.at) }),
    ...(s.origin && { origin: at(s.origin) }),
    ...(s.axis && { axis: rotate(turn, s.axis) }),
    ...(s.ends && { ends: [at(s.ends[0]), at(s.ends[1])] }),
  } as MeasuredShape;
}

const figuresOf = (a: MeasuredShape, b: MeasuredShape) => {
  const { case: name, lead, rows } = measurePair(a, b);
  return {
    name,
    figures: [...(lead ? [lead] : []), ...rows].map(
      (f) => [f.label, Number.isNaN(numberOf(f)) ? f.value.kind : Math.abs(numberOf(f))] as const,
    ),
  };
};

test('figures are the same whichever was picked first, and wherever the model is', () => {
  fc.assert(
    fc.property(shapes, shapes, direction, number, vec, (a, b, axis, angle, by) => {
      const here = figuresOf(a, b);
      for (const other of [
        figuresOf(b, a),
        figuresOf(moved(a, axis, angle, by), moved(b, axis, angle, by)),
      ]) {
        expect(other.name).toBe(here.name);
        expect(other.figures).toEqual(
          here.figures.map(([label, x]) => [label, typeof x === 'number' ? expect.closeTo(x, 6) : x]),
        );
      }
    }),
    { numRuns: 500 },
  );
});

test('a distance of points, lines and spheres is never greater than that of any two points on them', () => {
  const on = (s: MeasuredShape, t: number): Vec3 =>
    s.kind === 'point' ? s.at : add((s as Shape<'line'>).origin, scale((s as Shape<'line'>).axis, 30 * t));
  const some = shapes.filter((s) => s.kind === 'point' || s.kind === 'line');
  fc.assert(
    fc.property(some, some, number, number, (a, b, s, t) => {
      const { lead } = measurePair(a, b);
      if (lead!.value.kind !== 'length') return;
      const [p, q] = [on(a, s / 20), on(b, t / 20)];
      const d = vecOf((k) => p[k] - q[k]);
      expect(numberOf(lead!)).toBeLessThanOrEqual(Math.sqrt(dot(d, d)) + 1e-9);
    }),
  );
  expect(Y).toEqual([0, 1, 0]);
});

test('a length from wall to wall or over both has its two places: as far apart as it says, each on its wall', () => {
  const bore = turned(O, Z, 5);
  const ends = (a: MeasuredShape, b: MeasuredShape, label: string) => {
    const row = measurePair(a, b).rows.find((r) => r.label === label);
    return row?.ends && { row, ends: row.ends };
  };
  for (const [a, b, label, x] of [
    [bore, turned([20, 0, 3], Z, 4, false), 'Wall to wall', [5, 16]],
    [bore, turned([20, 0, 3], Z, 4, false), 'Over both walls', [-5, 24]],
    [turned(O, Z, 10), turned([2, 0, 3], Z, 4, false), 'Least between the walls', [10, 6]],
    [turned(O, Z, 10), turned([2, 0, 3], Z, 4, false), 'Greatest between the walls', [-10, -2]],
    [plane([20, 0, 0], X), bore, 'Least to the wall', [5, 20]],
    [line([20, 0, 0], Z), bore, 'To the wall', [5, 20]],
    [point(20, 0, 0), bore, 'To the wall', [5, 20]],
    [point(1, 0, 0), bore, 'To the wall', [1, 5]],
    [line([20, 0, 0], Z), circle(O, Z), 'To the curve', [5, 20]],
    [plane([20, 0, 0], X), sphere(O), 'Least to the surface', [3, 20]],
    [sphere(O), sphere([20, 0, 0], 4), 'Surface to surface', [3, 16]],
    [sphere(O, 10), sphere([2, 0, 0], 4), 'Surface to surface', [10, 6]],
  ] as const) {
    for (const [p, q] of [
      [a, b],
      [b, a],
    ]) {
      const found = ends(p, q, label)!;
      expect([label, ...found.ends.map((end) => end[0]).sort((m, n) => m - n)]).toEqual([
        label,
        ...[...x].sort((m, n) => m - n).map((n) => expect.closeTo(n, 9)),
      ]);
      expect(distance(...found.ends)).toBeCloseTo(found.row.value.value as number, 9);
    }
  }
  // What cuts the wall is at no distance from it, and an angle is between no places.
  expect(ends(plane([3, 0, 0], X), bore, 'Least to the wall')).toBeUndefined();
  expect(ends(line(O, tilted(1)), circle(O, Z), 'Angle to its plane')).toBeUndefined();
});

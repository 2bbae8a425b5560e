import fs from 'node:fs';
import path from 'node:path';
import { describePick } from '@bathyscope/core/facts';
import type { PartGeometry } from '@bathyscope/core/geometry';
import { likelyFor, patternOf } from '@bathyscope/core/holes';
import { componentsOf, listOccurrences, summariseModel } from '@bathyscope/core/model';
import { convertStep, type ConvertedModel } from './reading/convert-step.ts';
import { ShapeSession } from './shapes/shape-session.ts';
import { testKernel } from './testing/test-kernel.ts';

/* The demo models as they are read back, against the figures that demo/*.ts built them with. */
const folder = path.join(path.dirname(__filename), '..', '..', '..', 'demo', 'models');

async function read(
  file: string,
  keepShape: (hash: string, shape: Uint8Array) => void = () => {},
): Promise<{ model: ConvertedModel; part: (name: string) => PartGeometry; index: (name: string) => number }> {
  const geometries = new Map<string, PartGeometry>();
  const model = convertStep(await testKernel(), fs.readFileSync(path.join(folder, file)), 'Demo', {
    onGeometry: (g) => {
      geometries.set(g.hash, g.geometry);
      keepShape(g.hash, g.shape!);
    },
  });
  const index = (name: string) => model.structure.parts.findIndex((p) => p.name === name);
  return { model, index, part: (name) => geometries.get(model.structure.parts[index(name)].geometry!)! };
}

describe('Ballast valve BV-40', () => {
  let valve: Awaited<ReturnType<typeof read>>;
  beforeAll(async () => {
    valve = await read('Ballast valve BV-40.step');
  });

  test('structure: 33 components of 15 parts in nested groups, bolts and washers shared', () => {
    const all = listOccurrences(valve.model.structure);
    const components = componentsOf(all);
    expect(components).toHaveLength(33);
    expect(valve.model.structure.parts).toHaveLength(15);
    expect(components.filter((c) => c.part === valve.index('Hex bolt ISO 4017 M8x30'))).toHaveLength(8);
    expect(Math.max(...all.map((o) => o.depth))).toBe(3);
    // The far bolts are turned round, not mirrored.
    expect(components.every((c) => !c.mirrored)).toBe(true);
  });

  test('colours, materials with density, and a part that has none', () => {
    const { parts } = valve.model.structure;
    expect(parts[valve.index('Handwheel')].material).toMatchObject({
      name: 'Aluminium EN AW-6082',
      density: 2700,
    });
    // Of units that are turned into kg/m³ no noise is left.
    for (const { material } of parts)
      if (material?.density) expect(Number.isInteger(material.density)).toBe(true);
    expect(parts[valve.index('Gasket')].material).toBeUndefined();
    const [r, g, b] = parts[valve.index('Spool')].colour!;
    expect([r, g, b].map((x) => Math.round(x * 255))).toEqual([176, 84, 48]);
    expect(Object.keys(parts[valve.index('Valve body')].faceColours ?? {}).length).toBeGreaterThanOrEqual(2);
  });

  test('fasteners have their standard sizes: ISO 4017 M8 (across flats 13, head 5.3), ISO 4032 M10 (16, 8.4), ISO 7089 8 (8.4 × 16 × 1.6)', () => {
    const size = (name: string) =>
      [0, 1, 2].map((k) => valve.part(name).box.max[k] - valve.part(name).box.min[k]);
    const bolt = size('Hex bolt ISO 4017 M8x30');
    expect(bolt[0]).toBeCloseTo(35.3, 6);
    expect(Math.min(bolt[1], bolt[2])).toBeCloseTo(13, 6);
    expect(size('Hex nut ISO 4032 M10')[0]).toBeCloseTo(8.4, 6);
    expect(size('Washer ISO 7089 8')).toEqual([
      expect.closeTo(1.6, 6),
      expect.closeTo(16, 6),
      expect.closeTo(16, 6),
    ]);
    expect(valve.part('Washer ISO 7089 8').holes[0].diameter).toBeCloseTo(8.4, 9);
  });

  test('the fault built in on purpose: the middle land of the spool is 0.1 mm larger in radius than its bore', () => {
    const lands = valve
      .part('Spool')
      .faces.filter((f) => f.surface === 'cylinder')
      .map((f) => f.radius!);
    const bores = valve.part('Valve body').holes.map((h) => h.diameter / 2);
    expect(Math.max(...lands)).toBeCloseTo(13.125, 9);
    expect(bores.some((r) => Math.abs(r - 13.025) < 1e-9)).toBe(true);
  });

  test('the mass of the whole is the sum of closed forms where they are easy: washers', () => {
    // π/4 (D² − d²) h, handbook formula of a ring.
    expect(valve.part('Washer ISO 7089 8').mass!.volume).toBeCloseTo(
      (Math.PI / 4) * (16 ** 2 - 8.4 ** 2) * 1.6,
      5,
    );
    const summary = summariseModel(valve.model.structure, (i) =>
      valve.part(valve.model.structure.parts[i].name),
    );
    expect(summary.counts).toMatchObject({ components: 33, parts: 15, solids: 33 });
  });
});

describe('Winch gearbox WG-16', () => {
  const session: ShapeSession[] = [];
  let gearbox: Awaited<ReturnType<typeof read>>;
  beforeAll(async () => {
    session.push(new ShapeSession(await testKernel(), Infinity));
    gearbox = await read('Winch gearbox WG-16.step', (hash, shape) => session[0].load(hash, shape));
  });
  const placed = (name: string) => {
    const { structure } = gearbox.model;
    const found = componentsOf(listOccurrences(structure)).find((c) => (c.instanceName ?? c.name) === name)!;
    return { hash: structure.parts[found.part].geometry!, placement: found.placement };
  };

  test('structure, standard sizes, and the two stages: 45 and 60 mm from axis to axis', () => {
    const { structure } = gearbox.model;
    expect(componentsOf(listOccurrences(structure))).toHaveLength(86);
    expect(structure.parts).toHaveLength(35);
    const size = (name: string) =>
      [0, 1, 2].map((k) => gearbox.part(name).box.max[k] - gearbox.part(name).box.min[k]);
    // ISO 4017 M6: across flats 10, head 4; ISO 4032 M6: 5.2; ISO 7089 6: 12 × 1.6; from memory.
    expect(size('Hex bolt ISO 4017 M6x30')[0]).toBeCloseTo(34, 6);
    expect(size('Hex nut ISO 4032 M6')[0]).toBeCloseTo(5.2, 6);
    expect(size('Washer ISO 7089 6')).toEqual([
      expect.closeTo(1.6, 6),
      expect.closeTo(12, 6),
      expect.closeTo(12, 6),
    ]);
    const [input, intermediate, output] = [
      'Input pinion shaft',
      'Intermediate pinion shaft',
      'Output shaft',
    ].map((n) => placed(n).placement);
    expect(intermediate[13] - input[13]).toBeCloseTo(45, 9);
    expect(output[13] - intermediate[13]).toBeCloseTo(60, 9);
    // Tip circles of gears to ISO 53: module × (teeth + 2).
    const tip = (name: string) =>
      2 * Math.max(...gearbox.part(name).faces.flatMap((f) => (f.surface === 'cylinder' ? [f.radius!] : [])));
    expect(tip('Wheel 1, 44 teeth')).toBeCloseTo(1.5 * 46, 9);
    expect(tip('Wheel 2, 45 teeth')).toBeCloseTo(2 * 47, 9);
    expect(tip('Input pinion shaft')).toBeCloseTo(1.5 * 18, 9);
  });

  test('the cap’s six screws are a bolt circle of Ø66; the housing’s are clearance holes for M6', () => {
    const { holes } = gearbox.part('Bearing cap');
    const screw = holes.findIndex((h) => Math.abs(h.diameter - 5.5) < 1e-6);
    expect(patternOf(holes, screw)).toMatchObject({
      kind: 'circle',
      pitchDiameter: expect.closeTo(66, 6),
      spacing: expect.closeTo(Math.PI / 3, 9),
    });
    expect(
      gearbox
        .part('Housing, drum side')
        .holes.filter((h) => likelyFor(h)[0]?.use === 'clearance hole for M6'),
    ).toHaveLength(10);
  });

  test('what overlaps is meant so, in closed form: a pressed bush and a thread in its tapping hole; gears mesh without touching', () => {
    const interference = (a: string, b: string) => session[0].interference(placed(a), placed(b), 'exact');
    const bush = interference('Housing, motor side', 'Sight bush').clash!;
    expect(bush.volume).toBeCloseTo(Math.PI * (10.015 ** 2 - 10 ** 2) * 14, 4);
    expect(bush.depth).toBeCloseTo(0.015, 5);
    const breather = interference('Housing, drum side', 'Breather').clash!;
    expect(breather.volume).toBeCloseTo(Math.PI * (6 ** 2 - 5.1 ** 2) * 10, 3);
    expect(breather.depth).toBeCloseTo(0.9, 5);
    const teeth = interference('Input pinion shaft', 'Wheel 1');
    expect(teeth.relation).toBe('gap');
    // Both teeth are thinner by 0.06 mm on the pitch circle.
    expect(teeth.distance).toBeGreaterThan(0.01);
    expect(teeth.distance).toBeLessThan(0.12);
  });
});

describe('Lamp housing LH-20', () => {
  let lamp: PartGeometry;
  beforeAll(async () => {
    lamp = (await read('Lamp housing LH-20.step')).part('Lamp housing LH-20');
  });
  const holes = (diameter: number) => lamp.holes.filter((h) => Math.abs(h.diameter - diameter) < 1e-6);

  test('every hole of the drawing is found once, with its ends and depth', () => {
    expect(holes(6.6)).toHaveLength(6);
    for (const { ends, steps } of holes(6.6)) {
      expect(ends).toBe('through');
      expect(steps).toMatchObject([
        { kind: 'counterbore', side: 'near', diameter: expect.closeTo(11, 9), depth: expect.closeTo(6.4, 6) },
      ]);
    }
    expect(holes(4.2)).toHaveLength(3);
    expect(holes(64)).toHaveLength(1);
    // The cross-drilled port: Ø12 into the bore, Ø18 counterbored, its floor left conical by the drill.
    expect(holes(12)).toMatchObject([
      {
        ends: 'through',
        steps: [
          {
            kind: 'cone',
            diameter: expect.closeTo(18, 9),
            depth: expect.closeTo(1, 9),
            angle: expect.closeTo(2 * Math.atan(3), 6),
          },
          { kind: 'counterbore', diameter: expect.closeTo(18, 9), depth: expect.closeTo(3, 9) },
        ],
      },
    ]);
    expect(holes(12)[0].opensInto.map((f) => 2 * lamp.faces[f].radius!)).toEqual([expect.closeTo(64, 9)]);
    expect(Math.abs(holes(12)[0].axis[0])).toBeCloseTo(1, 9);
  });

  test('a picked hole says diameter, depth and axis, in model space', () => {
    const [bore] = holes(64);
    const facts = describePick('face', bore.faces[0], {
      geometry: lamp,
      placement: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 100, 0, 0, 1],
    });
    expect(facts.title).toMatch(/^Hole/);
    expect(facts.main).toMatchObject({
      value: { kind: 'length', value: expect.closeTo(64, 9), prefix: 'Ø' },
    });
    expect(facts.accuracy).toEqual({ kind: 'exact' });
    const start = facts.rows.find((r) => r.label === 'Starts at')!.value as { value: readonly number[] };
    expect(start.value[0]).toBeCloseTo(100, 6);
  });

  test('smooth edges are told from sharp ones: the O-ring groove and its fillets', () => {
    const fillets = lamp.faces.filter((f) => f.surface === 'torus');
    expect(fillets.length).toBeGreaterThan(3);
    for (const face of fillets)
      expect(face.edges.some((e) => lamp.edges[e].smooth || lamp.edges[e].seam)).toBe(true);
    expect(lamp.mass).not.toBeNull();
    expect(lamp.bodies).toEqual([expect.objectContaining({ closed: true })]);
  });
});

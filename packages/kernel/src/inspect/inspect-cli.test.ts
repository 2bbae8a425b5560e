import { execFileSync, spawnSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import type { Inspection } from './inspect.ts';
import { publicFile } from '../testing/public-file.ts';

/* bin/inspect as a user calls it; bin/test has built the packages. */
const inspect = path.join(path.dirname(__filename), '..', '..', '..', '..', 'bin', 'inspect');

test('--json prints one object with figures in mm, and exits with 0', () => {
  const found = JSON.parse(
    execFileSync(inspect, [publicFile('cube-in.step'), '--json'], {
      encoding: 'utf8',
      stdio: ['ignore', 'pipe', 'ignore'],
    }),
  ) as Record<string, unknown>;
  expect(Object.keys(found)).toEqual(
    expect.arrayContaining([
      'format',
      'lengthUnit',
      'counts',
      'box',
      'volume',
      'volumeErrorEstimate',
      'area',
      'centreOfGravity',
      'inertia',
      'structure',
      'warnings',
    ]),
  );
  // An inch file: the unit is the file's, the figures are millimetres.
  expect(found['lengthUnit']).toMatch(/^in/);
  expect(found['counts']).toMatchObject({ components: 1, parts: 1, solids: 1, faces: 6, edges: 12 });
  const side = Math.cbrt(found['volume'] as number);
  expect(found['area']).toBeCloseTo(6 * side * side, 6);
});

const inspected = (...args: string[]) =>
  JSON.parse(
    execFileSync(inspect, [...args, '--json'], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] }),
  ) as Inspection;

test('--section adds the cut, of all and component by component; a plane may lie along an axis or anywhere', () => {
  const file = publicFile('as1_pe_203.stp');
  const { section, box } = inspected(file, '--section', 'z=10');
  expect(section).toMatchObject({ origin: [0, 0, 10], normal: [0, 0, 1], accuracy: 'exact' });
  expect(section!.components.length).toBeGreaterThan(1);
  expect(section!.components.reduce((sum, c) => sum + c.area, 0)).toBeCloseTo(section!.area, 6);
  section!.centroid!.forEach((x, k) => {
    expect(x).toBeGreaterThan(box!.min[k]);
    expect(x).toBeLessThan(box!.max[k]);
  });
  const same = inspected(file, '--section=5,-3,10,0,0,-2').section!;
  expect(same.normal).toEqual([0, 0, -1]);
  expect(same.area).toBeCloseTo(section!.area, 6);
  expect(inspected(file, '--section', 'z=1e6').section).toMatchObject({
    area: 0,
    centroid: null,
    components: [],
  });
});

test('--holes adds each hole of each part once, with how often the part occurs', () => {
  const { holes } = inspected(publicFile('as1-oc-214.stp'), '--holes');
  // Its nuts: M10, 3 mm thick, 8 of them (reference-cases: as1-oc-214).
  const [nut] = holes!.filter((h) => h.part === 'nut');
  expect(nut).toMatchObject({
    kind: 'through',
    diameter: expect.closeTo(10, 6),
    depth: expect.closeTo(3, 5),
    count: 8,
    steps: [],
  });
  expect(Math.hypot(...nut.axis)).toBeCloseTo(1, 9);
});

test('--measure tells the figures of one thing or of two, the leading one first', () => {
  const file = publicFile('as1-oc-214.stp');
  const [first, second] = inspected(file, '--holes').holes!.filter((h) => h.part === 'plate');
  const thing = (h: typeof first) => `${h.component}#face:${h.reference.index}`;
  const one = inspected(file, '--measure', thing(first)).figures!;
  expect(one[0]).toMatchObject({
    name: 'Diameter',
    value: expect.closeTo(first.diameter, 9),
    unit: 'mm',
    accuracy: 'recognised',
    leading: true,
  });
  const two = inspected(file, '--measure', thing(first), thing(second)).figures!;
  const apart = Math.hypot(...[0, 1, 2].map((k) => first.position[k] - second.position[k]));
  expect(two[0]).toMatchObject({ name: 'Axis to axis', value: expect.closeTo(apart, 6), leading: true });
  expect(two.filter((f) => f.leading)).toHaveLength(1);
  const least = two.find((f) => f.name === 'Least distance')!.value as number;
  // Of the halves that are named, no nearer than the whole walls.
  expect(least).toBeGreaterThan(apart - first.diameter - 1e-4);
  const { status, stdout } = spawnSync(
    inspect,
    [file, '--json', '--measure', `${first.component}#face:99999`],
    { encoding: 'utf8' },
  );
  expect([status, (JSON.parse(stdout) as { error: string }).error]).toEqual([
    1,
    expect.stringMatching(/has \d+ faces, counted from 0; there is no number 99999/),
  ]);
});

test('without --json it prints for people', () => {
  const text = execFileSync(inspect, [publicFile('as1-tu-203.stp')], {
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'ignore'],
  });
  expect(text).toMatch(/nut/);
  expect(text).toMatch(/18/);
});

test.each([
  ['a missing file', 'nowhere.step', null, /there is no such file/],
  ['an empty file', 'empty.step', '', /is empty/],
  ['text', 'letter.step', 'Dear colleague', /not a STEP file/],
])('%s: exit 1 and a sentence', (_, name, content, sentence) => {
  const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'inspect-'));
  const file = path.join(folder, name);
  if (content !== null) fs.writeFileSync(file, content);
  const { status, stdout } = spawnSync(inspect, [file, '--json'], { encoding: 'utf8' });
  expect(status).toBe(1);
  expect((JSON.parse(stdout) as { error: string }).error).toMatch(sentence);
  fs.rmSync(folder, { recursive: true });
});

test.each([
  [['--section', 'q=5'], /“q=5” is no plane/],
  [['--section', '0,0,1,0,0,0'], /is no plane/],
  [['--section'], /is no plane/],
  [['--hole'], /--hole is not understood/],
  [['--measure', 'nowhere'], /no component “nowhere”/],
  [['--measure', '.#side:1'], /names nothing to measure/],
])('%p: exit 1 and a sentence', (wrong, sentence) => {
  const { status, stdout } = spawnSync(inspect, [publicFile('cube-in.step'), '--json', ...wrong], {
    encoding: 'utf8',
  });
  expect(status).toBe(1);
  expect((JSON.parse(stdout) as { error: string }).error).toMatch(sentence);
});

test('--mass weighs by the file and by a table of materials; what is not known is counted and named', () => {
  const table = path.join(fs.mkdtempSync(path.join(os.tmpdir(), 'materials-')), 'materials.csv');
  fs.writeFileSync(table, '\ufeffPart;Material;Mass\nnut;1.4404;\nplate;;1.2 kg\n');
  const file = publicFile('as1-oc-214.stp');
  const { mass, box } = inspected(file, '--mass', table);
  const of = (name: string) => mass!.parts.find((p) => p.name === name)!;
  expect(of('plate')).toMatchObject({ count: 1, total: 1.2, material: null });
  expect(of('nut')).toMatchObject({ count: 8, density: 8000 });
  expect(of('bolt')).toMatchObject({ total: null, problem: 'no material' });
  expect(mass!.known!.mass).toBeCloseTo(1.2 + of('nut').total!, 12);
  expect(mass!.noDensity).toBe(9);
  expect(mass!.figures).toEqual(
    expect.arrayContaining([
      { name: 'Known mass', value: mass!.known!.mass, unit: 'kg' },
      { name: 'Components without a material', value: 9, unit: '' },
    ]),
  );
  mass!.known!.centreOfGravity.forEach((x, k) => expect(x > box!.min[k] && x < box!.max[k]).toBe(true));
  expect(inspected(file, '--mass').mass).toMatchObject({ known: null, noDensity: 18, noVolume: 0 });
  fs.writeFileSync(table, 'Name,Weight\nnut,3\n');
  const refused = spawnSync(inspect, [file, '--mass', table], { encoding: 'utf8' });
  expect([refused.status, refused.stderr]).toEqual([1, expect.stringContaining('has no column “Part”')]);
});

import { execFileSync, spawnSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { publicFile } from './testing/public-file.ts';

/* bin/inspect as a user calls it; bin/test has built the packages. */
const inspect = path.join(path.dirname(__filename), '..', '..', '..', 'bin', 'inspect');

test('--json prints one object with figures in mm, and exits with 0', () => {
  const found = JSON.parse(
    execFileSync(inspect, [publicFile('cube-in.step'), '--json'], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] }),
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

test('without --json it prints for people', () => {
  const text = execFileSync(inspect, [publicFile('as1-tu-203.stp')], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] });
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

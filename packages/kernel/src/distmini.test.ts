import { execFileSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { IDENTITY } from '@bathyscope/core/math';
import { convertStep, type ConvertedGeometry } from './reading/convert-step.ts';
import { publicFile } from './testing/public-file.ts';
import { testKernel } from './testing/test-kernel.ts';
import { ShapeSession } from './shapes/shape-session.ts';

/*
 * Least distances of random faces of public files, run independently by the native test harness of Debian's
 * kernel (its command `distmini`): another build, of another version, with its own
 * reading, numbering and placing.
 */
const HARNESS = '/usr/bin/occt-draw-7.6';
const LIBRARIES = `/usr/lib/${process.arch === 'arm64' ? 'aarch64' : 'x86_64'}-linux-gnu`;

/** A small linear congruential generator (Numerical Recipes, 7.1): the same pairs each time. */
function* randoms(seed: number): Generator<number> {
  for (let x = seed; ;) yield (x = (1664525 * x + 1013904223) % 2 ** 32) / 2 ** 32;
}

/** The harness opens its libraries without the number that Debian gives them. */
function harness(folder: string, script: string): string {
  for (const file of fs.readdirSync(LIBRARIES).filter((f) => /^libTK\w+\.so\.7$/.test(f)))
    fs.symlinkSync(path.join(LIBRARIES, file), path.join(folder, file.replace(/\.7$/, '')));
  fs.writeFileSync(path.join(folder, 'run.tcl'), script);
  return execFileSync(HARNESS, ['-b', '-f', path.join(folder, 'run.tcl')], {
    env: { ...process.env, LD_LIBRARY_PATH: folder },
    encoding: 'utf8',
    timeout: 100_000,
  });
}

const PAIRS = 40;

test('least distances of random faces are those of the native kernel', async () => {
  const kernel = await testKernel();
  const parts: ConvertedGeometry[] = [];
  for (const file of ['as1-oc-214.stp', 'rounded-cube.step'])
    convertStep(kernel, fs.readFileSync(publicFile(file)), 'Test', { onGeometry: (g) => parts.push(g) });
  const session = new ShapeSession(kernel);
  const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'distances-'));
  try {
    for (const [i, { hash, shape }] of parts.entries()) {
      session.load(hash, shape!);
      fs.writeFileSync(path.join(folder, `p${i}.brep`), shape!);
    }
    const next = randoms(7);
    const real = (): number => next.next().value as number;
    const whole = (n: number): number => Math.floor(real() * n);
    const pairs = Array.from({ length: PAIRS }, () => {
      const [a, b] = [whole(parts.length), whole(parts.length)];
      const by = [0, 1, 2].map(() => Math.round((real() - 0.5) * 400));
      return { a, b, f: whole(parts[a].geometry.faces.length), g: whole(parts[b].geometry.faces.length), by };
    });
    const output = harness(
      folder,
      [
        'pload MODELING',
        ...parts.map((_, i) => `restore ${path.join(folder, `p${i}.brep`)} p${i}\nexplode p${i} f`),
        ...pairs.map(
          ({ a, b, f, g, by }, i) =>
            `tcopy p${b}_${g + 1} moved\nttranslate moved ${by.join(' ')}\ndistmini d p${a}_${f + 1} moved\nputs "PAIR ${i} [dval d_val]"`,
        ),
        'exit',
      ].join('\n'),
    );
    const told = new Map(
      [...output.matchAll(/^PAIR (\d+) (\S+)/gm)].map(([, i, value]) => [Number(i), Number(value)]),
    );
    expect(told.size).toBe(PAIRS);
    for (const [i, { a, b, f, g, by }] of pairs.entries()) {
      const placed = (part: number, index: number, [x, y, z]: number[]) =>
        ({
          hash: parts[part].hash,
          kind: 'face',
          index,
          placement: [...IDENTITY.slice(0, 12), x, y, z, 1],
        }) as const;
      const { distance } = session.leastDistance(placed(a, f, [0, 0, 0]), placed(b, g, by));
      expect({ i, distance }).toEqual({ i, distance: expect.closeTo(told.get(i)!, 5) });
    }
  } finally {
    fs.rmSync(folder, { recursive: true });
  }
});

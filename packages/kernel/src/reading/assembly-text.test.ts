import fs from 'node:fs';
import path from 'node:path';
import { componentsOf, listOccurrences, type ModelStructure } from '@bathyscope/core/model';
import { MOST_LEVELS, readAssemblyText } from './assembly-text.ts';
import { convertStep } from './convert-step.ts';
import { readStep } from './read-step.ts';
import { stringOf, withoutLongComments } from './step-statements.ts';
import { assemblyText, broad, deep, type MadeNode } from '../testing/made-assemblies.ts';
import { madeSolids } from '../testing/made-solids.ts';
import { publicFile } from '../testing/public-file.ts';
import { readStepText } from './step-text.ts';
import { testKernel } from '../testing/test-kernel.ts';

const demo = (name: string): string =>
  path.join(path.dirname(__filename), '..', '..', '..', '..', 'demo', 'models', name);

const made = async (root: MadeNode): Promise<Uint8Array> => {
  const solids = madeSolids((await testKernel()).oc);
  return Buffer.from(assemblyText(solids.stepText(solids.box([0, 0, 0], [10, 10, 10])), root));
};

/*
 * The kernel's own reading of the structure is the second way that ours is checked by: names, places and what
 * is shared, of every public assembly.
 */
test.each([
  ...[
    'as1-oc-214.stp',
    'as1-tu-203.stp',
    'as1_pe_203.stp',
    'dm1-oc-214.stp',
    'dm1-pe-214.stp',
    'dm1-id-214.stp',
    'cube-in.step',
    'cube-m.step',
  ].map(publicFile),
  demo('Ballast valve BV-40.step'),
])('%s: the structure of the text is the one that the kernel reads', async (file) => {
  const kernel = await testKernel();
  const bytes = fs.readFileSync(file);
  expect(readAssemblyText(bytes, readStepText(bytes).uses, 0)).not.toBeNull();
  const rows = (manyUses: number) => {
    const model = readStep(kernel, bytes, 'Test', () => {}, manyUses);
    model.dispose();
    return { rows: rowsOf(model.structure), warnings: model.warnings };
  };
  const [ours, kernels] = [rows(0), rows(Infinity)];
  expect(ours.rows.map(({ placement: _, ...row }) => row)).toEqual(
    kernels.rows.map(({ placement: _, ...row }) => row),
  );
  ours.rows.forEach(({ placement }, i) =>
    placement.forEach((x, k) =>
      expect(Math.abs(x - kernels.rows[i].placement[k])).toBeLessThan(1e-9 * Math.max(1, Math.abs(x))),
    ),
  );
  // What is left out is counted by use there, and by product here.
  const texts = ({ warnings }: typeof ours) => warnings.map((w) => w.replace(/\d+/g, 'n'));
  expect(texts(ours)).toEqual(texts(kernels));
});

/** What both ways make of a text. */
async function bothWays(text: string): Promise<unknown[][]> {
  const kernel = await testKernel();
  return [0, Infinity].map((manyUses) => {
    const model = readStep(kernel, Buffer.from(text, 'latin1'), 'Test', () => {}, manyUses);
    model.dispose();
    return rowsOf(model.structure).map(({ placement, ...row }) => ({
      ...row,
      at: placement.slice(12, 15).map((x) => Math.round(x * 1e6) / 1e6),
    }));
  });
}

test('where two frames of a placement seem to be named the wrong way round the kernel’s rules hold', async () => {
  const text = fs.readFileSync(publicFile('as1-oc-214.stp'), 'latin1');
  const swapped = text.replace(
    /(ITEM_DEFINED_TRANSFORMATION\('[^']*','[^']*',)\s*(#\d+)\s*,\s*(#\d+)/g,
    '$1$3,$2',
  );
  expect(swapped).not.toBe(text);
  const [ours, kernels] = await bothWays(swapped);
  expect(ours).toEqual(kernels);
});

describe('what cannot be told apart with each product alone is left to the kernel', () => {
  const other = (box: string, text: string, more: string) => {
    const id = (type: string) => new RegExp(`(#\\d+)\\s*=\\s*${type}\\s*\\(`).exec(box)![1];
    const shape = /SHAPE_DEFINITION_REPRESENTATION\s*\(\s*#\d+\s*,\s*(#\d+)/.exec(box)![1];
    const made = `#900001=PRODUCT('Other','Other','',(${id('PRODUCT_CONTEXT')}));#900002=PRODUCT_DEFINITION_FORMATION('','',#900001);
      #900003=PRODUCT_DEFINITION('design','',#900002,${id('PRODUCT_DEFINITION_CONTEXT')});
      #900004=PRODUCT_DEFINITION_SHAPE('','',#900003);#900005=SHAPE_DEFINITION_REPRESENTATION(#900004,${shape});${more}`;
    // The last use is of the other product.
    const at = text.lastIndexOf(`,${id('PRODUCT_DEFINITION')},$)`);
    const used = `${text.slice(0, at)},#900003,$)${text.slice(at + `,${id('PRODUCT_DEFINITION')},$)`.length)}`;
    return used.replace('ENDSEC;\nEND-ISO', `${made}\nENDSEC;\nEND-ISO`);
  };
  test.each([
    ['two products with one shape', ''],
    ['two definitions of one product', "#900006=PRODUCT_DEFINITION('other','',#900002,$);"],
  ])('%s', async (_what, more) => {
    const solids = madeSolids((await testKernel()).oc);
    const box = solids.stepText(solids.box([0, 0, 0], [10, 10, 10]));
    const [ours, kernels] = await bothWays(other(box, assemblyText(box, broad(5)), more));
    expect(ours).toEqual(kernels);
    expect(ours).toHaveLength(6);
  });
});

const rowsOf = (structure: ModelStructure) =>
  listOccurrences(structure).map(({ path: at, name, instanceName, placement, part, colour }) => ({
    path: at,
    name,
    instanceName,
    placement,
    part: part === undefined ? null : structure.parts[part].name,
    colour,
  }));

/*
 * The kernel alone takes 0.9, 1.8, 6.7 and 44 s for 500, 1,000, 2,000 and 4,000, and
 * overflows at 2,000 levels.
 */
test.each<[string, (n: number) => MadeNode]>([
  ['children of one node', broad],
  ['levels', deep],
])('eight times the %s take eight times as long, not sixty-four', async (_what, of) => {
  const kernel = await testKernel();
  const time = async (n: number): Promise<number> => {
    const bytes = await made(of(n));
    const began = performance.now();
    convertStep(kernel, bytes, 'Test', { onGeometry: () => {} });
    return performance.now() - began;
  };
  await time(600);
  expect(await time(8000)).toBeLessThan(24 * (await time(1000)));
});

test('all of many children are there, each in its place, by its own name', async () => {
  const { structure, warnings } = convertStep(await testKernel(), await made(broad(5000)), 'Test', {
    onGeometry: () => {},
  });
  const components = componentsOf(listOccurrences(structure));
  expect(components).toHaveLength(5000);
  expect(structure.parts).toHaveLength(1);
  expect(components[4321]).toMatchObject({ instanceName: 'Pin 4321' });
  expect(components[4321].placement.slice(12, 15)).toEqual([420, 860, 0]);
  expect(warnings).toEqual([]);
});

test('what lies deeper than anybody opens is hung higher, in its place, and that is said', async () => {
  const { structure, warnings } = convertStep(await testKernel(), await made(deep(3000)), 'Test', {
    onGeometry: () => {},
  });
  const all = listOccurrences(structure);
  const [only] = componentsOf(all);
  expect(only.placement[12]).toBe(3000);
  expect(only.depth).toBeLessThan(MOST_LEVELS + 1);
  expect(warnings).toEqual([expect.stringContaining('3,001 levels deep')]);
});

describe('a structure that cannot be', () => {
  const convert = async (bytes: Uint8Array) =>
    convertStep(await testKernel(), bytes, 'Test', { onGeometry: () => {} });

  test('a product that holds itself, near or far', async () => {
    const text = Buffer.from(await made(deep(3))).toString();
    const uses = [...text.matchAll(/NEXT_ASSEMBLY_USAGE_OCCURRENCE\('0','[^']*','',(#\d+),(#\d+),\$\)/g)];
    const [, innermost] = uses[0];
    const closed = text.replace(
      'ENDSEC;\nEND-ISO',
      `#900000=NEXT_ASSEMBLY_USAGE_OCCURRENCE('1','x','',${innermost},${uses.at(-1)![1]},$);\nENDSEC;\nEND-ISO`,
    );
    await expect(convert(Buffer.from(closed))).rejects.toThrow(/a product in it holds itself/);
  });

  test('a kilobyte that asks for a thousand million components', () => {
    const held = Array.from({ length: 30 }, (_, i) => [`#${i}`, `#${i + 1}`] as const).flatMap((pair) => [
      pair,
      pair,
    ]);
    expect(() => readAssemblyText(Buffer.alloc(0), held)).toThrow(/more than 1,000,000 components/);
  });
});

test('comments of any length are no concern of the kernel, and a string with such marks stays', async () => {
  const text = Buffer.from(await made(broad(2))).toString();
  const commented = text
    .replace('DATA;', `DATA;/* ${'a comment\n'.repeat(120_000)}*/`)
    .replace("'Pin 1'", "'Pin /* 1 */'");
  const { structure } = convertStep(await testKernel(), Buffer.from(commented), 'Test', {
    onGeometry: () => {},
  });
  expect(componentsOf(listOccurrences(structure)).map((c) => c.instanceName)).toEqual([
    'Pin 0',
    'Pin /* 1 */',
  ]);
  const long = Buffer.from(`a/*x\n${'y'.repeat(1000)}*/b'/*'c`);
  expect(Buffer.from(withoutLongComments(long)).toString()).toBe(`a   \n${' '.repeat(1002)}b'/*'c`);
  for (const short of ['none', 'a /* b */ c', "'/*'"])
    expect(Buffer.from(withoutLongComments(Buffer.from(short))).toString()).toBe(short);
});

/* The examples of ISO 10303-21, clause 6.4.3, from memory. */
test.each([
  ["'CAT'", 'CAT'],
  ["'Don''t'", "Don't"],
  ["''''", "'"],
  ["''", ''],
  ["'\\S\\Drger'", 'Ärger'],
  ["'h\\S\\vtel'", 'hötel'],
  ["'\\X\\C4rger'", 'Ärger'],
  ["'\\X2\\03B103B2\\X0\\ and \\X4\\0001F6DF\\X0\\'", 'αβ and 🛟'],
  ["'a\\\\b'", 'a\\b'],
  [Buffer.from("'Gehäuse'").toString('latin1'), 'Gehäuse'],
  ["'Geh\u00e4use'", 'Gehäuse'],
  ['$', ''],
])('%s stands for “%s”', (raw, text) => {
  expect(stringOf(raw)).toBe(text);
});

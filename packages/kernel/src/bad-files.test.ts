import fs from 'node:fs';
import { convertStep } from './convert-step.ts';
import { readStepText, ModelFileError } from './step-text.ts';
import { publicFile, testKernel } from './testing/test-kernel.ts';

const step = (data: string): Buffer =>
  Buffer.from(`ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION((''),'2;1');\nFILE_NAME('','',(''),(''),'','','');\nFILE_SCHEMA(('AUTOMOTIVE_DESIGN'));\nENDSEC;\nDATA;\n${data}\nENDSEC;\nEND-ISO-10303-21;\n`);

const good = fs.readFileSync(publicFile('cube-mm.step'));

const CASES: [string, () => Buffer, RegExp][] = [
  ['an empty file', () => Buffer.alloc(0), /is empty/],
  ['plain text', () => Buffer.from('hello world, this is no model'), /not a STEP file/],
  ['binary rubbish', () => Buffer.from(Array.from({ length: 5000 }, (_, i) => (i * 7919) % 256)), /not a STEP file/],
  ['a file cut in half', () => good.subarray(0, good.length / 2), /breaks off at line \d+/],
  ['a file without geometry', () => step(''), /holds no faces or solids/],
  ['a file with a syntax error', () => step("#1=CARTESIAN_POINT('',(0.,0.,;"), /could not be read .*[Ll]ine \d/],
];

test.each(CASES)('%s is refused with a sentence, and the kernel stays usable', async (_name, bytes, sentence) => {
  const kernel = await testKernel();
  const convert = (data: Uint8Array) => convertStep(kernel, data, 'Test', { onGeometry: () => {} });
  expect(() => convert(bytes())).toThrow(ModelFileError);
  expect(() => convert(bytes())).toThrow(sentence);
  expect(convert(good).structure.parts).toHaveLength(1);
});

test('the unit is the one of the unit context, and is null when there is none', () => {
  expect(readStepText(good).lengthUnit).toBe('mm');
  expect(readStepText(fs.readFileSync(publicFile('cube-in.step'))).lengthUnit).toBe('in');
  expect(readStepText(fs.readFileSync(publicFile('cube-m.step'))).lengthUnit).toBe('m');
  expect(readStepText(step('')).lengthUnit).toBeNull();
});

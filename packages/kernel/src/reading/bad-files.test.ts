import fs from 'node:fs';
import { convertStep } from './convert-step.ts';
import { readStepText, ModelFileError } from './step-text.ts';
import { testKernel } from '../testing/test-kernel.ts';
import { modelName, readerOf } from './readers/index.ts';
import { publicFile } from '../testing/public-file.ts';

const step = (data: string): Buffer =>
  Buffer.from(
    `ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION((''),'2;1');\nFILE_NAME('','',(''),(''),'','','');\nFILE_SCHEMA(('AUTOMOTIVE_DESIGN'));\nENDSEC;\nDATA;\n${data}\nENDSEC;\nEND-ISO-10303-21;\n`,
  );

const good = fs.readFileSync(publicFile('cube-mm.step'));

const CASES: [string, () => Buffer, RegExp][] = [
  ['an empty file', () => Buffer.alloc(0), /is empty/],
  ['plain text', () => Buffer.from('hello world, this is no model'), /not a STEP file/],
  [
    'binary rubbish',
    () => Buffer.from(Array.from({ length: 5000 }, (_, i) => (i * 7919) % 256)),
    /not a STEP file/,
  ],
  ['a file cut in half', () => good.subarray(0, good.length / 2), /breaks off at line \d+/],
  ['a file without geometry', () => step(''), /holds no faces or solids/],
  ['a file with a syntax error', () => step("#1=CARTESIAN_POINT('',(0.,0.,;"), /line \d+ is not valid STEP/],
];

test.each(CASES)(
  '%s is refused with a sentence, and the kernel stays usable',
  async (_name, bytes, sentence) => {
    const kernel = await testKernel();
    const convert = (data: Uint8Array) => convertStep(kernel, data, 'Test', { onGeometry: () => {} });
    expect(() => convert(bytes())).toThrow(ModelFileError);
    expect(() => convert(bytes())).toThrow(sentence);
    expect(convert(good).structure.parts).toHaveLength(1);
  },
);

test('the unit is the one of the unit context, and is null when there is none', () => {
  expect(readStepText(good).lengthUnit).toBe('mm');
  expect(readStepText(fs.readFileSync(publicFile('cube-in.step'))).lengthUnit).toBe('in');
  expect(readStepText(fs.readFileSync(publicFile('cube-m.step'))).lengthUnit).toBe('m');
  expect(readStepText(step('')).lengthUnit).toBeNull();
});

test('how well a file knows its lengths is read with its unit, and believed within reason', () => {
  const stated = (value: string, unit = '( LENGTH_UNIT() NAMED_UNIT(*) SI_UNIT(.MILLI.,.METRE.) )') =>
    readStepText(
      step(
        `#1=${unit};\n#2=UNCERTAINTY_MEASURE_WITH_UNIT(LENGTH_MEASURE(${value}),#1,'distance_accuracy_value','confusion accuracy');`,
      ),
    ).uncertainty;
  expect(stated('1.E-05')).toBe(1e-5);
  expect(stated('1.E-06', "( CONVERSION_BASED_UNIT('INCH',#9) LENGTH_UNIT() NAMED_UNIT(#8) )")).toBeCloseTo(
    2.54e-5,
    12,
  );
  expect(stated('2.E-7', '( LENGTH_UNIT() NAMED_UNIT(*) SI_UNIT($,.METRE.) )')).toBeCloseTo(2e-4, 12);
  for (const odd of ['0.', '-1.', '1.E9', '1.E-30', 'x']) expect(stated(odd)).toBeNull();
  expect(readStepText(step('')).uncertainty).toBeNull();
});

/*
 * Each shape makes a text scan slow that looks again and again at what it has seen. Compared with one pass
 * over the same bytes, not with a clock.
 */
test.each<[string, string, string]>([
  ['unit contexts without end', '#1=(GLOBAL_UNIT_ASSIGNED_CONTEXT((', '#2,'],
  ['units that are never closed', '', '#1=(LENGTH_UNIT('],
  ['blanks before a bracket that never comes', '#1=(CONVERSION_BASED_UNIT', ' '],
  ['identifiers of units that are not there', '#1=(GLOBAL_UNIT_ASSIGNED_CONTEXT((#2)));', '#9=(LENGTH_UNIT'],
  ['a string that is never closed', "#1=DOCUMENT_FILE('", 'x'],
  ['strings that open and close', '#1=DOCUMENT_FILE(', "''"],
  ['a comment that is never closed', '/*', '* /'],
  ['comments', '', '/**/'],
  [
    'materials that all refer to one representation',
    `#1=REPRESENTATION('density',(${'#2,'.repeat(1200)}#2));#2=MEASURE_REPRESENTATION_ITEM('density',MEASURE(${'1'.repeat(3000)}`,
    ');#3=PROPERTY_DEFINITION_REPRESENTATION(#3,#1);#3=PROPERTY_DEFINITION(#1',
  ],
  ['numbers of entities', '', '#111111111111111111111111111'],
  ['nothing but semicolons', '', ';'],
])('5 MB of %s are read in linear time', (_, start, repeated) => {
  const time = (size: number): number => {
    const bytes = step(start + repeated.repeat(Math.ceil((size - start.length) / repeated.length)));
    // The best of three: the machine does other things meanwhile.
    return Math.min(
      ...[0, 1, 2].map(() => {
        const began = performance.now();
        readStepText(bytes);
        return performance.now() - began;
      }),
    );
  };
  time(1e5);
  // Linear is 10 times; the quadratic scans that stood here before took 100 times.
  expect(time(5e6)).toBeLessThan(40 * Math.max(time(5e5), 4));
});

test('what stands in strings and comments is no statement', () => {
  const units = '#1=(LENGTH_UNIT()NAMED_UNIT(*)SI_UNIT(.MILLI.,.METRE.));';
  expect(
    readStepText(
      step(
        `/* ${units.replace('MILLI', 'CENTI')} */\n#7=PRODUCT('#1=(LENGTH_UNIT()NAMED_UNIT(*)SI_UNIT($,.METRE.));','it''s; fine');\n${units}`,
      ),
    ).lengthUnit,
  ).toBe('mm');
});

test('a reader is found by the ending of a name, and what cannot be opened is told what can', () => {
  expect(['a.step', 'B.STP', 'c.d.p21'].map((name) => readerOf(name).format)).toEqual([
    'STEP',
    'STEP',
    'STEP',
  ]);
  expect(['Valve.step', 'B.STP', 'c.d.p21', '.stp'].map(modelName)).toEqual(['Valve', 'B', 'c.d', '.stp']);
  for (const name of ['picture.png', 'step', 'a.step.zip', '']) {
    expect(() => readerOf(name)).toThrow(ModelFileError);
    expect(() => readerOf(name)).toThrow(/not a STEP file.*\.step, \.stp and \.p21/);
  }
});

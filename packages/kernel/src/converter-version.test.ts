import fs from 'node:fs';
import path from 'node:path';
import { converterVersion, filesOf } from './converter-version.ts';

const kernel = path.dirname(__filename);
const entry = path.join(kernel, 'reading/readers/index.ts');

test('the version of the converter is that of what determines its result, and of nothing else', () => {
  const files = [...filesOf([entry]).keys()];
  const needed = [
    'kernel/src/describing/describe-faces.ts',
    'kernel/src/describing/mesh-shape.ts',
    'kernel/src/reading/read-structure.ts',
    'core/src/holes/recognise-holes.ts',
  ];
  expect(files).toEqual(expect.arrayContaining([...needed, 'core/src/tolerances.ts']));
  expect(
    files.filter((f) =>
      /inspect|questions\/|core\/src\/(camera|ledger|view-state|references|revisions)\//.test(f),
    ),
  ).toEqual([]);
  expect(converterVersion()).toMatch(/^[0-9a-f]{24}$/);
});

test('a comment changes nothing, a figure does', () => {
  const changed = (file: string, change: (text: string) => string) => {
    const read = (f: string) =>
      f.endsWith(file) ? change(fs.readFileSync(f, 'utf8')) : fs.readFileSync(f, 'utf8');
    return JSON.stringify([...filesOf([entry], read)]) !== JSON.stringify([...filesOf([entry])]);
  };
  expect(changed('describe-faces.ts', (text) => `/* another word */\n${text}\n// and one more\n`)).toBe(
    false,
  );
  expect(
    changed('tolerances.ts', (text) =>
      text.replace('MESH_CHORD_RELATIVE = 5e-4', 'MESH_CHORD_RELATIVE = 4e-4'),
    ),
  ).toBe(true);
  expect(changed('camera/fit-view.ts', (text) => `${text}\nexport const more = 1;\n`)).toBe(false);
});

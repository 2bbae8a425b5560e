import { indexedDB, IDBKeyRange } from 'fake-indexeddb';
import type { KeptRecord } from '@bathyscope/contracts';
import type { Unsent } from '../../state/record-store.ts';
import { browserOutbox } from './unsent.ts';

Object.assign(globalThis, { indexedDB, IDBKeyRange });

const waiting = (id: string, name: string): Unsent => ({
  base: null,
  mine: { id, document: { name } } as unknown as KeptRecord,
  yields: false,
});
const names = async () =>
  (await browserOutbox().all())
    .map(([model, { mine }]) => `${model} ${String(mine.document['name'])}`)
    .sort();

test('what waits outlives the page that noted it, and is forgotten once it is settled, whichever page noted it', async () => {
  const [one, two] = [browserOutbox(), browserOutbox()];
  await one.note('valve', [waiting('a', 'A'), waiting('b', 'B')], []);
  await two.note('valve', [waiting('a', 'A')], []);
  await two.note('lamp', [waiting('a', 'of the lamp')], []);
  expect(await names()).toEqual(['lamp of the lamp', 'valve A', 'valve A', 'valve B']);
  await two.note('valve', [], [waiting('a', 'A')]);
  expect(await names()).toEqual(['lamp of the lamp', 'valve B']);
});

test('what was changed again since it was settled still waits', async () => {
  const page = browserOutbox();
  await page.note('gearbox', [waiting('a', 'first')], []);
  await page.note('gearbox', [waiting('a', 'second')], []);
  await page.note('gearbox', [], [waiting('a', 'first')]);
  expect(await names()).toContain('gearbox second');
});

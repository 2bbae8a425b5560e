import fs from 'node:fs';
import { expect } from '@playwright/test';
import { card, countRows, openShelf, test, withFullShelf } from './app.ts';
import { publicFile } from '../packages/kernel/src/testing/public-file.ts';

const NO_GEOMETRY =
  "ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION((''),'2;1');\nFILE_NAME('','',(''),(''),'','','');\nFILE_SCHEMA(('AUTOMOTIVE_DESIGN'));\nENDSEC;\nDATA;\nENDSEC;\nEND-ISO-10303-21;\n";
const good = fs.readFileSync(publicFile('as1-tu-203.stp'));

test('the demo is on the shelf with pictures drawn from the models', async ({ page }) => {
  await openShelf(page);
  for (const name of ['Ballast valve BV-40', 'Lamp housing LH-20']) {
    const picture = card(page, name).locator('img');
    await expect(picture).toBeVisible({ timeout: 30_000 });
    await expect.poll(() => picture.evaluate((i: HTMLImageElement) => i.naturalWidth)).toBe(480);
  }
  await expect(card(page, 'Ballast valve BV-40')).toContainText('33 components of 15 parts');
});

test('an uploaded file shows its progress and becomes a model; the same bytes again open the one there is', async ({
  page,
}) => {
  await openShelf(page);
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Choose files' }).click();
  await (await chooser).setFiles({ name: 'Bracket set.stp', mimeType: '', buffer: good });
  await expect(page.getByRole('progressbar').first()).toBeVisible();
  await expect(page.getByRole('link', { name: 'Open Bracket set' })).toBeVisible({ timeout: 40_000 });
  await expect(card(page, 'Bracket set')).toContainText('18 components of 5 parts');

  const before = await countRows();
  await page
    .getByLabel('Model files')
    .setInputFiles({ name: 'Another name.stp', mimeType: '', buffer: good });
  await expect(page.getByText('is this very file')).toBeVisible();
  expect(await countRows()).toEqual(before);
});

test('a model is renamed in place, taken off the shelf, and brought back', async ({ page }) => {
  await openShelf(page);
  await card(page, 'Lamp housing LH-20')
    .getByRole('button', { name: 'Lamp housing LH-20', exact: true })
    .click();
  await page.getByLabel('Model name').fill('Lamp housing, checked');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('link', { name: 'Open Lamp housing, checked' })).toBeVisible();
  await card(page, 'Lamp housing, checked')
    .getByRole('button', { name: /Take .* off the shelf/ })
    .click();
  await expect(page.getByRole('link', { name: 'Open Lamp housing, checked' })).toBeHidden();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('link', { name: 'Open Lamp housing, checked' })).toBeVisible();
  await page.reload();
  await card(page, 'Lamp housing, checked')
    .getByRole('button', { name: 'Lamp housing, checked', exact: true })
    .click();
  await page.getByLabel('Model name').fill('Lamp housing LH-20');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('link', { name: 'Open Lamp housing LH-20' })).toBeVisible();
});

test('a shelf of hundreds holds only the cards that are seen, down to the last', async ({ page }) => {
  await openShelf(page);
  await withFullShelf(300, async () => {
    await page.reload();
    await expect(page.getByRole('link', { name: 'Open Sensor frame 1', exact: true })).toBeVisible();
    expect(await page.getByRole('listitem').count()).toBeLessThan(40);
    await page.mouse.move(600, 500);
    await expect(async () => {
      await page.mouse.wheel(0, 5000);
      await expect(page.getByRole('link', { name: 'Open Sensor frame 300', exact: true })).toBeVisible({
        timeout: 500,
      });
    }).toPass();
    expect(await page.getByRole('listitem').count()).toBeLessThan(40);
  });
});

test('the next page of the shelf comes also when the list was being renewed while the page changed', async ({
  page,
}) => {
  await openShelf(page);
  await withFullShelf(100, async () => {
    await page.reload();
    await expect(page.getByRole('link', { name: 'Open Sensor frame 1', exact: true })).toBeVisible();
    let release = () => {};
    const held = new Promise<void>((resolve) => (release = resolve));
    let asked = 0;
    await page.route(/\/api\/models(\?|$)/, async (route) => {
      asked++;
      await held;
      await route.continue();
    });
    // Coming back to the window renews the list.
    await expect(async () => {
      await page.evaluate(() => window.dispatchEvent(new Event('visibilitychange')));
      expect(asked).toBeGreaterThan(0);
    }).toPass();
    const files = await page.evaluateHandle(() => {
      const carried = new DataTransfer();
      carried.items.add(new File(['x'], 'Bracket.step'));
      return carried;
    });
    await page.getByRole('main').dispatchEvent('dragenter', { dataTransfer: files });
    await expect(page.getByText('Drop to put it on the shelf')).toBeVisible();
    await page.getByRole('main').dispatchEvent('dragleave', { dataTransfer: files });
    await expect(page.getByText('Drop to put it on the shelf')).toBeHidden();
    const renewed = page.waitForResponse(/\/api\/models(\?|$)/);
    release();
    await renewed;
    await page.mouse.move(600, 500);
    await expect(async () => {
      await page.mouse.wheel(0, 5000);
      await expect(page.getByRole('link', { name: 'Open Sensor frame 100', exact: true })).toBeVisible({
        timeout: 500,
      });
    }).toPass();
  });
});

test('nothing that a page needs is kept out by the rules for its scripts, also the description of the API', async ({
  page,
}) => {
  const refused: string[] = [];
  page.on('console', (m) => /content security policy/i.test(m.text()) && refused.push(m.text()));
  await openShelf(page);
  await page.goto('/api/docs');
  await expect(page.getByText('Upload STEP files')).toBeVisible();
  expect(refused).toEqual([]);
});

test.describe('bad input gets its sentence and leaves nothing behind', () => {
  const cases: [name: string, file: string, bytes: Buffer, sentence: RegExp][] = [
    ['an empty file', 'Empty.step', Buffer.alloc(0), /The file is empty/],
    [
      'text with a false name',
      'Letter.step',
      Buffer.from('Dear colleague, here is the drawing.'),
      /This is not a STEP file/,
    ],
    ['a file cut in half', 'Half.stp', good.subarray(0, good.length / 2), /breaks off at line 1,\d+/],
    ['a file with no geometry', 'Nothing.step', Buffer.from(NO_GEOMETRY), /holds no faces or solids/],
    ['another kind of file', 'Picture.png', Buffer.from([0x89, 0x50, 0x4e, 0x47]), /is not a STEP file/],
    [
      'a file over the limit',
      'Huge.step',
      Buffer.concat([Buffer.from('ISO-10303-21;\n'), Buffer.alloc(5 * 1024 * 1024, 0x20)]),
      /larger than 4 MB/,
    ],
  ];
  for (const [name, file, bytes, sentence] of cases)
    test(name, async ({ page }) => {
      await openShelf(page);
      const before = await countRows();
      await page.getByLabel('Model files').setInputFiles({ name: file, mimeType: '', buffer: bytes });
      const alert = page.getByRole('alert').filter({ hasText: file });
      await expect(alert).toContainText(sentence, { timeout: 120_000 });
      await expect.poll(countRows).toEqual(before);
      await alert.getByRole('button', { name: `Dismiss ${file}` }).click();
      await expect(alert).toBeHidden();
      await page.reload();
      await expect(page.getByRole('link', { name: 'Open Ballast valve BV-40' })).toBeVisible();
      await expect(alert).toBeHidden();
    });

  test('the API answers with a problem document', async ({ request }) => {
    const refused = await request.post('/api/models', {
      multipart: { file: { name: 'Half.stp', mimeType: 'model/step', buffer: good.subarray(0, 2000) } },
    });
    expect(refused.status()).toBe(422);
    expect(refused.headers()['content-type']).toContain('application/problem+json');
    expect(await refused.json()).toMatchObject({
      status: 422,
      title: 'The file was not taken',
      detail: expect.stringContaining('breaks off'),
    });
    const nothing = await request.post('/api/models', { data: { file: 'no' } });
    expect(nothing.status()).toBe(400);
    const unknown = await request.get('/api/models/00000000-0000-4000-8000-00000000dead');
    expect(unknown.status()).toBe(404);
    expect((await unknown.json()).detail).toMatch(/no such model/);
  });
});

test('a name with path characters is only a name', async ({ page, request }) => {
  await openShelf(page);
  const response = await request.post('/api/models', {
    multipart: {
      file: {
        name: '../../etc/..\\passwd.step',
        mimeType: 'model/step',
        buffer: Buffer.from(
          good.toString('latin1').replace('END-ISO-10303-21;', '/* copy */\nEND-ISO-10303-21;'),
          'latin1',
        ),
      },
    },
  });
  expect(response.status()).toBe(201);
  const { model, job } = await response.json();
  expect(model).toMatchObject({ name: 'passwd', fileName: 'passwd.step' });
  // Cancelled while it waits or runs: nothing of it stays.
  expect((await request.delete(`/api/jobs/${job.id}`)).status()).toBe(204);
  expect((await request.get(`/api/models/${model.id}`)).status()).toBe(404);
});

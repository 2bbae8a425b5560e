import fs from 'node:fs';
import path from 'node:path';
import { expect, type Page } from '@playwright/test';
import { command, openFile, openShelf, scene, showTask, test, tree } from './app.ts';

const VALVE = fs.readFileSync(path.join(import.meta.dirname, '../demo/models/Ballast valve BV-40.step'), 'latin1');
const copy = (n: number, text = VALVE) => text.replace('END-ISO-10303-21;', `/* revision ${n} */\nEND-ISO-10303-21;`);
const file = (name: string, text: string) => ({ name, mimeType: 'model/step', buffer: Buffer.from(text, 'latin1') });
const opened = async (page: Page) => {
  await expect(scene(page)).toBeVisible();
  await page.waitForFunction(() => (window.bathyscope?.view.frames ?? 0) > 0);
};
const keepSetOf = async (page: Page, row: string) => {
  await tree(page).getByRole('row', { name: row }).first().click();
  const kept = page.waitForResponse((r) => r.url().endsWith('/records') && r.request().method() === 'PATCH');
  await command(page, 'Keep the picked set');
  await kept;
};

test('a new revision is converted while the present one is open, and opened when one wants; what was kept is looked up on it; the older one keeps its address; removing has undo', async ({
  page,
}) => {
  await openFile(page, 'Revised valve', copy(1));
  const model = /models\/([^/]+)/.exec(page.url())![1];
  try {
    await showTask(page, 'Parts');
    await keepSetOf(page, 'Body');
    await keepSetOf(page, 'Gasket');
    await page.getByRole('button', { name: 'rev 1' }).click();
    await page
      .getByLabel('File of the new revision')
      .setInputFiles(file('Revised valve B.step', copy(2, VALVE.replaceAll("'Gasket'", "'Seal'"))));
    await expect(page.getByText('Revision 2 is ready.')).toBeVisible({ timeout: 120_000 });
    // Nothing was changed under whoever looks at the first.
    await expect(page.getByRole('button', { name: 'rev 1 of 2' })).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(tree(page).getByRole('row', { name: 'Gasket' }).first()).toBeVisible();
    await page.getByRole('button', { name: 'Open', exact: true }).last().click();
    await page.waitForURL(`**/models/${model}/revisions/2`);
    await opened(page);
    await expect(page.getByText(/Of 2 kept things 1 lost/)).toBeVisible();
    await page.getByRole('button', { name: 'rev 2' }).click();
    const kept = page.getByRole('region', { name: 'What was kept on other revisions' });
    await expect(kept).toContainText('1 found, 1 lost');
    await expect(kept.getByRole('listitem')).toHaveText([/Set 2.*lost/]);

    await page.getByText('Say a line about it').first().click();
    await page.getByLabel('What is to be said of revision 2').fill('A seal in place of the gasket');
    await page.keyboard.press('Enter');
    await expect(page.getByText('A seal in place of the gasket')).toBeVisible();
    await page.getByRole('link', { name: 'Open revision 1' }).click();
    await page.waitForURL(`**/models/${model}/revisions/1`);
    await opened(page);
    await expect(tree(page).getByRole('row', { name: 'Gasket' }).first()).toBeVisible();

    await page.getByRole('button', { name: 'rev 1 of 2' }).click();
    await page.getByRole('button', { name: 'Remove revision 2' }).click();
    await expect(page.getByRole('link', { name: 'Open revision 2' })).toBeHidden();
    await page.getByRole('button', { name: 'Undo', exact: true }).last().click();
    await page.getByRole('button', { name: /^rev 1/ }).click();
    await expect(page.getByRole('link', { name: 'Open revision 2' })).toBeVisible();

    // The same bytes again, on the card of the shelf.
    await openShelf(page);
    await page
      .getByLabel('File of the new revision of Revised valve')
      .setInputFiles(file('Again.step', copy(1).replace('HEADER;', 'HEADER; /* Revised valve */')));
    await expect(page.getByText(/byte for byte, revision 1 of this model/)).toBeVisible();

    // A changed file of the same name, dropped where models go: asked, and made the next revision.
    await page.getByLabel('Model files').setInputFiles(file('Revised valve.step', copy(3)));
    await expect(page.getByText(/“Revised valve” has the name of this file/)).toBeVisible();
    await page.getByRole('button', { name: 'Make it that' }).click();
    await expect(page.getByRole('link', { name: 'Open Revised valve', exact: true })).toHaveCount(1);
    await expect(page.getByText('rev 3 ·')).toBeVisible({ timeout: 120_000 });
  } finally {
    await page.request.delete(`/api/models/${model}`);
  }
});

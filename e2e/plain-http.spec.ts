import { expect, type Page } from '@playwright/test';
import { clickPoint, command, database, press, scene, settled, showTask, test } from './app.ts';

const openFromElsewhere = async (page: Page) => {
  await page.goto('http://bathyscope.test:4699/');
  await page.getByRole('link', { name: 'Open Lamp housing LH-20' }).click();
  await expect(scene(page)).toBeVisible({ timeout: 120_000 });
  await page.waitForFunction(() => (window.bathyscope?.view.frames ?? 0) > 0);
};

/*
 * Called by another name the page has no secure context: https://www.w3.org/TR/secure-contexts/
 * (“potentially trustworthy”).
 */
test('from another computer over plain http: things are kept, figures are copied, a picture says why it is not', async ({
  page,
}) => {
  await openFromElsewhere(page);
  const missing = await page.evaluate(() => [
    isSecureContext,
    'clipboard' in navigator,
    'randomUUID' in crypto,
  ]);
  expect(missing).toEqual([false, false, false]);

  await press(page, '0');
  await settled(page);
  // The wall of a hole in the flange: demo/lamp-housing.ts.
  await clickPoint(page, [-44.17 - 5.5 / Math.SQRT2, -25.5 + 5.5 / Math.SQRT2, 95]);
  await press(page, 'j');
  const ledger = page.getByRole('region', { name: 'Ledger' });
  await showTask(page, 'Measure');
  await expect(ledger.getByRole('listitem').first()).toContainText('Ø 6.600 mm');

  await page.getByRole('button', { name: 'Copy the figures' }).first().click();
  await expect(page.getByRole('button', { name: 'Copied' }).first()).toBeVisible();
  // What is on the clipboard: pasted into the field of commands, which takes text from anywhere.
  await scene(page).focus();
  await page.keyboard.press('Control+k');
  await page.keyboard.press('Control+v');
  await expect(page.getByRole('combobox', { name: /Find a command/ })).toHaveValue(/6\.600/);
  await page.keyboard.press('Escape');

  await command(page, 'Copy the picture');
  await expect(page.getByText(/Save the picture instead/)).toBeVisible();
});

test('from there each task keeps what is made in it, and it is stored', async ({ page }) => {
  await openFromElsewhere(page);
  await press(page, '0');
  await settled(page);
  await showTask(page, 'Parts');
  await clickPoint(page, [25.5, -44.2, 98]);
  await command(page, 'Keep the picked set');
  await expect(page.getByRole('list', { name: 'Kept picks' })).toBeVisible();
  await press(page, 'Escape');

  await showTask(page, 'Views');
  await page.getByRole('button', { name: 'Save this view' }).first().click();
  await expect(page.getByText(/Saved as “/)).toBeVisible();
  await page.getByRole('button', { name: 'Copy a link to this view' }).click();
  await expect(page.getByText('The link is on the clipboard')).toBeVisible();

  await showTask(page, 'Style');
  // A style that no preset is.
  await page.getByRole('group', { name: 'Hidden edges' }).getByRole('button', { name: 'Thin' }).click();
  await page.getByLabel('Name for this style').fill('As here');
  await page.getByRole('button', { name: 'Save the style' }).click();

  await showTask(page, 'Section');
  await page.getByRole('button', { name: 'Z', exact: true }).click();
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Keep this one' }).click();
  await expect(page.getByRole('region', { name: 'Kept sections' })).toContainText('Section 1');

  await showTask(page, 'Mass');
  await page
    .getByRole('combobox', { name: /^Material of Lamp housing/ })
    .selectOption({ label: 'Aluminium 6082' });
  await page
    .getByRole('region', { name: 'Compared' })
    .getByRole('button', { name: 'Keep this weight' })
    .click();
  await expect(page.getByRole('list', { name: 'Kept weights' })).toBeVisible();

  const stored = (query: string) =>
    database(async (client) => (await client.query<{ document: Record<string, unknown> }>(query)).rows);
  await expect
    .poll(async () => {
      const rows = await database(
        async (client) =>
          (await client.query<{ kind: string }>('select kind from record order by kind')).rows,
      );
      return rows
        .map(({ kind }) => kind)
        .filter((kind) => ['pick-set', 'saved-view', 'section', 'kept-weight'].includes(kind));
    })
    .toEqual(['kept-weight', 'pick-set', 'saved-view', 'section']);
  expect(await stored('select document from view_link')).toHaveLength(1);
  await expect
    .poll(async () => JSON.stringify(await stored('select document from user_setting')))
    .toContain('As here');
  await expect.poll(async () => (await stored('select document from view_state')).length).toBe(1);
});

import { expect } from '@playwright/test';
import { clickPoint, command, press, scene, settled, showTask, test } from './app.ts';

/* Called by another name the page has no secure context: https://www.w3.org/TR/secure-contexts/ (“potentially trustworthy”). */
test('from another computer over plain http: things are kept, figures are copied, a picture says why it is not', async ({ page }) => {
  await page.goto('http://bathyscope.test:4699/');
  await page.getByRole('link', { name: 'Open Lamp housing LH-20' }).click();
  await expect(scene(page)).toBeVisible({ timeout: 120_000 });
  await page.waitForFunction(() => (window.bathyscope?.view.frames ?? 0) > 0);
  const missing = await page.evaluate(() => [isSecureContext, 'clipboard' in navigator, 'randomUUID' in crypto]);
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

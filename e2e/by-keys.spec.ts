import fs from 'node:fs';
import { expect, type Locator, type Page } from '@playwright/test';
import { openModel, scene, settled, showTask, test, tree } from './app.ts';

/* The job of measuring without a mouse. Figures: demo/lamp-housing.ts and demo/ballast-valve.ts. */

const pointed = (page: Page) => page.getByTestId('pointed');
const figures = (page: Page) => page.getByRole('region', { name: 'Figures' });
const leading = (page: Page) => figures(page).getByTestId('main-figure');

/** Walks on until what is pointed at reads as wanted. */
async function walkTo(page: Page, wanted: RegExp, key = 'PageDown'): Promise<void> {
  for (let i = 0; i < 80; i++) {
    await page.keyboard.press(key);
    if (wanted.test((await pointed(page).textContent()) ?? '')) return;
  }
  throw new Error(
    `Nothing in view reads ${String(wanted)}; the last was ${await pointed(page).textContent()}.`,
  );
}

/** Types a command's name into the command field. */
async function run(page: Page, name: string): Promise<void> {
  await page.keyboard.press('Control+k');
  await page.keyboard.type(name);
  await expect(page.getByRole('option').first()).toContainText(name);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('listbox')).toBeHidden();
}

/** Goes on with Tab to something, as far as a page is long. */
async function tabTo(page: Page, wanted: Locator): Promise<void> {
  // What is open over the page hides it from roles, so it is looked for once.
  const element = await wanted.elementHandle();
  for (let i = 0; i < 150; i++) {
    if (await element!.evaluate((e) => e === document.activeElement)) return;
    await page.keyboard.press('Tab');
  }
  throw new Error('Tab does not come there.');
}

test('hole, pitch circle, hole to hole, hole to edge, angle, unit, tolerance and ledger by keys alone', async ({
  page,
}) => {
  await openModel(page, 'Lamp housing LH-20');
  await tabTo(page, scene(page));
  await page.keyboard.press('0');
  await page.keyboard.press('m');
  await settled(page);
  const HOLE = /^face of Lamp housing LH-20\. Here: Hole · through, Ø 6\.600 mm$/;
  await walkTo(page, HOLE);
  await page.keyboard.press('Enter');
  await expect(leading(page)).toHaveText('Ø 6.600');
  await expect(figures(page)).toContainText(/pitch circle\s*Ø 102\.000 mm/);
  await expect(figures(page)).toContainText(/Depth\s*14\.000 mm/i);
  // To the opposite one: the walk goes on, and the figure to what is picked is told before anything is taken.
  await walkTo(page, /To what is picked: axis to axis 102\.000 mm/);
  await page.keyboard.press('Shift+Enter');
  await expect(leading(page)).toHaveText('102.000');
  await page.keyboard.press('j');
  // A wrong pick is taken back by the same key.
  await page.keyboard.press('Shift+Enter');
  await expect(leading(page)).toHaveText('Ø 6.600');
  // An edge of the face that is pointed at.
  await walkTo(page, /^edge of/, 'Shift+PageDown');
  await page.keyboard.press('Shift+Enter');
  await expect(figures(page)).toContainText(/Least distance\s*[\d.]+ mm/, { timeout: 30_000 });
  await page.keyboard.press('Escape');

  // Two faces at an angle.
  await walkTo(page, /Here: Plane face/);
  await page.keyboard.press('Enter');
  await walkTo(page, /To what is picked: angle through the (material|air) 90\.000 °/);
  await page.keyboard.press('Shift+Enter');
  await expect(leading(page)).toHaveText('90.000');
  await page.keyboard.press('Escape');

  const ledger = page.getByRole('region', { name: 'Ledger' });
  await tabTo(page, page.getByRole('combobox', { name: 'Unit of length' }));
  await page.keyboard.type('in');
  await expect(ledger).toContainText('4.0157 in');
  await page.keyboard.press('Home');
  await expect(ledger).toContainText('102.000 mm');
  const row = ledger.getByRole('listitem').first();
  await tabTo(page, row.getByRole('button', { name: 'no nominal' }));
  await page.keyboard.press('Enter');
  await tabTo(page, row.getByLabel('Nominal'));
  await page.keyboard.type('102');
  await page.keyboard.press('Enter');
  await tabTo(page, row.getByRole('textbox', { name: 'Tolerance' }));
  await page.keyboard.type('±0.1');
  await page.keyboard.press('Enter');
  await expect(row.getByRole('img', { name: 'within its tolerance' })).toBeVisible();
  await tabTo(page, ledger.getByRole('button', { name: 'Save as CSV' }));
  const saved = page.waitForEvent('download');
  await page.keyboard.press('Enter');
  const text = fs.readFileSync(await (await saved).path(), 'utf8');
  expect(text).toContain('Axis to axis,102.000,mm,102.000,101.900,102.100,within,exact');
});

test('the gap of two parts and the clash by keys alone', async ({ page }) => {
  await openModel(page, 'Ballast valve BV-40');
  await showTask(page, 'Parts');
  await tabTo(page, tree(page).locator('[role=row][tabindex="0"]'));
  const pick = async (name: RegExp, key: string) => {
    await page.keyboard.press('Home');
    const row = page.locator('[role=row]:focus');
    for (let i = 0; i < 60 && !name.test((await row.textContent()) ?? ''); i++) {
      await page.keyboard.press('ArrowDown');
      await page.evaluate(
        () => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))),
      );
    }
    await page.keyboard.press(key);
  };
  await pick(/^Gasket/, 'Enter');
  await pick(/^Spool(?! group)/, 'Control+Enter');
  await run(page, 'Measure');
  await expect(figures(page)).toContainText('Gap');
  await expect(leading(page)).toHaveText('9.000', { timeout: 30_000 });
  await page.keyboard.press('Escape');
  await tabTo(page, page.getByRole('button', { name: 'Parts', exact: true }));
  await page.keyboard.press('Enter');
  await tabTo(page, tree(page).locator('[role=row][tabindex="0"]'));
  await pick(/^Spool(?! group)/, 'Enter');
  await run(page, 'Find clashes with neighbours');
  const clashes = page.getByRole('region', { name: 'Clashes' });
  await expect(clashes.getByRole('status')).toContainText(/^One clash/, { timeout: 90_000 });
  await expect(clashes.getByRole('list', { name: 'Clashes found' })).toContainText(/0\.100.mm deep/);
});

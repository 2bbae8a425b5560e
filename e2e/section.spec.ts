import { viewBack } from '@bathyscope/core';
import { expect, type Page } from '@playwright/test';
import { clickPoint, openModel, readout, settled, shareOfColour, test } from './app.ts';

const scene = (page: Page) => page.getByTestId('scene');
/** sRGB of demo/ballast-valve.ts. */
const WHEEL = [44, 92, 96] as const;

async function open(page: Page, name: string): Promise<void> {
  await openModel(page, name);
  if (!(await page.getByRole('heading', { name: 'Section' }).isVisible())) await page.getByRole('button', { name: 'Section', exact: true }).click();
  for (let n = await page.getByRole('button', { name: /^Delete Plane/ }).count(); n > 0; n--) await page.getByRole('button', { name: /^Delete Plane/ }).first().click();
  await scene(page).focus();
  for (const key of ['Escape', 'u', '0']) await page.keyboard.press(key);
  await settled(page);
}

test('a section of known area, typed to a thousandth; normal to it, flipped, undone', async ({ page }) => {
  await open(page, 'Lamp housing LH-20');
  await page.getByRole('button', { name: 'Z', exact: true }).click();
  // The box runs from z = 0 to 98, so the plane starts at 49; at z = 13 the floor is a disc of Ø77 with the gland's hole of Ø16.2 (demo/lamp-housing.ts).
  await page.getByLabel(/Offset of Plane 1 · along Z, mm/).fill('-36');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('cut-area')).toContainText(/\d/);
  const area = Number((await page.getByTestId('cut-area').innerText()).replace(/[^\d.]/g, '').replace(/\.(?=.*\.)/g, ''));
  const wanted = Math.PI * (38.5 ** 2 - 8.1 ** 2);
  // From the mesh: a circle in segments of 6° has sin(6°)/6° of its area, 1.8e-3 less.
  expect(Math.abs(area / wanted - 1)).toBeLessThan(2.5e-3);
  await expect(page.getByText(/From mesh: outlines within .*, areas within/)).toBeVisible();

  await page.getByRole('button', { name: 'Normal to Plane 1 · along Z' }).click();
  expect(Math.abs(viewBack(await settled(page))[2])).toBeCloseTo(1, 9);
  await page.getByRole('button', { name: 'Flip Plane 1 · along Z' }).click();
  await expect(page.getByRole('button', { name: /^Undo flip Plane 1/ })).toBeVisible();
  await scene(page).focus();
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
  await expect(page.getByText('Nothing is cut.')).toBeVisible();
});

test('what is cut away is neither drawn nor picked; the cut opens what lies behind; one key switches it', async ({ page }) => {
  await open(page, 'Ballast valve BV-40');
  const whole = await shareOfColour(page, WHEEL, 30);
  expect(whole).toBeGreaterThan(0.005);
  await page.getByRole('button', { name: 'X', exact: true }).click();
  // Everything on the wheel's side is gone: it stands at x = 80…104, the middle of the box is at x = 19.7.
  await page.mouse.move(5, 5);
  await expect.poll(() => shareOfColour(page, WHEEL, 30)).toBeLessThan(whole / 20);
  await expect(page.getByRole('region', { name: /^Cut of Plane 1/ })).toContainText('Spool');
  await expect(page.getByRole('region', { name: /^Cut of Plane 1/ })).not.toContainText('Handwheel');

  // Where the wheel's hub was, a click meets what is left behind the plane or nothing, never the wheel.
  await clickPoint(page, [88, 0, 9]);
  if (await readout(page).isVisible()) await expect(readout(page)).not.toContainText('Handwheel');
  await scene(page).focus();
  await page.keyboard.press('Escape');
  await page.keyboard.press('k');
  await page.mouse.move(5, 5);
  await expect.poll(() => shareOfColour(page, WHEEL, 30)).toBeGreaterThan(whole * 0.9);
  await page.keyboard.press('k');
  await expect.poll(() => shareOfColour(page, WHEEL, 30)).toBeLessThan(whole / 20);

  // Kept with the model's last state.
  const kept = page.waitForResponse((r) => r.url().endsWith('/view-state') && r.request().method() === 'PUT');
  await page.getByRole('button', { name: 'Y', exact: true }).click();
  await kept;
  await page.reload();
  await page.waitForFunction(() => (window.bathyscope?.view.frames ?? 0) > 0);
  await expect(page.getByRole('button', { name: /^Delete Plane/ })).toHaveCount(2);
  for (let i = 0; i < 2; i++) await page.getByRole('button', { name: /^Delete Plane/ }).first().click();
  await expect(page.getByText('Nothing is cut.')).toBeVisible();
  await page.waitForResponse((r) => r.url().endsWith('/view-state') && r.request().method() === 'PUT');
});

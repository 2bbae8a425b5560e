import { planePosition } from '@bathyscope/core/section';
import { expect } from '@playwright/test';
import { command, openValve, sectionOf, test } from './app.ts';

test('number fields take units and sums, say what they understood, and keep what is wrong with the reason', async ({
  page,
}) => {
  await openValve(page, 'Section');
  await page.getByRole('button', { name: 'X', exact: true }).click();
  const field = page.getByLabel('X of Plane 1 · along X, mm');
  const x = async () => planePosition((await sectionOf(page)).planes[0]).at;
  for (const [typed, understood, at] of [
    ['30/2', '= 15.000 mm', 15],
    ['1in', '= 25.400 mm', 25.4],
    ['1/2 in + 3', '= 15.700 mm', 15.7],
  ] as const) {
    await field.fill(typed);
    await expect(page.getByRole('status').filter({ hasText: understood })).toBeVisible();
    await page.keyboard.press('Enter');
    expect(await x()).toBeCloseTo(at, 12);
  }
  await field.fill('12 kg');
  await page.keyboard.press('Enter');
  const problem = page.getByRole('alert').filter({ hasText: '“kg” is no unit of length.' });
  await expect(problem).toBeVisible();
  await page.getByLabel('Step of the arrow keys, mm').focus();
  await expect(field).toHaveValue('12 kg');
  await expect(problem).toBeVisible();
  expect(await x()).toBeCloseTo(15.7, 12);
  await field.focus();
  await page.keyboard.press('Escape');
  await expect(field).toHaveValue('15.700');
  await expect(problem).toBeHidden();
  await page.getByLabel('Step of the arrow keys, mm').fill('0');
  await expect(page.getByRole('alert').filter({ hasText: 'A step is more than 0.' })).toBeVisible();
  await page.keyboard.press('Escape');
  // In inches the fields are in inches.
  await page.getByRole('combobox', { name: 'Unit of length' }).selectOption('in');
  await page.getByLabel('X of Plane 1 · along X, in').fill('2');
  await page.keyboard.press('Enter');
  expect(await x()).toBeCloseTo(50.8, 12);
  await command(page, 'Hide everything smaller than');
  const asked = page.getByRole('dialog');
  await asked.getByRole('textbox').fill('20 mm + 1/2');
  await expect(asked.getByRole('status')).toHaveText('= 1.287 in');
  await asked.getByRole('textbox').fill('-1');
  await expect(asked.getByRole('alert')).toHaveText('Type a number of 0 or more.');
});

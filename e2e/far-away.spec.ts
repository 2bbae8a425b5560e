import { expect } from '@playwright/test';
import { add, type Vec3 } from '@bathyscope/core/math';
import { compileKernel, loadKernel } from '../packages/kernel/src/occt/load.ts';
import { madeSolids } from '../packages/kernel/src/testing/made-solids.ts';
import {
  clickPoint,
  drawn,
  openFile,
  pixelsOf,
  press,
  readout,
  scene,
  settled,
  showTask,
  test,
} from './app.ts';

/** mm */
const FAR: Vec3 = [1e7, -1e7, 1e7];

test('a model 10 km from its origin is drawn, picked and cut as it is at its origin', async ({ page }) => {
  const { oc } = await loadKernel(await compileKernel());
  const made = madeSolids(oc);
  const flange = made.minus(
    made.plus(made.cylinder([0, 0, 0], 40, 12), made.cylinder([0, 0, 12], 20, 30)),
    made.cylinder([0, 0, -1], 12, 60),
    made.cylinder([30, 0, -1], 3.5, 20),
  );
  const pictures = [];
  for (const [name, at] of [
    ['Winch flange', [0, 0, 0]],
    ['Winch flange far away', FAR],
  ] as const) {
    await openFile(page, name, made.stepText(made.moved(flange, at as Vec3)));
    await showTask(page, 'Parts');
    await press(page, 'w', 'f');
    await settled(page);
    const place = (p: Vec3): Vec3 => add(p, at as Vec3);
    await clickPoint(page, place([30, 3.5, 12 - 1e-3]));
    await expect(readout(page)).toContainText('7.000');
    await press(page, 'Escape');
    await page.mouse.move(5, 5);
    await showTask(page, 'Section');
    await page.getByRole('button', { name: 'Y', exact: true }).click();
    await page.getByLabel('Y of Plane 1 · along Y, mm').fill(String(at[1]));
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Accept' }).click();
    // 80 × 12 and 40 × 30 less the bore, and the small hole on one side.
    await expect(page.getByTestId('cut-area')).toContainText('1068.00');
    await expect(page.getByText('exact', { exact: true }).first()).toBeVisible();
    await press(page, 'q', 'f');
    await page.mouse.move(5, 5);
    await settled(page);
    await drawn(page);
    pictures.push(await pixelsOf(page, await scene(page).screenshot()));
    await page.goto('/');
  }
  const [near, far] = pictures;
  let different = 0;
  for (let i = 0; i < near.data.length; i += 4)
    if ([0, 1, 2].some((k) => Math.abs(near.data[i + k] - far.data[i + k]) > 40)) different++;
  expect(different / (near.data.length / 4)).toBeLessThan(0.005);
});

import { expect } from '@playwright/test';
import { compileKernel, loadKernel } from '../packages/kernel/src/occt/load.ts';
import { madeSolids, type MadeSolids } from '../packages/kernel/src/testing/made-solids.ts';
import { clickPoint, command, openFile, press, readout, settled, shareOfColour, test } from './app.ts';

let made: MadeSolids;
test.beforeAll(async () => {
  made = madeSolids((await loadKernel(await compileKernel())).oc);
});

test('the wall where a face is clicked, and all over a part as colours with its thinnest place', async ({
  page,
}) => {
  // A block of 60 × 40 × 20 with a pocket that leaves a floor of 3 and sides of 5 and 8 mm.
  const tray = made.minus(made.box([0, 0, 0], [60, 40, 20]), made.box([5, 8, 3], [55, 32, 21]));
  await openFile(page, 'Battery tray', made.stepText(tray));
  await command(page, 'Wall thickness');
  const wall = page.getByRole('region', { name: 'Wall' });
  await expect(wall).toContainText('Click a face where the wall is to be measured.');
  await press(page, 'w', 'f');
  await settled(page);
  await clickPoint(page, [30, 20, 3]);
  await expect(wall.getByTestId('main-figure')).toHaveText('3.000');
  await expect(wall).toContainText(/Largest ball\s*Ø 3\.000 mm/);
  // Of the rim the wall runs down to the other side of the block.
  await clickPoint(page, [2.5, 20, 20]);
  await expect(wall.getByTestId('main-figure')).toHaveText('20.000');
  // Twice the way to the nearer side, of a click in the middle of 5 mm to half a pixel.
  const ball = Number(/Largest ball\s*Ø (\d\.\d+) mm/.exec((await wall.textContent())!)![1]);
  expect(ball).toBeGreaterThan(4.8);
  expect(ball).toBeLessThanOrEqual(5);

  await wall.getByRole('button', { name: 'Colour by thickness' }).click();
  await expect(wall).toContainText(/Thinnest 3\.000 mm, from the mesh/, { timeout: 30_000 });
  await press(page, 'Escape');
  await expect(page.getByTestId('place')).toBeVisible();
  // The thin floor is red; taken off, nothing is.
  const RED = [179, 38, 31] as const;
  await settled(page);
  expect(await shareOfColour(page, RED, 12)).toBeGreaterThan(0.02);
  await wall.getByRole('button', { name: 'Take the colours off' }).click();
  await settled(page);
  expect(await shareOfColour(page, RED, 12)).toBeLessThan(0.001);
  await expect(readout(page)).toBeHidden();
});

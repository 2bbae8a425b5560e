import { viewBack, type ViewCamera } from '@bathyscope/core/camera';
import { dot } from '@bathyscope/core/math';
import { expect, type CDPSession, type Page } from '@playwright/test';
import { camera, onScreen, openModel, scene, settled, test } from './app.ts';

const turned = (a: ViewCamera, b: ViewCamera) => Math.acos(Math.min(1, dot(viewBack(a), viewBack(b))));

async function open(page: Page): Promise<ViewCamera> {
  await openModel(page, 'Lamp housing LH-20');
  await scene(page).focus();
  return settled(page);
}

test('a drag goes on beyond the window; a pivot far off the model is offered back', async ({ page }) => {
  const home = await open(page);
  const from = await onScreen(page, [0, 0, 50]);
  await page.mouse.move(from.x, from.y);
  await page.mouse.down({ button: 'right' });
  await page.mouse.move(from.x - 400, from.y, { steps: 4 });
  await page.mouse.move(-300, from.y, { steps: 6 });
  await page.mouse.up({ button: 'right' });
  const gone = (((from.x + 300) * Math.PI) / 500) % (2 * Math.PI);
  const around = await settled(page);
  // Sideways on the turntable: the eye went round the up axis by half a turn for 500 px,
  // to where the hand stopped.
  const azimuth = (c: ViewCamera) => Math.atan2(viewBack(c)[1], viewBack(c)[0]);
  const off = azimuth(around) - azimuth(home) - gone;
  expect(Math.abs(Math.sin(off / 2))).toBeLessThan(0.02);

  await page.evaluate(() => window.bathyscope!.cameraStore.getState().setPivot([5000, 0, 0]));
  const middle = await onScreen(page, [0, 0, 50]);
  await page.mouse.move(middle.x, middle.y);
  await page.mouse.down({ button: 'right' });
  await page.mouse.move(middle.x + 12, middle.y, { steps: 3 });
  await page.mouse.up({ button: 'right' });
  await expect(page.getByText(/pivot is far off the model/)).toBeVisible();
  await page.getByRole('button', { name: 'Bring the pivot back' }).click();
  expect(
    Math.hypot(...(await page.evaluate(() => window.bathyscope!.cameraStore.getState().pivot))),
  ).toBeLessThan(200);
  await page.keyboard.press('0');
});

const touch = (
  session: CDPSession,
  type: 'touchStart' | 'touchMove' | 'touchEnd',
  points: [number, number][],
) =>
  session.send('Input.dispatchTouchEvent', { type, touchPoints: points.map(([x, y], id) => ({ x, y, id })) });

test('the command field: Enter takes the first of what is typed now; left by Esc it is empty for the next search', async ({
  page,
}) => {
  await open(page);
  const field = page.getByRole('combobox', { name: /Find a command/ });
  const found = page
    .getByRole('listbox')
    .getByRole('option')
    .filter({ has: page.locator('svg') });
  for (let i = 0; i < 2; i++) {
    await page.keyboard.press('Control+k');
    await page.keyboard.type('line of sight');
    await expect(found.first()).toHaveText('Line of sight');
    await expect(found.first()).toHaveAttribute('data-focus', '');
    await page.keyboard.press('Escape');
    await expect(field).toHaveValue('');
    await expect(found).toHaveCount(0);
  }
  // Keys go to the model again.
  await scene(page).focus();
  await page.keyboard.press('Control+k');
  await page.keyboard.type('fit all');
  await page.keyboard.press('Enter');
  await expect(field).toHaveValue('');
  await expect(scene(page)).toBeFocused();
});

test('touch: one finger orbits, two pan and zoom, a double tap fits', async ({ page }) => {
  const home = await open(page);
  const session = await page.context().newCDPSession(page);
  const { x, y } = await onScreen(page, [0, 0, 50]);
  await touch(session, 'touchStart', [[x, y]]);
  for (let i = 1; i <= 6; i++) await touch(session, 'touchMove', [[x + 15 * i, y]]);
  await touch(session, 'touchEnd', []);
  const orbited = await settled(page);
  expect(turned(home, orbited)).toBeGreaterThan(0.3);
  expect(orbited.height).toBe(home.height);

  await touch(session, 'touchStart', [
    [x - 40, y],
    [x + 40, y],
  ]);
  for (let i = 1; i <= 6; i++)
    await touch(session, 'touchMove', [
      [x - 40 - 12 * i, y],
      [x + 40 + 12 * i, y],
    ]);
  await touch(session, 'touchEnd', []);
  const pinched = await settled(page);
  expect(pinched.height).toBeLessThan(orbited.height * 0.6);

  // Taps that reach a busy page too far apart are single ones.
  await expect(async () => {
    for (let i = 0; i < 2; i++) {
      await touch(session, 'touchStart', [[x, y]]);
      await touch(session, 'touchEnd', []);
    }
    expect((await settled(page)).height).toBeGreaterThan(pinched.height * 1.3);
  }).toPass();
});

test('each zoom gesture has its own direction; the lock keeps an orbit to its first direction', async ({
  page,
}) => {
  const home = await open(page);
  await page.getByRole('button', { name: 'Settings' }).click();
  await page
    .getByLabel('Zoom direction of wheel', { exact: true })
    .selectOption({ label: 'Towards the hand = nearer' });
  await page.keyboard.press('Escape');
  const { x, y } = await onScreen(page, [0, 0, 50]);
  await page.mouse.move(x, y);
  await page.mouse.wheel(0, 200);
  await expect.poll(async () => (await camera(page)).camera.height).toBeLessThan(home.height * 0.9);

  await scene(page).focus();
  await page.keyboard.press('0');
  const before = await settled(page);
  await page.keyboard.down('l');
  await page.mouse.move(x, y);
  await page.mouse.down({ button: 'right' });
  await page.mouse.move(x + 60, y + 4, { steps: 5 });
  await page.mouse.move(x + 90, y + 80, { steps: 5 });
  await page.mouse.up({ button: 'right' });
  await page.keyboard.up('l');
  const locked = await settled(page);
  expect(viewBack(locked)[2]).toBeCloseTo(viewBack(before)[2], 6);
  expect(turned(before, locked)).toBeGreaterThan(0.2);
});

import { viewBack, viewRight, viewUp, type ViewCamera } from '@bathyscope/core/camera';
import { distance, scale, type Vec3 } from '@bathyscope/core/math';
import { expect } from '@playwright/test';
import { camera, drag, onScreen, openValve, passFrames, scene, settled, test } from './app.ts';

const near = (a: Vec3, b: Vec3) => expect(distance(a, b)).toBeLessThan(1e-6);

test('a view is stored by holding a key, renamed, recalled after a reload, overwritten, deleted and brought back', async ({
  page,
}) => {
  await openValve(page, 'Views');
  await scene(page).focus();
  await page.keyboard.press('d');
  await drag(page, 'right', await onScreen(page, [20, 0, 0]), 40, 30);
  const stored = await settled(page);
  await page.keyboard.down('3');
  await expect(page.getByText('Saved as “View 1”, key 3.')).toBeVisible();
  await page.keyboard.up('3');
  const list = page.getByRole('region', { name: 'Saved views of the model' });
  await expect(list.getByRole('button', { name: 'Show View 1' }).locator('img')).toBeVisible();
  await list.getByRole('button', { name: 'View 1', exact: true }).click();
  await page.getByLabel('Name of the view').fill('Seat side');
  await page.keyboard.press('Enter');
  await expect(list.getByRole('button', { name: 'Show Seat side' })).toBeVisible();

  // Hidden components come and go with the view.
  await scene(page).focus();
  await page.keyboard.press('0');
  await page.getByRole('button', { name: 'Save this view' }).first().click();
  await expect(page.getByText(/Saved as “View 2”/)).toBeVisible();
  await page.reload();
  await page.waitForFunction(() => (window.bathyscope?.view.frames ?? 0) > 0);
  await scene(page).focus();
  await page.keyboard.press('w');
  await settled(page);
  await page.keyboard.press('3');
  const recalled = await settled(page);
  recalled.orientation.forEach((x, k) => expect(x).toBeCloseTo(stored.orientation[k], 9));
  expect(recalled.height).toBeCloseTo(stored.height, 6);

  // Reordered by drag: the second before the first.
  const handles = list.getByRole('button', { name: /^Move/ });
  const [first, second] = [(await handles.nth(0).boundingBox())!, (await handles.nth(1).boundingBox())!];
  const ordered = page.waitForResponse(
    (r) => r.request().method() === 'PATCH' && r.url().endsWith('/records'),
  );
  await drag(page, 'left', { x: second.x + 6, y: second.y + 6 }, 0, first.y - second.y - 8);
  await ordered;
  await expect(list.getByRole('listitem').first()).toContainText('View 2');

  // Without the camera in its recall the view leaves the eye where it is.
  await list.getByRole('button', { name: 'More about Seat side' }).click();
  const kept = page.waitForResponse((r) => r.request().method() === 'PATCH');
  await page.getByRole('menuitem', { name: 'Do not recall the camera' }).click();
  await kept;
  await page.keyboard.press('Escape');
  await scene(page).focus();
  await page.keyboard.press('w');
  const top = await settled(page);
  await page.keyboard.press('3');
  expect((await settled(page)).orientation).toEqual(top.orientation);

  await list.getByRole('button', { name: 'More about Seat side' }).click();
  await page.getByRole('menuitem', { name: 'Delete' }).click();
  await expect(list.getByRole('button', { name: 'Show Seat side' })).toBeHidden();
  await page.getByRole('button', { name: 'Undo', exact: true }).last().click();
  await expect(list.getByRole('button', { name: 'Show Seat side' })).toBeVisible();
});

test('a link opens exactly this view for somebody else', async ({ page, browser }) => {
  await openValve(page, 'Views');
  await page.getByRole('button', { name: 'Parts', exact: true }).click();
  await page.getByRole('button', { name: 'Hide Spool group' }).click();
  await scene(page).focus();
  for (const key of ['o', 'q']) await page.keyboard.press(key);
  const shown = await settled(page);
  await page.getByRole('button', { name: 'Copy a link to this view' }).click();
  await expect(page.getByText('The link is on the clipboard')).toBeVisible();
  const address = await page.evaluate(() => navigator.clipboard.readText());
  await scene(page).focus();
  for (const key of ['o', 'u', '0']) await page.keyboard.press(key);
  await settled(page);

  const other = await browser.newContext({ viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce' });
  const guest = await other.newPage();
  await guest.goto(address);
  await guest.waitForFunction(() => (window.bathyscope?.view.frames ?? 0) > 0);
  const seen = await settled(guest);
  expect(seen.projection).toBe('perspective');
  seen.orientation.forEach((x, k) => expect(x).toBeCloseTo(shown.orientation[k], 9));
  await expect(guest.getByRole('button', { name: 'Show Spool group' })).toBeVisible();
  await guest.getByTestId('scene').focus();
  const kept = guest.waitForResponse(
    (r) => r.url().endsWith('/view-state') && r.request().method() === 'PUT',
  );
  for (const key of ['o', 'u', '0']) await guest.keyboard.press(key);
  await kept;
  await other.close();
});

test('four panes: linked ones show the main one from its own top and side, and take it along; each is captioned and picks', async ({
  page,
}) => {
  await openValve(page, 'Views');
  await page.getByRole('button', { name: 'Four', exact: true }).click();
  const panes = async (): Promise<ViewCamera[]> => {
    await settled(page);
    return page.evaluate(() => window.bathyscope!.cameraStore.getState().panes.map((p) => p.camera));
  };
  let [main, top, side] = await panes();
  near(viewBack(top), viewUp(main));
  near(viewUp(top), scale(viewBack(main), -1));
  near(viewBack(side), viewRight(main));
  near(viewUp(side), viewUp(main));

  // The main pane is the lower left one in third angle; the keys go where the cursor is.
  const box = (await scene(page).boundingBox())!;
  await page.mouse.move(box.x + 60, box.y + box.height * 0.75);
  await scene(page).focus();
  await page.keyboard.press('s');
  [main, top, side] = await panes();
  near(viewBack(main), [0, -1, 0]);
  near(viewBack(top), [0, 0, 1]);
  near(viewBack(side), [1, 0, 0]);
  await expect(page.getByTestId('pane-1').getByTestId('caption')).toHaveText(
    'Top · linked: top of the main pane',
  );
  await expect(page.getByTestId('pane-0').getByTestId('caption')).toHaveText('Front · own');

  // Orbiting the top view by hand turns the main one with it.
  await drag(page, 'right', { x: box.x + box.width * 0.25, y: box.y + box.height * 0.25 }, 50, 0);
  [main, top] = await panes();
  expect(distance(viewBack(main), [0, -1, 0])).toBeGreaterThan(0.1);
  near(viewBack(top), viewUp(main));

  // A pick in one pane shows in all.
  await page.mouse.click(box.x + box.width * 0.75, box.y + box.height * 0.25);
  await expect(page.getByText(/^Picked: 1/)).toBeVisible();
  await page.keyboard.press('Escape');

  await page.getByRole('button', { name: 'First angle' }).click();
  [main, , side] = await panes();
  near(viewBack(side), scale(viewRight(main), -1));
  await page.getByLabel('Direction of pane 4').selectOption('right');
  expect((await panes())[3].orientation).not.toEqual(main.orientation);
  near(viewBack((await panes())[3]), [1, 0, 0]);
  await expect(page.getByTestId('pane-3').getByTestId('caption')).toHaveText('Right · fixed');
  await page.getByRole('button', { name: 'Third angle' }).click();
  await page.getByRole('button', { name: 'One', exact: true }).click();
});

test('Home can be set; the up axis turns the standard views; the tour plays and stops', async ({ page }) => {
  await openValve(page, 'Views');
  await scene(page).focus();
  await page.keyboard.press('a');
  const wanted = await settled(page);
  await page.getByRole('button', { name: 'Set to this view' }).click();
  await scene(page).focus();
  for (const key of ['w', '-', '0']) await page.keyboard.press(key);
  const home = await settled(page);
  home.orientation.forEach((x, k) => expect(x).toBeCloseTo(wanted.orientation[k], 9));
  expect(home.height).toBeCloseTo(wanted.height, 9);
  await page.getByRole('button', { name: 'Isometric again' }).click();

  await page.getByRole('button', { name: 'Y up' }).click();
  await scene(page).focus();
  await page.keyboard.press('w');
  near(viewBack(await settled(page)), [0, 1, 0]);
  await page.getByRole('button', { name: 'Z up' }).click();
  await settled(page);

  for (const key of ['s', 'd']) {
    await scene(page).focus();
    await page.keyboard.press(key);
    await settled(page);
    const made = page.waitForResponse((r) => r.url().endsWith('/picture') && r.request().method() === 'PUT');
    await page.getByRole('button', { name: 'Save this view' }).first().click();
    await made;
  }
  await page.getByLabel('Seconds at each view of the tour').fill('0.5');
  await page.getByRole('button', { name: 'Tour', exact: true }).click();
  const seen = new Set<string>();
  await expect
    .poll(
      async () => {
        seen.add(
          viewBack((await camera(page)).camera)
            .map((x) => Math.round(x))
            .join(),
        );
        return seen.size;
      },
      { intervals: [100] },
    )
    .toBe(2);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Tour', exact: true })).toBeVisible();
  const stopped = await settled(page);
  await passFrames(page, 40);
  expect((await camera(page)).camera).toEqual(stopped);
});

test('the helm moves the view while it is pushed; a pinned command stays in the scene', async ({ page }) => {
  await openValve(page, 'Views');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('helm');
  await page.keyboard.press('Alt+Enter');
  await page.keyboard.press('Enter');
  const helm = page.getByRole('region', { name: 'Helm' });
  await expect(helm).toBeVisible();
  const before = (await camera(page)).camera;
  const tilt = (await helm.getByRole('button', { name: /^Tilt/ }).boundingBox())!;
  const slide = (await helm.getByRole('button', { name: /^Slide/ }).boundingBox())!;
  // With Shift a part stays where it is pushed, so that both go at once.
  await page.keyboard.down('Shift');
  await drag(page, 'left', { x: tilt.x + 36, y: tilt.y + 36 }, 25, 0);
  await drag(page, 'left', { x: slide.x + 36, y: slide.y + 36 }, 0, -25);
  await page.keyboard.up('Shift');
  await expect.poll(async () => (await camera(page)).camera.target).not.toEqual(before.target);
  await expect.poll(async () => (await camera(page)).camera.orientation).not.toEqual(before.orientation);
  await helm.getByRole('button', { name: 'Centre all' }).click();
  const after = await settled(page);
  expect(after.orientation).not.toEqual(before.orientation);
  expect(after.target).not.toEqual(before.target);
  await page.getByRole('toolbar', { name: 'Pinned commands' }).getByRole('button', { name: 'Helm' }).click();
  await expect(helm).toBeHidden();
  await page
    .getByRole('toolbar', { name: 'Pinned commands' })
    .getByRole('button', { name: 'Helm' })
    .click({ modifiers: ['Alt'] });
  await expect(page.getByRole('toolbar', { name: 'Pinned commands' })).toBeHidden();
});

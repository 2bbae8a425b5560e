import fs from 'node:fs';
import { lookFrom, type Vec3 } from '@bathyscope/core/math';
import { expect, type Page } from '@playwright/test';
import {
  answer,
  clickPoint,
  command,
  drawn,
  FROM_PAGE,
  look,
  openModel,
  openValve,
  pixelsOf,
  pointAt,
  press,
  scene,
  settled,
  shareNear,
  shareOfColour,
  test,
  tree,
  whereIs,
} from './app.ts';

/*
 * What is shown in detail, on demo/ballast-valve.ts: its axis is X, bolt circle Ø66,
 * handwheel centre at x = 88.
 */
const references = (page: Page) => page.getByRole('region', { name: 'Reference geometry' });

const shown = (page: Page) => page.evaluate(() => window.bathyscope!.picking.shownPaths().length);
const BRONZE = [150, 120, 70] as const;

test('isolated with neighbours: what lies within the distance stays, more with a larger one', async ({
  page,
}) => {
  await openValve(page, 'Parts');
  const all = await shown(page);
  await tree(page)
    .getByRole('row', { name: /Handwheel Hide/ })
    .click();
  await command(page, 'Isolate with neighbours …');
  await answer(page, '0.2');
  const near = await shown(page);
  await expect(
    page.getByRole('button', { name: new RegExp(`^Undo isolate ${near} components`) }),
  ).toBeVisible();
  // The spool (Ø10 in Ø10.1) and what holds the wheel, but no bolt of the body.
  expect(near).toBeGreaterThan(1);
  expect(near).toBeLessThan(8);
  await press(page, 'Control+z');
  expect(await shown(page)).toBe(all);
  await tree(page)
    .getByRole('row', { name: /Handwheel Hide/ })
    .click();
  await command(page, 'Isolate with neighbours …');
  await answer(page, '40');
  expect(await shown(page)).toBeGreaterThan(near);
  await press(page, 'Escape', 'u');
});

test('a transparent component lets what is behind it through; as in the file again', async ({ page }) => {
  await openValve(page, 'Parts');
  await press(page, 's');
  await settled(page);
  await page.mouse.move(5, 5);
  await drawn(page);
  const before = await shareOfColour(page, BRONZE, 40);
  await tree(page)
    .getByRole('row', { name: /Body Valve body/ })
    .first()
    .click();
  await command(page, 'Colour and transparency …');
  await page.getByRole('slider', { name: /Transparency/ }).fill('0.8');
  await page.getByRole('button', { name: 'Apply' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await page.getByRole('button', { name: 'Clear the pick' }).click();
  await page.mouse.move(5, 5);
  await expect.poll(() => shareOfColour(page, BRONZE, 40)).toBeLessThan(before / 2);
  await tree(page)
    .getByRole('row', { name: /Body Valve body/ })
    .first()
    .click();
  await command(page, 'Colours as in the file');
  await press(page, 'Escape');
  await page.mouse.move(5, 5);
  await expect.poll(() => shareOfColour(page, BRONZE, 40)).toBeGreaterThan(before * 0.9);
});

test('a silhouette in the middle of a surface has no lit specks', async ({ page }) => {
  await openModel(page, 'Lamp housing LH-20');
  // Where the barrel's foot turns under (fillets R1.5 and R2 at z = 18, demo/lamp-housing.ts),
  // seen from the back left top.
  await look(page, {
    projection: 'orthographic',
    target: [-30, 20, 7],
    height: 20,
    orientation: lookFrom([-1, 1, 1], [0, 0, 1]),
  });
  await page.mouse.move(5, 5);
  const { x, y } = (await scene(page).boundingBox())!;
  const { width, height, data } = await pixelsOf(
    page,
    await page.screenshot({ clip: { x: x + 5, y: y + 70, width: 560, height: 110 } }),
  );
  const green = (i: number, j: number) => data[4 * (j * width + i) + 1];
  const specks = { found: 0, darkest: 255 };
  for (let j = 3; j < height - 3; j++)
    for (let i = 0; i < width; i++) {
      specks.darkest = Math.min(specks.darkest, green(i, j));
      if (green(i, j) > Math.max(green(i, j - 3), green(i, j + 3)) + 12) specks.found++;
    }
  // The shade of the turn itself is in the picture.
  expect(specks.darkest).toBeLessThan(80);
  expect(specks.found).toBe(0);
});

test('with smooth edges nothing is left of what a section takes away, not a pixel', async ({ page }) => {
  await page.request.patch('/api/settings', {
    headers: FROM_PAGE,
    data: { values: { smoothEdges: true, task: 'section' } },
  });
  await openModel(page, 'Ballast valve BV-40');
  // Two facets of a bolt's shank before the cut are seen nearly edge on from here, 80 px long
  // and a fraction of one wide.
  await look(page, {
    projection: 'perspective',
    target: [26.172702312768507, 1.280186085952871, -6.567336322115497],
    orientation: [0.42470820027786693, 0.1759198966061612, 0.33985114297998736, 0.8204732385702833],
    height: 158.79492479362142,
  });
  await page.getByRole('button', { name: 'Y', exact: true }).click();
  await press(page, 'Enter');
  await page.mouse.move(5, 5);
  await expect(page.getByRole('region', { name: /^Cut of Plane 1/ })).toContainText('Spool');
  const { x, y } = (await scene(page).boundingBox())!;
  const { width, data } = await pixelsOf(
    page,
    await page.screenshot({ clip: { x: x + 56, y: y + 70, width: 170, height: 440 } }),
  );
  // Background only: it changes from top to bottom and in nothing else.
  let odd = 0;
  for (let i = 0; i < data.length; i += 4) {
    const first = i - (i % (4 * width));
    if ([0, 1, 2].some((k) => Math.abs(data[i + k] - data[first + k]) > 2)) odd++;
  }
  expect(odd).toBe(0);
});

test('triangles of the mesh come and go with their switch; a closed model has no open edge', async ({
  page,
}) => {
  await openValve(page, 'Parts');
  const lines = () => page.evaluate(() => window.bathyscope!.view.drawn.lines);
  await page.mouse.move(5, 5);
  await drawn(page);
  const before = await lines();
  await command(page, 'Triangles of the mesh');
  await drawn(page);
  const after = await lines();
  expect(after).toBeGreaterThan(before * 2);
  await command(page, 'Triangles of the mesh');
  await command(page, 'Open edges');
  await page.mouse.move(5, 5);
  await drawn(page);
  // The red of scene/passes/line-passes.ts.
  expect(await shareOfColour(page, [224, 69, 47], 15)).toBeLessThan(1e-5);
  await command(page, 'Open edges');
});

test('own planes through three points and across an edge, own axes of a hole and through two points', async ({
  page,
}) => {
  await openValve(page, 'Parts');
  const branch = references(page);
  if (await branch.getByRole('button', { name: /Reference geometry/, expanded: false }).isVisible())
    await branch
      .getByRole('button', { name: /Reference geometry/ })
      .first()
      .click();
  const own = () => page.evaluate(() => window.bathyscope!.referenceStore.getState());
  const edge = await whereIs(page, 'edge', 'line');
  await page.mouse.click(edge.x, edge.y);
  await command(page, 'Reference plane across an edge');
  const [{ normal }] = (await own()).planes;
  expect(Math.hypot(...normal)).toBeCloseTo(1, 9);
  await press(page, 'Escape', 'Escape', 'd');
  await settled(page);

  // Between bolts and spokes one sees the bonnet's flange from the right, a flat face across X at x = 57.
  const points: Vec3[] = [
    [57, 25, 0],
    [57, -25, 0],
    [57, 0, -25],
  ];
  await command(page, 'Reference plane through three points');
  for (const p of points) await clickPoint(page, p);
  const through = (await own()).planes[1];
  expect(Math.abs(through.normal[0])).toBeCloseTo(1, 6);
  expect(through.origin[0]).toBeCloseTo(57, 3);
  await press(page, 'Escape', 'Escape');
  await command(page, 'Reference axis through two points');
  for (const p of points.slice(0, 2)) await clickPoint(page, p);
  const [axis] = (await own()).axes;
  expect(axis.direction[0]).toBeCloseTo(0, 6);
  await press(page, 'Escape', 'Escape', '0');
  await settled(page);
  const turned = await whereIs(page, 'face', 'cylinder');
  await page.mouse.click(turned.x, turned.y);
  await command(page, 'Reference axis of picked');
  expect((await own()).axes).toHaveLength(2);
  await command(page, 'Axes of all holes');
  await expect(branch.getByRole('button', { name: 'Hide Axes of all holes' })).toBeVisible();
  await command(page, 'Axes of all holes');
  for (const name of ['Plane 1', 'Plane 2', 'Axis 1', 'Axis 2'])
    await branch.getByRole('button', { name: `Delete ${name}` }).click();
  expect(await own()).toMatchObject({ planes: [], axes: [] });
});

test('a picture at exact scale: pixels follow from the model’s size and the dots per inch, which the file tells', async ({
  page,
}) => {
  await openValve(page, 'Parts');
  await press(page, 's');
  await settled(page);
  await command(page, 'Picture or drawing …');
  const dialog = page.getByRole('dialog', { name: 'Hand the view on' });
  await dialog.getByLabel('Kind of size').selectOption('exact');
  await dialog.getByLabel('Scale').selectOption({ label: '1:2' });
  await dialog.getByLabel('Dots per inch').fill('200');
  await dialog.getByRole('button', { name: 'White' }).click();
  const download = page.waitForEvent('download');
  await dialog.getByRole('button', { name: 'Save', exact: true }).click();
  const png = fs.readFileSync((await (await download).path())!);
  // From the front the valve reaches from x = −64.6 (drain side bolts) to 104 mm; 5 mm of paper on each side.
  const width = png.readUInt32BE(16);
  expect(width).toBeCloseTo(((168.6 / 2 + 10) * 200) / 25.4, -1);
  // pHYs (ISO/IEC 15948, 11.3.5.3): dots a metre, both ways.
  const at = png.indexOf('pHYs') + 4;
  expect(at).toBeGreaterThan(4);
  expect([png.readUInt32BE(at), png.readUInt32BE(at + 4), png[at + 8]]).toEqual([7874, 7874, 1]);
});

test('a picture goes to the clipboard and to the printer', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await page.addInitScript(() => {
    window.print = () =>
      document.documentElement.setAttribute('data-printed', String(document.images[0]?.naturalWidth));
  });
  await openValve(page, 'Parts');
  await command(page, 'Copy the picture');
  await expect(page.getByText(/clipboard/).first()).toBeVisible();
  const types = await page.evaluate(async () =>
    (await navigator.clipboard.read()).flatMap((item) => item.types),
  );
  expect(types).toContain('image/png');
  await command(page, 'Picture or drawing …');
  await page.getByRole('dialog').getByRole('button', { name: 'Print' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(page.frameLocator('iframe[title=Print]').locator('html')).toHaveAttribute(
    'data-printed',
    /\d{3,}/,
  );
});

test('a picked set is kept, named, picked again after a reload, and forgotten', async ({ page }) => {
  await openValve(page, 'Parts');
  await tree(page)
    .getByRole('row', { name: /Handwheel Hide/ })
    .click();
  // Its neighbour in the tree: the list is virtual, and picking scrolls to what was picked.
  await tree(page)
    .getByRole('row', { name: /Nut/ })
    .first()
    .click({ modifiers: ['Control'] });
  const kept = page.waitForResponse(
    (r) => r.request().postData()?.includes('Wheel and nut') === true && r.ok(),
  );
  await command(page, 'Keep the picked set');
  const sets = page.getByRole('list', { name: 'Kept picks' });
  await sets.getByRole('button', { name: 'Set 1', exact: true }).click();
  await page.getByLabel('Name of the set').fill('Wheel and nut');
  await page.keyboard.press('Enter');
  await kept;
  await page.reload();
  await page.waitForFunction(() => (window.bathyscope?.view.frames ?? 0) > 0);
  await expect(sets.getByRole('button', { name: 'Wheel and nut', exact: true })).toBeVisible();
  await press(page, 'Escape');
  await sets.getByRole('button', { name: 'Pick 2' }).click();
  await expect(page.getByText('Picked: 2 things')).toBeVisible();
  await sets.getByRole('button', { name: 'Forget Wheel and nut' }).click();
  await expect(sets).toBeHidden();
});

test('a pane has a style of its own; the other keeps the model’s', async ({ page }) => {
  await openValve(page, 'Parts');
  await page.getByRole('button', { name: 'Views', exact: true }).click();
  await page.getByRole('button', { name: 'Beside', exact: true }).click();
  const half = async (left: boolean) => {
    const box = (await scene(page).boundingBox())!;
    const png = await page.screenshot({
      clip: { x: box.x + (left ? 0 : box.width / 2), y: box.y, width: box.width / 2, height: box.height },
    });
    return shareNear(await pixelsOf(page, png), BRONZE, 40);
  };
  const [left, right] = [await half(true), await half(false)];
  expect(Math.min(left, right)).toBeGreaterThan(0.01);
  const box = (await scene(page).boundingBox())!;
  await pointAt(page, box.x + box.width * 0.75, box.y + box.height - 60);
  await press(page, 'Escape');
  await page.evaluate(() => window.bathyscope!.cameraStore.getState().setActive(1));
  await command(page, 'A style for this pane only');
  await page.evaluate(() => window.bathyscope!.cameraStore.getState().setActive(1));
  await command(page, 'Style: Wireframe');
  await page.mouse.move(5, 5);
  await expect.poll(() => half(false)).toBeLessThan(right / 2);
  expect(await half(true)).toBeGreaterThan(left * 0.8);
  await command(page, 'A style for this pane only');
  await page.getByRole('button', { name: 'One', exact: true }).click();
});

test('a notice that comes while the one before it fades away is shown', async ({ page }) => {
  await openValve(page, 'Parts');
  const refused = () =>
    page.locator('[data-sonner-toast][data-removed=false]', { hasText: 'There is nothing to undo' });
  await press(page, 'Control+z');
  await expect(refused()).toHaveCount(1);
  await page.evaluate(
    () =>
      new Promise<void>((done) => {
        const faded = new MutationObserver(() => {
          if (!document.querySelector('[data-sonner-toast][data-removed=true]')) return;
          faded.disconnect();
          document.activeElement!.dispatchEvent(
            new KeyboardEvent('keydown', { key: 'z', code: 'KeyZ', ctrlKey: true, bubbles: true }),
          );
          done();
        });
        faded.observe(document.body, { subtree: true, attributes: true, attributeFilter: ['data-removed'] });
      }),
  );
  await expect(refused()).toHaveCount(1);
});

import fs from 'node:fs';
import type { Vec3 } from '@bathyscope/core/math';
import { expect, type Page } from '@playwright/test';
import {
  clickPoint,
  command,
  onScreen,
  openModel,
  openValve,
  pixelsOf,
  pointAt,
  press,
  readout,
  scene,
  settled,
  shareOfColour,
  test,
  tree,
} from './app.ts';

const pickRow = (page: Page, name: RegExp) => tree(page).getByRole('row', { name }).first().click();
/** sRGB of demo/ballast-valve.ts: bronze of the body, rust of the spool. */
const BRONZE = [150, 120, 70] as const;
const RUST = [150, 72, 42] as const;
const WHITE = [255, 255, 255] as const;

/** Pixels of the scene that are neither of two colours, in a strip around a point. */
async function pixelsAt(page: Page, p: Vec3, radius: number): Promise<[number, number, number][]> {
  const { x, y } = await onScreen(page, p);
  const { data } = await pixelsOf(
    page,
    await page.screenshot({ clip: { x: x - radius, y: y - radius, width: 2 * radius, height: 2 * radius } }),
  );
  return Array.from({ length: data.length / 4 }, (_, i) => [data[4 * i], data[4 * i + 1], data[4 * i + 2]]);
}

test('an isolated part leaves no pixel of the others; invert, peek and one step back', async ({ page }) => {
  await openValve(page, 'Parts');
  await pickRow(page, /Spool$|Spool Hide|^Spool/);
  await tree(page)
    .getByRole('row', { name: /Spool Hide Spool/ })
    .click();
  await press(page, 'i', 'Escape');
  await page.mouse.move(5, 5);
  await expect.poll(() => shareOfColour(page, RUST, 60)).toBeGreaterThan(0.002);
  expect(await shareOfColour(page, BRONZE, 25)).toBeLessThan(0.0005);
  await expect(page.getByRole('button', { name: /^Undo isolate 1 component/ })).toBeVisible();

  // Peek shows what is hidden instead; a click brings single ones back.
  await press(page, 'p');
  await expect(page.getByText('Peeking: the hidden set is shown')).toBeVisible();
  await expect.poll(() => shareOfColour(page, BRONZE, 40)).toBeGreaterThan(0.01);
  await clickPoint(page, [12, -12, 54]);
  await press(page, 'Escape');
  await expect(page.getByRole('button', { name: 'Hide Body', exact: true })).toBeVisible();
  await expect(page.getByRole('button', { name: /^Undo show 1 component/ })).toBeVisible();

  await command(page, 'Invert what is visible');
  await expect(page.getByRole('button', { name: 'Show Body', exact: true })).toBeVisible();
  for (let i = 0; i < 3; i++) await press(page, 'Control+z');
  await expect(page.getByRole('button', { name: 'Hide Bonnet', exact: true })).toBeVisible();
});

test('ghosts let picks through; line of sight clears the way to a face and is one step back', async ({
  page,
}) => {
  await openValve(page, 'Parts');
  await pickRow(page, /Handwheel Hide/);
  await press(page, 'g', 'Escape');
  await expect(tree(page).getByTitle('Ghosted').first()).toBeVisible();
  // The nut stands behind the rim of the wheel from the right; a ghost is no obstacle.
  await press(page, 'd');
  await settled(page);
  await clickPoint(page, [92, 0, 7]);
  await expect(readout(page)).not.toContainText('Handwheel ·');
  await press(page, 'Escape', 'Control+z', '0');
  await settled(page);

  // The face of the spool inside the body, reached by pick-through.
  const { x, y } = await onScreen(page, [0, 0, 0]);
  await pointAt(page, x, y);
  await page.keyboard.press('b');
  const list = page.getByRole('listbox', { name: 'Pick-through' });
  await expect(list).toBeVisible();
  await list.getByRole('option', { name: /Spool/ }).first().click();
  await expect(readout(page)).toContainText('Spool');
  await press(page, 'Control+k');
  await page.keyboard.type('line of sight');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Undo line of sight: ghost \d+ component/ })).toBeVisible();
  await press(page, 'Escape');
  await clickPoint(page, [0, 0, 0]);
  await press(page, 'Control+z');
  await expect(tree(page).getByTitle('Ghosted')).toHaveCount(0);
});

test('pick-through reaches a component that is fully enclosed, walked by keys with a preview', async ({
  page,
}) => {
  await openValve(page, 'Parts');
  const { x, y } = await onScreen(page, [39, 0, 15.6]);
  await pointAt(page, x, y);
  await page.keyboard.press('b');
  const options = page.getByRole('listbox', { name: 'Pick-through' }).getByRole('option');
  const names = await options.allInnerTexts();
  const at = names.findIndex((n) => /O-ring, bonnet side/.test(n));
  expect(at).toBeGreaterThan(0);
  for (let i = 0; i < at; i++) await page.keyboard.press('ArrowDown');
  await expect(options.nth(at)).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press('Enter');
  await expect(readout(page)).toContainText('Torus face');
  await expect(readout(page)).toContainText('O-ring, bonnet side');
  await press(page, 'Escape');
});

test('each style draws what it promises: no dash in one, dashes in the other, no faces in a wireframe', async ({
  page,
}) => {
  await openValve(page, 'Parts');
  await page.mouse.move(5, 5);
  // The rear rim of the left flange, hidden behind the body seen from the front.
  await press(page, 's');
  await settled(page);
  const hiddenBore: Vec3 = [0, 0, 13.025];
  await command(page, 'Style: Line drawing');
  await expect.poll(() => shareOfColour(page, WHITE, 8)).toBeGreaterThan(0.8);
  const bare = (await pixelsAt(page, hiddenBore, 12)).filter(([r]) => r < 200).length;
  await command(page, 'Style: Line drawing, dashed');
  await expect
    .poll(async () => (await pixelsAt(page, hiddenBore, 12)).filter(([r]) => r < 200).length)
    .toBeGreaterThan(bare);

  await command(page, 'Style: Wireframe');
  await expect.poll(() => shareOfColour(page, BRONZE, 30)).toBeLessThan(0.01);
  await command(page, 'Style: Catalogue');
  await expect.poll(() => shareOfColour(page, WHITE, 10)).toBeGreaterThan(0.2);
  // Nothing is fetched or meshed anew for another style.
  const asked: string[] = [];
  page.on('request', (r) => r.url().includes('/geometries/') && asked.push(r.url()));
  await press(page, 'v', 'Shift+V');
  expect(asked).toEqual([]);
  await command(page, 'Style: Work');
});

test('own style saved; one component and one pane in a style of their own', async ({ page }) => {
  await openValve(page, 'Parts');
  await page.getByRole('button', { name: 'Style', exact: true }).click();
  await page.getByRole('group', { name: 'Hidden edges' }).getByRole('button', { name: 'Thin' }).click();
  await page.getByLabel('Name for this style').fill('Thin behind');
  await page.getByRole('button', { name: 'Save the style' }).click();
  await expect(
    page.getByRole('group', { name: 'Presets' }).getByRole('button', { name: 'Thin behind', exact: true }),
  ).toHaveAttribute('aria-pressed', 'true');
  await page
    .getByRole('group', { name: 'Presets' })
    .getByRole('button', { name: 'Work', exact: true })
    .click();

  const before = await shareOfColour(page, BRONZE, 40);
  await clickPoint(page, [12, -12, 54]);
  await page.getByLabel(/Picked components/).selectOption('wireframe');
  await press(page, 'Escape');
  await page.mouse.move(5, 5);
  await expect.poll(() => shareOfColour(page, BRONZE, 40)).toBeLessThan(before / 3);
  await press(page, 'Control+z');
  await expect.poll(() => shareOfColour(page, BRONZE, 40)).toBeGreaterThan(before * 0.9);

  await page.getByRole('button', { name: 'Delete the style Thin behind' }).click();
  await page.getByRole('button', { name: 'Parts', exact: true }).click();
});

test('the parts list: flat with quantities, sorted, picked by range, renamed; colour and transparency; hide by size', async ({
  page,
}) => {
  await openValve(page, 'Parts');
  await page.getByRole('button', { name: 'Flat parts list' }).click();
  await page.getByLabel('Columns').selectOption('quantity');
  await page.getByRole('button', { name: 'Sort by qty' }).click();
  await page.getByRole('button', { name: 'Sort by qty' }).click();
  await expect(tree(page).getByRole('rowgroup').getByRole('row').first()).toContainText(
    /(Hex bolt ISO 4017 M8x30|Washer ISO 7089 8)\s*8/,
  );
  await tree(page).getByRole('rowgroup').getByRole('row').first().click();
  await tree(page)
    .getByRole('rowgroup')
    .getByRole('row')
    .nth(1)
    .click({ modifiers: ['Shift'] });
  await expect(page.getByText('Picked: 16 things')).toBeVisible();
  await command(page, 'Hide all of the same part');
  await expect(page.getByRole('button', { name: /^Undo hide 16 components of the same part/ })).toBeVisible();
  await press(page, 'Control+z');

  // A third click gives the file's order back.
  await page.getByRole('button', { name: 'Sort by qty' }).click();
  await page.getByRole('button', { name: 'Structure as a tree' }).click();
  // The same menu in the tree as in the scene, with what fits a component only.
  await tree(page)
    .getByRole('row', { name: /Drain plug/ })
    .click({ button: 'right' });
  const menu = page.getByRole('menu');
  await expect(menu.getByRole('menuitem', { name: /^Isolate\s*I$/ })).toBeVisible();
  await expect(menu.getByRole('menuitem', { name: /Reference plane from a face/ })).toBeHidden();
  await page.keyboard.press('Escape');
  await tree(page)
    .getByRole('row', { name: /Drain plug/ })
    .dblclick();
  await page.getByLabel(/Name of Drain plug on the screen/).fill('Plug');
  await page.keyboard.press('Enter');
  await expect(tree(page).getByRole('row', { name: /^Plug Drain plug/ })).toBeVisible();
  await tree(page).getByRole('row', { name: /^Plug/ }).dblclick();
  await page.getByLabel(/on the screen/).fill('');
  await page.keyboard.press('Enter');

  await pickRow(page, /Body Valve body/);
  await command(page, 'Colour and transparency …');
  const dialog = page.getByRole('dialog', { name: 'Colour and transparency' });
  await dialog.getByLabel('Any colour').fill('#20c040');
  await dialog.getByRole('button', { name: 'Apply' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await page.getByRole('button', { name: 'Clear the pick' }).click();
  await page.mouse.move(5, 5);
  await expect.poll(() => shareOfColour(page, [28, 165, 56], 50)).toBeGreaterThan(0.02);
  await press(page, 'Control+z');

  await command(page, 'Hide everything smaller than …');
  await page.getByRole('dialog').getByRole('textbox').fill('20');
  await page.getByRole('button', { name: 'OK' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(
    page.getByRole('button', { name: /^Undo hide \d+ components smaller than 20 mm/ }),
  ).toBeVisible();
  await press(page, 'Control+z', 'Escape');
});

test('similar faces: all bolt holes of one radius, the tangent chain, all of the same part', async ({
  page,
}) => {
  await openModel(page, 'Lamp housing LH-20');
  await scene(page).focus();
  for (const key of ['Escape', 'u', '0']) await page.keyboard.press(key);
  await settled(page);
  const [x, y] = [51 * Math.cos((7 * Math.PI) / 6), 51 * Math.sin((7 * Math.PI) / 6)];
  await clickPoint(page, [x - 5.5 / Math.SQRT2, y + 5.5 / Math.SQRT2, 95]);
  await expect(readout(page)).toContainText('Ø 11.000');
  await command(page, 'Pick faces of the same radius');
  // Six counterbores, demo/lamp-housing.ts.
  await expect(page.getByText(/^6 faces picked|^12 faces picked/)).toBeVisible();
  await press(page, 'Escape');
});

test('reference geometry: own planes named with any characters, the envelope says whether the model fits', async ({
  page,
}) => {
  await openValve(page, 'Parts');
  await clickPoint(page, [12, -12, 54]);
  await command(page, 'Reference plane from a face …');
  await page.getByRole('dialog').getByRole('textbox').fill('-10');
  await page.getByRole('button', { name: 'OK' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await press(page, 'Escape');
  const branch = page.getByRole('region', { name: 'Reference geometry' });
  await branch.getByRole('button', { name: /Reference geometry/, expanded: false }).click();
  await branch.getByRole('button', { name: 'Plane 1', exact: true }).click();
  await page.getByLabel('Name', { exact: true }).fill('Flange – 10 µm “Ø”/β');
  await page.keyboard.press('Enter');
  await expect(branch.getByRole('button', { name: 'Flange – 10 µm “Ø”/β', exact: true })).toBeVisible();
  await branch.getByRole('button', { name: 'Normal to Flange – 10 µm “Ø”/β' }).click();
  await expect(page.getByTestId('caption')).toContainText('Top');
  await branch.getByRole('button', { name: 'Delete Flange – 10 µm “Ø”/β' }).click();

  await branch.getByRole('button', { name: 'Envelope', exact: true }).first().click();
  await expect(page.getByTestId('envelope-verdict')).toContainText('Fits as placed');
  // The valve is longest along X (demo/ballast-valve.ts: −64.6 … 104 mm).
  await page.getByLabel('Envelope X, mm').fill('110');
  await page.getByLabel('Envelope Z, mm').fill('200');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('envelope-verdict')).toContainText('Fits when turned');
  await page.getByLabel('Envelope Z, mm').fill('110');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('envelope-verdict')).toContainText(/too large by \d+\.\d{3} mm in X/);
  await branch.getByRole('button', { name: 'Delete the envelope' }).click();
});

test('pictures: size, format and background as asked, the working view unchanged; a drawing as SVG and DXF', async ({
  page,
}) => {
  await openValve(page, 'Parts');
  const before = await settled(page);
  const save = async (): Promise<Buffer> => {
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    return fs.readFileSync((await (await download).path())!);
  };
  await command(page, 'Picture or drawing …');
  const dialog = page.getByRole('dialog', { name: 'Hand the view on' });
  await dialog.getByLabel('Width, px').fill('2500');
  await dialog.getByLabel('Height, px').fill('700');
  await dialog.getByRole('button', { name: 'Transparent' }).click();
  const png = await save();
  expect(png.subarray(1, 4).toString()).toBe('PNG');
  // Width and height in the header of a PNG (ISO/IEC 15948, IHDR).
  expect([png.readUInt32BE(16), png.readUInt32BE(20)]).toEqual([2500, 700]);
  const { width, data } = await pixelsOf(page, png);
  // Corner, middle, and on both sides of the seam between two tiles.
  const alpha = [
    [3, 3],
    [1250, 350],
    [2047, 3],
    [2049, 3],
  ].map(([x, y]) => data[4 * (y * width + x) + 3]);
  expect(alpha).toEqual([0, 255, 0, 0]);
  expect(await settled(page)).toEqual(before);

  await command(page, 'Line drawing of the view …');
  const svg = (await save()).toString();
  expect(svg).toMatch(/width="[\d.]+mm"/);
  expect(svg).toContain('<g id="VISIBLE" stroke-width="0.5">');
  expect(svg).toContain('stroke-dasharray="3 0.75"');
  await dialog.getByRole('group', { name: 'Format' }).getByRole('button', { name: 'DXF' }).click();
  const dxf = (await save()).toString();
  expect(dxf).toMatch(/AcDbLine[\s\S]*AcDbPolyline|AcDbPolyline[\s\S]*AcDbLine/);
  expect(dxf).toContain('HIDDEN');
  await page.keyboard.press('Escape');
});

test('the tour is recorded as video; a filter picks bodies', async ({ page }) => {
  await openValve(page, 'Parts');
  await page.getByLabel('Pick filter').selectOption('body');
  await clickPoint(page, [12, -12, 54]);
  await expect(readout(page)).toContainText('Solid body');
  await page.getByLabel('Pick filter').selectOption('all');
  await press(page, 'Escape');

  await page.getByRole('button', { name: 'Views', exact: true }).click();
  for (const key of ['s', 'd']) {
    await press(page, key);
    await settled(page);
    const made = page.waitForResponse((r) => r.url().endsWith('/picture') && r.request().method() === 'PUT');
    await page.getByRole('button', { name: 'Save this view' }).first().click();
    await made;
  }
  await page.getByLabel('Seconds at each view of the tour').fill('0.6');
  const download = page.waitForEvent('download');
  await command(page, 'Record the tour as video');
  const video = fs.readFileSync((await (await download).path())!);
  // EBML header of a WebM file (RFC 8794).
  expect(video.subarray(0, 4)).toEqual(Buffer.from([0x1a, 0x45, 0xdf, 0xa3]));
  expect(video.length).toBeGreaterThan(5000);
  for (let n = await page.getByRole('button', { name: /^More about/ }).count(); n > 0; n--) {
    await page
      .getByRole('button', { name: /^More about/ })
      .first()
      .click();
    await page.getByRole('menuitem', { name: 'Delete' }).click();
    await expect(page.getByRole('button', { name: /^More about/ })).toHaveCount(n - 1);
  }
  await page.getByRole('button', { name: 'Parts', exact: true }).click();
});

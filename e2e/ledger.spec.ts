import fs from 'node:fs';
import { expect, type Page } from '@playwright/test';
import { clickPoint, command, onScreen, openModel, press, readout, settled, showTask, test } from './app.ts';

/** A point of the wall of a flange hole’s counterbore (Ø11), on the side that the eye sees at home. */
const flangeHole = (angle: number): [number, number, number] => {
  const [x, y] = [51 * Math.cos(angle), 51 * Math.sin(angle)];
  return [x - 5.5 / Math.SQRT2, y + 5.5 / Math.SQRT2, 95];
};
const ledger = (page: Page) => page.getByRole('region', { name: 'Ledger' });

async function openLamp(page: Page): Promise<void> {
  await openModel(page, 'Lamp housing LH-20');
  await press(page, '0');
  await settled(page);
}

test('the pitch circle and the likely use of a hole; the table of holes, sorted, picked and saved as CSV', async ({
  page,
}) => {
  await openLamp(page);
  const at = await onScreen(page, flangeHole((7 * Math.PI) / 6));
  await page.mouse.move(at.x, at.y);
  // Before any click.
  await expect(page.getByTestId('probe')).toHaveText('Here: Hole · through, Ø 6.600 mm');
  await clickPoint(page, flangeHole((7 * Math.PI) / 6));
  // Six screws on Ø102 (demo/lamp-housing.ts).
  await expect(readout(page)).toContainText('6 on a circle');
  await expect(readout(page)).toContainText(/pitch circle\s*Ø 102\.000 mm/);
  await expect(readout(page)).toContainText(/spacing\s*60\.000 °/);
  await expect(readout(page)).toContainText(/clearance hole for M6, socket head, ISO 273, medium; ISO 4762/);

  await command(page, 'Table of holes');
  const holes = page.getByRole('region', { name: 'Holes' });
  await holes.getByRole('button', { name: 'Of what is picked' }).click();
  const rows = holes.getByRole('table').getByRole('row');
  // The picked hole and all like it, beside the head of the table.
  await expect(rows).toHaveCount(7);
  // Nothing of it is cut, in the panel as wide as it comes.
  const edge = (await holes.boundingBox())!;
  for (const cell of await holes.getByRole('cell').all()) {
    const { x, width } = (await cell.boundingBox())!;
    expect(x + width).toBeLessThanOrEqual(edge.x + edge.width);
    expect(await cell.evaluate((e) => e.scrollWidth - e.clientWidth)).toBeLessThanOrEqual(0);
  }
  await expect(holes.getByRole('list', { name: 'Kinds of holes' })).toContainText(
    'A 6 × Ø 6.600 through 14.000, counterbore Ø11 × 6.4',
  );
  await holes.getByRole('columnheader', { name: 'X' }).click();
  await expect(holes.getByRole('columnheader', { name: /^X/ })).toHaveAttribute(
    'aria-sort',
    /ascending|descending/,
  );
  const saved = page.waitForEvent('download');
  await holes.getByRole('button', { name: 'Save as CSV' }).click();
  const text = fs.readFileSync(await (await saved).path(), 'utf8');
  const lines = text.trim().split(/\r?\n/);
  expect(lines[0]).toContain('Hole,Component,"Diameter, mm","Depth, mm",Ends,Steps,Likely');
  expect(lines).toHaveLength(7);
  for (const line of lines.slice(1)) {
    const [x, y] = line.split(',').slice(-3, -1).map(Number);
    expect(Math.hypot(x, y)).toBeCloseTo(51, 2);
  }
  await rows.nth(2).click();
  await expect(page.getByText('Picked: 1 face')).toBeVisible();
});

test('a figure is kept, gets a class, is out of it, comes back after a reload, and is saved as CSV', async ({
  page,
}) => {
  await openLamp(page);
  await clickPoint(page, flangeHole((7 * Math.PI) / 6));
  await press(page, 'j');
  const row = ledger(page).getByRole('listitem').first();
  await expect(row).toContainText('Diameter, Lamp housing LH-20');
  await expect(row).toContainText('Ø 6.600 mm');
  await row.getByRole('button', { name: 'no nominal' }).click();
  await row.getByLabel('Nominal').fill('6.6');
  await row.getByLabel('Nominal').press('Enter');
  // What cannot be read stays, with the reason; what stood stays.
  await row.getByRole('textbox', { name: 'Tolerance' }).fill('-0.1/+0.2');
  await expect(row.getByRole('alert')).toContainText('the wrong way round');
  await row.getByRole('textbox', { name: 'Tolerance' }).fill('Q7');
  await expect(row.getByRole('alert')).toContainText('ISO 286 has no Q7');
  await row.getByRole('textbox', { name: 'Tolerance' }).fill('H7');
  await row.getByRole('textbox', { name: 'Tolerance' }).press('Enter');
  await expect(row.getByRole('img', { name: 'within its tolerance' })).toBeVisible();
  await expect(row.getByRole('button', { name: '6.6 H7' })).toBeVisible();
  // ISO 286-2: P7 for 6.6 mm lies from −24 to −9 µm.
  await row.getByRole('textbox', { name: 'Tolerance' }).fill('P7');
  await row.getByRole('textbox', { name: 'Tolerance' }).press('Enter');
  await expect(row.getByRole('img', { name: 'out of tolerance' })).toBeVisible();
  await expect(row).toContainText('0.009 mm over');

  // A second one, between two things, by keys: the kernel’s answer is waited for.
  await press(page, 'Escape');
  await clickPoint(page, flangeHole((7 * Math.PI) / 6));
  await clickPoint(page, flangeHole((3 * Math.PI) / 2), { shift: true });
  await press(page, 'j');
  const second = ledger(page).getByRole('listitem').nth(1);
  await expect(second).toContainText('Axis to axis', { timeout: 30_000 });
  // Neighbours on Ø102 at 60°: the radius.
  await expect(second).toContainText('51.000 mm');
  await press(page, 'Escape');
  await expect(page.getByTestId('dimension')).toHaveCount(1);
  await second.getByRole('button', { name: /^Do not draw/ }).click();
  await expect(page.getByTestId('dimension')).toHaveCount(0);

  const saved = page.waitForEvent('download');
  await ledger(page).getByRole('button', { name: 'Save as CSV' }).click();
  const lines = fs
    .readFileSync(await (await saved).path(), 'utf8')
    .trim()
    .split(/\r?\n/);
  expect(lines[1]).toMatch(
    /^"Diameter, Lamp housing LH-20",Diameter,6\.600,mm,6\.600,6\.576,6\.591,out,exact$/,
  );
  expect(lines[2]).toContain('Axis to axis,51.000,mm');

  await page.reload();
  await showTask(page, 'Measure');
  await expect(ledger(page).getByRole('listitem').first()).toContainText('0.009 mm over');
  await expect(ledger(page).getByRole('listitem')).toHaveCount(2);
  await ledger(page)
    .getByRole('listitem')
    .first()
    .getByRole('button', { name: /^Forget/ })
    .click();
  await expect(ledger(page).getByRole('listitem')).toHaveCount(1);
  await press(page, 'Control+z');
  await expect(ledger(page).getByRole('listitem')).toHaveCount(2);
});

test('figures in fractions of an inch, to fewer decimals, with a second unit, and in other axes', async ({
  page,
}) => {
  await openLamp(page);
  await clickPoint(page, flangeHole((7 * Math.PI) / 6));
  await clickPoint(page, flangeHole((3 * Math.PI) / 2), { shift: true });
  const main = readout(page).getByTestId('main-figure');
  await expect(main).toHaveText('51.000');
  await page.getByRole('button', { name: /^Units and precision/ }).click();
  await page.getByRole('combobox', { name: 'Decimals of a millimetre' }).selectOption('1');
  await page.getByLabel('A second unit').selectOption('in');
  await page.keyboard.press('Escape');
  await expect(main).toHaveText('51.0');
  await expect(readout(page)).toContainText('[2.0079 in]');
  await page.getByRole('combobox', { name: 'Unit of length' }).selectOption('in');
  await page.getByRole('button', { name: /^Units and precision/ }).click();
  await page.getByLabel('Inches as').selectOption('fraction');
  await page.keyboard.press('Escape');
  await expect(main).toHaveText('≈ 2 1/64');
  await page.getByRole('combobox', { name: 'Unit of length' }).selectOption('mm');

  // Along the line from hole to hole all of the distance is dX.
  await showTask(page, 'Measure');
  const figures = page.getByRole('region', { name: 'Figures' });
  await page.getByRole('button', { name: 'New', exact: true }).click();
  await expect(page.getByRole('combobox', { name: 'Told in' })).toHaveValue(/.{20,}/);
  await expect(figures).toContainText('Axis to axis');
  await page.getByRole('combobox', { name: 'Told in' }).selectOption('view');
  await expect(figures).toContainText(/As seen\s*\d/, { timeout: 30_000 });
});

test('any figure is kept, copied and drawn where it is measured; one in a cut says which section it needs; a colleague’s is drawn once asked for', async ({
  page,
  browser,
}) => {
  await openLamp(page);
  await clickPoint(page, flangeHole((7 * Math.PI) / 6));
  await clickPoint(page, flangeHole((3 * Math.PI) / 2), { shift: true });
  const row = readout(page).getByText('Wall to wall', { exact: true });
  await row.hover();
  // What was picked are counterbores of Ø11; walls are those of the holes.
  await expect(readout(page)).toContainText(/Least distance\s*40\.000 mm, of the picked faces/);
  // 51 from axis to axis less two radii of 3.3 (demo/lamp-housing.ts).
  await expect(page.getByRole('group', { name: 'Dimensions' })).toContainText('Wall to wall 44.400 mm');
  await readout(page).getByRole('button', { name: 'Copy wall to wall' }).click();
  expect(await page.evaluate(() => navigator.clipboard.readText())).toBe('44.400 mm');
  await row.hover();
  await readout(page).getByRole('button', { name: 'Keep wall to wall' }).click();
  const items = ledger(page).getByRole('listitem');
  await expect(items.first()).toContainText('Wall to wall, Lamp housing LH-20');
  await expect(items.first()).toContainText('44.400 mm');
  const name = items.first().getByRole('button', { name: /^Wall to wall/ });
  expect(await name.evaluate((e) => e.scrollWidth - e.clientWidth)).toBeLessThanOrEqual(0);
  await items.first().getByRole('button', { name: 'no nominal' }).click();
  await items.first().getByLabel('Nominal').fill('44.5');
  await items.first().getByLabel('Nominal').press('Enter');
  await items.first().getByRole('textbox', { name: 'Tolerance' }).fill('0.2');
  await items.first().getByRole('textbox', { name: 'Tolerance' }).press('Enter');
  await press(page, 'Escape');
  await expect(page.getByTestId('dimension')).toHaveText('44.400 mm (44.5 ±0.2)');

  await showTask(page, 'Section');
  await page.getByRole('button', { name: 'Z', exact: true }).click();
  await page.getByLabel('Z of Plane 1 · along Z, mm').fill('13');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Accept' }).click();
  await settled(page);
  const caps = await page.evaluate(() => {
    const found: [number, number][] = [];
    for (let x = 300; x < 900; x += 20)
      for (let y = 150; y < 700; y += 20)
        if (window.bathyscope!.picking.pick(x, y)?.kind === 'cap') found.push([x, y]);
    return found;
  });
  const box = (await page.getByTestId('scene').boundingBox())!;
  // The upmost, where no notice lies over it.
  const [x, y] = caps.reduce((up, at) => (at[1] < up[1] ? at : up));
  await page.mouse.click(box.x + x, box.y + y);
  await expect(readout(page)).toContainText('mm²');
  await press(page, 'j');
  await expect(items).toHaveCount(2);
  await expect(items.nth(1)).toContainText('mm²');
  await page.evaluate(() => window.bathyscope!.sectionStore.setState({ on: false, active: null }));
  await expect(items.nth(1)).toContainText('Needs the section Plane 1');
  await items.nth(1).getByRole('button', { name: 'show it' }).click();
  await expect(items.nth(1)).toContainText('mm²');

  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const other = await context.newPage();
  await other.goto(page.url());
  await showTask(other, 'Measure');
  const theirs = ledger(other).getByRole('listitem').first();
  await expect(theirs).toContainText('44.400 mm');
  await expect(other.getByTestId('dimension')).toHaveCount(0);
  await theirs.getByRole('button', { name: /^Draw Wall to wall/ }).click();
  await expect(other.getByTestId('dimension')).toHaveCount(1);
  await context.close();
});

import { expect, type Page } from '@playwright/test';
import { clickPoint, cutLamp, onScreen, openModel, press, settled, test } from './app.ts';

/*
 * Figures: demo/lamp-housing.ts: six counterbored holes Ø11 on a circle of Ø102, the flange's top at z = 98.
 */

const COUNTERBORE = 5.5;
const hole = (i: number, out = 0): [number, number, number] => {
  const angle = ((i * 60 + 30) * Math.PI) / 180;
  // On the rim at the flange's top, a little beside a quadrant.
  return [
    51 * Math.cos(angle) + COUNTERBORE * Math.cos(0.6 + out),
    51 * Math.sin(angle) + COUNTERBORE * Math.sin(0.6 + out),
    98,
  ];
};

const figures = (page: Page) => page.getByRole('region', { name: 'Figures' });
const leading = (page: Page) => figures(page).getByTestId('main-figure');
const note = (page: Page) => page.getByTestId('cursor-note');

async function openFromAbove(page: Page): Promise<void> {
  await openModel(page, 'Lamp housing LH-20');
  await press(page, 'w');
  await press(page, 'm');
  await settled(page);
}

async function hoverPoint(page: Page, point: [number, number, number]): Promise<void> {
  const { x, y } = await onScreen(page, point);
  await page.mouse.move(x, y);
}

/** Cycles until the note names a kind of point, which is clicked. */
async function take(page: Page, point: [number, number, number], kind: string, add = false): Promise<void> {
  await hoverPoint(page, point);
  for (let i = 0; i < 8 && !(await note(page).allTextContents())[0]?.startsWith(kind); i++)
    await page.keyboard.press('r');
  await expect(note(page)).toContainText(kind);
  if (add) await page.keyboard.down('Shift');
  await page.mouse.down();
  await page.mouse.up();
  if (add) await page.keyboard.up('Shift');
}

test('a key cycles the points under the cursor: from centre to centre, from a quadrant; kept, and found again after opening', async ({
  page,
}) => {
  await openFromAbove(page);
  await hoverPoint(page, hole(0));
  await expect(note(page)).toBeHidden();
  await take(page, hole(0), 'centre');
  await expect(figures(page)).toContainText('Centre');
  await take(page, hole(3), 'centre', true);
  await expect(leading(page)).toHaveText('102.000');
  await expect(figures(page)).toContainText('Distance');
  await expect(page.getByRole('group', { name: 'Dimensions' })).toContainText('102.000 mm');
  await press(page, 'j');
  const ledger = page.getByRole('region', { name: 'Ledger' });
  await expect(ledger).toContainText('102.000');
  await page.reload();
  await expect(page.getByRole('region', { name: 'Ledger' })).toContainText('102.000');
  await expect(page.getByRole('region', { name: 'Ledger' })).not.toContainText('lost');
});

test('a click takes points alone: what is nearest is named beside the cursor before it is taken', async ({
  page,
}) => {
  await openFromAbove(page);
  await page.getByRole('group', { name: 'A click takes' }).getByText('Points').click();
  const rim: [number, number, number] = [
    51 * Math.cos(Math.PI / 6) + COUNTERBORE,
    51 * Math.sin(Math.PI / 6),
    98,
  ];
  await hoverPoint(page, rim);
  await expect(note(page)).toHaveText('quadrant');
  await clickPoint(page, rim);
  await expect(figures(page)).toContainText('Quadrant');
  // To the far quadrant of the opposite hole: the pitch circle and one diameter.
  const far: [number, number, number] = [
    51 * Math.cos((7 * Math.PI) / 6) - COUNTERBORE,
    51 * Math.sin((7 * Math.PI) / 6),
    98,
  ];
  await clickPoint(page, far, { shift: true });
  const across = Math.hypot(2 * 51 * Math.cos(Math.PI / 6) + 2 * COUNTERBORE, 2 * 51 * Math.sin(Math.PI / 6));
  await expect(leading(page)).toHaveText(across.toFixed(3));
  await hoverPoint(page, [25.5, -44.2, 98]);
  await expect(note(page)).toHaveText('on face');
});

test('the origin, a reference plane and an axis are picked in their list and in the scene, and measured to', async ({
  page,
}) => {
  await openFromAbove(page);
  await page.getByRole('button', { name: 'Parts', exact: true }).click();
  const branch = page.getByRole('region', { name: 'Reference geometry' });
  await branch.getByRole('button', { name: /Reference geometry/ }).click();
  await branch.getByRole('button', { name: 'Plane XY', exact: true }).click();
  await page.getByRole('button', { name: 'Measure', exact: true }).click();
  await expect(figures(page)).toContainText('Plane XY');
  await clickPoint(page, [25.5, -44.2, 98], { shift: true });
  await expect(figures(page)).toContainText('Normal distance');
  await expect(leading(page)).toHaveText('98.000');
  // An axis that is shown is picked in the scene: it stands free beside the model.
  await page.evaluate(() => window.bathyscope!.run('reference-axis-x'));
  await settled(page);
  const beside: [number, number, number] = [75, 0, 0];
  await clickPoint(page, beside);
  await expect(figures(page)).toContainText('Axis X');
  await clickPoint(page, [25.5, -44.2, 98], { shift: true });
  await expect(leading(page)).toHaveText('98.000');
  await page.getByRole('button', { name: 'Parts', exact: true }).click();
  await branch.getByRole('button', { name: /Reference geometry/ }).click();
  await branch.getByRole('button', { name: 'Origin', exact: true }).click();
  await page.getByRole('button', { name: 'Measure', exact: true }).click();
  await clickPoint(page, [25.5, -44.2, 98], { shift: true });
  await expect(leading(page)).toHaveText('98.000');
  await expect(figures(page)).toContainText(/It lies\s*behind the face, on the side of its material/);
  await expect(figures(page)).toContainText(/Least distance\s*[\d.]+ mm/);
});

test('on a cut its outlines and faces have points of their own', async ({ page }) => {
  await openModel(page, 'Lamp housing LH-20');
  await cutLamp(page, 40);
  await press(page, 'w');
  await press(page, 'm');
  await settled(page);
  await expect
    .poll(() =>
      page.evaluate(() => [...window.bathyscope!.cutStore.getState().exact.values()].some((e) => e.size > 0)),
    )
    .toBe(true);
  // The bore of Ø64, a little beside an axis.
  const rim: [number, number, number] = [32 * Math.cos(0.5), 32 * Math.sin(0.5), 40];
  await take(page, rim, 'centre');
  await expect(figures(page)).toContainText('Centre');
  await expect(figures(page)).toContainText(/0\.000\s+0\.000\s+40\.000/);
  await take(page, rim, 'on cut edge', true);
  await expect(leading(page)).toHaveText('32.000');
  await expect(figures(page)).toContainText('exact');
});

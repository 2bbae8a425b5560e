import { expect, type Page } from '@playwright/test';
import { clickPoint, openModel, press, readout, scene, settled, showTask, test } from './app.ts';

/*
 * Figures: demo/lamp-housing.ts, which the model was built from: six counterbored holes on a circle of Ø102,
 * the bore of Ø64.
 */

/** On the far wall of the counterbore of the i-th hole, seen from home. */
function bolt(i: number): [number, number, number] {
  const angle = ((i * 60 + 30) * Math.PI) / 180;
  return [51 * Math.cos(angle) - 5.5 / Math.SQRT2, 51 * Math.sin(angle) + 5.5 / Math.SQRT2, 95];
}

const figures = (page: Page) => page.getByRole('region', { name: 'Figures' });
const leading = (page: Page) => figures(page).getByTestId('main-figure');

async function openLamp(page: Page): Promise<void> {
  await openModel(page, 'Lamp housing LH-20');
  await press(page, '0');
  await settled(page);
}

test('hole to hole: axis to axis leads, wall to wall beneath, drawn as a dimension; a wrong pick is taken back; the unit changed', async ({
  page,
}) => {
  await openLamp(page);
  await press(page, 'm');
  await expect(page.getByRole('button', { name: 'Measure', exact: true })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await settled(page);
  await clickPoint(page, bolt(3));
  await expect(leading(page)).toHaveText('Ø 6.600');
  await clickPoint(page, bolt(0), { shift: true });
  // Opposite holes.
  await expect(leading(page)).toHaveText('102.000');
  await expect(figures(page)).toContainText('Axis to axis');
  await expect(figures(page)).toContainText(/Wall to wall\s*95\.400 mm/);
  await expect(figures(page)).toContainText(/Least distance\s*[\d.]+ mm/);
  const drawn = page.getByRole('group', { name: 'Dimensions' });
  await expect(drawn).toContainText('102.000 mm');
  await expect(drawn.getByTestId('dimension')).toBeVisible();

  await page.getByRole('button', { name: /^Take back 2/ }).click();
  await expect(leading(page)).toHaveText('Ø 6.600');
  // To a neighbour: the side of a hexagon is as long as its radius.
  await clickPoint(page, bolt(2), { shift: true });
  await expect(leading(page)).toHaveText('51.000');
  await page.getByRole('combobox', { name: 'Unit of length' }).selectOption('in');
  await expect(leading(page)).toHaveText('2.0079');
  await expect(drawn).toContainText('2.0079 in');
  await page.getByRole('combobox', { name: 'Unit of length' }).selectOption('mm');
  // A third one: the circle on which their axes stand leads.
  await clickPoint(page, bolt(3), { shift: true });
  await clickPoint(page, bolt(3), { shift: true });
  await clickPoint(page, bolt(1), { shift: true });
  await expect(figures(page)).toContainText('3 things picked');
  await expect(leading(page)).toHaveText('Ø 102.000');
});

test('two parallel faces: their normal distance; two at an angle: the angle, in every task', async ({
  page,
}) => {
  await openLamp(page);
  await showTask(page, 'Parts');
  // The flange's top at z = 98 and the step of the bore's mouth beneath it.
  await clickPoint(page, [25.5, -44.2, 98]);
  await expect(readout(page)).toContainText('Plane face');
  const faces = await page.evaluate(() => {
    const { components, parts } = window.bathyscope!.modelStore.getState();
    const [{ part, path }] = components;
    const planes = parts
      .get(part)!
      .geometry.faces.flatMap((f, index) =>
        f.surface === 'plane' ? [{ index, axis: f.axis!, origin: f.origin! }] : [],
      );
    return { path, planes };
  });
  const along = (z: number, up: number) =>
    faces.planes.find((p) => Math.abs(p.axis[2] - up) < 1e-9 && Math.abs(p.origin[2] - z) < 1e-6)!.index;
  const side = faces.planes.find((p) => Math.abs(p.axis[2]) < 1e-9)!.index;
  const pick = (...indices: number[]) =>
    page.evaluate(
      ({ path, indices }) =>
        window
          .bathyscope!.selectionStore.getState()
          .pick(indices.map((index) => ({ kind: 'face', component: path, index }))),
      { path: faces.path, indices },
    );
  await pick(along(98, 1), along(0, -1));
  await expect(readout(page)).toContainText('Normal distance');
  await expect(readout(page).getByTestId('main-figure')).toHaveText('98.000');
  await expect(readout(page)).toContainText('away from each other');
  await pick(along(98, 1), side);
  await expect(readout(page).getByTestId('main-figure')).toHaveText('90.000');
  await expect(readout(page)).toContainText(/Angle through the (material|air)/);
  await scene(page).focus();
  await press(page, 'Escape');
  await expect(readout(page)).toBeHidden();
});

test('a diameter is drawn across its hole, an angle as an arc; a dimension is dragged by its text and stays where it was put when it is kept', async ({
  page,
}) => {
  await openLamp(page);
  await press(page, 'm');
  await clickPoint(page, bolt(3));
  const drawn = page.getByRole('group', { name: 'Dimensions' });
  await expect(drawn.getByTestId('round')).toContainText('Ø 6.600 mm');
  await clickPoint(page, bolt(0), { shift: true });
  const label = drawn.getByText('102.000 mm');
  const before = (await label.boundingBox())!;
  const [x, y] = [before.x + before.width / 2, before.y + before.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 10, y - 30, { steps: 3 });
  await page.mouse.move(x + 20, y - 60, { steps: 3 });
  await page.mouse.up();
  const after = (await label.boundingBox())!;
  expect(Math.abs(after.x - before.x - 20)).toBeLessThan(3);
  expect(Math.abs(after.y - before.y + 60)).toBeLessThan(3);
  await press(page, 'j');
  await expect(page.getByRole('region', { name: 'Ledger' })).toContainText('102.000');
  await press(page, 'Escape');
  await expect(drawn.getByText('102.000 mm')).toBeVisible();
  const kept = (await label.boundingBox())!;
  expect(Math.abs(kept.x - after.x) + Math.abs(kept.y - after.y)).toBeLessThan(4);
  // A side of a rib and the flange: their angle.
  const faces = await page.evaluate(() => {
    const { components, parts } = window.bathyscope!.modelStore.getState();
    const [{ part, path }] = components;
    const planes = parts
      .get(part)!
      .geometry.faces.flatMap((f, index) => (f.surface === 'plane' ? [{ index, axis: f.axis! }] : []));
    return {
      path,
      top: planes.find((p) => p.axis[2] > 0.99)!.index,
      side: planes.find((p) => Math.abs(p.axis[2]) < 1e-9)!.index,
    };
  });
  await page.evaluate(
    ({ path, top, side }) =>
      window
        .bathyscope!.selectionStore.getState()
        .pick([top, side].map((index) => ({ kind: 'face', component: path, index }))),
    faces,
  );
  await expect(drawn.getByTestId('angle')).toContainText('90.000 °');
});

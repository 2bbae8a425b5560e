import { expect, type Page } from '@playwright/test';
import { command, openShelf, openValve, press, scene, test, tree } from './app.ts';

/* What is kept of a model, when something stands in the way. */

const hide = async (page: Page, name: string): Promise<void> => {
  await tree(page).getByRole('row', { name }).first().click();
  await press(page, 'h');
};
const states = (page: Page) =>
  page.evaluate(() =>
    Object.keys(
      (window.bathyscope as unknown as { visibilityStore: { getState(): { states: object } } }).visibilityStore.getState().states,
    ),
  );

test('what could not be saved is said, and saved as soon as it can be', async ({ page }) => {
  await openValve(page, 'Parts');
  await page.route('**/view-state', (route) => route.abort());
  await hide(page, 'Handwheel');
  await expect(page.getByText('not saved yet')).toBeVisible();
  await page.unroute('**/view-state');
  await expect(page.getByText('not saved yet')).toBeHidden();
  await page.reload();
  await expect(scene(page)).toBeVisible();
  // The handwheel with its washer and nut.
  expect(await states(page)).toHaveLength(3);
});

test('two tabs on one model: what is kept in one shows in the other, and its state is offered, not forced', async ({ page, context }) => {
  await openValve(page, 'Parts');
  const other = await context.newPage();
  await other.goto(page.url());
  await expect(scene(other)).toBeVisible();
  await command(page, 'Make this view Home');
  await hide(page, 'Handwheel');
  await expect(other.getByText('This model was changed in another tab.')).toBeVisible();
  expect(await states(other)).toHaveLength(0);
  await other.getByRole('button', { name: 'Show it as there' }).click();
  await expect.poll(() => states(other)).toHaveLength(3);
  await other.close();
});

test('a lost graphics context is said, and the picture is drawn again when it is back', async ({ page }) => {
  await openValve(page, 'Parts');
  const frames = () => page.evaluate(() => window.bathyscope!.view.frames);
  await scene(page).evaluate((canvas: HTMLCanvasElement) => {
    const extension = canvas.getContext('webgl2')!.getExtension('WEBGL_lose_context')!;
    (window as unknown as { giveBack: () => void }).giveBack = () => extension.restoreContext();
    extension.loseContext();
  });
  await expect(page.getByText('The graphics card has dropped the picture')).toBeVisible();
  const before = await frames();
  const lost = await scene(page).screenshot();
  await page.evaluate(() => (window as unknown as { giveBack: () => void }).giveBack());
  await expect(page.getByText('The graphics card has dropped the picture')).toBeHidden();
  await expect.poll(frames).toBeGreaterThan(before);
  expect((await scene(page).screenshot()).equals(lost)).toBe(false);
});

test('geometry that does not come is asked for again; when it never comes that is said, with a button that tries once more', async ({
  page,
}) => {
  await openShelf(page);
  let failing = 2;
  await page.route('**/api/geometries/**', (route) => (failing-- > 0 ? route.abort() : route.continue()));
  await openValve(page, 'Parts');
  expect(failing).toBeLessThan(0);

  failing = Infinity;
  await page.reload();
  await expect(page.getByText('The server does not answer.')).toBeVisible();
  failing = 0;
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(scene(page)).toBeVisible();
  await page.waitForFunction(() => (window.bathyscope?.view.frames ?? 0) > 0);
});

test('a panel that breaks takes nothing else with it, and can be shown again', async ({ page }) => {
  await openValve(page, 'Section');
  await page.evaluate(() => window.bathyscope!.sectionStore.setState({ planes: [{ id: 'p', name: 'P', on: false }] }));
  await expect(page.getByText('Something went wrong in this part of the page.')).toBeVisible();
  await page.evaluate(() => window.bathyscope!.sectionStore.setState({ planes: [] }));
  await page.getByRole('button', { name: 'Show it again' }).click();
  await expect(page.getByText('Something went wrong')).toBeHidden();
  await expect(scene(page)).toBeVisible();
});

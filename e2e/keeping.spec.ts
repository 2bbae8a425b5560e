import fs from 'node:fs';
import { expect, type Page } from '@playwright/test';
import { publicFile } from '../packages/kernel/src/testing/public-file.ts';
import {
  command,
  database,
  FROM_PAGE,
  openShelf,
  openValve,
  press,
  scene,
  showTask,
  test,
  tree,
} from './app.ts';

/* What is kept of a model, when something stands in the way. */

const hide = async (page: Page, name: string): Promise<void> => {
  await tree(page).getByRole('row', { name }).first().click();
  await press(page, 'h');
};
const states = (page: Page) =>
  page.evaluate(() =>
    Object.keys(
      (
        window.bathyscope as unknown as { visibilityStore: { getState(): { states: object } } }
      ).visibilityStore.getState().states,
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

test('two tabs on one model: what is kept in one shows in the other, and its state is offered, not forced', async ({
  page,
  context,
}) => {
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
  await page.evaluate(() =>
    window.bathyscope!.sectionStore.setState({ planes: [{ id: 'p', name: 'P', on: false }] }),
  );
  await expect(page.getByText('Something went wrong in this part of the page.')).toBeVisible();
  await page.evaluate(() => window.bathyscope!.sectionStore.setState({ planes: [] }));
  await page.getByRole('button', { name: 'Show it again' }).click();
  await expect(page.getByText('Something went wrong')).toBeHidden();
  await expect(scene(page)).toBeVisible();
});

const kept = (page: Page) => page.getByRole('list', { name: 'Kept picks' }).getByRole('listitem');
const keepSet = async (page: Page): Promise<void> => {
  await tree(page).getByRole('row', { name: 'Body' }).first().click();
  await command(page, 'Keep the picked set');
};
const rename = async (page: Page, from: string, to: string): Promise<void> => {
  await kept(page).getByRole('button', { name: from }).first().click();
  await page.getByRole('textbox', { name: 'Name of the set' }).fill(to);
  await page.keyboard.press('Enter');
};

test('two people on one model: what one keeps the other sees at once, with who made it, and undo leaves what is not one’s own', async ({
  page,
  browser,
}) => {
  await openValve(page, 'Parts');
  const bens = await browser.newContext();
  const ben = await bens.newPage();
  await ben.goto(page.url());
  await expect(scene(ben)).toBeVisible();
  await page.request.put('/api/profile', { headers: FROM_PAGE, data: { name: 'Ann' } });
  await ben.request.put(new URL('/api/profile', page.url()).href, {
    headers: FROM_PAGE,
    data: { name: 'Ben' },
  });
  await keepSet(page);
  await showTask(ben, 'Parts');
  await expect(kept(ben)).toContainText(['Set 1']);
  await expect(kept(ben).getByRole('img', { name: /Kept by Ann/ })).toBeVisible();
  await rename(ben, 'Set 1', 'Castings');
  await expect(kept(page)).toContainText(['Castings']);
  await expect(kept(page).getByRole('img', { name: /changed by Ben/ })).toBeVisible();
  await press(page, 'Control+z');
  await expect(page.getByText('Someone else has changed “Castings” since')).toBeVisible();
  await expect(kept(page)).toContainText(['Castings']);
  // A view that one saves is in the other's strip as well.
  await command(ben, 'Save this view');
  await expect(page.getByRole('button', { name: 'Recall View 1' })).toBeVisible();
  // Ben takes his own changes back.
  await press(ben, 'Control+z');
  await expect(page.getByRole('button', { name: 'Recall View 1' })).toBeHidden();
  await press(ben, 'Control+z');
  await expect(kept(page)).toContainText(['Set 1']);
  await bens.close();
});

test('what is kept while the server is away is said, stands in a page opened later, and is stored once when it is back', async ({
  page,
  context,
}) => {
  await openValve(page, 'Parts');
  const away = '**/api/models/*/records';
  await context.route(away, (route) =>
    route.request().method() === 'PATCH' ? route.abort() : route.continue(),
  );
  await keepSet(page);
  await expect(page.getByText('not saved yet')).toBeVisible();
  const stored = () =>
    database(
      async (client) =>
        (await client.query<{ document: { name: string } }>('select document from record')).rows,
    );
  const later = await context.newPage();
  await later.goto(page.url());
  await expect(kept(later)).toContainText(['Set 1']);
  await expect(later.getByText('not saved yet')).toBeVisible();
  expect(await stored()).toEqual([]);
  await context.unroute(away);
  await expect
    .poll(async () => (await stored()).map((row) => row.document.name), { timeout: 20_000 })
    .toEqual(['Set 1']);
  for (const one of [page, later])
    await expect(one.getByText('not saved yet')).toBeHidden({ timeout: 20_000 });
  await later.close();
  await page.reload();
  await expect(kept(page)).toHaveCount(1);
});

test('a page with something that is not saved yet asks before it is left', async ({ page }) => {
  await openValve(page, 'Parts');
  await page.route('**/api/models/*/records', (route) =>
    route.request().method() === 'PATCH' ? route.abort() : route.continue(),
  );
  await keepSet(page);
  await expect(page.getByText('not saved yet')).toBeVisible();
  const asked = new Promise<string>((done) => {
    page.once('dialog', (dialog) => {
      done(dialog.type());
      void dialog.accept();
    });
  });
  await page.reload();
  expect(await asked).toBe('beforeunload');
});

test('what was deleted lies in the bin, is put back from it, or is deleted for good', async ({ page }) => {
  await openValve(page, 'Parts');
  await keepSet(page);
  await kept(page).getByRole('button', { name: 'Forget Set 1' }).click();
  await expect(kept(page)).toHaveCount(0);
  await command(page, 'Bin of this model');
  const bin = page.getByRole('dialog', { name: 'Bin of this model' });
  await bin
    .getByRole('listitem')
    .filter({ hasText: 'Set 1' })
    .getByRole('button', { name: 'Put back' })
    .click();
  await expect(bin.getByText('Nothing of this model was deleted')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(kept(page)).toContainText(['Set 1']);

  const upload = await page.request.post('/api/models', {
    multipart: {
      file: {
        name: 'Spare cube.stp',
        mimeType: 'model/step',
        buffer: fs.readFileSync(publicFile('cube-mm.step')),
      },
    },
  });
  const { model } = (await upload.json()) as { model: { id: string } };
  await openShelf(page);
  const takeOff = page.getByRole('button', { name: 'Take Spare cube off the shelf' });
  await takeOff.click();
  await expect(takeOff).toHaveCount(0);
  await page.getByRole('button', { name: 'Bin', exact: true }).click();
  const shelfBin = page.getByRole('dialog', { name: 'Bin', exact: true });
  const spare = shelfBin.getByRole('listitem').filter({ hasText: 'Spare cube' });
  await spare.getByRole('button', { name: 'Put back' }).click();
  await expect(spare).toHaveCount(0);
  await page.keyboard.press('Escape');
  await takeOff.click();
  await page.getByRole('button', { name: 'Bin', exact: true }).click();
  await spare.getByRole('button', { name: 'Delete for good' }).click();
  await spare.getByRole('button', { name: 'Delete: nothing brings it back' }).click();
  await expect(spare).toHaveCount(0);
  expect((await page.request.post(`/api/models/${model.id}/restore`)).status()).toBe(404);
});

test('a page of another version than the server’s says so, offers to load anew, and loses nothing by it', async ({
  page,
}) => {
  await page.route('**/api/events*', (route) =>
    route.fulfill({
      contentType: 'text/event-stream',
      body: 'event: version\ndata: {"page":"index-another.js"}\n\n',
    }),
  );
  await openValve(page, 'Parts');
  await page.route('**/api/models/*/records', (route) =>
    route.request().method() === 'PATCH' ? route.abort() : route.continue(),
  );
  await keepSet(page);
  page.on('dialog', (dialog) => void dialog.accept());
  await page.getByRole('button', { name: 'Load anew' }).click();
  await expect(scene(page)).toBeVisible();
  await expect(kept(page)).toContainText(['Set 1']);
});

import { randomUUID } from 'node:crypto';
import fs from 'node:fs';
import type { KeptRecord } from '@bathyscope/contracts';
import { expect, type Page } from '@playwright/test';
import { command, FROM_PAGE, openModel, openValve, press, scene, test, tree } from './app.ts';

/* What belongs to whom, and what is found again. */

const VALVE = 'demo/models/Ballast valve BV-40.step';

const modelId = (page: Page): string => /models\/([0-9a-f-]+)/.exec(page.url())![1];
const hidden = (page: Page) =>
  page.evaluate(() => {
    const { modelStore, picking } = window.bathyscope!;
    const shown = new Set(picking.shownPaths());
    return modelStore
      .getState()
      .components.map((c) => c.path)
      .filter((path) => !shown.has(path));
  });
const kept = (page: Page, what: string) =>
  page.waitForResponse(
    (r) => r.url().includes(what) && ['PUT', 'POST', 'PATCH'].includes(r.request().method()) && r.ok(),
  );

test('a file under another name finds the views and sets of the one it was', async ({ page }) => {
  await openValve(page, 'Parts');
  await tree(page).getByRole('row', { name: 'Body' }).first().click();
  const setKept = kept(page, '/records');
  await command(page, 'Keep the picked set');
  await setKept;
  await tree(page).getByRole('row', { name: 'Handwheel' }).first().click();
  await press(page, 'h');
  const saved = kept(page, '/picture');
  await command(page, 'Save this view');
  await saved;
  const expected = await hidden(page);
  expect(expected.length).toBeGreaterThan(0);

  // The same content in a file whose product has another name.
  const text = fs.readFileSync(VALVE, 'latin1');
  const renamed = text.replaceAll('Ballast valve BV-40', 'Trim valve TV-7');
  expect(renamed).not.toBe(text);
  const from = `/api/models/${modelId(page)}`;
  const upload = await page.request.post('/api/models', {
    multipart: {
      file: { name: 'Trim valve TV-7.step', mimeType: 'model/step', buffer: Buffer.from(renamed, 'latin1') },
    },
  });
  const { model } = (await upload.json()) as { model: { id: string } };
  const to = `/api/models/${model.id}`;
  try {
    const records = (await (await page.request.get(`${from}/records`)).json()) as KeptRecord[];
    const changes = records.map(({ kind, version, document, position }) => ({
      id: randomUUID(),
      kind,
      version,
      document,
      position,
      deleted: false,
      match: null,
    }));
    expect(await (await page.request.patch(`${to}/records`, { data: { changes } })).json()).toMatchObject([
      { outcome: 'stored' },
      { outcome: 'stored' },
    ]);

    await openModel(page, 'Trim valve TV-7');
    expect(await hidden(page)).toEqual([]);
    await page.getByRole('button', { name: 'Views', exact: true }).click();
    await page.getByRole('button', { name: 'Show View 1' }).first().click();
    expect(await hidden(page)).toEqual(expected);
    await page.getByRole('button', { name: 'Parts', exact: true }).click();
    const set = page.getByRole('list', { name: 'Kept picks' }).getByRole('listitem');
    await expect(set).not.toContainText(/probably|lost/);
    await set.getByRole('button', { name: /^Pick \d/ }).click();
    await expect(page.getByRole('region', { name: 'Readout' })).toContainText('Body');
  } finally {
    await page.request.delete(to);
  }
});

test('what is kept says so when the model has changed under it', async ({ page }) => {
  await openValve(page, 'Parts');
  await tree(page).getByRole('row', { name: 'Body' }).first().click();
  const setKept = kept(page, '/records');
  await command(page, 'Keep the picked set');
  await setKept;
  const address = `/api/models/${modelId(page)}/records`;
  const [{ id, kind, version, document, rev }] = (await (
    await page.request.get(address)
  ).json()) as KeptRecord[];
  const items = [
    ...(document['items'] as object[]),
    { kind: 'component', component: './Gone', part: 'No such part' },
  ];
  const data = { kind, version, document: { ...document, items } };
  expect(
    (await page.request.put(`${address}/${id}`, { headers: { 'If-Match': `"${rev}"` }, data })).ok(),
  ).toBe(true);
  await page.reload();
  await expect(scene(page)).toBeVisible();
  const set = page.getByRole('list', { name: 'Kept picks' }).getByRole('listitem');
  await expect(set).toContainText('1 lost');
  await set.getByRole('button', { name: 'Pick 2' }).click();
  await expect(page.getByRole('region', { name: 'Readout' })).toContainText('Body');
});

test('two models in one page: cut one, undo in the other, pick all in the first', async ({ page }) => {
  await openValve(page, 'Parts');
  const lamp = (
    (await (await page.request.get('/api/models')).json()) as { id: string; name: string }[]
  ).find((m) => m.name.startsWith('Lamp'))!;
  const result = await page.evaluate(async (id) => {
    const canvas = document.createElement('canvas');
    canvas.style.cssText = 'position:fixed;left:0;top:0;width:320px;height:240px';
    document.body.append(canvas);
    const one = window.bathyscope!;
    const other = await one.openBeside(id, canvas);
    other.run('pick-all');
    other.run('hide');
    const shownBefore = one.picking.shownPaths().length;
    one.run('section-x');
    one.run('pick-all');
    const picked = one.selectionStore.getState().picked.length;
    other.run('undo');
    const seen = {
      shownBefore,
      picked,
      components: one.modelStore.getState().components.length,
      planes: [one, other].map((w) => w.sectionStore.getState().planes.length),
      otherShown: other.picking.shownPaths().length,
      otherComponents: other.modelStore.getState().components.length,
      otherPicked: other.selectionStore.getState().picked.length,
      stillPicked: one.selectionStore.getState().picked.length,
      undoable: one.historyStore.getState().done.map((d) => d.name),
      drawn: other.view.drawn.calls,
    };
    other.close();
    canvas.remove();
    return seen;
  }, lamp.id);
  expect(result.shownBefore).toBe(result.components);
  expect(result.picked).toBe(result.components);
  expect(result.stillPicked).toBe(result.components);
  expect(result.planes).toEqual([1, 0]);
  expect(result.otherShown).toBe(result.otherComponents);
  // Undone, what was picked before is picked again.
  expect(result.otherPicked).toBe(result.otherComponents);
  expect(result.undoable).toEqual(['section along X']);
  expect(result.drawn).toBeGreaterThan(0);
});

test('a colleague’s browser: own settings, own last state; the link shows the sender’s view in the sender’s style, and brings no habits', async ({
  page,
  browser,
}) => {
  await openValve(page, 'Parts');
  await page.evaluate(() => {
    const { styleStore, visibilityStore, modelStore } = window.bathyscope!;
    const { path } = modelStore.getState().components[0];
    const style = { ...styleStore.getState().style, surface: 'none' };
    visibilityStore
      .getState()
      .set({ [path]: { visible: true, ghosted: false, keptWhole: false, style: 'own-ann' } });
    styleStore.setState({ carried: [{ id: 'own-ann', name: 'Ann’s lines', style }] });
  });
  await page.request.patch('/api/settings', {
    headers: FROM_PAGE,
    data: { values: { theme: 'abyss', unit: 'in', smoothEdges: false } },
  });
  const made = page.waitForResponse((r) => r.url().endsWith('/links') && r.ok());
  await command(page, 'Copy a link to this view');
  const { id: link } = (await (await made).json()) as { id: string };

  const context = await browser.newContext();
  const theirs = await context.newPage();
  try {
    await theirs.request.patch('/api/settings', {
      headers: FROM_PAGE,
      data: { values: { smoothEdges: false } },
    });
    await theirs.goto(`${page.url()}/at/${link}`);
    await expect(scene(theirs)).toBeVisible({ timeout: 60_000 });
    await theirs.waitForFunction(() => (window.bathyscope?.view.frames ?? 0) > 0);
    const carried = await theirs.evaluate(() =>
      window.bathyscope!.styleStore.getState().carried.map((p) => p.name),
    );
    expect(carried).toEqual(['Ann’s lines']);
    expect(await theirs.evaluate(() => document.documentElement.dataset['theme'])).toBe('chart');
    await expect(theirs.getByRole('combobox', { name: 'Unit of length' })).toHaveValue('mm');
  } finally {
    await context.close();
  }
});

test('a name and habits: kept with the profile, saved to a file and loaded again', async ({ page }) => {
  await openValve(page, 'Views');
  await command(page, 'Settings');
  await page.getByRole('tab', { name: 'Profile' }).click();
  await page.getByLabel('Your name').fill('Mara Quill');
  const named = kept(page, '/api/profile');
  await page.getByLabel('Your name').press('Enter');
  await named;
  const file = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save habits' }).click();
  const habits = JSON.parse(fs.readFileSync(await (await file).path(), 'utf8')) as {
    settings: Record<string, unknown>;
  };
  expect(habits.settings).toMatchObject({ unit: 'mm', theme: 'chart' });
  habits.settings['theme'] = 'abyss';
  habits.settings['unit'] = 'furlong';
  const load = (name: string, text: string) =>
    page
      .getByLabel('Load habits')
      .setInputFiles({ name, mimeType: 'application/json', buffer: Buffer.from(text) });
  await load('none.json', 'ISO-10303-21;');
  await expect(page.getByText('This is no file of habits')).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.dataset['theme'])).toBe('chart');
  await load('habits.json', JSON.stringify(habits));
  await expect(page.getByText('The habits of the file are yours now.')).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.dataset['theme'])).toBe('abyss');
  await page.reload();
  await expect(scene(page)).toBeVisible();
  await command(page, 'Settings');
  await page.getByRole('tab', { name: 'Profile' }).click();
  await expect(page.getByLabel('Your name')).toHaveValue('Mara Quill');
});

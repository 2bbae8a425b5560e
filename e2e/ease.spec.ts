import fs from 'node:fs';
import { expect, type Page } from '@playwright/test';
import {
  camera,
  card,
  clickPoint,
  command,
  drawn,
  look,
  onScreen,
  openModel,
  openShelf,
  pixelsOf,
  pointAt,
  press,
  readout,
  scene,
  settled,
  showTask,
  shareOfColour,
  test,
  tree,
  type Rgb,
} from './app.ts';

const field = (page: Page) => page.getByRole('combobox', { name: /Find a command/ });
const caption = (page: Page) => page.getByTestId('caption');

test('out and in as often returns; off the model, and with all hidden, a button leads back', async ({
  page,
}) => {
  await openModel(page, 'Ballast valve BV-40');
  await press(page, '0');
  await settled(page);
  const at = await onScreen(page, [12, -12, 54]);
  await pointAt(page, at.x, at.y);
  const home = (await camera(page)).camera;
  for (const away of [-400, 400]) {
    for (let i = 0; i < 25; i++) await page.mouse.wheel(0, away);
    await settled(page);
    const far = (await camera(page)).camera.height;
    expect(away < 0 ? far < home.height / 50 : far > home.height * 50).toBe(true);
    for (let i = 0; i < 25; i++) await page.mouse.wheel(0, -away);
    const back = await settled(page);
    expect(back.height / home.height).toBeCloseTo(1, 6);
  }
  await look(page, { target: [1e5, 0, 0] });
  const note = page.getByRole('status').filter({ hasText: 'Nothing of the model is in view.' });
  await note.getByRole('button', { name: 'Fit all' }).click();
  await expect(note).toBeHidden();
  await press(page, 'Control+a', 'h');
  await page
    .getByRole('status')
    .filter({ hasText: 'Everything is hidden.' })
    .getByRole('button', { name: 'Show all' })
    .click();
  await expect(page.getByText('Everything is hidden.')).toBeHidden();
});

test('a scale bar tells how large things are; a rolled view says so, and why it looks odd is asked by “?”', async ({
  page,
}) => {
  await openModel(page, 'Ballast valve BV-40');
  await press(page, 'd');
  await settled(page);
  await expect(caption(page)).toHaveText('Right');
  const bar = page.getByTestId('scale-bar');
  const text = (await bar.textContent())!;
  const mm = Number(text.replace(/[^\d.]/g, ''));
  const { camera: view, size } = await camera(page);
  const drawnBar = (await bar.locator('span').first().boundingBox())!.width;
  expect(Math.abs(drawnBar - (mm * size.height) / view.height)).toBeLessThan(1.5);
  await expect(page.getByRole('button', { name: 'Why this view looks so' })).toHaveCount(0);
  await command(page, 'Roll left by 90°');
  await settled(page);
  await expect(caption(page)).toHaveText(/^Right, rolled 90°/);
  await press(page, 'o');
  await page.getByRole('button', { name: 'Why this view looks so' }).click();
  await expect(page.getByText(/^Perspective of 30°.*; rolled by 90°\.$/)).toBeVisible();
});

test('the command field says what is not there and what is found nowhere; parts come with their place and number', async ({
  page,
}) => {
  await openModel(page, 'Ballast valve BV-40');
  await page.keyboard.press('Control+k');
  await field(page).fill('explode');
  await expect(page.getByRole('option').first()).toHaveText('There are no exploded views yet.');
  await expect(page.getByRole('option').nth(1)).toContainText('Ghost all others');
  // What merely comes nearest is not run by Enter.
  const done = () => page.evaluate(() => window.bathyscope!.historyStore.getState().done.length);
  const before = await done();
  await page.keyboard.press('Enter');
  expect(await done()).toBe(before);
  await page.keyboard.press('Control+k');
  await field(page).fill('smaller');
  await expect(page.getByRole('option').first()).toContainText('Hide everything smaller than');
  // Why it was found, where its name does not tell.
  await field(page).fill('ruler');
  await expect(page.getByRole('option').first()).toHaveText(/^Measureruler/);
  await field(page).fill('xyzzy');
  await expect(page.getByText('Nothing found for “xyzzy”.')).toBeVisible();
  await field(page).fill('hex bolt');
  await field(page).fill('drain plug');
  await expect(page.getByRole('option').first()).toContainText(/Drain plug.*in Body group/);
  await field(page).fill('seat ring');
  await expect(page.getByRole('option', { name: /Seat ring/ }).first()).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(tree(page).getByRole('row', { selected: true }).first()).toBeVisible();
  // Angle is a word of its own, not the end of “triangles”.
  await page.keyboard.press('Control+k');
  await field(page).fill('angle');
  await expect(page.getByRole('option').first()).toContainText('Measure');
});

test('menus are short and on one line each, with the rest behind “More”; help is searched', async ({
  page,
}) => {
  await openModel(page, 'Ballast valve BV-40');
  await press(page, '0');
  await settled(page);
  await clickPoint(page, [12, -12, 54], { button: 'right' });
  const menu = page.getByRole('menu');
  expect(await menu.getByRole('menuitem').count()).toBeLessThanOrEqual(10);
  await menu.getByRole('menuitem', { name: 'More …' }).click();
  expect(await menu.getByRole('menuitem').count()).toBeGreaterThan(15);
  for (const entry of await menu.getByRole('menuitem').all())
    expect((await entry.boundingBox())!.height).toBeLessThanOrEqual(29);
  const box = (await menu.boundingBox())!;
  expect(box.y).toBeGreaterThanOrEqual(0);
  expect(box.y + box.height).toBeLessThanOrEqual(page.viewportSize()!.height);
  await page.keyboard.press('Escape');
  await press(page, '?');
  const help = page.getByRole('dialog', { name: 'Keys and gestures' });
  for (const heading of await help.getByRole('heading', { level: 3 }).all())
    await expect(heading.locator('xpath=following-sibling::dl/div').first()).toBeAttached();
  await help.getByRole('searchbox').fill('isolate');
  await expect(help.getByText('Isolate', { exact: true })).toBeVisible();
  await expect(help.getByText('Fit all', { exact: true })).toHaveCount(0);
  await help.getByRole('searchbox').fill('qqq');
  await expect(help.getByText(/No key or gesture for/)).toBeVisible();
});

test('the shadow on the ground is dark where something stands and nowhere else: on opening, after a picture, on hiding, in a section', async ({
  page,
}) => {
  await openModel(page, 'Ballast valve BV-40');
  await press(page, '0');
  await settled(page);
  const setShadow = (shadow: boolean) =>
    page.evaluate((on) => {
      const { styleStore } = window.bathyscope!;
      styleStore.setState({ style: { ...styleStore.getState().style, shadow: on } });
    }, shadow);
  /** Brightness under the flange of the body, and of the far corner of the ground. */
  const brightness = async () => {
    await drawn(page);
    const { width, height, data } = await pixelsOf(page, await scene(page).screenshot());
    const mean = (x: number, y: number) => {
      let sum = 0;
      for (let i = -6; i <= 6; i++)
        for (let j = -6; j <= 6; j++) sum += data[4 * ((y + j) * width + x + i) + 1];
      return sum / 169;
    };
    return {
      corner: mean(Math.round(width * 0.06), Math.round(height * 0.86)),
      whole: data.filter((_, i) => i % 4 === 1),
    };
  };
  const plain = await brightness();
  await setShadow(true);
  const shaded = await brightness();
  const darker = shaded.whole.filter((x, i) => plain.whole[i] - x > 12).length / plain.whole.length;
  expect(darker).toBeGreaterThan(0.01);
  expect(darker).toBeLessThan(0.4);
  expect(Math.abs(shaded.corner - plain.corner)).toBeLessThan(8);
  // A picture with a ground of its own leaves no trace in the next shadow.
  await page.evaluate(async () => {
    const { view, visibilityStore } = window.bathyscope as unknown as {
      view: { picture(request: object): Promise<Blob> };
      visibilityStore: { setState(values: object): void; getState(): { states: object } };
    };
    const { panes } = window.bathyscope!.cameraStore.getState();
    await view.picture({
      camera: panes[0].camera,
      width: 200,
      height: 100,
      background: '#ffffff',
      dpi: 96,
      format: 'png',
    });
    visibilityStore.setState({ states: { ...visibilityStore.getState().states } });
  });
  const again = await brightness();
  expect(Math.abs(again.corner - shaded.corner)).toBeLessThan(3);
  // Hidden, all of it, it leaves none; cut away neither.
  await press(page, 'Control+a', 'h');
  const gone = await brightness();
  expect(
    gone.whole.filter((x, i) => x < plain.whole[i] - 12 && plain.whole[i] > 180).length / gone.whole.length,
  ).toBeLessThan(0.002);
  await press(page, 'u');
  await page.reload();
  await page.waitForFunction(() => (window.bathyscope?.view.frames ?? 0) > 0);
  await setShadow(true);
  const opened = await brightness();
  expect(Math.abs(opened.corner - plain.corner)).toBeLessThan(8);

  // What a section takes away casts none, wherever its plane has moved.
  const cast = async () => {
    await setShadow(false);
    const { whole } = await brightness();
    await setShadow(true);
    const shaded = (await brightness()).whole;
    return shaded.filter((x, i) => whole[i] - x > 12).length / whole.length;
  };
  const all = await cast();
  await showTask(page, 'Section');
  await page.getByRole('button', { name: 'X', exact: true }).click();
  const cutAt = async (x: number) => {
    await page.getByLabel('X of Plane 1 · along X, mm').fill(String(x));
    await page.keyboard.press('Enter');
    await expect.poll(() => page.evaluate(() => window.bathyscope!.cutStore.getState().asking)).toBe(false);
    return cast();
  };
  const few = await cutAt(-40);
  expect(few).toBeLessThan(all * 0.6);
  expect(await cutAt(40)).toBeGreaterThan(few * 1.3);
});

test('in small windows nothing leaves them, the panel and the strip fold, and all is reached', async ({
  page,
}) => {
  const outside = () =>
    page.evaluate(() =>
      [...document.querySelectorAll('button, input, select, a, canvas')].flatMap((element) => {
        const box = element.getBoundingClientRect();
        const out =
          box.width > 1 && (box.right > innerWidth + 1 || box.left < -1 || box.bottom > innerHeight + 1);
        return out && !element.closest('.overflow-y-auto, .overflow-x-auto, .overflow-auto')
          ? [element.outerHTML.slice(0, 90)]
          : [];
      }),
    );
  await page.setViewportSize({ width: 1024, height: 700 });
  await openModel(page, 'Ballast valve BV-40');
  for (const [width, height] of [
    [1024, 700],
    [800, 600],
    [640, 400],
  ]) {
    await page.setViewportSize({ width, height });
    await expect(
      page.getByRole('button', { name: width < 900 ? 'Unfold the strip' : 'Fold the strip' }),
    ).toBeVisible();
    expect(await outside()).toEqual([]);
    await expect(page.getByRole('button', { name: /^Ballast valve/ })).toBeVisible();
    expect((await scene(page).boundingBox())!.width).toBeGreaterThan(width * 0.55);
    await page.getByRole('button', { name: 'Views', exact: true }).click();
    await expect(page.getByRole('region', { name: 'Saved views of the model' })).toBeVisible();
    expect(await outside()).toEqual([]);
    await page.getByRole('button', { name: 'Parts', exact: true }).click();
    await expect(tree(page)).toBeVisible();
  }
  await page.getByRole('button', { name: 'Unfold the strip' }).click();
  await expect(page.getByRole('group', { name: 'View pad' })).toBeVisible();
  expect(await outside()).toEqual([]);
});

test('the shelf is searched, ordered and tagged', async ({ page }) => {
  await openShelf(page);
  await expect(card(page, 'Lamp housing LH-20')).toContainText(/Lamp housing LH-20\.step · \d+ kB/);
  await card(page, 'Lamp housing LH-20')
    .getByRole('button', { name: /^Tags of|Add tags/ })
    .click();
  await page.getByRole('textbox', { name: /Tags of Lamp housing/ }).fill('optics, 200 bar');
  await page.keyboard.press('Enter');
  await expect(card(page, 'Lamp housing LH-20')).toContainText('optics, 200 bar');
  await page.getByRole('searchbox', { name: 'Search the shelf' }).fill('200 OPT');
  await expect(page.getByRole('list', { name: 'Models' }).getByRole('listitem')).toHaveCount(1);
  await page.getByRole('searchbox', { name: 'Search the shelf' }).fill('periscope');
  await expect(page.getByText('Nothing on the shelf bears “periscope”')).toBeVisible();
  await page.getByRole('searchbox', { name: 'Search the shelf' }).fill('');
  await page.getByRole('combobox', { name: 'Order of the shelf' }).selectOption('By name');
  await expect(page.getByRole('list', { name: 'Models' }).getByRole('listitem').first()).toContainText(
    'Ballast valve',
  );
  const tags = page.getByRole('group', { name: 'Tags of the shelf' });
  await tags.getByRole('button', { name: 'optics 1' }).click();
  await expect(page.getByRole('list', { name: 'Models' }).getByRole('listitem')).toHaveCount(1);
  await tags.getByRole('button', { name: 'optics 1' }).click();
  await expect(page.getByRole('list', { name: 'Models' }).getByRole('listitem').first()).toContainText(
    'Ballast valve',
  );
  await card(page, 'Lamp housing LH-20').getByRole('button', { name: 'optics' }).click();
  await page.getByRole('textbox', { name: /Tags of Lamp housing/ }).fill('');
  await page.keyboard.press('Enter');
  await expect(card(page, 'Lamp housing LH-20')).toContainText('Add tags');
  await expect(tags).toBeHidden();
});

test('a finger that rests opens the menu, one that taps picks', async ({ browser, baseURL }) => {
  const context = await browser.newContext({
    hasTouch: true,
    viewport: { width: 1280, height: 800 },
    baseURL,
  });
  const page = await context.newPage();
  await openModel(page, 'Ballast valve BV-40');
  await press(page, '0');
  await settled(page);
  const { x, y } = await onScreen(page, [12, -12, 54]);
  const client = await context.newCDPSession(page);
  await client.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: [{ x, y }] });
  await expect(page.getByRole('menu')).toBeVisible();
  await client.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
  await expect(page.getByRole('menu')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('menu')).toBeHidden();
  await page.touchscreen.tap(x, y);
  await expect(readout(page)).toBeVisible();
  await context.close();
});

test('columns of the parts are sorted, moved, made wider and kept; names keep their room; a search marks and counts', async ({
  page,
}) => {
  await openModel(page, 'Ballast valve BV-40');
  for (const column of ['mass', 'material', 'size'])
    await page.getByRole('combobox', { name: 'Columns' }).selectOption(column);
  const heads = tree(page).getByRole('columnheader');
  const head = (name: string) =>
    tree(page).getByRole('columnheader', { name: `Sort by ${name.toLowerCase()}` });
  const order = async () =>
    (await heads.allTextContents())
      .map((t) => t.trim().split(/\s/)[0])
      .filter((t) => /^(Name|Mass|Material|Size)$/.test(t));
  await expect.poll(order).toEqual(['Name', 'Mass', 'Material', 'Size']);
  const name = tree(page).getByRole('row').nth(2).getByRole('gridcell').first();
  expect((await name.boundingBox())!.width).toBeGreaterThanOrEqual(139);
  // The left edge of a column makes it wider.
  const before = (await head('Size').boundingBox())!;
  const grid = (await tree(page).boundingBox())!;
  await tree(page).evaluate((element) => element.scrollTo({ left: 1000 }));
  const size = (await head('Size').boundingBox())!;
  await page.mouse.move(size.x - 2, size.y + size.height / 2);
  await page.mouse.down();
  await page.mouse.move(size.x - 42, size.y + size.height / 2, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => (await head('Size').boundingBox())!.width).toBeGreaterThan(before.width + 30);
  expect(grid.width).toBeGreaterThan(200);
  // Dragged by its head before the one beside it.
  const [from, to] = [(await head('Size').boundingBox())!, (await head('Material').boundingBox())!];
  await page.mouse.move(from.x + 24, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(from.x + 8, from.y + from.height / 2, { steps: 4 });
  await page.mouse.move(to.x - 16, to.y + to.height / 2, { steps: 8 });
  await page.mouse.up();
  await expect.poll(order).toEqual(['Name', 'Mass', 'Size', 'Material']);
  await page.getByRole('button', { name: 'Sort by mass' }).click();
  await expect(head('Mass')).toHaveAttribute('aria-sort', 'ascending');
  await page.reload();
  await expect.poll(order).toEqual(['Name', 'Mass', 'Size', 'Material']);
  await expect.poll(async () => (await head('Size').boundingBox())!.width).toBeGreaterThan(before.width + 30);
  await page.getByRole('searchbox', { name: 'Search the parts' }).fill('bolt');
  await expect(page.getByText(/^\d+ found$/)).toBeVisible();
  await expect(tree(page).locator('mark').first()).toHaveText(/bolt/i);
});

test('edges of a dark part are light, by day and by night; without edges there are none', async ({
  page,
}) => {
  await openModel(page, 'Ballast valve BV-40');
  await tree(page)
    .getByRole('row', { name: /^Handwheel Hide/ })
    .click();
  await press(page, 'i', 'Escape', 'f');
  const box = (await scene(page).boundingBox())!;
  await page.mouse.move(box.x + 20, box.y + 60);
  await settled(page);
  const own = await page.evaluate(() => {
    const wheel = window.bathyscope!.modelStore.getState().components.find((c) => c.name === 'Handwheel')!;
    return (wheel as unknown as { colour: [number, number, number] }).colour;
  });
  const light = own.map((c, k) =>
    Math.round(255 * (0.38 * c + 0.62 * [0.86, 0.91, 0.93][k])),
  ) as unknown as Rgb;
  const share = async (edges: boolean) => {
    await page.evaluate((edges) => {
      const { styleStore } = window.bathyscope!;
      styleStore.setState({ style: { ...styleStore.getState().style, edges } });
    }, edges);
    await drawn(page);
    return shareOfColour(page, light, 14);
  };
  expect((await share(true)) - (await share(false))).toBeGreaterThan(3e-4);
  await page.evaluate(() => window.bathyscope!.run('theme'));
  expect((await share(true)) - (await share(false))).toBeGreaterThan(3e-4);
});

test('in the workspace one hears that a file has come to the shelf, and that another could not be read', async ({
  page,
}) => {
  await openModel(page, 'Ballast valve BV-40');
  const upload = (name: string, text: string) =>
    page.request.post('/api/models', {
      multipart: {
        file: { name, mimeType: 'application/octet-stream', buffer: Buffer.from(text, 'latin1') },
      },
    });
  const valve = fs.readFileSync('demo/models/Ballast valve BV-40.step', 'latin1');
  await upload('Sent over.step', valve.replace('HEADER;', 'HEADER; /* sent over */'));
  await expect(page.getByText('“Sent over.step” is on the shelf.')).toBeVisible({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Open', exact: true }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Sent over');
  await upload(
    'Without data.step',
    `${valve.slice(0, valve.indexOf('DATA;'))}DATA;\nENDSEC;\nEND-ISO-10303-21;\n`,
  );
  await expect(page.getByText(/“Without data\.step” could not be read: /)).toBeVisible({ timeout: 60_000 });
});

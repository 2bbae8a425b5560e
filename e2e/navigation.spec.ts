import { viewBack, viewRight, viewUp, type ViewCamera } from '@bathyscope/core/camera';
import { dot, normalize, subtract, type Vec3 } from '@bathyscope/core/math';
import { expect, type Page } from '@playwright/test';
import { camera, drag, onScreen, openModel, scene, settled, test, turn } from './app.ts';

type Button = 'left' | 'middle' | 'right';

const MIDDLE: Vec3 = [20, 0, 0];

async function openAtHome(page: Page): Promise<ViewCamera> {
  await openModel(page, 'Ballast valve BV-40');
  await scene(page).focus();
  return settled(page);
}

const now = async (page: Page): Promise<ViewCamera> => (await camera(page)).camera;
const turned = (a: ViewCamera, b: ViewCamera) => Math.acos(Math.min(1, dot(viewBack(a), viewBack(b))));
const looksFrom = (c: ViewCamera, direction: Vec3) => expect(dot(viewBack(c), direction)).toBeCloseTo(1, 6);

/** A drag with keys and one or two buttons held. */
async function handDrag(
  page: Page,
  keys: string[],
  buttons: Button[],
  dx: number,
  dy: number,
): Promise<void> {
  const from = await onScreen(page, MIDDLE);
  for (const key of keys) await page.keyboard.down(key);
  if (buttons.length === 1) await drag(page, buttons[0], from, dx, dy);
  else {
    await page.mouse.move(from.x, from.y);
    for (const button of buttons) await page.mouse.down({ button });
    await page.mouse.move(from.x + dx, from.y + dy, { steps: 6 });
    for (const button of buttons) await page.mouse.up({ button });
  }
  for (const key of keys) await page.keyboard.up(key);
}

const PRESETS: [
  name: string,
  orbit: [string[], Button[]],
  pan: [string[], Button[]],
  zoom: [string[], Button[]],
][] = [
  ['Right drag orbits', [[], ['right']], [[], ['middle']], [['Control'], ['middle']]],
  ['Middle drag orbits', [[], ['middle']], [['Shift'], ['middle']], [['Control', 'Shift'], ['middle']]],
  ['Left drag orbits', [[], ['left']], [[], ['right']], [[], ['middle']]],
  ['Two buttons', [[], ['middle', 'right']], [[], ['middle']], [['Shift'], ['middle', 'right']]],
  ['Alt drag', [['Alt'], ['left']], [['Alt'], ['middle']], [['Alt'], ['right']]],
];

test('each preset of gestures: orbit, pan and zoom by hand', async ({ page }) => {
  await openAtHome(page);
  for (const [name, orbit, pan, zoom] of PRESETS) {
    const home = await turn(page, '0');
    await page.getByLabel('Gesture preset').selectOption({ label: name });
    await expect(page.getByRole('status').filter({ hasText: 'orbits' })).toContainText(/orbits/);

    await handDrag(page, ...orbit, 60, -20);
    const orbited = await now(page);
    expect(turned(home, orbited)).toBeGreaterThan(0.2);
    expect(orbited.height).toBe(home.height);
    // Turntable: the model's up stays upright.
    expect(dot(viewRight(orbited), [0, 0, 1])).toBeCloseTo(0, 9);

    await handDrag(page, ...pan, 70, 30);
    const panned = await now(page);
    expect(panned.orientation).toEqual(orbited.orientation);
    const { size } = await camera(page);
    const moved = subtract(panned.target, orbited.target);
    expect((-dot(moved, viewRight(panned)) / panned.height) * size.height).toBeCloseTo(70, 0);
    expect((dot(moved, viewUp(panned)) / panned.height) * size.height).toBeCloseTo(30, 0);

    await handDrag(page, ...zoom, 0, -60);
    const zoomed = await now(page);
    expect(zoomed.height).toBeLessThan(panned.height * 0.8);
    expect(zoomed.orientation).toEqual(panned.orientation);
    await expect(page.getByRole('menu')).toBeHidden();
  }
});

test('preset “Trackpad”: two fingers orbit, with Shift pan, a pinch zooms', async ({ page }) => {
  const home = await openAtHome(page);
  await page.getByLabel('Gesture preset').selectOption({ label: 'Trackpad' });
  const { x, y } = await onScreen(page, MIDDLE);
  await page.mouse.move(x, y);
  await page.mouse.wheel(-80, 0);
  await expect.poll(async () => turned(home, await now(page))).toBeGreaterThan(0.2);
  const orbited = await settled(page);
  await page.keyboard.down('Shift');
  await page.mouse.wheel(0, 60);
  await page.keyboard.up('Shift');
  await expect.poll(async () => (await now(page)).target).not.toEqual(orbited.target);
  expect((await settled(page)).orientation).toEqual(orbited.orientation);
  await page.keyboard.down('Control');
  await page.mouse.wheel(0, -40);
  await page.keyboard.up('Control');
  await expect.poll(async () => (await now(page)).height).toBeLessThan(orbited.height * 0.9);
});

test('view pad, its keys and Shift; the globe; arrows; the active pip is marked', async ({ page }) => {
  await openAtHome(page);
  const expected: [string, Vec3][] = [
    ['s', [0, -1, 0]],
    ['w', [0, 0, 1]],
    ['a', [-1, 0, 0]],
    ['d', [1, 0, 0]],
    ['x', [0, 0, -1]],
  ];
  for (const [key, direction] of expected) looksFrom(await turn(page, key), direction);
  looksFrom(await turn(page, 'q'), normalize([-1, -1, 1]));
  // From behind: the left key shows the side that is then on the left.
  looksFrom(await turn(page, 'Shift+A'), [1, 0, 0]);
  looksFrom(await turn(page, 'Shift+S'), [0, 1, 0]);

  await page
    .getByRole('group', { name: 'View pad' })
    .getByRole('button', { name: 'Look from top', exact: true })
    .click();
  looksFrom(await settled(page), [0, 0, 1]);
  const globe = page.getByRole('group', { name: 'Bearing globe' });
  await expect(globe.getByRole('button', { name: 'Look from top', exact: true })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await globe.getByRole('button', { name: 'Look from front top', exact: true }).click();
  looksFrom(await settled(page), [0, -Math.SQRT1_2, Math.SQRT1_2]);

  await scene(page).focus();
  const before = await turn(page, 's');
  expect(turned(before, await turn(page, 'ArrowRight'))).toBeCloseTo(Math.PI / 18, 6);
  expect(turned(before, await turn(page, 'Shift+ArrowLeft', 'ArrowLeft'))).toBeCloseTo(Math.PI / 180, 6);
  looksFrom(await turn(page, 's', 'Control+ArrowRight'), [Math.SQRT1_2, -Math.SQRT1_2, 0]);
  looksFrom(await turn(page, 's', 'Control+Shift+ArrowLeft'), [1, 0, 0]);
  const rolled = await turn(page, 's', ']');
  expect(dot(viewUp(rolled), [0, 0, 1])).toBeCloseTo(Math.cos(Math.PI / 12), 6);

  // The sphere turns as the scene does: the same motion, the same angle.
  const start = await turn(page, 's');
  const sphere = (await globe.locator('circle.cursor-grab').boundingBox())!;
  await drag(page, 'left', { x: sphere.x + 25, y: sphere.y + 55 }, 30, 0);
  expect(turned(start, await settled(page))).toBeCloseTo((30 * Math.PI) / 500, 3);
});

test('lost and back: far out and panned away, one key returns; zooming beside the model keeps it in sight', async ({
  page,
}) => {
  const home = await openAtHome(page);
  const box = (await scene(page).boundingBox())!;
  await page.mouse.move(box.x + 30, box.y + 400);
  for (let i = 0; i < 12; i++) await page.mouse.wheel(0, 900);
  await drag(page, 'middle', { x: box.x + 300, y: box.y + 300 }, 500, 300);
  await drag(page, 'middle', { x: box.x + 300, y: box.y + 300 }, 500, 300);
  const lost = await now(page);
  expect(lost.height).toBeGreaterThan(home.height * 20);
  // Zooming in with the cursor beside the model: it comes back into sight by itself.
  await page.mouse.move(box.x + 200, box.y + 200);
  for (let i = 0; i < 40; i++) await page.mouse.wheel(0, -200);
  await settled(page);
  const seen = await page.evaluate(() => window.bathyscope!.picking.nearestPoint(200, 200));
  const at = await onScreen(page, seen!);
  expect(at.x).toBeGreaterThan(box.x);
  expect(at.x).toBeLessThan(box.x + box.width);
  expect((await now(page)).height).toBeLessThan(lost.height / 100);
  const back = await turn(page, '0');
  expect(back.height).toBeCloseTo(home.height, 6);
  back.target.forEach((x, k) => expect(x).toBeCloseTo(home.target[k], 6));

  // The trail leads back and forward again.
  const trail = () =>
    page.evaluate(() => Object.values(window.bathyscope!.trailStore.getState().trails)[0].views.length);
  const began = await trail();
  const side = await turn(page, 'd');
  await expect.poll(trail).toBe(began + 1);
  await turn(page, 'w');
  await expect.poll(trail).toBe(began + 2);
  const again = await turn(page, 'Backspace');
  again.orientation.forEach((x, k) => expect(x).toBeCloseTo(side.orientation[k], 9));
  looksFrom(await turn(page, 'Shift+Backspace'), [0, 0, 1]);
});

test('normal to a face, from behind, along an axis; a hinge; what does not fit says what would', async ({
  page,
}) => {
  await openAtHome(page);
  const click = async (p: Vec3) => {
    const { x, y } = await onScreen(page, p);
    await page.mouse.click(x, y);
  };
  await click([12, -12, 54]);
  looksFrom(await turn(page, 'n'), [0, 0, 1]);
  looksFrom(await turn(page, 'n'), [0, 0, -1]);
  await expect(page.getByText(/hidden behind/)).toBeVisible();
  await turn(page, 'Escape', '0');

  // The barrel of the valve body: a cylinder about X.
  await click([0, -18.4, 18.4]);
  const along = await turn(page, 'n');
  expect(Math.abs(viewBack(along)[0])).toBeCloseTo(1, 6);
  await expect(page.getByText(/no single normal: looking along its axis/)).toBeVisible();
  await page.getByRole('button', { name: 'Normal at the picked point' }).click();
  expect(Math.abs(viewBack(await settled(page))[0])).toBeLessThan(0.1);
  await turn(page, 'Escape', '0');

  // Hinged about the model's Z, an orbit by hand keeps the height of the eye.
  await page.keyboard.press('Control+k');
  await page.keyboard.type('hinge about z');
  await page.keyboard.press('Enter');
  const before = await settled(page);
  await drag(page, 'right', await onScreen(page, MIDDLE), 90, 70);
  const hinged = await now(page);
  expect(viewBack(hinged)[2]).toBeCloseTo(viewBack(before)[2], 9);
  expect(turned(before, hinged)).toBeGreaterThan(0.2);
  await scene(page).focus();
  await page.keyboard.press('Escape');
  await expect(page.getByText(/Hinged about the model/).first()).toBeHidden({ timeout: 8000 });

  await page.getByRole('button', { name: 'Parts', exact: true }).click();
  if (!(await page.getByRole('treegrid').isVisible()))
    await page.getByRole('button', { name: 'Parts', exact: true }).click();
  await page.getByRole('row', { name: /Handwheel Hide/ }).click();
  await scene(page).focus();
  await page.keyboard.press('n');
  await expect(page.getByText(/Pick a face or an edge/)).toBeVisible();
  await page.keyboard.press('Escape');
});

test('orthographic and perspective keep the size at the pivot; a straight view in perspective says so', async ({
  page,
}) => {
  const home = await openAtHome(page);
  const pivot = await page.evaluate(() => window.bathyscope!.cameraStore.getState().pivot);
  const before = await onScreen(page, pivot);
  const perspective = await turn(page, 'o');
  expect(perspective.projection).toBe('perspective');
  const after = await onScreen(page, pivot);
  expect(Math.hypot(after.x - before.x, after.y - before.y)).toBeLessThan(0.01);
  await page.keyboard.press('s');
  await expect(page.getByText(/straight view is in perspective/)).toBeVisible();
  await expect(page.getByTestId('caption')).toHaveText('Front · perspective');
  await page.getByRole('button', { name: 'Orthographic', exact: true }).last().click();
  expect((await settled(page)).projection).toBe('orthographic');
  // Wheel zoom in perspective never passes the surface under the cursor.
  await turn(page, 'o', '0');
  const { x, y } = await onScreen(page, [12, -12, 54]);
  await page.mouse.move(x, y);
  for (let i = 0; i < 30; i++) await page.mouse.wheel(0, -300);
  await settled(page);
  expect(
    await page.evaluate(
      ([px, py]) => {
        const box = document.querySelector('[data-testid=scene]')!.getBoundingClientRect();
        return window.bathyscope!.picking.pointAt(px - box.left, py - box.top);
      },
      [x, y],
    ),
  ).not.toBeNull();
  await turn(page, 'o', '0');
  expect((await now(page)).height).toBeCloseTo(home.height, 6);
});

test('one-button modes, zoom window and box pick', async ({ page }) => {
  const home = await openAtHome(page);
  const told = page.getByRole('status').filter({ hasText: 'orbits' });
  const command = async (text: string) => {
    await page.keyboard.press('Control+k');
    await page.keyboard.type(text);
    await page.keyboard.press('Enter');
  };
  await command('orbit by left drag');
  await expect(page.getByText('Orbit by left drag: left drag')).toBeVisible();
  await drag(page, 'left', await onScreen(page, MIDDLE), 60, 0);
  expect(turned(home, await now(page))).toBeGreaterThan(0.3);
  await scene(page).focus();
  await page.keyboard.press('Escape');
  await expect(page.getByText('Orbit by left drag: left drag')).toBeHidden();

  await turn(page, '0');
  await command('zoom window');
  await expect(page.getByText('Zoom window: left drag')).toBeVisible();
  const box = (await scene(page).boundingBox())!;
  await drag(page, 'left', { x: box.x + 300, y: box.y + 200 }, 200, 140);
  const { camera: zoomed, size } = await camera(page);
  expect(zoomed.height).toBeCloseTo(home.height * Math.max(200 / size.width, 140 / size.height), 1);

  // Left to right: fully inside; right to left: touching.
  await turn(page, '0');
  const whole = [{ x: box.x + 5, y: box.y + 5 }, box.width - 10, box.height - 30] as const;
  await drag(page, 'left', whole[0], whole[1], whole[2]);
  await expect(told).toContainText('Picked: 33 things');
  const wheel = await onScreen(page, [88, 0, 0]);
  await drag(page, 'left', { x: wheel.x - 10, y: wheel.y - 10 }, 20, 20);
  await expect(told).toContainText('Nothing picked');
  await drag(page, 'left', { x: wheel.x + 10, y: wheel.y + 10 }, -20, -20);
  await expect(told).toContainText(/Picked: (\d|1 component)/);
});

test('gestures and keys can be bound otherwise, and are kept for the user', async ({ page }) => {
  await openAtHome(page);
  await page.getByRole('button', { name: 'Settings' }).click();
  const dialog = page.getByRole('dialog', { name: 'Settings' });
  const device = (await page.getByTestId('device').boundingBox())!;
  await page.mouse.move(device.x + 140, device.y + 60);
  await page.mouse.down({ button: 'right' });
  await expect(page.getByTestId('device')).toContainText('Right drag');
  await expect(page.getByTestId('device')).toContainText('Orbit');
  await page.mouse.up({ button: 'right' });
  await dialog.getByLabel('What right drag does').selectOption('pan');
  await dialog.getByRole('tab', { name: 'Keys' }).click();
  await dialog.getByRole('button', { name: 'Key of Fit all' }).click();
  await page.keyboard.press('j');
  const kept = page.waitForResponse(
    (r) => r.url().endsWith('/api/settings') && r.request().method() === 'PATCH',
  );
  await kept;
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');

  // Another browser of the same user.
  await page.evaluate(() => localStorage.clear());
  await page.reload();
  await page.waitForFunction(() => (window.bathyscope?.view.frames ?? 0) > 0);
  await scene(page).focus();
  const before = await settled(page);
  await drag(page, 'right', await onScreen(page, MIDDLE), 80, 20);
  const panned = await now(page);
  expect(panned.orientation).toEqual(before.orientation);
  expect(panned.target).not.toEqual(before.target);
  await page.keyboard.press('j');
  await expect.poll(async () => (await now(page)).target).not.toEqual(panned.target);
  await page.keyboard.press('?');
  const help = page.getByRole('dialog', { name: 'Keys and gestures' });
  await expect(help.locator('div', { hasText: /^PanRight drag$/ }).first()).toBeVisible();
  await page.keyboard.press('Escape');
});

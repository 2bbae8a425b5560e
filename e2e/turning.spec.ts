import { project, viewBack, viewRight, viewUp, type ViewCamera } from '@bathyscope/core/camera';
import { addScaled, dot, rotate, type Vec3 } from '@bathyscope/core/math';
import { expect, type Page } from '@playwright/test';
import {
  camera,
  clickPoint,
  command,
  drag,
  onScreen,
  openModel,
  pointAt,
  scene,
  settled,
  test,
  turn,
  whereIs,
} from './app.ts';

const pivotOf = (page: Page) => page.evaluate(() => window.bathyscope!.cameraStore.getState().pivot);
const globe = (page: Page) => page.getByRole('group', { name: 'Bearing globe' });

/** Sizes are those of demo/lamp-housing.ts: a housing about Z, 100 mm high. */
async function open(page: Page): Promise<ViewCamera> {
  await openModel(page, 'Lamp housing LH-20');
  await scene(page).focus();
  return settled(page);
}

const stays = (a: { x: number; y: number }, b: { x: number; y: number }) =>
  expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeLessThan(0.05);

test('each ring of the globe turns about its own axis, the rim rolls, the buttons beside it roll by 90°', async ({
  page,
}) => {
  const home = await open(page);
  for (const [k, name] of ['X', 'Y', 'Z'].entries()) {
    await turn(page, '0');
    const letter = (await globe(page)
      .locator('text', { hasText: new RegExp(`^${name}$`) })
      .boundingBox())!;
    const pivot = await pivotOf(page);
    const before = await onScreen(page, pivot);
    await drag(page, 'left', { x: letter.x + letter.width / 2, y: letter.y + letter.height / 2 }, 9, 12);
    const after = await settled(page);
    // About a model axis the eye's bearing keeps its part along that axis.
    expect(viewBack(after)[k]).toBeCloseTo(viewBack(home)[k], 9);
    expect(Math.acos(dot(viewUp(after), viewUp(home)))).toBeGreaterThan(0.02);
    stays(await onScreen(page, pivot), before);
  }
  const start = await turn(page, 's');
  const rim = (await globe(page).locator('circle.cursor-ew-resize').boundingBox())!;
  const [cx, cy, r] = [rim.x + rim.width / 2, rim.y + rim.height / 2, rim.width / 2 - 4];
  await page.mouse.move(cx + r, cy);
  await page.mouse.down();
  for (let i = 1; i <= 9; i++)
    await page.mouse.move(cx + r * Math.cos((i * Math.PI) / 18), cy - r * Math.sin((i * Math.PI) / 18));
  await page.mouse.up();
  const rolled = await settled(page);
  expect(dot(viewBack(rolled), viewBack(start))).toBeCloseTo(1, 9);
  // A quarter turn of the hand anticlockwise takes the model along: its up points left on the screen.
  expect(dot(viewRight(rolled), [0, 0, 1])).toBeCloseTo(-1, 2);
  await turn(page, 's');
  await globe(page).getByRole('button', { name: 'Roll right by 90°' }).click();
  expect(dot(viewRight(await settled(page)), [0, 0, 1])).toBeCloseTo(1, 9);
  expect(dot(viewRight(await turn(page, 's', 'Shift+BracketLeft')), [0, 0, 1])).toBeCloseTo(-1, 9);
});

test('pivot policies: under the cursor, the picked thing, the middle of the model; a pivot that glides', async ({
  page,
}) => {
  await open(page);
  await page.getByRole('button', { name: 'Views', exact: true }).click();
  const policy = page.locator('select', { hasText: 'Under the cursor at each drag' });
  const rim: Vec3 = [0, -60, 98];
  const turnFrom = async (from: { x: number; y: number }) => {
    await drag(page, 'right', from, 45, 18);
    return settled(page);
  };
  await turn(page, 's');
  await policy.selectOption('cursor');
  const under = await onScreen(page, rim);
  await turnFrom(under);
  const put = await pivotOf(page);
  stays(await onScreen(page, put), under);

  await policy.selectOption('centre');
  await turnFrom(under);
  // demo/lamp-housing.ts: from x = −84 (the lug) to 60 (the flange), 98 mm high.
  for (const [k, middle] of [-12, 0, 49].entries()) expect((await pivotOf(page))[k]).toBeCloseTo(middle, 2);

  await policy.selectOption('picked');
  await turn(page, 's');
  await clickPoint(page, rim);
  const before = await pivotOf(page);
  await turnFrom(under);
  const picked = await pivotOf(page);
  expect(picked).not.toEqual(before);

  await policy.selectOption('kept');
  await page.getByLabel(/Pivot glides/).check();
  await turn(page, 'Escape', 's');
  await pointAt(page, under.x, under.y);
  await turn(page, '.');
  const pane = await camera(page);
  const off = (c: ViewCamera, p: Vec3) =>
    Math.hypot(
      project(c, pane.size, p).x - pane.size.width / 2,
      project(c, pane.size, p).y - pane.size.height / 2,
    );
  const pivot = await pivotOf(page);
  const far = off(pane.camera, pivot);
  expect(far).toBeGreaterThan(80);
  const glided = await turnFrom(under);
  expect(off(glided, pivot)).toBeLessThan(far * 0.7);
  await page.getByLabel(/Pivot glides/).uncheck();
});

test('a hinge on a straight edge, a cylinder and a planar face: the axis stays where it is; a vertex becomes the pivot', async ({
  page,
}) => {
  await open(page);
  const hinge = () =>
    page.evaluate(
      () => window.bathyscope!.cameraStore.getState().hinge as { origin: Vec3; axis: Vec3 } | null,
    );
  for (const [kind, shape] of [
    ['edge', 'line'],
    ['face', 'cylinder'],
    ['face', 'plane'],
  ] as const) {
    await turn(page, 'Escape', 'Escape', '0');
    const at = await whereIs(page, kind, shape);
    await page.mouse.click(at.x, at.y);
    await command(page, 'Hinge about picked');
    await expect.poll(hinge).not.toBeNull();
    const { origin, axis } = (await hinge())!;
    const ends = [origin, addScaled(origin, axis, 30)];
    const before = [await onScreen(page, ends[0]), await onScreen(page, ends[1])];
    const start = await settled(page);
    await drag(page, 'right', { x: at.x + 40, y: at.y - 30 }, 70, 30);
    const after = await settled(page);
    expect(Math.acos(dot(viewRight(start), viewRight(after)))).toBeGreaterThan(0.02);
    stays(await onScreen(page, ends[0]), before[0]);
    stays(await onScreen(page, ends[1]), before[1]);
  }
  await turn(page, 'Escape', 'Escape', '0');
  const corner = await whereIs(page, 'vertex');
  await page.mouse.click(corner.x, corner.y);
  await command(page, 'Hinge about picked');
  await expect(page.getByText('The model turns about this vertex.')).toBeVisible();
  expect(await hinge()).toBeNull();
  const pivot = await pivotOf(page);
  const at = await onScreen(page, pivot);
  expect(Math.hypot(at.x - corner.x, at.y - corner.y)).toBeLessThan(10);
  await drag(page, 'right', { x: corner.x + 30, y: corner.y }, 50, 20);
  stays(await onScreen(page, pivot), at);
});

test('T with arrows pans, Space centres, a middle click moves the pivot, Shift+F fits what is picked', async ({
  page,
}) => {
  const home = await open(page);
  await page.keyboard.down('t');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.up('t');
  const panned = await settled(page);
  expect(panned.orientation).toEqual(home.orientation);
  const { size } = await camera(page);
  const moved = (await onScreen(page, [0, 0, 50])).x;
  await turn(page, '0');
  expect(moved - (await onScreen(page, [0, 0, 50])).x).toBeCloseTo(60, 3);

  await turn(page, 's');
  const at = await onScreen(page, [0, -60, 97]);
  await pointAt(page, at.x, at.y);
  await page.keyboard.press('Space');
  const box = (await scene(page).boundingBox())!;
  await settled(page);
  const centred = await onScreen(page, [0, -60, 97]);
  expect(Math.hypot(centred.x - box.x - size.width / 2, centred.y - box.y - size.height / 2)).toBeLessThan(1);

  await page.mouse.click(centred.x, centred.y, { button: 'middle' });
  await expect.poll(async () => (await pivotOf(page))[1]).toBeLessThan(-50);

  await turn(page, '0');
  const whole = (await camera(page)).camera.height;
  const edge = await whereIs(page, 'edge', 'line');
  await page.mouse.click(edge.x, edge.y);
  const fitted = await turn(page, 'Shift+F');
  expect(fitted.height).toBeLessThan(whole / 1.5);
  expect(rotate(fitted.orientation, [0, 0, 1])).toEqual(rotate(home.orientation, [0, 0, 1]));
});

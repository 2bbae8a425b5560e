import { viewBack } from '@bathyscope/core/camera';
import {
  addScaled,
  dot,
  subtract,
  transformDirection,
  transformPoint,
  type Mat4,
  type Vec3,
} from '@bathyscope/core/math';
import { planePosition } from '@bathyscope/core/section';
import { expect } from '@playwright/test';
import fs from 'node:fs';
import {
  answer,
  clickPoint,
  command,
  cutLamp,
  cutLampFloor,
  drag,
  drawn,
  look,
  openFile,
  onScreen,
  openValve,
  pixelsOf,
  press,
  readout,
  scene,
  sectionOf,
  settled,
  shareOfColour,
  showTask,
  test,
  whereIs,
} from './app.ts';
import { publicFile } from '../packages/kernel/src/testing/public-file.ts';

/** sRGB of demo/ballast-valve.ts. */
const WHEEL = [44, 92, 96] as const;
const STEEL = [110, 134, 142] as const;

const number = (text: string): number =>
  Number(
    text
      .split('mm')[0]
      .replace(/^[^\d−-]*(\d* ?:)?/, '')
      .replace(/[^\d.]/g, ''),
  );

test('a section of known area, typed to a thousandth; normal to it, flipped, undone', async ({ page }) => {
  await cutLampFloor(page);
  await expect(page.getByTestId('cut-area')).toContainText(/\d/);
  const wanted = Math.PI * (38.5 ** 2 - 8.1 ** 2);
  // Two arcs: the kernel's cut is exact to the last figure shown.
  await expect(page.getByText('exact', { exact: true }).first()).toBeVisible();
  await expect
    .poll(async () => Math.abs(number(await page.getByTestId('cut-area').innerText()) - wanted))
    .toBeLessThan(0.006);
  await expect(page.getByRole('region', { name: /^Cut of Plane 1/ })).toContainText('Second moments');
  expect(
    number((await page.getByText('Polar moment').locator('..').innerText()).replace('Polar moment', '')),
  ).toBeCloseTo((Math.PI / 2) * (38.5 ** 4 - 8.1 ** 4), -1);

  await page.getByRole('button', { name: 'Normal to Plane 1 · along Z' }).click();
  expect(Math.abs(viewBack(await settled(page))[2])).toBeCloseTo(1, 9);
  await page.getByRole('button', { name: 'Flip Plane 1 · along Z' }).click();
  await expect(page.getByRole('button', { name: /^Undo flip Plane 1/ })).toBeVisible();
  await scene(page).focus();
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
  await expect(page.getByText('Nothing is cut.')).toBeVisible();
});

test('what is cut away is neither drawn nor picked; the cut opens what lies behind; one key switches it', async ({
  page,
}) => {
  await openValve(page, 'Section');
  const whole = await shareOfColour(page, WHEEL, 30);
  expect(whole).toBeGreaterThan(0.005);
  await page.getByRole('button', { name: 'X', exact: true }).click();
  await page.keyboard.press('Enter');
  // Everything on the wheel's side is gone: it stands at x = 80…104, the middle of the box is at x = 19.7.
  await page.mouse.move(5, 5);
  await expect.poll(() => shareOfColour(page, WHEEL, 30)).toBeLessThan(whole / 20);
  await expect(page.getByRole('region', { name: /^Cut of Plane 1/ })).toContainText('Spool');
  await expect(page.getByRole('region', { name: /^Cut of Plane 1/ })).not.toContainText('Handwheel');

  // Where the wheel's hub was, a click meets what is left behind the plane or nothing, never the wheel.
  await clickPoint(page, [88, 0, 9]);
  if (await readout(page).isVisible()) await expect(readout(page)).not.toContainText('Handwheel');
  await scene(page).focus();
  await page.keyboard.press('Escape');
  await page.keyboard.press('k');
  await page.mouse.move(5, 5);
  await expect.poll(() => shareOfColour(page, WHEEL, 30)).toBeGreaterThan(whole * 0.9);
  await page.keyboard.press('k');
  await expect.poll(() => shareOfColour(page, WHEEL, 30)).toBeLessThan(whole / 20);

  // Kept with the model's last state.
  const kept = page.waitForResponse((r) => r.url().endsWith('/view-state') && r.request().method() === 'PUT');
  await page.getByRole('button', { name: 'Y', exact: true }).click();
  await kept;
  await page.reload();
  await page.waitForFunction(() => (window.bathyscope?.view.frames ?? 0) > 0);
  await expect(page.getByRole('button', { name: /^Delete Plane/ })).toHaveCount(2);
  for (let i = 0; i < 2; i++)
    await page
      .getByRole('button', { name: /^Delete Plane/ })
      .first()
      .click();
  await expect(page.getByText('Nothing is cut.')).toBeVisible();
  await page.waitForResponse((r) => r.url().endsWith('/view-state') && r.request().method() === 'PUT');
});

test('the handle moves and tilts by hand, its figures can be typed, arrow keys step; Esc abandons, Enter accepts', async ({
  page,
}) => {
  await openValve(page, 'Section');
  await page.getByRole('button', { name: 'Y', exact: true }).click();
  const handle = page.getByRole('slider', { name: /^Move Plane 1/ });
  await expect(handle).toBeFocused();
  const middle = async (name: RegExp) => {
    const box = (await page.getByRole('slider', { name }).boundingBox())!;
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  };
  const [plane] = (await sectionOf(page)).planes;
  const from = await middle(/^Move Plane 1/);
  const [foot, tip] = [
    await onScreen(page, plane.origin),
    await onScreen(page, addScaled(plane.origin, plane.normal, 10)),
  ];
  // Along the normal on the screen by as much as 10 mm look: the offset is 10 mm.
  await drag(page, 'left', from, tip.x - foot.x, tip.y - foot.y);
  expect((await sectionOf(page)).planes[0].offset).toBeCloseTo(10, 1);
  const y = async () => planePosition((await sectionOf(page)).planes[0]);
  await page.getByLabel('Y at the handle, mm').fill('2,5');
  await page.keyboard.press('Enter');
  expect(await y()).toEqual({ axis: 1, at: expect.closeTo(2.5, 12) });
  await page.getByLabel('Step of the arrow keys, mm').fill('0.25');
  await page.keyboard.press('Enter');
  await handle.focus();
  for (const key of ['ArrowUp', 'ArrowUp', 'ArrowDown']) await page.keyboard.press(key);
  expect((await y()).at).toBeCloseTo(2.75, 12);

  await page.getByLabel('Tilt of the level arm, °').fill('30');
  await page.keyboard.press('Enter');
  const cosine = async () =>
    (await sectionOf(page)).planes[0].normal.reduce((sum, x, k) => sum + x * plane.normal[k], 0);
  expect(await cosine()).toBeCloseTo(Math.cos(Math.PI / 6), 9);
  const arm = await middle(/^Tilt Plane 1.*upright/);
  await drag(page, 'left', arm, 12, 8);
  expect(await cosine()).not.toBeCloseTo(Math.cos(Math.PI / 6), 4);
  await scene(page).focus();
  await page.keyboard.press('Escape');
  expect(await sectionOf(page)).toMatchObject({ planes: [], before: null });
  await page.keyboard.press('Control+z');
  expect((await sectionOf(page)).planes).toHaveLength(1);
  await page.getByRole('button', { name: 'Put on the handle of' }).click();
  await page.getByLabel('Offset at the handle, mm').fill('7');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Accept' }).click();
  await expect(page.getByRole('slider', { name: /^Move Plane 1/ })).toHaveCount(0);
  await scene(page).focus();
  await page.keyboard.press('Escape');
  expect((await sectionOf(page)).planes[0].offset).toBe(7);
});

test('cut faces are hatched, plain in Catalogue or all in one tint, and dark by night', async ({ page }) => {
  await openValve(page, 'Section');
  await page.getByRole('button', { name: 'Y', exact: true }).click();
  await page.getByRole('button', { name: /^Normal to Plane/ }).click();
  await page.getByRole('button', { name: 'Accept' }).click();
  await settled(page);
  // Within the body's flange (demo/ballast-valve.ts).
  const { x, y } = await onScreen(page, [36, 0, -33]);
  const patch = async () => {
    await page.mouse.move(5, 5);
    await drawn(page);
    const { data } = await pixelsOf(
      page,
      await page.screenshot({ clip: { x: x - 12, y: y - 12, width: 24, height: 24 } }),
    );
    const light = Array.from(
      { length: data.length / 4 },
      (_, i) => (data[4 * i] + data[4 * i + 1] + data[4 * i + 2]) / 3,
    );
    return {
      light: light.reduce((a, b) => a + b) / light.length,
      spread: Math.max(...light) - Math.min(...light),
    };
  };
  const hatched = await patch();
  expect(hatched.spread).toBeGreaterThan(60);
  await command(page, 'Style: Catalogue');
  const plain = await patch();
  expect(plain.spread).toBeLessThan(3);
  await showTask(page, 'Style');
  await page.getByRole('group', { name: 'Cut faces' }).getByRole('button', { name: 'One tint' }).click();
  const tinted = await patch();
  expect(tinted.spread).toBeLessThan(3);
  expect(Math.abs(tinted.light - plain.light)).toBeGreaterThan(5);
  await command(page, 'Style: Work');
  await command(page, 'Night colours');
  const night = await patch();
  expect(night.spread).toBeGreaterThan(60);
  expect(night.light).toBeLessThan(hatched.light - 60);
});

test('the handle’s figures leave the middle of the cut free, also looked at squarely', async ({ page }) => {
  await openValve(page, 'Section');
  for (const axis of ['X', 'Y', 'Z']) {
    await page.getByRole('button', { name: axis, exact: true }).click();
    await page.getByRole('button', { name: /^Normal to Plane/ }).click();
    await settled(page);
    const { planes, active } = await sectionOf(page);
    const middle = await onScreen(page, planes.find((p) => p.id === active)!.origin);
    const card = (await page.getByTestId('handle-figures').boundingBox())!;
    const inside =
      middle.x > card.x - 20 &&
      middle.x < card.x + card.width + 20 &&
      middle.y > card.y - 20 &&
      middle.y < card.y + card.height + 20;
    expect(inside).toBe(false);
    await command(page, 'Remove the section');
  }
});

test('slab, quarter cut and box; what any or all remove; six planes are the most', async ({ page }) => {
  await openValve(page, 'Section');
  await page.keyboard.press('s');
  await settled(page);
  await command(page, 'Section to a slab');
  await answer(page, '12');
  // Seen from the front the slab lies across Y, 12 mm thick.
  const slab = (await sectionOf(page)).planes;
  expect(slab.map((p) => p.normal[1])).toEqual([-1, 1]);
  expect(Math.abs(slab[0].origin[1] - slab[1].origin[1])).toBeCloseTo(12, 9);
  // With Shift the handle takes the parallel plane along: the slab keeps its thickness.
  const grip = (await page.getByRole('slider', { name: /^Move Slab/ }).boundingBox())!;
  await page.keyboard.down('Shift');
  await drag(page, 'left', { x: grip.x + grip.width / 2, y: grip.y + grip.height / 2 }, 0, -30);
  await page.keyboard.up('Shift');
  const [front, back] = (await sectionOf(page)).planes;
  expect(Math.abs(front.offset)).toBeGreaterThan(0.5);
  expect(front.offset + back.offset).toBeCloseTo(0, 9);
  await command(page, 'Remove the section');
  await command(page, 'Section to a box');
  await expect.poll(async () => (await sectionOf(page)).planes.length).toBe(6);
  await page.getByRole('button', { name: 'X', exact: true }).click();
  await expect(page.getByText(/There can be 6 planes; delete 1 first/)).toBeVisible();
  await press(page, '0');
  await settled(page);
  await command(page, 'Quarter cut');
  await expect.poll(async () => (await sectionOf(page)).planes.length).toBe(2);
  expect((await sectionOf(page)).combine).toBe('all');
  const wheel = () => shareOfColour(page, WHEEL, 30);
  await page.mouse.move(5, 5);
  const quarter = await wheel();
  await page.getByRole('button', { name: 'What any removes' }).click();
  // Half of the wheel's side was left by the quarter, nothing by both halves.
  await expect.poll(wheel).toBeLessThan(quarter / 4);
});

test('planes at three points, before a face, at a reference plane', async ({ page }) => {
  await openValve(page, 'Section');
  // The bonnet's flange is flat across X at x = 57 (demo/ballast-valve.ts).
  await page.keyboard.press('d');
  await settled(page);
  await command(page, 'Section through three points');
  for (const p of [
    [57, 25, 0],
    [57, -25, 0],
    [57, 0, -25],
  ] as const)
    await clickPoint(page, p);
  await expect.poll(async () => (await sectionOf(page)).planes.length).toBe(1);
  expect(Math.abs((await sectionOf(page)).planes[0].normal[0])).toBeCloseTo(1, 6);
  await command(page, 'Remove the section');
  await clickPoint(page, [57, 25, 0]);
  await command(page, 'Line of sight, by a cut');
  await expect.poll(async () => (await sectionOf(page)).planes[0]?.origin[0]).toBeCloseTo(57.01, 3);
  // Nothing stands before the face any more: it is what a click meets.
  await page.keyboard.press('Enter');
  const at = await onScreen(page, [57, 0, -25]);
  const box = (await scene(page).boundingBox())!;
  const met = () =>
    page.evaluate(([x, y]) => window.bathyscope!.picking.pick(x, y), [at.x - box.x, at.y - box.y] as const);
  await expect.poll(async () => (await met())?.component).toContain('Bonnet');
  await command(page, 'Remove the section');
  await command(page, 'Reference plane from a face');
  await answer(page, '-10');
  await page.getByRole('button', { name: 'Other planes' }).click();
  await page
    .getByRole('menuitem', { name: /At reference plane/ })
    .last()
    .click();
  await expect.poll(async () => (await sectionOf(page)).planes[0]?.origin[0]).toBeCloseTo(47, 3);
});

test('planes across an edge where it is picked, through the axis of a turned face at an angle, and facing the eye', async ({
  page,
}) => {
  await openValve(page, 'Section');
  /** The picked face or edge: a point of its line or axis and the line's direction, in the model. */
  const lineOf = async (kind: 'faces' | 'edges') => {
    const { facts, placement } = await page.evaluate((list) => {
      const { components, parts } = window.bathyscope!.modelStore.getState();
      const [pick] = window.bathyscope!.selectionStore.getState().picked;
      const { part, placement: placed } = components.find((c) => c.path === pick.component)!;
      const found: { origin?: Vec3; axis?: Vec3 } = parts.get(part)!.geometry[list][pick.index];
      return { facts: { origin: found.origin, axis: found.axis! }, placement: placed as unknown as Mat4 };
    }, kind);
    return {
      origin: facts.origin && transformPoint(placement, facts.origin),
      direction: transformDirection(placement, facts.axis),
    };
  };
  const edge = await whereIs(page, 'edge', 'line');
  await page.mouse.click(edge.x, edge.y);
  const along = (await lineOf('edges')).direction;
  await command(page, 'Section across an edge');
  await expect.poll(async () => (await sectionOf(page)).planes.length).toBe(1);
  const [across] = (await sectionOf(page)).planes;
  expect(Math.abs(dot(across.normal, along))).toBeCloseTo(1, 9);
  // It goes through the very point that was clicked, to within the reach of the pick.
  const place = await onScreen(page, across.origin);
  expect(Math.hypot(place.x - edge.x, place.y - edge.y)).toBeLessThan(8);
  await command(page, 'Remove the section');
  await press(page, 'Escape');

  const face = await whereIs(page, 'face', 'cylinder');
  await page.mouse.click(face.x, face.y);
  const axis = await lineOf('faces');
  const throughAxis = async (degrees: string) => {
    await command(page, 'Section through an axis');
    await answer(page, degrees);
    await expect.poll(async () => (await sectionOf(page)).planes.length).toBeGreaterThan(0);
    const plane = (await sectionOf(page)).planes.at(-1)!;
    expect(dot(plane.normal, axis.direction)).toBeCloseTo(0, 9);
    expect(dot(plane.normal, subtract(axis.origin!, plane.origin))).toBeCloseTo(0, 6);
    return plane.normal;
  };
  const straight = await throughAxis('0');
  expect(dot(straight, await throughAxis('-30'))).toBeCloseTo(Math.cos(Math.PI / 6), 9);
  await command(page, 'Remove the section');

  await command(page, 'Section facing the eye');
  await expect.poll(async () => (await sectionOf(page)).planes.length).toBe(1);
  expect(dot((await sectionOf(page)).planes[0].normal, viewBack(await settled(page)))).toBeCloseTo(1, 9);
  // What it met is caps now, wherever one looks.
  await press(page, 'Enter');
  await expect(page.getByRole('region', { name: /^Cut of Plane 1/ })).toContainText('Body');
});

test('a plane along a face leaves all or nothing, without speckle; the eye within the material sees it closed', async ({
  page,
}) => {
  // The housing stands on z = 0 (demo/lamp-housing.ts).
  await cutLamp(page, 0);
  await expect(page.getByText('The section meets nothing that is shown.')).toBeVisible();
  await page.mouse.move(5, 5);
  await press(page, 'Enter');
  const steel = () => shareOfColour(page, STEEL, 45);
  // What is left of that colour are the globe and the axes.
  await expect.poll(steel).toBeLessThan(0.005);
  await page.getByRole('button', { name: /^Flip Plane 1/ }).click();
  await expect.poll(steel).toBeGreaterThan(0.02);
  // The foot is a ring of Ø74 with the gland's hole of Ø16.2 and holes that only the whole area
  // tells; all of it is cap.
  await expect(page.getByTestId('cut-area')).toContainText('3970.35');
  await command(page, 'Remove the section');

  await page.getByRole('button', { name: 'Y', exact: true }).click();
  await press(page, 'Enter');
  await expect(page.getByTestId('cut-area')).toContainText(/\d/);
  // From inside the floor (14 thick) towards the cut, whose removed side lies beyond.
  await look(page, {
    projection: 'perspective',
    target: [-20, 0, 7],
    height: 5,
    orientation: [0, Math.SQRT1_2, Math.SQRT1_2, 0],
  });
  const kinds = () =>
    page.evaluate(() => {
      const { width, height } = document.querySelector('[data-testid=scene]')!.getBoundingClientRect();
      return [0.2, 0.5, 0.8].flatMap((x) =>
        [0.2, 0.5, 0.8].map((y) => window.bathyscope!.picking.pick(x * width, y * height)?.kind),
      );
    });
  await expect.poll(async () => [...new Set(await kinds())]).toEqual(['cap']);
});

test('an open shell: its outline is drawn and left open, and the panel says so', async ({ page }) => {
  // The public cube of 1000 mm with one side taken off: a surface model by ISO 10303-42.
  const open = fs
    .readFileSync(publicFile('cube-mm.step'), 'latin1')
    .replace('ADVANCED_BREP_SHAPE_REPRESENTATION', 'MANIFOLD_SURFACE_SHAPE_REPRESENTATION')
    .replace("MANIFOLD_SOLID_BREP('',#34)", "SHELL_BASED_SURFACE_MODEL('',(#34))")
    .replace("CLOSED_SHELL('',(#35,#155,#255,#302,#349,#356))", "OPEN_SHELL('',(#35,#155,#255,#302,#349))");
  await openFile(page, 'Open tray', open);
  await showTask(page, 'Section');
  await page.getByRole('button', { name: 'X', exact: true }).click();
  await press(page, 'Enter');
  await expect(
    page.getByText(
      'One open mesh is drawn as an outline; what does not close is not capped and has no figures.',
    ),
  ).toBeVisible();
  await expect(page.getByTestId('cut-area')).toHaveCount(0);
  const box = (await scene(page).boundingBox())!;
  await press(page, 'd');
  await settled(page);
  // Square on to the cut three sides of the square are outlines and nothing is a cap.
  const met = await page.evaluate(
    ([w, h]) => {
      const kinds = new Set<string>();
      for (let y = 0.02; y < 1; y += 0.004)
        for (let x = 0.1; x < 0.9; x += 0.02)
          kinds.add(window.bathyscope!.picking.pick(x * w, y * h)?.kind ?? 'none');
      return [...kinds];
    },
    [box.width, box.height] as const,
  );
  expect(met).toContain('outline');
  expect(met).not.toContain('cap');
});

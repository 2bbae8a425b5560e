import { dot, subtract, transformDirection, transformPoint, viewBack, type Mat4, type PlaneCurve, type Section, type Vec3 } from '@bathyscope/core';
import { expect, type Page } from '@playwright/test';
import fs from 'node:fs';
import { answer, clickPoint, command, drag, look, onScreen, openModel, openShelf, openValve, press, publicFile, readout, scene, settled, shareOfColour, showTask, test, whereIs } from './app.ts';

/** sRGB of demo/ballast-valve.ts. */
const WHEEL = [44, 92, 96] as const;
const STEEL = [110, 134, 142] as const;

const now = (page: Page): Promise<Section & { before: unknown; active: string | null }> => page.evaluate(() => (window.bathyscope as unknown as { sectionStore: { getState(): Section & { before: unknown; active: string | null } } }).sectionStore.getState());
const number = (text: string): number => Number(text.split('mm')[0].replace(/^[^\d−-]*(\d* ?:)?/, '').replace(/[^\d.]/g, ''));

test('a section of known area, typed to a thousandth; normal to it, flipped, undone', async ({ page }) => {
  await openModel(page, 'Lamp housing LH-20');
  await showTask(page, 'Section');
  await page.getByRole('button', { name: 'Z', exact: true }).click();
  // The box runs from z = 0 to 98, so the plane starts at 49; at z = 13 the floor is a disc of Ø77 with the gland's hole of Ø16.2 (demo/lamp-housing.ts).
  await page.getByLabel(/Offset of Plane 1 · along Z, mm/).fill('-36');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('cut-area')).toContainText(/\d/);
  const wanted = Math.PI * (38.5 ** 2 - 8.1 ** 2);
  // Two arcs: the kernel's cut is exact to the last figure shown.
  await expect(page.getByText('exact', { exact: true }).first()).toBeVisible();
  await expect.poll(async () => Math.abs(number(await page.getByTestId('cut-area').innerText()) - wanted)).toBeLessThan(0.006);
  await expect(page.getByRole('region', { name: /^Cut of Plane 1/ })).toContainText('Second moments');
  expect(number((await page.getByText('Polar moment').locator('..').innerText()).replace('Polar moment', ''))).toBeCloseTo((Math.PI / 2) * (38.5 ** 4 - 8.1 ** 4), -1);

  await page.getByRole('button', { name: 'Normal to Plane 1 · along Z' }).click();
  expect(Math.abs(viewBack(await settled(page))[2])).toBeCloseTo(1, 9);
  await page.getByRole('button', { name: 'Flip Plane 1 · along Z' }).click();
  await expect(page.getByRole('button', { name: /^Undo flip Plane 1/ })).toBeVisible();
  await scene(page).focus();
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
  await expect(page.getByText('Nothing is cut.')).toBeVisible();
});

test('what is cut away is neither drawn nor picked; the cut opens what lies behind; one key switches it', async ({ page }) => {
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
  for (let i = 0; i < 2; i++) await page.getByRole('button', { name: /^Delete Plane/ }).first().click();
  await expect(page.getByText('Nothing is cut.')).toBeVisible();
  await page.waitForResponse((r) => r.url().endsWith('/view-state') && r.request().method() === 'PUT');
});

test('the handle moves and tilts by hand, its figures can be typed, arrow keys step; Esc abandons, Enter accepts', async ({ page }) => {
  await openValve(page, 'Section');
  await page.getByRole('button', { name: 'Y', exact: true }).click();
  const handle = page.getByRole('slider', { name: /^Move Plane 1/ });
  await expect(handle).toBeFocused();
  const middle = async (name: RegExp) => {
    const box = (await page.getByRole('slider', { name }).boundingBox())!;
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  };
  const [plane] = (await now(page)).planes;
  const from = await middle(/^Move Plane 1/);
  const [foot, tip] = [await onScreen(page, plane.origin), await onScreen(page, plane.origin.map((x, k) => x + 10 * plane.normal[k]) as unknown as Vec3)];
  // Along the normal on the screen by as much as 10 mm look: the offset is 10 mm.
  await drag(page, 'left', from, tip.x - foot.x, tip.y - foot.y);
  expect((await now(page)).planes[0].offset).toBeCloseTo(10, 1);
  await page.getByLabel('Offset at the handle, mm').fill('2,5');
  await page.keyboard.press('Enter');
  expect((await now(page)).planes[0].offset).toBe(2.5);
  await page.getByLabel('Step of the arrow keys, mm').fill('0.25');
  await page.keyboard.press('Enter');
  await handle.focus();
  for (const key of ['ArrowUp', 'ArrowUp', 'ArrowDown']) await page.keyboard.press(key);
  expect((await now(page)).planes[0].offset).toBe(2.75);

  await page.getByLabel('Tilt of the level arm, degrees').fill('30');
  await page.keyboard.press('Enter');
  const cosine = async () => (await now(page)).planes[0].normal.reduce((sum, x, k) => sum + x * plane.normal[k], 0);
  expect(await cosine()).toBeCloseTo(Math.cos(Math.PI / 6), 9);
  const arm = await middle(/^Tilt Plane 1.*upright/);
  await drag(page, 'left', arm, 12, 8);
  expect(await cosine()).not.toBeCloseTo(Math.cos(Math.PI / 6), 4);
  await scene(page).focus();
  await page.keyboard.press('Escape');
  expect(await now(page)).toMatchObject({ planes: [], before: null });
  await page.keyboard.press('Control+z');
  expect((await now(page)).planes).toHaveLength(1);
  await page.getByRole('button', { name: 'Put on the handle of' }).click();
  await page.getByLabel('Offset at the handle, mm').fill('7');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Accept' }).click();
  await expect(page.getByRole('slider', { name: /^Move Plane 1/ })).toHaveCount(0);
  await scene(page).focus();
  await page.keyboard.press('Escape');
  expect((await now(page)).planes[0].offset).toBe(7);
});

test('slab, quarter cut and box; what any or all remove; six planes are the most', async ({ page }) => {
  await openValve(page, 'Section');
  await page.keyboard.press('s');
  await settled(page);
  await command(page, 'Section to a slab');
  await answer(page, '12');
  // Seen from the front the slab lies across Y, 12 mm thick.
  const slab = (await now(page)).planes;
  expect(slab.map((p) => p.normal[1])).toEqual([-1, 1]);
  expect(Math.abs(slab[0].origin[1] - slab[1].origin[1])).toBeCloseTo(12, 9);
  // With Shift the handle takes the parallel plane along: the slab keeps its thickness.
  const grip = (await page.getByRole('slider', { name: /^Move Slab/ }).boundingBox())!;
  await page.keyboard.down('Shift');
  await drag(page, 'left', { x: grip.x + grip.width / 2, y: grip.y + grip.height / 2 }, 0, -30);
  await page.keyboard.up('Shift');
  const [front, back] = (await now(page)).planes;
  expect(Math.abs(front.offset)).toBeGreaterThan(0.5);
  expect(front.offset + back.offset).toBeCloseTo(0, 9);
  await command(page, 'Remove the section');
  await command(page, 'Section to a box');
  await expect.poll(async () => (await now(page)).planes.length).toBe(6);
  await page.getByRole('button', { name: 'X', exact: true }).click();
  await expect(page.getByText(/There can be 6 planes; delete 1 first/)).toBeVisible();
  await press(page, '0');
  await settled(page);
  await command(page, 'Quarter cut');
  await expect.poll(async () => (await now(page)).planes.length).toBe(2);
  expect((await now(page)).combine).toBe('all');
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
  for (const p of [[57, 25, 0], [57, -25, 0], [57, 0, -25]] as const) await clickPoint(page, p);
  await expect.poll(async () => (await now(page)).planes.length).toBe(1);
  expect(Math.abs((await now(page)).planes[0].normal[0])).toBeCloseTo(1, 6);
  await command(page, 'Remove the section');
  await clickPoint(page, [57, 25, 0]);
  await command(page, 'Line of sight, by a cut');
  await expect.poll(async () => (await now(page)).planes[0]?.origin[0]).toBeCloseTo(57.01, 3);
  // Nothing stands before the face any more: it is what a click meets.
  await page.keyboard.press('Enter');
  const at = await onScreen(page, [57, 0, -25]);
  const box = (await scene(page).boundingBox())!;
  const met = () => page.evaluate(([x, y]) => window.bathyscope!.view.picking.pick(x, y), [at.x - box.x, at.y - box.y] as const);
  await expect.poll(async () => (await met())?.component).toContain('Bonnet');
  await command(page, 'Remove the section');
  await command(page, 'Reference plane from a face');
  await answer(page, '-10');
  await page.getByRole('button', { name: 'Other planes' }).click();
  await page.getByRole('menuitem', { name: /At reference plane/ }).last().click();
  await expect.poll(async () => (await now(page)).planes[0]?.origin[0]).toBeCloseTo(47, 3);
});

test('planes across an edge where it is picked, through the axis of a turned face at an angle, and facing the eye', async ({ page }) => {
  await openValve(page, 'Section');
  /** The picked face or edge: a point of its line or axis and the line's direction, in the model. */
  const lineOf = async (kind: 'faces' | 'edges') => {
    const { facts, placement } = await page.evaluate((list) => {
      const { components, parts } = window.bathyscope!.modelStore.getState();
      const [pick] = (window.bathyscope as unknown as { selectionStore: { getState(): { picked: { component: string; index: number }[] } } }).selectionStore.getState().picked;
      const { part, placement: placed } = components.find((c) => c.path === pick.component)!;
      const found: { origin?: Vec3; axis?: Vec3 } = parts.get(part)!.geometry[list][pick.index];
      return { facts: { origin: found.origin, axis: found.axis! }, placement: placed as unknown as Mat4 };
    }, kind);
    return { origin: facts.origin && transformPoint(placement, facts.origin), direction: transformDirection(placement, facts.axis) };
  };
  const edge = await whereIs(page, 'edge', 'line');
  await page.mouse.click(edge.x, edge.y);
  const along = (await lineOf('edges')).direction;
  await command(page, 'Section across an edge');
  await expect.poll(async () => (await now(page)).planes.length).toBe(1);
  const [across] = (await now(page)).planes;
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
    await expect.poll(async () => (await now(page)).planes.length).toBeGreaterThan(0);
    const plane = (await now(page)).planes.at(-1)!;
    expect(dot(plane.normal, axis.direction)).toBeCloseTo(0, 9);
    expect(dot(plane.normal, subtract(axis.origin!, plane.origin))).toBeCloseTo(0, 6);
    return plane.normal;
  };
  const straight = await throughAxis('0');
  expect(dot(straight, await throughAxis('-30'))).toBeCloseTo(Math.cos(Math.PI / 6), 9);
  await command(page, 'Remove the section');

  await command(page, 'Section facing the eye');
  await expect.poll(async () => (await now(page)).planes.length).toBe(1);
  expect(dot((await now(page)).planes[0].normal, viewBack(await settled(page)))).toBeCloseTo(1, 9);
  // What it met is caps now, wherever one looks.
  await press(page, 'Enter');
  await expect(page.getByRole('region', { name: /^Cut of Plane 1/ })).toContainText('Body');
});

test('a plane along a face leaves all or nothing, without speckle; the eye within the material sees it closed', async ({ page }) => {
  await openModel(page, 'Lamp housing LH-20');
  await showTask(page, 'Section');
  await page.getByRole('button', { name: 'Z', exact: true }).click();
  // The housing stands on z = 0 (demo/lamp-housing.ts), 49 below the middle.
  await page.getByLabel(/Offset of Plane 1 · along Z, mm/).fill('-49');
  await page.keyboard.press('Enter');
  await expect(page.getByText('The section meets nothing that is shown.')).toBeVisible();
  await page.mouse.move(5, 5);
  await press(page, 'Enter');
  const steel = () => shareOfColour(page, STEEL, 45);
  // What is left of that colour are the globe and the axes.
  await expect.poll(steel).toBeLessThan(0.005);
  await page.getByRole('button', { name: /^Flip Plane 1/ }).click();
  await expect.poll(steel).toBeGreaterThan(0.02);
  // The foot is a ring of Ø74 with the gland's hole of Ø16.2 and holes that only the whole area tells; all of it is cap.
  await expect(page.getByTestId('cut-area')).toContainText('3970.35');
  await command(page, 'Remove the section');

  await page.getByRole('button', { name: 'Y', exact: true }).click();
  await press(page, 'Enter');
  await expect(page.getByTestId('cut-area')).toContainText(/\d/);
  // From inside the floor (14 thick) towards the cut, whose removed side lies beyond.
  await look(page, { projection: 'perspective', target: [-20, 0, 7], height: 5, orientation: [0, Math.SQRT1_2, Math.SQRT1_2, 0] });
  const kinds = () => page.evaluate(() => {
    const { width, height } = document.querySelector('[data-testid=scene]')!.getBoundingClientRect();
    return [0.2, 0.5, 0.8].flatMap((x) => [0.2, 0.5, 0.8].map((y) => window.bathyscope!.view.picking.pick(x * width, y * height)?.kind));
  });
  await expect.poll(async () => [...new Set(await kinds())]).toEqual(['cap']);
});

test('an open shell: its outline is drawn and left open, and the panel says so', async ({ page }) => {
  // The public cube of 1000 mm with one side taken off: a surface model by ISO 10303-42.
  const open = fs.readFileSync(publicFile('cube-mm.step'), 'latin1')
    .replace('ADVANCED_BREP_SHAPE_REPRESENTATION', 'MANIFOLD_SURFACE_SHAPE_REPRESENTATION')
    .replace('MANIFOLD_SOLID_BREP(\'\',#34)', 'SHELL_BASED_SURFACE_MODEL(\'\',(#34))')
    .replace('CLOSED_SHELL(\'\',(#35,#155,#255,#302,#349,#356))', 'OPEN_SHELL(\'\',(#35,#155,#255,#302,#349))');
  await openShelf(page);
  await page.getByLabel('Model files').setInputFiles({ name: 'Open tray.step', mimeType: '', buffer: Buffer.from(open, 'latin1') });
  await expect(page.getByRole('link', { name: 'Open Open tray' })).toBeVisible();
  await openModel(page, 'Open tray');
  await showTask(page, 'Section');
  await page.getByRole('button', { name: 'X', exact: true }).click();
  await press(page, 'Enter');
  await expect(page.getByText('One open mesh is drawn as an outline; what does not close is not capped and has no figures.')).toBeVisible();
  await expect(page.getByTestId('cut-area')).toHaveCount(0);
  const box = (await scene(page).boundingBox())!;
  await press(page, 'd');
  await settled(page);
  // Square on to the cut three sides of the square are outlines and nothing is a cap.
  const met = await page.evaluate(([w, h]) => {
    const kinds = new Set<string>();
    for (let y = 0.02; y < 1; y += 0.004) for (let x = 0.1; x < 0.9; x += 0.02) kinds.add(window.bathyscope!.view.picking.pick(x * w, y * h)?.kind ?? 'none');
    return [...kinds];
  }, [box.width, box.height] as const);
  expect(met).toContain('outline');
  expect(met).not.toContain('cap');
});

test('fasteners are kept whole only when agreed to; those before the cut go; section only these; ghosts are not capped', async ({ page }) => {
  await openValve(page, 'Section');
  await page.getByRole('button', { name: 'Z', exact: true }).click();
  await page.keyboard.press('Enter');
  const cut = page.getByRole('region', { name: /^Cut of Plane 1/ });
  await expect(cut).toContainText('Nut');
  await page.getByRole('button', { name: 'Suggest …' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('named as a bolt or screw');
  await page.keyboard.press('Escape');
  await expect(cut).toContainText('Nut');
  await page.getByRole('button', { name: 'Suggest …' }).click();
  await dialog.getByRole('checkbox', { name: /Washer ISO 7089 10/ }).uncheck();
  await dialog.getByRole('button', { name: /^Keep \d+ whole/ }).click();
  await expect(cut).not.toContainText('Nut');
  await expect(cut).toContainText('Washer');
  const whole = page.getByRole('region', { name: 'Kept whole' });
  await expect(whole).toContainText('Hex bolt');
  const seen = () => page.evaluate(() => (window.bathyscope as unknown as { cutStore: { getState(): { whole: Set<string> } } }).cutStore.getState().whole.size);
  // Of eight bolts at 45° four lie below the level cut through the axis; they stay, the four above it go.
  await expect.poll(seen).toBeGreaterThan(8);
  expect(await seen()).toBeLessThan(17);
  await page.getByRole('button', { name: 'Parts', exact: true }).click();
  await page.getByPlaceholder('Search the parts').fill('nut');
  await expect(page.getByRole('row', { name: /Nut.*Kept whole by sections/ })).toBeVisible();
  await page.getByPlaceholder('Search the parts').fill('');
  await page.getByRole('button', { name: 'Section', exact: true }).click();
  await page.getByRole('button', { name: /Cut Hex nut/ }).click();
  await expect(cut).toContainText('Nut');

  await cut.getByRole('option', { name: /Spool/ }).click();
  await expect(page.getByText('Second moments of Spool')).toBeVisible();
  await scene(page).focus();
  await page.keyboard.press('w');
  await settled(page);
  await clickPoint(page, [-20, 0, 0]);
  await expect(readout(page)).toContainText('Cut face');
  await expect(readout(page)).toContainText('Spool');
  await expect(readout(page)).toContainText('exact');
  await command(page, 'Section only these');
  await expect(cut.getByRole('option')).toHaveCount(1);
  await page.keyboard.press('Control+z');
  await expect(cut).toContainText('Body');
  await scene(page).focus();
  await page.keyboard.press('g');
  await expect(cut).not.toContainText('Spool');
  await page.keyboard.press('Control+z');
  await command(page, 'Cut everything again');
  await expect(whole).toContainText('Everything is cut');
});

test('the line drawing shows what the section leaves, hatched or not; cut faces are measured to others', async ({ page }) => {
  await openValve(page, 'Section');
  await page.getByRole('button', { name: 'Y', exact: true }).click();
  await press(page, 'Enter', 's');
  await settled(page);
  // The kernel's outlines are there.
  await expect.poll(() => page.evaluate(() => (window.bathyscope as unknown as { cutStore: { getState(): { asking: boolean; made: unknown[] } } }).cutStore.getState()).then((s) => s.made.length > 0 && !s.asking)).toBe(true);
  const dialog = page.getByRole('dialog');
  const save = async () => {
    const [file] = await Promise.all([page.waitForEvent('download'), dialog.getByRole('button', { name: 'Save' }).click()]);
    return fs.readFileSync((await file.path())!, 'utf8');
  };
  await command(page, 'Line drawing of the view');
  await expect(dialog.getByRole('note')).toContainText('Drawn as the section leaves it');
  const svg = await save();
  const hatches = /<g id="HATCH"[^>]*>([\s\S]*?)<\/g>/.exec(svg)![1];
  expect(hatches.match(/<line/g)!.length).toBeGreaterThan(200);
  await dialog.getByRole('checkbox', { name: 'Cut faces hatched' }).uncheck();
  const bare = await save();
  expect(bare).not.toContain('HATCH');
  // The outlines stay the same.
  const visible = (text: string) => /<g id="VISIBLE"[^>]*>([\s\S]*?)<\/g>/.exec(text)![1];
  expect(visible(bare)).toBe(visible(svg));
  await page.keyboard.press('Escape');

  // Two cut faces of different components, wherever they are on the screen.
  const box = (await scene(page).boundingBox())!;
  const found = await page.evaluate(([w, h]) => {
    const first = new Map<string, [number, number]>();
    for (let y = 0.2; y < 0.8; y += 0.02) for (let x = 0.2; x < 0.7; x += 0.01) {
      const hit = window.bathyscope!.view.picking.pick(x * w, y * h);
      if (hit?.kind === 'cap' && !first.has(hit.component)) first.set(hit.component, [x * w, y * h]);
    }
    return [...first.values()];
  }, [box.width, box.height] as const);
  expect(found.length).toBeGreaterThan(1);
  await page.mouse.click(box.x + found[0][0], box.y + found[0][1]);
  await page.keyboard.down('Shift');
  await page.mouse.click(box.x + found[1][0], box.y + found[1][1]);
  await page.keyboard.up('Shift');
  await expect(readout(page)).toContainText('Least distance');
  await expect(readout(page).getByTestId('main-figure')).toHaveText(/^[\d.\u2009]+$/);
});

test('the flat view: zoomed, picked, measured exactly, and saved as DXF and SVG with a layer for each component', async ({ page }) => {
  await openModel(page, 'Lamp housing LH-20');
  await showTask(page, 'Section');
  await page.getByRole('button', { name: 'Z', exact: true }).click();
  await page.getByLabel(/Offset of Plane 1 · along Z, mm/).fill('-36');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Flat view of the cut' }).click();
  const flat = page.getByTestId('flat');
  await expect(flat).toBeVisible();
  const curves = () => page.evaluate(() => {
    const { exact, made } = (window.bathyscope as unknown as { cutStore: { getState(): { exact: Map<string, Map<number, { loops?: PlaneCurve[][] }>>; made: { plane: { id: string } }[] } } }).cutStore.getState();
    return [...(exact.get(made[0]?.plane.id)?.values() ?? [])].flatMap((a) => a.loops?.flat() ?? []);
  });
  await expect.poll(async () => (await curves()).length).toBeGreaterThan(1);
  // The rim of the floor's disc, Ø77, and the gland's hole, Ø16.2 (demo/lamp-housing.ts): found under the cursor and picked.
  const box = (await flat.boundingBox())!;
  const seek = async (text: RegExp) => {
    for (let x = 4; x < box.width; x += 3) {
      await page.mouse.move(box.x + x, box.y + box.height / 2 + 4);
      if (await page.getByText(text).count()) return { x: box.x + x, y: box.y + box.height / 2 + 4 };
    }
    throw new Error(`${text} is nowhere on the middle line.`);
  };
  const hole = await seek(/(Circle Ø|Arc R)(16\.200|8\.100)/);
  await page.mouse.click(hole.x, hole.y);
  await expect(readout(page)).toContainText(/16\.200|8\.100/);
  await expect(readout(page)).toContainText('exact');
  const mm = async () => Number(/x ([−\d.\u2009]+)/.exec(await page.getByRole('region', { name: 'Flat view' }).getByText(/^x .* y /).innerText())![1].replace('−', '-'));
  await page.mouse.move(box.x + 40, box.y + 60);
  const before = await mm();
  await page.mouse.wheel(0, -600);
  await page.mouse.move(box.x + 40, box.y + 61);
  // Zoomed at the cursor: what lies under it stays.
  expect(await mm()).toBeCloseTo(before, 1);

  const save = async (format: string) => {
    const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('region', { name: 'Flat view' }).getByRole('button', { name: format }).click()]);
    return fs.readFileSync((await file.path())!, 'utf8');
  };
  const dxf = (await save('DXF')).split(/\r?\n/).map((l) => l.trim());
  const at = dxf.flatMap((l, i) => (l === 'ARC' || l === 'CIRCLE' ? [i] : []));
  const radii = at.map((i) => Number(dxf[dxf.indexOf('40', i) + 1]));
  expect(radii.some((r) => Math.abs(r - 38.5) < 1e-9)).toBe(true);
  expect(radii.some((r) => Math.abs(r - 8.1) < 1e-9)).toBe(true);
  expect(dxf).toContain('$INSUNITS');
  const svg = await save('SVG');
  expect(svg).toContain('all curves exact');
  expect(svg).toMatch(/width="87mm" height="87mm"/);
  await page.getByRole('button', { name: 'Instead of the scene' }).click();
  await expect.poll(async () => (await flat.boundingBox())!.width).toBeGreaterThan(box.width * 1.5);
});

test('swept through the model and stopped; centroid and axes; the section comes back with a saved view and with the model', async ({ page }) => {
  await openValve(page, 'Section');
  await page.getByRole('button', { name: 'X', exact: true }).click();
  await page.keyboard.press('Enter');
  await command(page, 'Sweep the section');
  const offset = async () => (await now(page)).planes[0].offset;
  await expect.poll(offset).not.toBe(0);
  await scene(page).focus();
  await page.keyboard.press('Escape');
  // Ended, it is one step that can be undone.
  await expect(page.getByRole('button', { name: /^Undo sweep/ })).toBeVisible();
  const stopped = await offset();
  await page.waitForTimeout(300);
  expect(await offset()).toBe(stopped);
  await scene(page).focus();
  await page.keyboard.press('Control+z');
  await expect.poll(offset).toBe(0);
  await page.getByRole('checkbox', { name: 'Centroid and principal axes in the scene' }).check();
  const magenta = [163, 25, 91] as const;
  await expect.poll(() => shareOfColour(page, magenta, 40)).toBeGreaterThan(0.0004);
  await page.getByRole('checkbox', { name: 'Centroid and principal axes in the scene' }).uncheck();
  await page.getByRole('button', { name: 'Y', exact: true }).click();
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'What all remove' }).click();
  await page.getByRole('button', { name: 'Save this view' }).first().click();
  const saved = /“(.*)”/.exec(await page.getByText(/Saved as “/).innerText())![1];
  await page.getByRole('button', { name: 'Keep this one' }).click();
  await page.getByRole('region', { name: 'Kept sections' }).getByRole('button', { name: 'Section 1', exact: true }).click();
  await page.getByLabel('Name of the section').fill('Through the ports');
  await page.keyboard.press('Enter');
  await command(page, 'Remove the section');
  await expect.poll(async () => (await now(page)).planes.length).toBe(0);
  await page.getByRole('button', { name: 'Cut as in Through the ports' }).click();
  expect(await now(page)).toMatchObject({ combine: 'all', planes: [{ name: 'Plane 1 · along X' }, { name: 'Plane 2 · along Y' }] });
  // One pane can show the model uncut beside the other, in what is drawn and in what is picked.
  await command(page, 'Two panes side by side');
  await settled(page);
  const canvas = (await scene(page).boundingBox())!;
  await page.mouse.move(canvas.x + canvas.width * 0.2, canvas.y + canvas.height * 0.8);
  const caps = () => page.evaluate(([w, h]) => {
    let met = 0;
    for (let y = 0.3; y < 0.8; y += 0.02) for (let x = 0.1; x < 0.45; x += 0.01) if (window.bathyscope!.view.picking.pick(x * w, y * h)?.kind === 'cap') met++;
    return met;
  }, [canvas.width, canvas.height] as const);
  await expect.poll(caps).toBeGreaterThan(20);
  await command(page, 'Section in this pane on or off');
  await expect.poll(caps).toBe(0);
  await command(page, 'Section in this pane on or off');
  await expect.poll(caps).toBeGreaterThan(20);
  await command(page, 'One pane');
  await command(page, 'Remove the section');
  await page.getByRole('button', { name: 'Forget Through the ports' }).click();
  await page.getByRole('button', { name: `Recall ${saved}` }).click();
  await expect.poll(async () => (await now(page)).planes.length).toBe(2);
  expect((await now(page)).combine).toBe('all');
});

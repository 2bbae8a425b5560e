import { expect } from '@playwright/test';
import fs from 'node:fs';
import {
  clickPoint,
  command,
  cutLampFloor,
  openValve,
  passFrames,
  press,
  readout,
  scene,
  sectionOf,
  settled,
  shareOfColour,
  test,
} from './app.ts';

test('fasteners are kept whole only when agreed to; those before the cut go; section only these; ghosts are not capped', async ({
  page,
}) => {
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
  const seen = () => page.evaluate(() => window.bathyscope!.cutStore.getState().whole.size);
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

test('the line drawing shows what the section leaves, hatched or not; cut faces are measured to others', async ({
  page,
}) => {
  await openValve(page, 'Section');
  await page.getByRole('button', { name: 'Y', exact: true }).click();
  await press(page, 'Enter', 's');
  await settled(page);
  // The kernel's outlines are there.
  await expect
    .poll(() =>
      page
        .evaluate(() => window.bathyscope!.cutStore.getState())
        .then((s) => s.results.length > 0 && !s.asking),
    )
    .toBe(true);
  const dialog = page.getByRole('dialog');
  const save = async () => {
    const [file] = await Promise.all([
      page.waitForEvent('download'),
      dialog.getByRole('button', { name: 'Save' }).click(),
    ]);
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
  const found = await page.evaluate(
    ([w, h]) => {
      const first = new Map<string, [number, number]>();
      for (let y = 0.2; y < 0.8; y += 0.02)
        for (let x = 0.2; x < 0.7; x += 0.01) {
          const hit = window.bathyscope!.picking.pick(x * w, y * h);
          if (hit?.kind === 'cap' && !first.has(hit.component)) first.set(hit.component, [x * w, y * h]);
        }
      return [...first.values()];
    },
    [box.width, box.height] as const,
  );
  expect(found.length).toBeGreaterThan(1);
  await page.mouse.click(box.x + found[0][0], box.y + found[0][1]);
  await page.keyboard.down('Shift');
  await page.mouse.click(box.x + found[1][0], box.y + found[1][1]);
  await page.keyboard.up('Shift');
  await expect(readout(page)).toContainText('Least distance');
  await expect(readout(page).getByTestId('main-figure')).toHaveText(/^≈\s[\d.\u2009]+$/);
});

test('the flat view: zoomed, picked, measured exactly, and saved as DXF and SVG with a layer for each component', async ({
  page,
}) => {
  await cutLampFloor(page);
  await page.getByRole('button', { name: 'Flat view of the cut' }).click();
  const flat = page.getByTestId('flat');
  await expect(flat).toBeVisible();
  const curves = () =>
    page.evaluate(() => {
      const { exact, results } = window.bathyscope!.cutStore.getState();
      return [...(exact.get(results[0]?.plane.id)?.values() ?? [])].flatMap((a) => a.loops?.flat() ?? []);
    });
  await expect.poll(async () => (await curves()).length).toBeGreaterThan(1);
  // The rim of the floor's disc, Ø77, and the gland's hole, Ø16.2 (demo/lamp-housing.ts): found under the
  // cursor and picked.
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
  const mm = async () =>
    Number(
      /x ([−\d.\u2009]+)/
        .exec(
          await page
            .getByRole('region', { name: 'Flat view' })
            .getByText(/^x .* y /)
            .innerText(),
        )![1]
        .replace('−', '-'),
    );
  await page.mouse.move(box.x + 40, box.y + 60);
  const before = await mm();
  await page.mouse.wheel(0, -600);
  await page.mouse.move(box.x + 40, box.y + 61);
  // Zoomed at the cursor: what lies under it stays.
  expect(await mm()).toBeCloseTo(before, 1);

  const save = async (format: string) => {
    const [file] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('region', { name: 'Flat view' }).getByRole('button', { name: format }).click(),
    ]);
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

test('swept through the model and stopped; centroid and axes; the section comes back with a saved view and with the model', async ({
  page,
}) => {
  await openValve(page, 'Section');
  await page.getByRole('button', { name: 'X', exact: true }).click();
  await page.keyboard.press('Enter');
  await command(page, 'Sweep the section');
  const offset = async () => (await sectionOf(page)).planes[0].offset;
  await expect.poll(offset).not.toBe(0);
  await scene(page).focus();
  await page.keyboard.press('Escape');
  // Ended, it is one step that can be undone.
  await expect(page.getByRole('button', { name: /^Undo sweep/ })).toBeVisible();
  const stopped = await offset();
  await passFrames(page, 15);
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
  await page
    .getByRole('region', { name: 'Kept sections' })
    .getByRole('button', { name: 'Section 1', exact: true })
    .click();
  await page.getByLabel('Name of the section').fill('Through the ports');
  await page.keyboard.press('Enter');
  await command(page, 'Remove the section');
  await expect.poll(async () => (await sectionOf(page)).planes.length).toBe(0);
  await page.getByRole('button', { name: 'Cut as in Through the ports' }).click();
  expect(await sectionOf(page)).toMatchObject({
    combine: 'all',
    planes: [{ name: 'Plane 1 · along X' }, { name: 'Plane 2 · along Y' }],
  });
  // One pane can show the model uncut beside the other, in what is drawn and in what is picked.
  await command(page, 'Two panes side by side');
  await settled(page);
  const canvas = (await scene(page).boundingBox())!;
  await page.mouse.move(canvas.x + canvas.width * 0.2, canvas.y + canvas.height * 0.8);
  const caps = () =>
    page.evaluate(
      ([w, h]) => {
        let met = 0;
        for (let y = 0.3; y < 0.8; y += 0.02)
          for (let x = 0.1; x < 0.45; x += 0.01)
            if (window.bathyscope!.picking.pick(x * w, y * h)?.kind === 'cap') met++;
        return met;
      },
      [canvas.width, canvas.height] as const,
    );
  await expect.poll(caps).toBeGreaterThan(20);
  await command(page, 'Section in this pane on or off');
  await expect.poll(caps).toBe(0);
  await command(page, 'Section in this pane on or off');
  await expect.poll(caps).toBeGreaterThan(20);
  await command(page, 'One pane');
  await command(page, 'Remove the section');
  await page.getByRole('button', { name: 'Forget Through the ports' }).click();
  await page.getByRole('button', { name: `Recall ${saved}` }).click();
  await expect.poll(async () => (await sectionOf(page)).planes.length).toBe(2);
  expect((await sectionOf(page)).combine).toBe('all');
});

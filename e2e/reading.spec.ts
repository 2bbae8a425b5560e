import fs from 'node:fs';
import { expect, type Page } from '@playwright/test';
import type { Vec3 } from '@bathyscope/core/math';
import { compileKernel, loadKernel } from '../packages/kernel/src/occt/load.ts';
import { madeSolids, type MadeSolids } from '../packages/kernel/src/testing/made-solids.ts';
import { publicFile } from '../packages/kernel/src/testing/public-file.ts';
import {
  clickPoint,
  drag,
  drawn,
  look,
  onScreen,
  openFile,
  pixelsOf,
  press,
  readout,
  scene,
  settled,
  showTask,
  test,
  tree,
} from './app.ts';

let made: MadeSolids;
test.beforeAll(async () => {
  made = madeSolids((await loadKernel(await compileKernel())).oc);
});

async function openWhole(page: Page, name: string, text: string | Buffer): Promise<void> {
  await openFile(page, name, text);
  await showTask(page, 'Parts');
  await press(page, '0');
  await settled(page);
}

test('mapped items: the mirrored one says so, the one of twice the size weighs eight times', async ({
  page,
}) => {
  const text = made.stepText(
    made.minus(made.box([0, 0, 0], [30, 20, 10]), made.box([20, 10, 5], [31, 21, 11])),
  );
  const [, brep, axis, , context] =
    /(#\d+) = ADVANCED_BREP_SHAPE_REPRESENTATION\('',\((#\d+),(#\d+)\),(#\d+)\)/.exec(text)!;
  const [whole, link, product] = /(#\d+) = SHAPE_DEFINITION_REPRESENTATION\((#\d+),#\d+\)/.exec(text)!;
  const operator = 'CARTESIAN_TRANSFORMATION_OPERATOR_3D';
  await openWhole(
    page,
    'Mapped brackets',
    text.replace(
      whole,
      `#9000=REPRESENTATION_MAP(${axis},${brep});#9001=DIRECTION('',(-1.,0.,0.));#9002=CARTESIAN_POINT('',(-10.,0.,0.));#9003=CARTESIAN_POINT('',(0.,40.,0.));
#9004=${operator}('','','',#9001,$,#9002,1.,$);#9005=${operator}('','','',$,$,#9003,2.,$);
#9006=MAPPED_ITEM('',#9000,#9004);#9007=MAPPED_ITEM('',#9000,#9005);#9008=SHAPE_REPRESENTATION('',(${axis},#9006,#9007),${context});
${link} = SHAPE_DEFINITION_REPRESENTATION(${product},#9008)`,
    ),
  );
  const rows = tree(page).getByRole('row', { name: /SOLID/ });
  await expect(rows).toHaveCount(2);
  // 30 × 20 × 10 less 10 × 10 × 5.
  await rows.nth(0).click();
  await expect(readout(page)).toContainText('5500.000 mm³');
  await expect(readout(page)).toContainText('as a mirror image');
  await rows.nth(1).click();
  await expect(readout(page)).toContainText('44\u2009000.00 mm³');
  await expect(readout(page)).toContainText('60.000 × 40.000 × 20.000');
});

test('a bore with a keyway reads as a bore with a keyway', async ({ page }) => {
  const hub = made.minus(
    made.cylinder([0, 0, 0], 25, 40),
    made.cylinder([0, 0, -1], 10, 42),
    made.box([0, -3, -1], [12.8, 3, 41]),
  );
  await openWhole(page, 'Winch hub', made.stepText(hub));
  await clickPoint(page, [-10 / Math.SQRT2, 10 / Math.SQRT2, 37]);
  await expect(readout(page)).toContainText('Hole · through');
  await expect(readout(page).getByTestId('main-figure')).toHaveText('Ø 20.000');
  await expect(readout(page)).toContainText(/Depth\s*40\.000 mm/);
  await expect(readout(page)).toContainText(/Keyway\s*6\.000 mm/);
});

test('a click on the line where the halves of a hole meet picks the hole', async ({ page }) => {
  await openWhole(page, 'Halved bore', fs.readFileSync(publicFile('as1-oc-214.stp')));
  const joint = await page.evaluate(() => {
    const { components, parts } = window.bathyscope!.modelStore.getState();
    const plate = components.find((c) => c.name === 'plate')!;
    const { holes, faces, edges, lines, origin } = parts.get(plate.part)!.geometry;
    const place = (p: number[]) =>
      [0, 1, 2].map(
        (r) =>
          plate.placement[r] * p[0] +
          plate.placement[4 + r] * p[1] +
          plate.placement[8 + r] * p[2] +
          plate.placement[12 + r],
      );
    // Joints of all holes: edges between two walls of one hole; a point a quarter down from their upper end.
    return holes.flatMap((h) =>
      [...new Set(h.faces.flatMap((f) => faces[f].edges))]
        .filter((e) => edges[e].faces.length === 2 && edges[e].faces.every((f) => h.faces.includes(f)))
        .map((e) => {
          const ends = [lines.start[e], lines.start[e + 1] - 1]
            .map((i) => place([0, 1, 2].map((k) => lines.positions[3 * i + k] + origin[k])))
            .sort((a, b) => b[2] - a[2]);
          return ends[0].map((x, k) => x + (ends[1][k] - x) / 8);
        }),
    ) as [number, number, number][];
  });
  await tree(page).getByRole('row', { name: /plate/ }).first().click();
  await press(page, 'i', '0', 'f');
  await settled(page);
  // Near enough that the rim is out of reach of the cursor. Of each two joints one faces away from the eye.
  let seen = 0;
  for (const point of joint.slice(0, 4) as Vec3[]) {
    await look(page, { target: point, height: 30 });
    await clickPoint(page, point);
    const said = await readout(page).innerText();
    expect(said).not.toMatch(/edge|Vertex/);
    if (said.includes('Hole')) seen++;
  }
  expect(seen).toBe(2);
});

test('a readout that opens over the model takes nothing of it away, and its long rows wrap', async ({
  page,
}) => {
  await openFile(page, 'Hub', fs.readFileSync(publicFile('io1-cm-214.stp')));
  await press(page, '0');
  await settled(page);
  /** The drawing alone, without what lies over it. */
  const drawing = async () => {
    await drawn(page);
    const style = await page.addStyleTag({
      content: 'body * { visibility: hidden } canvas { visibility: visible }',
    });
    const pixels = await pixelsOf(page, await scene(page).screenshot());
    await style.evaluate((element) => (element as HTMLElement).remove());
    return pixels.data;
  };
  const before = await drawing();
  const { x, y } = await onScreen(page, [15, 0, 0]);
  for (const [dx, dy] of [
    [0, 0],
    [-40, -30],
    [60, 40],
  ]) {
    await page.mouse.click(x + dx, y + dy);
    await expect(readout(page)).toBeVisible();
    const box = (await scene(page).boundingBox())!;
    await page.mouse.move(box.x + 8, box.y + box.height / 2);
    const after = await drawing();
    let gone = 0;
    // The part is yellow, the ground is blue, and what is picked is red.
    for (let i = 0; i < before.length; i += 4)
      if (before[i] > before[i + 2] + 60 && after[i + 2] > after[i]) gone++;
    expect(gone / (before.length / 4)).toBeLessThan(2e-4);
    const [inner, outer] = await readout(page).evaluate((card) => [card.scrollWidth, card.clientWidth]);
    expect(inner).toBeLessThanOrEqual(outer);
  }
  // The card stands on the right; when the hole comes to lie under it, on the left, until nothing is picked.
  const half = (await scene(page).boundingBox())!;
  const side = async () =>
    (await readout(page).boundingBox())!.x < half.x + half.width / 2 ? 'left' : 'right';
  const pickHole = async () => {
    await press(page, 'Escape');
    await expect(readout(page)).toBeHidden();
    await clickPoint(page, [15, 0, -18]);
    await expect(readout(page)).toContainText('Hole');
  };
  await pickHole();
  expect(await side()).toBe('right');
  await drag(page, 'middle', { x, y }, 170, 0);
  await expect.poll(side).toBe('left');
  await drag(page, 'middle', { x, y }, -170, 0);
  await pickHole();
  expect(await side()).toBe('right');
});

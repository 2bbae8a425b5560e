import fs from 'node:fs';
import path from 'node:path';
import { expect, type Page } from '@playwright/test';
import { lampHousing, type LampDimensions } from '../demo/lamp-housing.ts';
import { loadFullKernel, Modeller } from '../demo/modeller.ts';
import { writeStep } from '../demo/step-writer.ts';
import { command, openFile, openShelf, scene, showTask, test, tree } from './app.ts';

const VALVE = fs.readFileSync(
  path.join(import.meta.dirname, '../demo/models/Ballast valve BV-40.step'),
  'latin1',
);
const copy = (n: number, text = VALVE) =>
  text.replace('END-ISO-10303-21;', `/* revision ${n} */\nEND-ISO-10303-21;`);
const file = (name: string, text: string) => ({
  name,
  mimeType: 'model/step',
  buffer: Buffer.from(text, 'latin1'),
});
const opened = async (page: Page) => {
  await expect(scene(page)).toBeVisible();
  await page.waitForFunction(() => (window.bathyscope?.view.frames ?? 0) > 0);
};
const keepSetOf = async (page: Page, row: string) => {
  await tree(page).getByRole('row', { name: row }).first().click();
  const kept = page.waitForResponse((r) => r.url().endsWith('/records') && r.request().method() === 'PATCH');
  await command(page, 'Keep the picked set');
  await kept;
};

test('a new revision is converted while the present one is open, and opened when one wants; what was kept is looked up on it; the older one keeps its address; removing has undo', async ({
  page,
}) => {
  await openFile(page, 'Revised valve', copy(1));
  const model = /models\/([^/]+)/.exec(page.url())![1];
  try {
    await showTask(page, 'Parts');
    await keepSetOf(page, 'Body');
    await keepSetOf(page, 'Gasket');
    await page.getByRole('button', { name: 'rev 1' }).click();
    await page
      .getByLabel('File of the new revision')
      .setInputFiles(file('Revised valve B.step', copy(2, VALVE.replaceAll("'Gasket'", "'Seal'"))));
    await expect(page.getByText('Revision 2 is ready.')).toBeVisible({ timeout: 120_000 });
    // Nothing was changed under whoever looks at the first.
    await expect(page.getByRole('button', { name: 'rev 1 of 2' })).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(tree(page).getByRole('row', { name: 'Gasket' }).first()).toBeVisible();
    await page.getByRole('button', { name: 'Open', exact: true }).last().click();
    await page.waitForURL(`**/models/${model}/revisions/2`);
    await opened(page);
    await expect(page.getByText(/Of 2 kept things 1 only probably found/)).toBeVisible();
    await page.getByRole('button', { name: 'rev 2' }).click();
    const kept = page.getByRole('region', { name: 'What was kept on other revisions' });
    await expect(kept).toContainText('1 found, 1 probably found');

    await page.getByText('Say a line about it').first().click();
    await page.getByLabel('What is to be said of revision 2').fill('A seal in place of the gasket');
    await page.keyboard.press('Enter');
    await expect(page.getByText('A seal in place of the gasket')).toBeVisible();
    await page.getByRole('link', { name: 'Open revision 1' }).click();
    await page.waitForURL(`**/models/${model}/revisions/1`);
    await opened(page);
    await expect(tree(page).getByRole('row', { name: 'Gasket' }).first()).toBeVisible();

    await page.getByRole('button', { name: 'rev 1 of 2' }).click();
    await page.getByRole('button', { name: 'Remove revision 2' }).click();
    await expect(page.getByRole('link', { name: 'Open revision 2' })).toBeHidden();
    await page.getByRole('button', { name: 'Undo', exact: true }).last().click();
    await page.getByRole('button', { name: /^rev 1/ }).click();
    await expect(page.getByRole('link', { name: 'Open revision 2' })).toBeVisible();

    // The same bytes again, on the card of the shelf.
    await openShelf(page);
    await page
      .getByLabel('File of the new revision of Revised valve')
      .setInputFiles(file('Again.step', copy(1).replace('HEADER;', 'HEADER; /* Revised valve */')));
    await expect(page.getByText(/byte for byte, revision 1 of this model/)).toBeVisible();

    // A changed file of the same name, dropped where models go: asked, and made the next revision.
    await page.getByLabel('Model files').setInputFiles(file('Revised valve.step', copy(3)));
    await expect(page.getByText(/“Revised valve” has the name of this file/)).toBeVisible();
    await page.getByRole('button', { name: 'Make it that' }).click();
    await expect(page.getByRole('link', { name: 'Open Revised valve', exact: true })).toHaveCount(1);
    await expect(page.getByText('rev 3 ·')).toBeVisible({ timeout: 120_000 });
  } finally {
    await page.request.delete(`/api/models/${model}`);
  }
});

test('on the shelf too what speaks against a revision is said: another unit, nothing in common', async ({
  page,
}) => {
  await openFile(page, 'Doubted valve', copy(11));
  const model = /models\/([^/]+)/.exec(page.url())![1];
  try {
    await openShelf(page);
    const card = page.getByLabel('File of the new revision of Doubted valve');
    const inCentimetres = copy(12, VALVE.replaceAll('SI_UNIT(.MILLI.,.METRE.)', 'SI_UNIT(.CENTI.,.METRE.)'));
    await card.setInputFiles(file('Doubted cm.step', inCentimetres));
    await expect(
      page.getByText(/^Revision 2 of “Doubted valve” is ready\..*states “.*look at the sizes/),
    ).toBeVisible({
      timeout: 120_000,
    });
    const lamp = fs.readFileSync(
      path.join(import.meta.dirname, '../demo/models/Lamp housing LH-20.step'),
      'latin1',
    );
    await card.setInputFiles(file('Doubted lamp.step', copy(13, lamp)));
    await expect(
      page.getByText(/^Revision 3 of .*in common with revision 2: is this really “Doubted valve”/),
    ).toBeVisible({ timeout: 120_000 });
    await page.getByRole('button', { name: 'Open', exact: true }).last().click();
    await page.waitForURL(`**/models/${model}/revisions/3`);
  } finally {
    await page.request.delete(`/api/models/${model}`);
  }
});

test('a housing that its designer changed: what was measured on it is gone through, pointed to again, accepted and put aside, and stays so', async ({
  page,
}) => {
  test.setTimeout(180_000);
  const modeller = new Modeller(await loadFullKernel());
  const made = (otherwise: Partial<LampDimensions>) =>
    writeStep(modeller, lampHousing(modeller, otherwise), 'Lamp housing LH-20');
  await openFile(page, 'Revised lamp', copy(1, made({})));
  const model = /models\/([^/]+)/.exec(page.url())![1];
  /** Picks the wall of a hole by its radius, and where its axis passes the origin. */
  const pickHole = (radius: number, x: number, y: number) =>
    page.evaluate(
      ([r, px, py]) => {
        const { modelStore, selectionStore } = window.bathyscope!;
        const { components, parts } = modelStore.getState();
        const { faces } = parts.get(components[0].part)!.geometry;
        const at = (f: (typeof faces)[number]) => Math.hypot(f.origin![0] - px, f.origin![1] - py) < 0.5;
        const index = faces.findIndex(
          (f) => f.surface === 'cylinder' && f.concave && Math.abs(f.radius! - r) < 1e-3 && at(f),
        );
        selectionStore.getState().pick([{ kind: 'face', component: components[0].path, index }]);
        return index;
      },
      [radius, x, y],
    );
  const around = (radius: number, degrees: number): [number, number] => [
    radius * Math.cos((degrees * Math.PI) / 180),
    radius * Math.sin((degrees * Math.PI) / 180),
  ];
  const keep = async (radius: number, [x, y]: [number, number]) => {
    expect(await pickHole(radius, x, y)).toBeGreaterThanOrEqual(0);
    const kept = page.waitForResponse(
      (r) => r.url().endsWith('/records') && r.request().method() === 'PATCH',
    );
    await command(page, 'Keep the figure');
    await kept;
  };
  try {
    await keep(3.3, around(51, 30));
    await keep(3.3, around(51, 150));
    await keep(2.1, around(26, 0));
    await keep(2.1, around(26, 240));
    // One screw is moved by 2 mm, one tapped hole is left out, another was never there.
    await page.getByRole('button', { name: 'rev 1' }).click();
    const changed = made({ screws: [32.25, 90, 150, 210, 270, 330], taps: [0, 120] });
    await page.getByLabel('File of the new revision').setInputFiles(file('Lamp B.step', copy(2, changed)));
    await expect(page.getByText('Revision 2 is ready.')).toBeVisible({ timeout: 120_000 });
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Open', exact: true }).last().click();
    await page.waitForURL(`**/models/${model}/revisions/2`);
    await opened(page);
    await expect(page.getByText(/Of 4 kept things 1 only probably found and 1 lost/)).toBeVisible();
    await page.getByRole('button', { name: 'Go through them' }).click();
    const list = page.getByRole('region', { name: 'Kept on other revisions' });
    await expect(list).toContainText('2 of 4 to be looked at');

    // The screw that was moved: where it was is drawn, where it is is picked.
    const moved = list.getByRole('listitem').filter({ hasText: 'probably found' }).first();
    await moved.getByRole('button', { name: 'Where it was' }).click();
    await expect(page.getByRole('img', { name: 'Where it was on revision 1' })).toBeVisible();
    await moved.getByRole('button', { name: 'Where it is' }).click();
    await expect(page.getByRole('img', { name: 'Where it was on revision 1' })).toBeHidden();
    const [picked] = await page.evaluate(() => window.bathyscope!.selectionStore.getState().picked);
    expect(picked.index).toBe(await pickHole(3.3, ...around(51, 32.25)));
    await moved.getByRole('button', { name: 'Accept' }).click();
    await expect(list).toContainText('1 of 3 to be looked at');

    // The hole that is gone is pointed to another, taken back, and put aside.
    const gone = list.getByRole('listitem');
    await expect(gone.getByRole('button', { name: 'It is what is picked' })).toBeEnabled();
    await pickHole(2.1, ...around(26, 120));
    await gone.getByRole('button', { name: 'It is what is picked' }).click();
    await expect(list).toContainText('All 2 are settled.');
    await page.keyboard.press('Control+z');
    await expect(list).toContainText('1 of 3 to be looked at');
    const aside = page.waitForResponse(
      (r) => r.url().endsWith('/records') && r.request().method() === 'PATCH',
    );
    await gone.getByRole('button', { name: 'Put aside' }).click();
    await aside;
    await expect(gone).toContainText('put aside');

    // So it stays; on the first revision all four are as they were.
    await page.reload();
    await opened(page);
    await showTask(page, 'Measure');
    const ledger = page.getByRole('region', { name: 'Ledger' });
    await expect(ledger.getByRole('listitem')).toHaveCount(3);
    await expect(ledger.getByText(/probably|lost/)).toHaveCount(0);
    await page.goto(`/models/${model}/revisions/1`);
    await opened(page);
    await showTask(page, 'Measure');
    await expect(ledger.getByRole('listitem')).toHaveCount(4);
    await expect(ledger.getByText('lost')).toHaveCount(0);
  } finally {
    await page.request.delete(`/api/models/${model}`);
  }
});

import { expect, type Page } from '@playwright/test';
import fs from 'node:fs';
import { command, openModel, openValve, settled, showTask, test, tree } from './app.ts';

const total = (page: Page) => page.getByTestId('total-mass');

test('a part without a material says so; given one it is weighed, in the parts list too, and after opening again', async ({ page }) => {
  await openModel(page, 'Lamp housing LH-20');
  await command(page, 'Mass');
  const material = page.getByRole('combobox', { name: /^Material of Lamp housing/ });
  await material.selectOption({ label: 'Aluminium 6082' });
  const volume = await page.evaluate(() => window.bathyscope!.modelStore.getState().parts.get(0)!.geometry.mass!.volume);
  const kg = volume * 2700e-9;
  const shown = kg < 1 ? `${(kg * 1000).toPrecision(4)} g` : `${kg.toFixed(3)} kg`;
  await expect(total(page)).toHaveText(shown);
  await expect(page.getByRole('region', { name: 'Total' })).toContainText('in all');
  // Where it balances, in the scene.
  await expect(page.getByTestId('place')).toContainText('centre of gravity');
  await page.reload();
  await expect(total(page)).toHaveText(shown);
  await expect(material).toHaveValue('6082');
  await material.selectOption('');
  await expect(total(page)).not.toHaveText(shown);
  await page.keyboard.press('Control+z');
  await expect(total(page)).toHaveText(shown);
});

test('an assembly: what is hidden does not weigh, what is picked alone does; the table is saved', async ({ page }) => {
  await openValve(page, 'Mass');
  const all = await total(page).textContent();
  const region = page.getByRole('region', { name: 'Total' });
  const list = page.getByRole('list', { name: 'Parts by mass' }).getByRole('listitem');
  await expect(list.first()).toBeVisible();
  const spool = page.getByRole('combobox', { name: 'Material of Spool', exact: true });
  await spool.selectOption({ label: 'Duplex steel 1.4462' });
  await page.getByRole('group', { name: 'Mass of' }).getByText('Picked').click();
  await expect(region).toContainText('Pick components to weigh them.');
  await showTask(page, 'Parts');
  await tree(page)
    .getByRole('row', { name: /^Spool( |$)/ })
    .last()
    .click();
  await showTask(page, 'Mass');
  await page.getByRole('group', { name: 'Mass of' }).getByText('Picked').click();
  const one = await total(page).textContent();
  expect(one).not.toBe(all);
  await expect(region).toContainText('in all');
  await command(page, 'Hide');
  await page.getByRole('group', { name: 'Mass of' }).getByText('Shown').click();
  await settled(page);
  await expect(total(page)).not.toHaveText(one!);
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as CSV' }).click();
  const text = fs.readFileSync((await (await download).path())!, 'utf8');
  expect(text.split('\n')[0]).toContain('Part,Quantity,Material,"Density, kg/m³"');
  expect(text).not.toContain('Spool,');
});

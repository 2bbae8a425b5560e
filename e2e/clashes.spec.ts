import { expect } from '@playwright/test';
import { command, openModel, press, readout, settled, showTask, test, tree } from './app.ts';

test('the overlap of the demo valve is found with its depth and volume, shown alone, and said to be meant so', async ({
  page,
}) => {
  await openModel(page, 'Ballast valve BV-40');
  await tree(page)
    .getByRole('row', { name: /^Spool( |$)/ })
    .last()
    .click();
  await command(page, 'Find clashes with neighbours');
  const clashes = page.getByRole('region', { name: 'Clashes' });
  const found = clashes.getByRole('list', { name: 'Clashes found' }).getByRole('listitem');
  await expect(clashes.getByRole('status')).toContainText(
    /^One clash, \d+ pairs touch, of Spool and what is near it\.$/,
    {
      timeout: 90_000,
    },
  );
  // A land of Ø26.25 in a bore of Ø26.05, from demo/ballast-valve.ts: radii 0.1 mm apart.
  await expect(found).toHaveCount(1);
  await expect(found).toContainText('Spool in Body');
  await expect(found).toContainText(/0\.100.mm deep, 90\.609.mm³/);

  await found.getByTitle('Show these two alone').click();
  await settled(page);
  await expect(page.getByTestId('place')).toBeVisible();
  const shown = await page.evaluate(() => {
    const { states } = window.bathyscope!.visibilityStore.getState();
    const { components } = window.bathyscope!.modelStore.getState();
    return components.filter((c) => states[c.path]?.visible !== false).map((c) => c.name);
  });
  expect(shown.sort()).toEqual(['Spool', 'Valve body']);

  await found.getByRole('checkbox').check();
  await expect(clashes.getByRole('status')).toContainText('No other clash, 1 meant so');
  await page.reload();
  // The server found it, whoever looks: it is there when one comes back.
  await showTask(page, 'Measure');
  await page.getByRole('group', { name: 'Measure' }).getByText('Clashes').click();
  await expect(clashes.getByRole('status')).toContainText('No other clash, 1 meant so');
  await showTask(page, 'Parts');
  await tree(page)
    .getByRole('row', { name: /^Spool( |$)/ })
    .last()
    .click();
  await command(page, 'Find clashes with neighbours');
  await expect(clashes.getByRole('status')).toContainText('No other clash, 1 meant so', { timeout: 90_000 });
  await page.keyboard.press('Control+z');

  // The pair picked by hand says the same; two that are apart say their gap.
  await press(page, 'u');
  await showTask(page, 'Parts');
  const row = (name: RegExp) => tree(page).getByRole('row', { name }).last();
  await row(/^Spool( |$)/).click();
  await row(/^Body /).click({ modifiers: ['Control'] });
  await expect(readout(page)).toContainText('Clash, depth', { timeout: 30_000 });
  await expect(readout(page).getByTestId('main-figure')).toHaveText('0.100');
  await row(/^Gasket/).click();
  await row(/^Spool( |$)/).click({ modifiers: ['Control'] });
  await expect(readout(page)).toContainText('Gap');
  await expect(readout(page)).toContainText('exact', { timeout: 30_000 });
  // The gasket’s Ø34 about the shaft’s Ø16.
  await expect(readout(page).getByTestId('main-figure')).toHaveText('9.000');
});

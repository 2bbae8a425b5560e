import { AxeBuilder } from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';
import { clickPoint, FROM_PAGE, openModel, openShelf, press, settled, showTask, test, tree } from './app.ts';

/** WCAG 2.2 A and AA and good practice (landmarks, headings), as far as a program can check them. */
async function expectNoViolations(
  page: Page,
  colours: 'and colours' | 'colours only' = 'and colours',
): Promise<void> {
  const axe = new AxeBuilder({ page });
  if (colours === 'colours only') axe.withRules(['color-contrast', 'link-in-text-block']);
  else axe.withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa', 'best-practice']);
  const { violations } = await axe.analyze();
  expect(
    violations.map((v) => `${v.id}: ${v.nodes.map((n) => `${n.target} ${n.failureSummary}`).join(' | ')}`),
  ).toEqual([]);
}

/** Another theme has other colours and the same structure. */
const checkOf = (page: Page, theme: 'chart' | 'abyss') => () =>
  expectNoViolations(page, theme === 'chart' ? 'and colours' : 'colours only');

for (const theme of ['chart', 'abyss'] as const)
  test(`shelf and workspace are accessible in the ${theme} theme, and the console stays clean`, async ({
    page,
  }) => {
    const check = checkOf(page, theme);
    const noise: string[] = [];
    page.on('console', (m) => m.type() === 'error' && noise.push(m.text()));
    page.on('pageerror', (e) => noise.push(e.message));
    await page.addInitScript(
      (t) => localStorage.setItem('bathyscope-settings', JSON.stringify({ state: { theme: t }, version: 0 })),
      theme,
    );
    await openShelf(page);
    await check();
    await openModel(page, 'Ballast valve BV-40');
    await page.keyboard.press('0');
    await settled(page);
    await clickPoint(page, [12, -12, 54]);
    await check();
    await showTask(page, 'Measure');
    await press(page, 'j');
    await page.getByRole('region', { name: 'Ledger' }).getByRole('button', { name: 'no nominal' }).click();
    await check();
    for (const tab of ['Holes', 'Clashes', 'Wall']) {
      await page.getByRole('button', { name: tab, exact: true }).click();
      await check();
    }
    await showTask(page, 'Mass');
    await check();
    expect(noise).toEqual([]);
  });

for (const theme of ['chart', 'abyss'] as const)
  test(`lists, menus, dialogs and notices are accessible in the ${theme} theme`, async ({ page }) => {
    const check = checkOf(page, theme);
    await page.request.patch('/api/settings', {
      headers: FROM_PAGE,
      data: { values: { theme, smoothEdges: false } },
    });
    await openModel(page, 'Ballast valve BV-40');
    await page.keyboard.press('Control+k');
    await page.keyboard.type('bolt');
    await expect(page.getByRole('option').first()).toBeVisible();
    await check();
    await page.keyboard.press('Escape');
    await press(page, '0');
    await settled(page);
    await clickPoint(page, [12, -12, 54], { button: 'right' });
    await page.getByRole('menuitem', { name: 'More …' }).click();
    await check();
    await page.keyboard.press('Escape');
    for (const id of ['help', 'settings', 'picture', 'hide-smaller']) {
      await page.evaluate((command) => window.bathyscope!.run(command), id);
      await expect(page.getByRole('dialog').getByRole('heading').first()).toBeVisible();
      for (const tab of await page.getByRole('dialog').getByRole('tab').all()) {
        await tab.click();
        await check();
      }
      await check();
      await page.keyboard.press('Escape');
      await expect(page.getByRole('dialog')).toHaveCount(0);
    }
    // A notice, the other tasks, and four panes.
    await page.evaluate(() => window.bathyscope!.run('orbit-mode'));
    for (const task of ['Views', 'Style', 'Section'] as const) {
      await showTask(page, task);
      await check();
    }
    await page.evaluate(() => window.bathyscope!.run('panes-four'));
    await check();
  });

test('the tree works by keys alone', async ({ page }) => {
  await openModel(page, 'Ballast valve BV-40');
  await tree(page).getByRole('rowgroup').getByRole('row').first().focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowLeft');
  await expect(tree(page).getByRole('row', { name: /Body group/ })).toHaveAttribute('aria-expanded', 'false');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(tree(page).getByRole('row', { name: /Body Valve body/ })).toHaveAttribute(
    'aria-selected',
    'true',
  );
  await page.keyboard.press(' ');
  await expect(page.getByRole('button', { name: 'Show Body', exact: true })).toBeVisible();
  await page.keyboard.press(' ');
  await expect(page.getByRole('button', { name: 'Hide Body', exact: true })).toBeVisible();
});

import { AxeBuilder } from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';
import { clickPoint, openModel, openShelf, press, settled, showTask, test, tree } from './app.ts';

/** WCAG 2.2 A and AA, as far as a program can check them. */
async function expectNoViolations(page: Page): Promise<void> {
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa']).analyze();
  expect(violations.map((v) => `${v.id}: ${v.nodes.map((n) => `${n.target} ${n.failureSummary}`).join(' | ')}`)).toEqual([]);
}

for (const theme of ['chart', 'abyss'] as const)
  test(`shelf and workspace are accessible in the ${theme} theme, and the console stays clean`, async ({ page }) => {
    const noise: string[] = [];
    page.on('console', (m) => m.type() === 'error' && noise.push(m.text()));
    page.on('pageerror', (e) => noise.push(e.message));
    await page.addInitScript(
      (t) => localStorage.setItem('bathyscope-settings', JSON.stringify({ state: { theme: t }, version: 0 })),
      theme,
    );
    await openShelf(page);
    await expectNoViolations(page);
    await openModel(page, 'Ballast valve BV-40');
    await page.keyboard.press('0');
    await settled(page);
    await clickPoint(page, [12, -12, 54]);
    await expectNoViolations(page);
    await showTask(page, 'Measure');
    await press(page, 'j');
    await page.getByRole('region', { name: 'Ledger' }).getByRole('button', { name: 'no nominal' }).click();
    await expectNoViolations(page);
    for (const tab of ['Holes', 'Clashes', 'Wall']) {
      await page.getByRole('button', { name: tab, exact: true }).click();
      await expectNoViolations(page);
    }
    await showTask(page, 'Mass');
    await expectNoViolations(page);
    expect(noise).toEqual([]);
  });

test('the tree works by keys alone', async ({ page }) => {
  await openModel(page, 'Ballast valve BV-40');
  await tree(page).getByRole('row').first().focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowLeft');
  await expect(tree(page).getByRole('row', { name: /Body group/ })).toHaveAttribute('aria-expanded', 'false');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(tree(page).getByRole('row', { name: /Body Valve body/ })).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press(' ');
  await expect(page.getByRole('button', { name: 'Show Body', exact: true })).toBeVisible();
  await page.keyboard.press(' ');
  await expect(page.getByRole('button', { name: 'Hide Body', exact: true })).toBeVisible();
});

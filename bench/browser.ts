import { chromium, type Page } from '@playwright/test';
import type { PartGeometry } from '@bathyscope/core/geometry';
import { bigModel } from './big-model.ts';
import { serveModel } from './serve-model.ts';

/** tsx marks functions by a helper that the page lacks. */
const HELPER = 'globalThis.__name = (f) => f';

export const LAUNCH = {
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-quic', '--use-gl=angle', '--use-angle=gl-egl', '--ignore-gpu-blocklist'],
};

/**
 * Opens the assembly of 5,000 components in the application as built, and closes everything after. @returns
 * the parts it is made of
 */
export async function withBigModel(work: (page: Page) => Promise<void>): Promise<PartGeometry[]> {
  const { detail, containers, parts } = await bigModel();
  const { address, close } = await serveModel(detail, containers);
  const browser = await chromium.launch(LAUNCH);
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.addInitScript(HELPER);
    await page.addInitScript(() =>
      localStorage.setItem(
        'bathyscope-settings',
        JSON.stringify({ state: { smoothEdges: false, task: 'views' }, version: 0 }),
      ),
    );
    await page.goto(address);
    await page.waitForFunction(
      () =>
        ((window as unknown as { bathyscope?: { view: { frames: number } } }).bathyscope?.view.frames ?? 0) >
        0,
      null,
      { timeout: 60_000 },
    );
    await work(page);
  } finally {
    await browser.close();
    close();
  }
  return parts;
}

/**
 * Median of three, ms, until a page of the application shows its model; each in a page of its own. @param
 * address of the page
 */
export async function firstFrame(address: string): Promise<number> {
  const browser = await chromium.launch(LAUNCH);
  try {
    const times: number[] = [];
    for (let i = 0; i < 3; i++) {
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
      const start = performance.now();
      await page.goto(address);
      await page.waitForFunction(() => (window.bathyscope?.view.frames ?? 0) > 0);
      times.push(performance.now() - start);
      await page.close();
    }
    return times.sort((a, b) => a - b)[1];
  } finally {
    await browser.close();
  }
}

import fs from 'node:fs';
import path from 'node:path';
import { createRequire } from 'node:module';
import { project, type Pane, type PartGeometry, type Vec3, type ViewCamera } from '@bathyscope/core';
import { expect, test as base, type Locator, type Page } from '@playwright/test';
import pg from 'pg';

const require_ = createRequire(import.meta.url);

/** A CAx implementor-forum STEP file from the npm package occt-import-js. */
export function publicFile(name: string): string {
  const folder = path.join(path.dirname(require_.resolve('occt-import-js/package.json')), 'test', 'testfiles');
  return fs.readdirSync(folder).map((sub) => path.join(folder, sub, name)).find((p) => fs.existsSync(p))!;
}

interface Bathyscope {
  view: { picking: { pick(x: number, y: number): { kind: string; component: string; index: number } | null; pointAt(x: number, y: number): Vec3 | null; nearestPoint(x: number, y: number): Vec3 | null }; drawn: { calls: number; triangles: number; lines: number }; frames: number };
  cameraStore: { getState(): { panes: { camera: ViewCamera; size: Pane }[]; pivot: Vec3; hinge: unknown } };
  modelStore: { getState(): { components: { path: string; name: string; part: number; placement: number[] }[]; parts: ReadonlyMap<number, { geometry: PartGeometry }> } };
  referenceStore: { getState(): { planes: { origin: Vec3; normal: Vec3 }[]; axes: { origin: Vec3; direction: Vec3 }[] } };
}

declare global {
  interface Window {
    bathyscope?: Bathyscope;
  }
}

/** Every test starts with plain settings; multisampling costs two to five times the drawing time in software. */
export const test = base.extend({
  page: async ({ page, request }, use) => {
    await request.put('/api/settings', { data: { values: { smoothEdges: false } } });
    await use(page);
  },
});

/** Rows left in each table that a refused file must not touch. */
export async function countRows(): Promise<Record<string, number>> {
  const url = new URL(process.env['DATABASE_URL']!);
  url.pathname = '/e2e';
  const client = new pg.Client({ connectionString: url.href });
  await client.connect();
  const counts: Record<string, number> = {};
  for (const table of ['model', 'revision', 'source_file', 'source_chunk', 'geometry', 'revision_geometry'])
    counts[table] = Number((await client.query(`select count(*) from ${table}`)).rows[0].count);
  await client.end();
  return counts;
}

export const card = (page: Page, name: string): Locator => page.getByRole('listitem').filter({ hasText: name });

/** Opens the shelf with the demo models converted. */
export async function openShelf(page: Page): Promise<void> {
  await page.goto('/');
  await expect(page.getByRole('link', { name: 'Open Ballast valve BV-40' })).toBeVisible({ timeout: 120_000 });
  await expect(page.getByRole('link', { name: 'Open Lamp housing LH-20' })).toBeVisible({ timeout: 120_000 });
}

/** Opens a model of the shelf and waits for its first frame. */
export async function openModel(page: Page, name: string): Promise<void> {
  await openShelf(page);
  await page.getByRole('link', { name: `Open ${name}` }).click();
  await expect(page.getByTestId('scene')).toBeVisible({ timeout: 120_000 });
  await page.waitForFunction(() => (window.bathyscope?.view.frames ?? 0) > 0);
}

export const camera = (page: Page): Promise<{ camera: ViewCamera; size: Pane }> => page.evaluate(() => window.bathyscope!.cameraStore.getState().panes[0]);

/** Waits until a turn of the view has ended. */
export async function settled(page: Page): Promise<ViewCamera> {
  let before = '';
  await expect.poll(async () => {
    const now = JSON.stringify((await camera(page)).camera);
    const same = now === before;
    before = now;
    return same;
  }, { intervals: [150] }).toBe(true);
  return JSON.parse(before) as ViewCamera;
}

/** Where a point of the model is in the window. */
export async function onScreen(page: Page, point: Vec3): Promise<{ x: number; y: number }> {
  const pane = await camera(page);
  const box = (await page.getByTestId('scene').boundingBox())!;
  const { x, y } = project(pane.camera, pane.size, point);
  return { x: box.x + x, y: box.y + y };
}

export async function clickPoint(page: Page, point: Vec3, options: { button?: 'left' | 'right'; shift?: boolean } = {}): Promise<void> {
  const { x, y } = await onScreen(page, point);
  await page.mouse.move(x, y);
  if (options.shift) await page.keyboard.down('Shift');
  await page.mouse.click(x, y, { button: options.button ?? 'left' });
  if (options.shift) await page.keyboard.up('Shift');
}

export async function drag(page: Page, button: 'left' | 'middle' | 'right', from: { x: number; y: number }, dx: number, dy: number): Promise<void> {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down({ button });
  await page.mouse.move(from.x + dx / 2, from.y + dy / 2, { steps: 4 });
  await page.mouse.move(from.x + dx, from.y + dy, { steps: 4 });
  await page.mouse.up({ button });
}

/** A place of the window where the pointer is on a thing of a kind whose surface or curve is the given one; looked for from the middle of the scene downwards. */
export async function whereIs(page: Page, kind: 'face' | 'edge' | 'vertex', shape?: string): Promise<{ x: number; y: number }> {
  const box = (await page.getByTestId('scene').boundingBox())!;
  const at = await page.evaluate(([wanted, form, width, height]) => {
    const { view, modelStore } = window.bathyscope!;
    const { components, parts } = modelStore.getState();
    for (let y = Math.round(height / 3); y < height - 20; y += 3)
      for (let x = Math.round(width / 3); x < width - 200; x += 3) {
        const hit = view.picking.pick(x, y);
        if (hit?.kind !== wanted) continue;
        const part = parts.get(components.find((c) => c.path === hit.component)!.part)!.geometry;
        const is = hit.kind === 'face' ? part.faces[hit.index].surface : hit.kind === 'edge' ? part.edges[hit.index].curve : undefined;
        if (is === form) return { x, y };
      }
    return null;
  }, [kind, shape, box.width, box.height] as const);
  if (!at) throw new Error(`No ${shape ?? ''} ${kind} is seen.`);
  return { x: box.x + at.x, y: box.y + at.y };
}

export const readout = (page: Page): Locator => page.getByRole('region', { name: 'Readout' });

/** The share of pixels of the scene near a colour (0–255), from a screenshot. */
export async function shareOfColour(page: Page, colour: readonly [number, number, number], within: number): Promise<number> {
  const png = await page.getByTestId('scene').screenshot();
  return page.evaluate(async ([data, [r, g, b], limit]) => {
    const bitmap = await createImageBitmap(await (await fetch(`data:image/png;base64,${data}`)).blob());
    const context = new OffscreenCanvas(bitmap.width, bitmap.height).getContext('2d')!;
    context.drawImage(bitmap, 0, 0);
    const { data: pixels } = context.getImageData(0, 0, bitmap.width, bitmap.height);
    let near = 0;
    for (let i = 0; i < pixels.length; i += 4)
      if (Math.abs(pixels[i] - r) < limit && Math.abs(pixels[i + 1] - g) < limit && Math.abs(pixels[i + 2] - b) < limit) near++;
    return near / (pixels.length / 4);
  }, [png.toString('base64'), colour, within] as const);
}

import { project, type Pane, type ViewCamera } from '@bathyscope/core/camera';
import type { PartGeometry } from '@bathyscope/core/geometry';
import type { Vec3 } from '@bathyscope/core/math';
import type { PlaneCurve, Section } from '@bathyscope/core/section';
import { PAGE_HEADER, type ModelListItem } from '@bathyscope/contracts';
import { expect, test as base, type Locator, type Page } from '@playwright/test';
import pg from 'pg';

/** For what a test asks in place of the page. */
export const FROM_PAGE = { [PAGE_HEADER]: '1' };

/** What the page lends to tests: its view and stores. */
export interface Bathyscope {
  run(id: string): void;
  openBeside(id: string, canvas: HTMLCanvasElement): Promise<Bathyscope & { close(): void }>;
  pointerStore: Store<{ at: { x: number; y: number } | null }>;
  trailStore: Store<{ trails: Record<string, { views: unknown[] }> }>;
  historyStore: Store<{ done: { name: string }[] }>;
  visibilityStore: Store<{ states: Record<string, { visible: boolean }>; set(states: object): void }>;
  styleStore: Store<{ style: object; carried: { name: string }[] }>;
  picking: {
    pick(x: number, y: number): { kind: string; component: string; index: number } | null;
    pointAt(x: number, y: number): Vec3 | null;
    nearestPoint(x: number, y: number): Vec3 | null;
    shownPaths(): string[];
  };
  view: {
    drawn: { calls: number; triangles: number; lines: number };
    frames: number;
  };
  cameraStore: Store<{
    panes: { camera: ViewCamera; size: Pane }[];
    pivot: Vec3;
    hinge: unknown;
    setCamera(camera: ViewCamera): void;
    setPivot(pivot: Vec3): void;
    setActive(pane: number): void;
  }>;
  modelStore: Store<{
    components: { path: string; name: string; part: number; placement: number[] }[];
    parts: ReadonlyMap<number, { geometry: PartGeometry }>;
  }>;
  selectionStore: Store<{
    picked: { kind: string; component: string; index: number }[];
    pick(items: object[]): void;
  }>;
  sectionStore: Store<Section & { before: unknown; active: string | null }>;
  cutStore: Store<{
    results: { plane: { id: string } }[];
    whole: ReadonlySet<string>;
    exact: ReadonlyMap<string, ReadonlyMap<number, { loops?: PlaneCurve[][] }>>;
    asking: boolean;
  }>;
  referenceStore: Store<{
    planes: { origin: Vec3; normal: Vec3 }[];
    axes: { origin: Vec3; direction: Vec3 }[];
  }>;
  recordStore: Store<{
    shelves: ReadonlyMap<
      string,
      { entries: ReadonlyMap<string, { carried?: { read: object | null; status: string | null } }> }
    >;
  }>;
}

interface Store<T> {
  getState(): T;
  setState(values: object): void;
  subscribe(listener: () => void): void;
}

declare global {
  interface Window {
    bathyscope?: Bathyscope;
  }
}

export async function database<T>(work: (client: pg.Client) => Promise<T>): Promise<T> {
  const url = new URL(process.env['DATABASE_URL']!);
  url.pathname = '/e2e';
  const client = new pg.Client({ connectionString: url.href });
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end();
  }
}

/** What stays from test to test: the models with their geometry and jobs, and whose they are. */
const STAYS = [
  'model',
  'revision',
  'revision_geometry',
  'geometry',
  'blob',
  'blob_chunk',
  'source_file',
  'source_chunk',
  'job',
  'owner',
  'setting',
];

/** Whatever else there is is forgotten, so that no new table is left out. */
async function forget(client: pg.Client): Promise<void> {
  const { rows } = await client.query<{ name: string }>(
    `select quote_ident(tablename) as name from pg_tables
     where schemaname = 'public' and tablename <> all($1) and tablename not like 'knex%' and tablename not like '%migration%'`,
    [STAYS],
  );
  if (rows.length) await client.query(`truncate ${rows.map(({ name }) => name).join(', ')}`);
}

/**
 * Every test starts with all that a user keeps forgotten (settings, last states, saved views, records), so
 * that no test meets what another left; and with plain settings: multisampling costs two to five times the
 * drawing time in software.
 */
export const test = base.extend({
  page: async ({ page }, use) => {
    await database(forget);
    await page.request.patch('/api/settings', {
      headers: FROM_PAGE,
      data: { values: { smoothEdges: false } },
    });
    await use(page);
  },
});

/** Puts models on the shelf that show what the first one shows, and takes them away again. */
export async function withFullShelf(count: number, work: () => Promise<void>): Promise<void> {
  await database((client) =>
    client.query(
      `
    with src as (select r.*, m.owner_id as owner from revision r join model m on m.id = r.model_id where r.state = 'ready' limit 1),
      made as (insert into model (owner_id, name, created_at) select owner, 'Sensor frame ' || n, now() - interval '1 day' - n * interval '1 minute' from src, generate_series(1, $1::int) n returning id, owner_id)
    insert into revision (owner_id, model_id, revision, file_name, file_hash, state, summary, thumbnail, thumbnail_at) select made.owner_id, made.id, 1, 'x.stp', src.file_hash, 'ready', src.summary, src.thumbnail, now() from made, src`,
      [count],
    ),
  );
  try {
    await work();
  } finally {
    await database((client) => client.query("delete from model where name like 'Sensor frame %'"));
  }
}

/** Rows left in each table that a refused file must not touch. */
export const countRows = (): Promise<Record<string, number>> =>
  database(async (client) => {
    const counts: Record<string, number> = {};
    for (const table of [
      'model',
      'revision',
      'source_file',
      'blob',
      'blob_chunk',
      'geometry',
      'revision_geometry',
    ])
      counts[table] = Number((await client.query(`select count(*) from ${table}`)).rows[0].count);
    return counts;
  });

export const scene = (page: Page): Locator => page.getByTestId('scene');
export const tree = (page: Page): Locator => page.getByRole('treegrid', { name: 'Structure' });
export const card = (page: Page, name: string): Locator =>
  page.getByRole('listitem').filter({ hasText: name });

/** Opens the shelf with the demo models converted. */
export async function openShelf(page: Page): Promise<void> {
  await page.goto('/');
  await expect(page.getByRole('link', { name: 'Open Ballast valve BV-40' })).toBeVisible({
    timeout: 120_000,
  });
  await expect(page.getByRole('link', { name: 'Open Lamp housing LH-20' })).toBeVisible({ timeout: 120_000 });
}

/** Opens a model and waits for its first frame. */
export async function openModel(page: Page, name: string): Promise<void> {
  const ready = async () =>
    ((await (await page.request.get('/api/models')).json()) as ModelListItem[]).find(
      (m) => m.name === name && m.state === 'ready',
    );
  // The demo is converted as the server starts.
  await expect.poll(async () => Boolean(await ready()), { timeout: 120_000 }).toBe(true);
  await page.goto(`/models/${(await ready())!.id}`);
  await expect(scene(page)).toBeVisible({ timeout: 120_000 });
  await page.waitForFunction(() => (window.bathyscope?.view.frames ?? 0) > 0);
}

/**
 * Uploads a model of its own and opens it. A test must not find the bytes of another: those would open the
 * model there is. So STEP text gets the name as a comment (ISO 10303-21, 5.6).
 */
export async function openFile(page: Page, name: string, text: string | Buffer): Promise<void> {
  const own = text.toString('latin1').replace('HEADER;', `HEADER; /* ${name} */`);
  await openShelf(page);
  await page
    .getByLabel('Model files')
    .setInputFiles({ name: `${name}.step`, mimeType: '', buffer: Buffer.from(own, 'latin1') });
  await expect(page.getByRole('link', { name: `Open ${name}`, exact: true })).toBeVisible({
    timeout: 40_000,
  });
  await openModel(page, name);
}

type TaskName = 'Parts' | 'Views' | 'Style' | 'Section' | 'Measure' | 'Mass';

/** The demo's assembly with a task in the side pane. */
export async function openValve(page: Page, task: TaskName): Promise<void> {
  await openModel(page, 'Ballast valve BV-40');
  await showTask(page, task);
}

export async function showTask(page: Page, task: TaskName): Promise<void> {
  if (!(await page.getByRole('heading', { name: task }).isVisible()))
    await page.getByRole('button', { name: task, exact: true }).click();
  await scene(page).focus();
}

/** Keys to the scene. */
export async function press(page: Page, ...keys: string[]): Promise<void> {
  await scene(page).focus();
  for (const key of keys) await page.keyboard.press(key);
}

/** Keys that turn the view, and where it comes to rest. */
export async function turn(page: Page, ...keys: string[]): Promise<ViewCamera> {
  for (const key of keys) await page.keyboard.press(key);
  return settled(page);
}

/** Runs a command from the command field. */
export async function command(page: Page, name: string): Promise<void> {
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: /Find a command/ }).fill(name);
  await page.getByRole('option', { name }).first().click();
  // The field closes and gives the focus back before the command runs.
  await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => setTimeout(done, 100))));
}

/** The section that is set now. */
export const sectionOf = (page: Page): Promise<Section & { before: unknown; active: string | null }> =>
  page.evaluate(() => window.bathyscope!.sectionStore.getState());

/** Answers the dialog that asks for one figure or name. */
export async function answer(page: Page, value: string): Promise<void> {
  await page.getByRole('dialog').getByRole('textbox').fill(value);
  await page.getByRole('button', { name: 'OK' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
}

export const camera = (page: Page): Promise<{ camera: ViewCamera; size: Pane }> =>
  page.evaluate(() => window.bathyscope!.cameraStore.getState().panes[0]);

/** Waits until a turn of the view has ended. */
/** Moves the pointer, and waits until the scene has looked at what is there. */
export async function pointAt(page: Page, x: number, y: number): Promise<void> {
  const box = (await scene(page).boundingBox())!;
  await page.mouse.move(x, y);
  await page.waitForFunction(
    ([px, py]) => {
      const { at } = window.bathyscope!.pointerStore.getState();
      return at !== null && Math.hypot(at.x - px, at.y - py) < 1.5;
    },
    [x - box.x, y - box.y] as const,
  );
}

/** Lets so many frames of the page pass: for what shall not happen. */
export const passFrames = (page: Page, count: number): Promise<void> =>
  page.evaluate(
    (n) =>
      new Promise<void>((done) => {
        const next = (left: number) => (left ? requestAnimationFrame(() => next(left - 1)) : done());
        next(n);
      }),
    count,
  );

/** Waits until nothing is drawn any more. */
export async function drawn(page: Page): Promise<void> {
  let before = -1;
  await expect
    .poll(async () => {
      await passFrames(page, 3);
      const now = await page.evaluate(() => window.bathyscope!.view.frames);
      const same = now === before;
      before = now;
      return same;
    })
    .toBe(true);
}

/** Where the view comes to rest. */
export async function settled(page: Page): Promise<ViewCamera> {
  let before = '';
  await expect
    .poll(
      async () => {
        const now = JSON.stringify((await camera(page)).camera);
        const same = now === before;
        before = now;
        return same;
      },
      { intervals: [150] },
    )
    .toBe(true);
  return JSON.parse(before) as ViewCamera;
}

/** Puts the eye where no gesture would lead it in a test. */
export async function look(page: Page, view: Partial<ViewCamera>): Promise<void> {
  await page.evaluate((changed) => {
    const { panes, setCamera } = window.bathyscope!.cameraStore.getState();
    setCamera({ ...panes[0].camera, ...changed });
  }, view);
  await settled(page);
}

/** Where a point of the model is in the window. */
export async function onScreen(page: Page, point: Vec3): Promise<{ x: number; y: number }> {
  const pane = await camera(page);
  const box = (await page.getByTestId('scene').boundingBox())!;
  const { x, y } = project(pane.camera, pane.size, point);
  return { x: box.x + x, y: box.y + y };
}

export async function clickPoint(
  page: Page,
  point: Vec3,
  options: { button?: 'left' | 'right'; shift?: boolean } = {},
): Promise<void> {
  const { x, y } = await onScreen(page, point);
  await page.mouse.move(x, y);
  if (options.shift) await page.keyboard.down('Shift');
  await page.mouse.click(x, y, { button: options.button ?? 'left' });
  if (options.shift) await page.keyboard.up('Shift');
}

export async function drag(
  page: Page,
  button: 'left' | 'middle' | 'right',
  from: { x: number; y: number },
  dx: number,
  dy: number,
): Promise<void> {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down({ button });
  await page.mouse.move(from.x + dx / 2, from.y + dy / 2, { steps: 4 });
  await page.mouse.move(from.x + dx, from.y + dy, { steps: 4 });
  await page.mouse.up({ button });
}

/**
 * A place of the window where the pointer is on a thing of a kind whose surface or curve is the given one;
 * looked for from the middle of the scene downwards.
 */
export async function whereIs(
  page: Page,
  kind: 'face' | 'edge' | 'vertex',
  shape?: string,
): Promise<{ x: number; y: number }> {
  const box = (await page.getByTestId('scene').boundingBox())!;
  const at = await page.evaluate(
    ([wanted, form, width, height]) => {
      const { picking, modelStore } = window.bathyscope!;
      const { components, parts } = modelStore.getState();
      for (let y = Math.round(height / 3); y < height - 20; y += 3)
        for (let x = Math.round(width / 3); x < width - 200; x += 3) {
          const hit = picking.pick(x, y);
          if (hit?.kind !== wanted) continue;
          const part = parts.get(components.find((c) => c.path === hit.component)!.part)!.geometry;
          const is =
            hit.kind === 'face'
              ? part.faces[hit.index].surface
              : hit.kind === 'edge'
                ? part.edges[hit.index].curve
                : undefined;
          if (is === form) return { x, y };
        }
      return null;
    },
    [kind, shape, box.width, box.height] as const,
  );
  if (!at) throw new Error(`No ${shape ?? ''} ${kind} is seen.`);
  return { x: box.x + at.x, y: box.y + at.y };
}

export const readout = (page: Page): Locator => page.getByRole('region', { name: 'Readout' });

export type Rgb = readonly [number, number, number];

export interface Pixels {
  width: number;
  height: number;
  /** Red, green, blue and alpha (0–255) of each pixel, row by row. */
  data: Buffer;
}

/** A PNG, decoded by the browser. */
export async function pixelsOf(page: Page, png: Buffer): Promise<Pixels> {
  const { width, height, url } = await page.evaluate(async (data) => {
    const bitmap = await createImageBitmap(await (await fetch(`data:image/png;base64,${data}`)).blob());
    const context = new OffscreenCanvas(bitmap.width, bitmap.height).getContext('2d')!;
    context.drawImage(bitmap, 0, 0);
    const reader = new FileReader();
    reader.readAsDataURL(new Blob([context.getImageData(0, 0, bitmap.width, bitmap.height).data]));
    await new Promise((done) => (reader.onload = done));
    return { width: bitmap.width, height: bitmap.height, url: reader.result as string };
  }, png.toString('base64'));
  return { width, height, data: Buffer.from(url.slice(url.indexOf(',') + 1), 'base64') };
}

/** The share of pixels near a colour. */
export function shareNear({ data }: Pixels, colour: Rgb, within: number): number {
  let near = 0;
  for (let i = 0; i < data.length; i += 4)
    if (colour.every((c, k) => Math.abs(data[i + k] - c) < within)) near++;
  return near / (data.length / 4);
}

/** The share of pixels of the scene near a colour (0–255), from a screenshot. */
export const shareOfColour = async (page: Page, colour: Rgb, within: number): Promise<number> =>
  shareNear(await pixelsOf(page, await scene(page).screenshot()), colour, within);

/**
 * A cut through the lamp housing's floor at z = 13: a disc of Ø77 with the gland's hole of Ø16.2
 * (demo/lamp-housing.ts).
 */
export async function cutLampFloor(page: Page): Promise<void> {
  await cutLamp(page, 13);
}

/** A cut across the lamp housing at this height, mm. */
export async function cutLamp(page: Page, z: number): Promise<void> {
  await openModel(page, 'Lamp housing LH-20');
  await showTask(page, 'Section');
  await page.getByRole('button', { name: 'Z', exact: true }).click();
  await page.getByLabel('Z of Plane 1 · along Z, mm').fill(String(z));
  await page.keyboard.press('Enter');
}

import { randomUUID } from 'node:crypto';
import { expect, type APIRequestContext, type Page } from '@playwright/test';
import { decodeGeometry, type ModelDetail } from '@bathyscope/contracts';
import type { PartGeometry } from '@bathyscope/core/geometry';
import { distance, IDENTITY, transformPoint, type Mat4, type Vec3 } from '@bathyscope/core/math';
import { listOccurrences, partKeys } from '@bathyscope/core/model';
import { fingerprintOf, type Reference } from '@bathyscope/core/references';
import { ballastValve } from '../demo/ballast-valve.ts';
import { loadFullKernel, Modeller } from '../demo/modeller.ts';
import { writeStep, type DemoAssembly, type DemoPart } from '../demo/step-writer.ts';
import { shuffledFaces } from '../packages/kernel/src/testing/made-revisions.ts';
import { FROM_PAGE, openFile, scene, test } from './app.ts';

/*
 * The demo's valve, changed by its own script and in the text of its file: every revision is sent, converted
 * and opened like any, and what was kept on the first is looked for on it. What became of each face is told
 * by where its middle lies and how large it is.
 */

interface Edit {
  /** Changes the valve before it is written, or the text after. */
  make?: (valve: DemoAssembly, m: Modeller) => void;
  text?: (text: string) => string;
  /** That it is written in; mm. */
  unit?: 'INCH';
  /** Where the model lies then. */
  motion?: Mat4;
  /** A part of which faces were changed, and how far their middles may have moved, mm. */
  touched?: { part: string; by: number };
  /** Whether the surfaces are other kinds, though the same shapes. */
  kinds?: 'others';
}

const group = (valve: DemoAssembly, name: string) =>
  valve.children.find((c) => c.instance === name)!.item as DemoAssembly;
const partOf = (valve: DemoAssembly, name: string): DemoPart => {
  const all = valve.children.flatMap(({ item }) => ('children' in item ? item.children : []));
  return all.find((c) => c.instance === name)!.item as DemoPart;
};
const allParts = (item: DemoAssembly | DemoPart): DemoPart[] =>
  'shape' in item ? [item] : item.children.flatMap((c) => allParts(c.item));

/** The same valve, so that it can be changed: shapes are shared. */
function copied(assembly: DemoAssembly, known = new Map<DemoPart, DemoPart>()): DemoAssembly {
  const part = (p: DemoPart) => known.get(p) ?? known.set(p, { ...p }).get(p)!;
  const children = assembly.children.map((c) => ({
    ...c,
    item: 'shape' in c.item ? part(c.item) : copied(c.item, known),
  }));
  return { ...assembly, children };
}

const INCH = 25.4;

const EDITS: Record<string, Edit> = {
  'a part renamed': { make: (valve) => (partOf(valve, 'Spool').name = 'Shuttle') },
  'a component moved in the structure': {
    make: (valve) => {
      const from = group(valve, 'Bonnet group');
      const at = from.children.findIndex((c) => c.instance === 'Bolt 2');
      valve.children.push(...from.children.splice(at, 1));
    },
  },
  'a face split': {
    make: (valve, m) => {
      const cap = partOf(valve, 'End cap');
      cap.shape = m.cut(cap.shape, m.box([-57.1, -60, -0.5], [-56.5, 60, 0.5]));
    },
    touched: { part: 'End cap', by: 25 },
  },
  'a fillet added': {
    make: (valve, m) => {
      const key = partOf(valve, 'Guide key');
      key.shape = m.dress(key.shape, 'fillet', 0.5, ([x, , z]) => Math.abs(x - 8) < 0.1 && z > 4.9);
    },
    touched: { part: 'Parallel key 5x5x16', by: 0.5 },
  },
  'everything shifted by 1 m and turned': {
    make: (valve) => {
      for (const c of valve.children) c.at = { move: [1000, 0, 0], turnZ: 90 };
    },
    motion: [0, 1, 0, 0, -1, 0, 0, 0, 0, 0, 1, 0, 1000, 0, 0, 1],
  },
  'an instance added before others of the same name': {
    make: (valve) => {
      const { children } = group(valve, 'End cap group');
      const bolt = children.find((c) => c.instance === 'Bolt 1')!;
      children.unshift({ ...bolt, at: { move: [-80, 0, 0] } });
    },
  },
  'the order of all entities shuffled': { text: shuffledFaces },
  'all surfaces written as splines': {
    make: (valve, m) => {
      for (const part of new Set(allParts(valve)))
        part.shape = new m.oc.BRepBuilderAPI_NurbsConvert_2(part.shape, true).Shape();
    },
    kinds: 'others',
  },
  'units changed': {
    // The last: a writer that was asked for inches states them, and takes the numbers for inches only in the
    // file after that.
    make: (valve, m) => {
      const scale = new m.oc.gp_Trsf_1();
      scale.SetScale(m.point([0, 0, 0]), 1 / INCH);
      for (const part of new Set(allParts(valve)))
        part.shape = new m.oc.BRepBuilderAPI_Transform_2(part.shape, scale, true).Shape();
      const moves = (assembly: DemoAssembly): void =>
        assembly.children.forEach((c) => {
          if (c.at?.move)
            c.at = { ...c.at, move: [c.at.move[0] / INCH, c.at.move[1] / INCH, c.at.move[2] / INCH] };
          if ('children' in c.item) moves(c.item);
        });
      moves(valve);
    },
    unit: 'INCH',
  },
};

interface Thing {
  surface: string;
  area: number;
  middle: Vec3;
}

/** The middle of a face's triangles by area, in the model. */
function thing(geometry: PartGeometry, index: number, placement: Mat4): Thing {
  const { positions, indices, faceStart } = geometry.mesh;
  const at = (i: number): Vec3 => [positions[3 * i], positions[3 * i + 1], positions[3 * i + 2]];
  const sum = [0, 0, 0, 0];
  for (let t = faceStart[index]; t < faceStart[index + 1]; t++) {
    const [a, b, c] = [at(indices[3 * t]), at(indices[3 * t + 1]), at(indices[3 * t + 2])];
    const [u, v] = [b.map((x, i) => x - a[i]), c.map((x, i) => x - a[i])];
    const area =
      Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]) / 2;
    for (let k = 0; k < 3; k++) sum[k] += (area * (a[k] + b[k] + c[k])) / 3;
    sum[3] += area;
  }
  const middle = [0, 1, 2].map((k) => sum[k] / sum[3] + geometry.origin[k]);
  const { surface, area } = geometry.faces[index];
  return { surface, area, middle: transformPoint(placement, [middle[0], middle[1], middle[2]]) };
}

/** A revision as the server gives it, with a way to its things. */
async function read(request: APIRequestContext, model: string, revision: number) {
  const detail = (await (
    await request.get(`/api/models/${model}/revisions/${revision}`)
  ).json()) as ModelDetail;
  const geometries = await Promise.all(
    detail.structure.parts.map(async ({ geometry }) =>
      decodeGeometry(new Uint8Array(await (await request.get(`/api/geometries/${geometry}`)).body())),
    ),
  );
  const occurrences = listOccurrences(detail.structure).filter((o) => o.part !== undefined);
  const byPath = new Map(occurrences.map((o) => [o.path, o]));
  const keys = partKeys(detail.structure);
  return {
    detail,
    occurrences,
    keys,
    geometry: (path: string) => geometries[byPath.get(path)!.part!],
    thing: ({ component, index }: { component: string; index: number }) => {
      const o = byPath.get(component);
      return o && thing(geometries[o.part!], index, o.placement);
    },
  };
}

/** What the page says became of each record, once it looked them all up. */
async function lookedUp(page: Page, model: string, revision: number, count: number) {
  await page.goto(`/models/${model}/revisions/${revision}`);
  await expect(scene(page)).toBeVisible();
  const became = () =>
    page.evaluate(() =>
      [...(window.bathyscope?.recordStore.getState().shelves.get('ledger-entry')?.entries ?? [])].flatMap(
        ([id, { carried }]) =>
          carried
            ? [
                {
                  id,
                  status: carried.status,
                  read: carried.read as { of: { component: string; index: number }[] } | null,
                },
              ]
            : [],
      ),
    );
  await expect.poll(async () => (await became()).length, { timeout: 120_000 }).toBe(count);
  return became();
}

test('what was kept on the first revision is found after real edits of its model and file, and never as another thing', async ({
  page,
}) => {
  test.setTimeout(600_000);
  // The picture is not what is looked at.
  await page.setViewportSize({ width: 640, height: 480 });
  const modeller = new Modeller(await loadFullKernel());
  const issued = ballastValve(modeller);
  const written = ({ make, text, unit }: Edit): string => {
    const valve = copied(issued);
    make?.(valve, modeller);
    const step = writeStep(modeller, valve, 'Ballast valve BV-40', unit);
    return text ? text(step) : step;
  };
  await openFile(page, 'Edited valve', written({}));
  const table: string[] = [];
  const model = /models\/([^/]+)/.exec(page.url())![1];
  try {
    const first = await read(page.request, model, 1);
    const records = first.occurrences.flatMap((o) => {
      const geometry = first.geometry(o.path);
      const step = Math.max(1, Math.floor(geometry.faces.length / 8));
      return geometry.faces.flatMap(
        (_, index): { id: string; name: string; of: Reference & { index: number } }[] =>
          index % step
            ? []
            : [
                {
                  id: randomUUID(),
                  name: o.name,
                  of: {
                    kind: 'face',
                    component: o.path,
                    part: first.keys[o.part!],
                    index,
                    fingerprint: fingerprintOf('face', index, geometry),
                  },
                },
              ],
      );
    });
    for (let i = 0; i < records.length; i += 100) {
      const changes = records.slice(i, i + 100).map(({ id, name, of }, n) => ({
        id,
        kind: 'ledger-entry',
        version: 1,
        document: { name, of: [of], figure: '', was: 1, revision: 1 },
        position: i + n,
        deleted: false,
        match: null,
        madeOn: 1,
      }));
      const answer = await page.request.patch(`/api/models/${model}/records`, {
        headers: FROM_PAGE,
        data: { changes },
      });
      expect(answer.ok()).toBe(true);
    }
    // All are sent before the first is looked at: they are converted meanwhile.
    for (const [name, edit] of Object.entries(EDITS)) {
      const sent = await page.request.post(`/api/models/${model}/revisions`, {
        headers: FROM_PAGE,
        multipart: {
          file: {
            name: 'Edited valve.step',
            mimeType: 'model/step',
            buffer: Buffer.from(written(edit).replace('HEADER;', `HEADER; /* ${name} */`), 'latin1'),
          },
        },
      });
      expect(sent.ok(), await sent.text()).toBe(true);
    }
    for (const [i, [name, edit]] of Object.entries(EDITS).entries()) {
      const number = i + 2;
      await expect
        .poll(
          async () =>
            (
              (await (
                await page.request.get(`/api/models/${model}/revisions/${number}`)
              ).json()) as ModelDetail
            ).state,
          {
            timeout: 120_000,
          },
        )
        .toBe('ready');
      const now = await read(page.request, model, number);
      const counts = { found: 0, 'probably found': 0, lost: 0 };
      const wrong: object[] = [];
      for (const { id, status, read: here } of await lookedUp(page, model, number, records.length)) {
        counts[status as keyof typeof counts]++;
        const record = records.find((r) => r.id === id)!;
        if (status === 'lost' || !here) continue;
        const [was, is] = [first.thing(record.of)!, now.thing(here.of[0])!];
        const middle = transformPoint(edit.motion ?? IDENTITY, was.middle);
        const touched = record.name === edit.touched?.part;
        const same =
          (edit.kinds || was.surface === is.surface) &&
          distance(middle, is.middle) < (touched ? edit.touched!.by : 0.05) &&
          (touched || Math.abs(is.area / was.area - 1) < 0.02);
        if (!same) wrong.push({ name: record.name, status, was: { ...was, middle }, is });
      }
      table.push(
        `${name.padEnd(52)} ${counts.found} found, ${counts['probably found']} probably, ${counts.lost} lost, ${wrong.length} wrong`,
      );
      expect(wrong, name).toEqual([]);
      // Of what was not touched nothing is lost.
      expect(counts.lost, table.at(-1)).toBeLessThanOrEqual(
        edit.touched ? records.filter((r) => r.name === edit.touched!.part).length : 0,
      );
    }
  } finally {
    console.log(table.join('\n'));
    await page.request.delete(`/api/models/${model}`, { headers: FROM_PAGE });
  }
});

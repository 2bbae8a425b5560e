import type { ModelDetail } from '@bathyscope/contracts';
import { listOccurrences } from '@bathyscope/core/model';
import { publicFile, Running, wait } from '../reliability/running.ts';
import { firstFrame } from './browser.ts';
import { report } from './report.ts';

/*
 * Budget: opening an older revision against the newest; a person's questions while 100 models are converted
 * again, at most 1.3 × as slow as alone.
 */

const MODELS = 100;
const QUESTIONS = 30;
/** A person thinks between questions, ms. */
const PAUSE = 100;

const middle = (values: number[], part: number): number =>
  [...values].sort((a, b) => a - b)[Math.floor(part * (values.length - 1))];

/** Asks for sections at other heights, one after the other. @returns ms each took */
async function questions(
  running: Running,
  model: string,
  components: readonly string[],
  from: number,
): Promise<number[]> {
  const times: number[] = [];
  for (let i = 0; i < QUESTIONS; i++) {
    const body = JSON.stringify({ normal: [0, 0, 1], constant: from + i / 10, components });
    const start = performance.now();
    const answer = await fetch(`${running.address}/api/models/${model}/revisions/1/questions/section`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body,
    });
    if (!answer.ok) throw new Error(await answer.text());
    await answer.arrayBuffer();
    times.push(performance.now() - start);
    await wait(PAUSE);
  }
  return times;
}

/** Models of other bytes than any, of which an older converter made what is there. */
const outdate = (running: Running, model: string): Promise<unknown> =>
  running.database((knex) =>
    knex.raw(
      `
  with src as (select r.*, m.owner_id as owner from revision r join model m on m.id = r.model_id where r.model_id = ? and r.revision = 1),
    made as (insert into model (owner_id, name) select owner, 'Rods ' || n from src, generate_series(1, ?::int) n returning id, owner_id)
  insert into revision (owner_id, model_id, revision, file_name, file_hash, state, summary, structure)
    select made.owner_id, made.id, 1, 'x.stp', src.file_hash, 'ready', src.summary, src.structure from made, src`,
      [model, MODELS],
    ),
  );

const left = (running: Running): Promise<number> =>
  running.database(async (knex) =>
    Number((await knex('revision').whereNull('converter').count())[0]['count']),
  );

export async function benchConvertingAgain(): Promise<void> {
  const running = new Running({ BATHYSCOPE_WORKERS: '1' });
  await running.start();
  try {
    const text = publicFile('as1-oc-214.stp');
    const { id } = (await running.upload('Rods.stp', text)).body.model;
    const detail = async (revision: number) =>
      (await running.get<ModelDetail>(`/models/${id}/revisions/${revision}`)).body;
    await running.until(async () => (await detail(1)).state === 'ready', 'it is ready');
    await running.until(
      async () => (await running.get<unknown[]>('/jobs')).body.length === 0,
      'all is converted',
    );

    const form = new FormData();
    form.append(
      'file',
      new Blob([text.replace('END-ISO-10303-21;', '/* next */\nEND-ISO-10303-21;')]),
      'Rods.stp',
    );
    await fetch(`${running.address}/api/models/${id}/revisions`, { method: 'POST', body: form });
    await running.until(async () => (await detail(2)).state === 'ready', 'the next is ready');
    const page = `${running.address}/models/${id}`;
    const [newest, older] = [await firstFrame(page), await firstFrame(`${page}/revisions/1`)];
    report(
      'opening an older revision against the newest',
      older / newest,
      '×',
      `${newest.toFixed(0)} ms and ${older.toFixed(0)} ms`,
    );

    const components = listOccurrences((await detail(1)).structure).flatMap((o) =>
      o.part === undefined ? [] : [o.path],
    );
    await questions(running, id, components, 0);
    const alone = await questions(running, id, components, 10);
    await outdate(running, id);
    await running.until(async () => (await left(running)) < MODELS, 'the first is converted again', 60);
    const before = await left(running);
    const beside = await questions(running, id, components, 20);
    const done = before - (await left(running));
    const told = `${done} of ${MODELS} meanwhile`;
    for (const [name, part] of [
      ['middle', 0.5],
      ['slowest tenth', 0.9],
    ] as const)
      report(
        `questions while models are converted again, ${name}`,
        middle(beside, part) / middle(alone, part),
        '×',
        `${middle(alone, part).toFixed(0)} ms and ${middle(beside, part).toFixed(0)} ms; ${told}`,
      );
  } finally {
    await running.interrupt().catch(() => {});
    running.remove();
  }
}

import fs from 'node:fs';
import type { FullConfig } from '@playwright/test';

/** Waits until the demo is on the shelf: notices of its arrival would lie over what is looked at. */
export default async function waitForDemo(config: FullConfig): Promise<void> {
  const { baseURL } = config.projects[0].use;
  const wanted = fs.readdirSync('demo/models').filter((name) => name.endsWith('.step')).length;
  for (let tries = 0; tries < 240; tries++) {
    const models = (await (await fetch(`${baseURL}/api/models`)).json()) as { state: string }[];
    if (models.filter((m) => m.state === 'ready').length >= wanted) return;
    await new Promise((resolve) => setTimeout(resolve, 500));
  }
  throw new Error('The demo models were not converted within two minutes.');
}

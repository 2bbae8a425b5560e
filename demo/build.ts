import fs from 'node:fs';
import { fileURLToPath } from 'node:url';
import { ballastValve } from './ballast-valve.ts';
import { lampHousing } from './lamp-housing.ts';
import { loadFullKernel, Modeller } from './modeller.ts';
import { writeStep } from './step-writer.ts';
import { winchGearbox } from './winch-gearbox.ts';

/* Builds the demo models of Tidewright Instruments (an invented company) and writes them to demo/models. */

const folder = fileURLToPath(new URL('./models/', import.meta.url));
fs.mkdirSync(folder, { recursive: true });
const modeller = new Modeller(await loadFullKernel());
const wanted = process.argv.slice(2);
for (const [name, build] of [
  ['Lamp housing LH-20', lampHousing],
  ['Ballast valve BV-40', ballastValve],
  ['Winch gearbox WG-16', winchGearbox],
] as const) {
  if (wanted.length && !wanted.some((w) => name.includes(w))) continue;
  fs.writeFileSync(`${folder}${name}.step`, writeStep(modeller, build(modeller), name));
  console.log(`${name}.step`);
}
process.exit(0);

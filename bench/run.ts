import { benchBigScene } from './big-scene.ts';
import { benchClashes } from './clashes.ts';
import { benchConvertingAgain } from './converting-again.ts';
import { benchExactSections } from './exact-sections.ts';
import { benchFigures } from './figures.ts';
import { benchOutlines } from './outlines.ts';
import { benchPicking } from './picking.ts';
import { benchReadStep } from './read-step.ts';
import { benchRecords } from './records.ts';
import { benchRevisions } from './revisions.ts';
import { benchSections } from './sections.ts';
import { benchServing } from './serving.ts';
import { benchShowing } from './showing.ts';

const BENCHES: Record<string, () => Promise<void>> = {
  'read-step': benchReadStep,
  'big-scene': benchBigScene,
  showing: benchShowing,
  sections: benchSections,
  'exact-sections': benchExactSections,
  clashes: benchClashes,
  figures: benchFigures,
  outlines: benchOutlines,
  picking: benchPicking,
  serving: benchServing,
  records: benchRecords,
  revisions: benchRevisions,
  'converting-again': benchConvertingAgain,
};

const wanted = process.argv.slice(2);
for (const [name, bench] of Object.entries(BENCHES)) {
  if (wanted.length && !wanted.includes(name)) continue;
  console.log(`\n${name}`);
  await bench();
}
process.exit(0);

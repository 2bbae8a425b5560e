import { compileKernel, loadKernel } from './occt/load.ts';
import { inspectFile, type Inspection, type InspectionNode } from './inspect.ts';

/** `bin/inspect FILE [--json]`: exit 0 with a model, 1 with a sentence. */
async function main(args: string[]): Promise<number> {
  const json = args.includes('--json');
  const [file] = args.filter((a) => !a.startsWith('--'));
  const fail = (sentence: string): number => {
    if (json) console.log(JSON.stringify({ error: sentence }));
    else console.error(sentence);
    return 1;
  };
  if (!file) return fail('Name a model file: bin/inspect FILE [--json].');
  try {
    const kernel = await loadKernel(await compileKernel());
    const inspection = inspectFile(kernel, file);
    console.log(json ? JSON.stringify(inspection) : report(inspection));
    return 0;
  } catch (error) {
    return fail(error instanceof Error ? error.message : String(error));
  }
}

const figure = (x: number): string => x.toLocaleString('en', { maximumSignificantDigits: 9, useGrouping: false });
const triple = (v: readonly number[]): string => v.map(figure).join(', ');

function report(i: Inspection): string {
  const { counts } = i;
  const lines = [
    `Format             ${[i.format, i.schema].filter(Boolean).join(' ')}`,
    `Length unit        ${i.lengthUnit ?? 'not stated, taken as mm'}`,
    `Components         ${counts.components} of ${counts.parts} parts`,
    `Solids             ${counts.solids}`,
    `Faces, edges       ${counts.faces}, ${counts.edges}`,
    i.box ? `Box                ${triple(i.box.min)} to ${triple(i.box.max)} mm` : 'Box                none',
    i.volume === null
      ? 'Volume             none: there is no closed solid'
      : `Volume             ${figure(i.volume)} mm³ (by exact integration, estimated error ${(i.volumeErrorEstimate ?? 0).toExponential(1)})`,
    `Area               ${figure(i.area)} mm²`,
    ...(i.centreOfGravity ? [`Centre of gravity  ${triple(i.centreOfGravity)} mm`] : []),
    ...(i.inertia
      ? ['Inertia about it   (mm⁵, minus the products off the diagonal)', ...i.inertia.map((row) => `  ${row.map(figure).join('  ')}`)]
      : []),
    'Structure',
    ...tree(i.structure, 1),
    ...i.warnings.map((w) => `Note: ${w}`),
  ];
  return lines.join('\n');
}

const tree = (node: InspectionNode, depth: number): string[] => [
  `${'  '.repeat(depth)}${node.name}${node.part && node.part !== node.name ? ` (${node.part})` : ''}`,
  ...(node.children ?? []).flatMap((child) => tree(child, depth + 1)),
];

process.exit(await main(process.argv.slice(2)));

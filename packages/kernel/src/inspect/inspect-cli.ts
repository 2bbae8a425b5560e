import { compileKernel, loadKernel } from '../occt/load.ts';
import type { PlainFigure } from '@bathyscope/core/units';
import { readMeasuredReference, type InspectedFigure } from './inspect-measure.ts';
import type { InspectedClash } from './inspect-clash.ts';
import { sharePercent } from '@bathyscope/core/facts';
import type { SumAccuracy } from '@bathyscope/core/geometry';
import type { GivenByTable } from '@bathyscope/core/mass';
import { messageOf } from '@bathyscope/core/tables';
import { readMaterials, type InspectedMass } from './inspect-mass.ts';
import type { InspectedHole } from './inspect-holes.ts';
import { readPlane, type CutAccuracy, type InspectedSection } from './inspect-section.ts';
import { inspectModel, openModelFile, type Inspection, type InspectionNode } from './inspect.ts';

const USAGE =
  'bin/inspect FILE|ADDRESS [--json] [--section OX,OY,OZ,NX,NY,NZ | --section z=50] [--holes] [--measure THING [THING]] [--clash] [--mass [MATERIALS.csv]]';

/** Exit 0 with a model, 1 with a sentence. */
async function main(args: string[]): Promise<number> {
  const json = args.includes('--json');
  const asked = readArguments(args);
  const { file, section, measure, mass, unknown } = asked;
  const fail = (sentence: string): number => {
    if (json) console.log(JSON.stringify({ error: sentence }));
    else console.error(sentence);
    return 1;
  };
  if (unknown) return fail(`${unknown} is not understood: ${USAGE}.`);
  if (!file) return fail(`Name a model file, or the address of a model: ${USAGE}.`);
  try {
    const wishes = {
      ...(section !== undefined && { section: readPlane(section) }),
      ...(measure && { measure: measure.map(readMeasuredReference) }),
      holes: args.includes('--holes'),
      clash: args.includes('--clash'),
      ...(mass !== undefined && { mass: mass ? readMaterials(mass) : new Map<string, GivenByTable>() }),
    };
    const model = await openModelFile(file);
    const kernel = await loadKernel(await compileKernel());
    const inspection = inspectModel(kernel, model, wishes);
    console.log(json ? JSON.stringify(inspection) : report(inspection).replace(NO_LINE, '\ufffd'));
    return 0;
  } catch (error) {
    return fail(messageOf(error));
  }
}

interface Asked {
  file?: string;
  section?: string;
  measure?: string[];
  /** The table of materials; empty where only the file is asked. */
  mass?: string;
  unknown?: string;
}

/** What follows `--section` and `--measure` belongs to them; what stands alone is the file. */
function readArguments(args: readonly string[]): Asked {
  const asked: Asked = {};
  for (let i = 0; i < args.length; i++) {
    const [arg, given] = /^(--\w+)=(.*)$/.exec(args[i])?.slice(1) ?? [args[i]];
    if (arg === '--section') asked.section = given ?? args[++i] ?? '';
    else if (arg === '--measure') {
      asked.measure = [given ?? args[++i] ?? ''];
      // A second thing, unless it is the file, which comes first or is the last word of all.
      if (asked.file !== undefined && args[i + 1] !== undefined && !args[i + 1].startsWith('--'))
        asked.measure.push(args[++i]);
    } else if (arg === '--mass') {
      // A table follows, unless that is the file itself.
      const next = given ?? (/\.csv$/i.test(args[i + 1] ?? '') ? args[++i] : '');
      asked.mass = next;
    } else if (arg === '--json' || arg === '--holes' || arg === '--clash') continue;
    else if (arg.startsWith('--')) asked.unknown ??= arg;
    else asked.file ??= arg;
  }
  return asked;
}

/** What a terminal would obey, not show. */
const NO_LINE = /(?![\t\n])\p{Control}/gu;

const figure = (x: number): string =>
  x.toLocaleString('en', { maximumSignificantDigits: 9, useGrouping: false });
const triple = (v: readonly number[]): string => v.map(figure).join(', ');

const HOW: Record<SumAccuracy['kind'], string> = {
  exact: 'by exact integration',
  followed: 'by exact outlines, free ones followed',
  slits: 'by exact integration over faces that do not quite meet',
  mesh: 'from the mesh',
  estimate: 'an estimate',
};

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
      : `Volume             ${figure(i.volume)} mm³ (${HOW[i.volumeAccuracy ?? 'exact']}, within ${sharePercent(i.volumeErrorEstimate ?? 0)})`,
    `Area               ${figure(i.area)} mm²`,
    ...(i.centreOfGravity ? [`Centre of gravity  ${triple(i.centreOfGravity)} mm`] : []),
    ...(i.inertia
      ? [
          'Inertia about it   (mm⁵, minus the products off the diagonal)',
          ...i.inertia.map((row) => `  ${row.map(figure).join('  ')}`),
        ]
      : []),
    ...(i.section ? sectionLines(i.section) : []),
    ...(i.holes ? holeLines(i.holes) : []),
    ...(i.clashes ? clashLines(i.clashes) : []),
    ...(i.mass ? massLines(i.mass) : []),
    ...(i.figures ? ['Measured', ...i.figures.map(figureLine)] : []),
    'Structure',
    ...tree(i.structure, 1),
    ...i.warnings.map((w) => `Note: ${w}`),
  ];
  return lines.join('\n');
}

const good = (a: CutAccuracy): string =>
  a.accuracy === 'exact'
    ? 'exact'
    : `${a.accuracy === 'mesh' ? 'from mesh, ' : ''}outlines within ${figure(a.within)} mm`;

const plainText = ({ name, value, unit }: PlainFigure): string =>
  `${name} ${typeof value === 'number' ? figure(value) : value} ${unit}`.trim();

const sectionLines = (s: InspectedSection): string[] => [
  `Section            ${figure(s.area)} mm² (${good(s)})`,
  ...s.figures.map((f) => `  ${plainText(f)}`),
  ...s.components.map((c) => `  ${c.path}  ${figure(c.area)} mm² (${good(c)})`),
];

const holeLines = (holes: readonly InspectedHole[]): string[] => [
  `Holes              ${holes.length}`,
  ...holes.map(
    (h) =>
      `  ${h.part}${h.count > 1 ? ` (${h.count} times)` : ''}: ${h.figures.map(plainText).join(', ')}, at ${triple(h.position)}`,
  ),
];

const clashLines = (clashes: readonly InspectedClash[]): string[] => [
  `Clashes            ${clashes.length}`,
  ...clashes.map(
    ({ a, b, volume, depth, position, accuracy, within }) =>
      `  ${a.name} and ${b.name}: ${figure(volume)} mm³ (${accuracy}${within ? `, within ${figure(within)} mm³` : ''}), ${figure(depth)} mm deep, at ${triple(position)}`,
  ),
];

const massLines = ({ known, noDensity, noVolume, parts }: InspectedMass): string[] => [
  known
    ? `${noDensity + noVolume ? 'Known mass' : 'Mass'}         ${figure(known.mass)} kg, centre of gravity ${triple(known.centreOfGravity)} mm`
    : 'Mass               not known',
  ...(noDensity ? [`  ${noDensity} of the components have no material`] : []),
  ...(noVolume ? [`  ${noVolume} of the components have no volume`] : []),
  ...(known ? [`  Principal moments ${triple(known.principal.moments)} kg·mm²`] : []),
  ...parts.map(
    (p) =>
      `  ${p.name}${p.count > 1 ? ` (${p.count} times)` : ''}: ${p.total === null ? (p.problem ?? '') : `${figure(p.total)} kg`}${p.material ? `, ${p.material}` : ''}`,
  ),
];

const figureLine = ({ name, value, unit, accuracy, note, leading }: InspectedFigure): string => {
  const said = typeof value === 'string' ? value : typeof value === 'number' ? figure(value) : triple(value);
  return `${leading ? '> ' : '  '}${name}: ${said}${unit && ` ${unit}`} (${accuracy}${note ? `, ${note}` : ''})`;
};

const tree = (node: InspectionNode, depth: number): string[] => [
  `${'  '.repeat(depth)}${node.name}${node.part && node.part !== node.name ? ` (${node.part})` : ''}`,
  ...(node.children ?? []).flatMap((child) => tree(child, depth + 1)),
];

process.exit(await main(process.argv.slice(2)));

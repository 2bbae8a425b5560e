import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  componentMaterial,
  componentName,
  ledgerEntry,
  partMaterial,
  RECORD_KINDS,
} from '@bathyscope/contracts/records';
import type { Vec3 } from '@bathyscope/core/math';
import { NO_SECTION, type SectionPlane } from '@bathyscope/core/section';
import fc from 'fast-check';
import { turnedPart } from '../../../../packages/core/src/testing/round-parts.ts';
import { cutLayers } from '../pictures/cut-layers.ts';
import type { MassSet } from '../state/mass-store.ts';
import type { Picked } from '../state/selection-store.ts';
import { CutInPlace } from '../testing/cut-in-place.ts';
import { fromNothing } from '../testing/from-nothing.ts';
import { MassInPlace } from '../testing/mass-in-place.ts';
import { openedFrame } from '../testing/opened-models.ts';
import { boxOfCut, curvesOf, figuresOf } from '../workspace/cutting/cuts.ts';
import { modelBox, shownName } from '../workspace/shown/components.ts';
import { derived } from '../workspace/derived/derived.ts';
import { drawnClash, drawnPointed, drawnWalls, keptShown } from '../workspace/measuring/drawn-dimensions.ts';
import { figuresOfOne } from '../workspace/measuring/figures.ts';
import { hatchOf } from '../workspace/cutting/hatches.ts';
import { holeTable } from '../workspace/measuring/hole-table.ts';
import { floatsNow, immersedNow, sharedAndClosed } from '../workspace/mass/immersed.ts';
import { smallestBox } from '../workspace/mass/smallest-box.ts';
import { keptSide } from '../workspace/mass/kept-side.ts';
import { libraryOf } from '../workspace/keeping/library.ts';
import { litLoose } from '../workspace/shown/lit-things.ts';
import { pairOf } from '../workspace/measuring/measured.ts';
import { facesSeen } from '../workspace/picking/picking.ts';
import { probe } from '../workspace/picking/probe.ts';
import { added, changeRecords, given, kept, removed } from '../workspace/keeping/records.ts';
import { referenceTo, resolve } from '../workspace/measuring/references.ts';
import { cutNow } from '../workspace/cutting/section-now.ts';
import { shownBox, visiblePaths } from '../workspace/shown/shown.ts';
import { allPresets } from '../workspace/view/styles.ts';
import { chosenMass } from '../workspace/mass/chosen-mass.ts';
import { appearanceOf, giveMaterial, giveToComponents, typeMass } from '../workspace/mass/given-materials.ts';
import type { Workspace } from '../workspace/workspace.ts';
import { wholePaths } from './cut/whole-commands.ts';
import { COMMANDS } from './registry.ts';
import { runCommand } from './run-command.ts';
import { searchedNames } from './searched-names.ts';
import { envelopeVerdict } from './show/reference-commands.ts';

jest.mock('../workers/start-section-worker.ts', () => ({ startSectionWorker: () => new CutInPlace() }));
jest.mock('../workers/start-mass-worker.ts', () => ({ startMassWorker: () => new MassInPlace() }));

/*
 * What is derived from the stores is what one gets who computes it from them anew: after whatever was done.
 */

const PATHS = ['a/plate', 'a/left', 'a/right', 'a/hub'];

const opened = (): Workspace =>
  openedFrame(
    turnedPart([
      [0, 0],
      [8, 0],
      [8, 12],
      [0, 12],
    ]),
  );

/**
 * All that is told to readers, by what they ask: of this workspace, and of the same as if
 * nothing had been computed yet.
 */
const READERS: Record<string, (ws: Workspace) => unknown> = {
  'the boxes': (ws) => [modelBox(ws), shownBox(ws)],
  'what is shown': visiblePaths,
  'faces in view': facesSeen,
  'what is cut away': (ws) => cutNow(ws),
  'what the set weighs': (ws) => ws.derived.of(chosenMass),
  'what the section leaves': (ws) => ws.derived.of(keptSide.known),
  'the smallest box': (ws) => ws.derived.of(smallestBox.known),
  'under water': (ws) => [
    ws.derived.of(sharedAndClosed.known),
    ws.derived.of(immersedNow),
    ws.derived.of(floatsNow.known),
  ],
  'the table of holes': (ws) => [ws.derived.of(holeTable, 'shown'), ws.derived.of(holeTable, 'picked')],
  'the cuts': (ws) =>
    ws.cut
      .getState()
      .results.map((result) => [
        figuresOf(ws, result),
        ws.derived.of(cutLayers, result),
        result.cuts.map((cut) => [boxOfCut(ws, cut), curvesOf(ws, result.plane.id, cut)]),
      ]),
  'how parts are hatched': (ws) => [0, 1, 2].map((part) => hatchOf(ws, part)),
  'how components look': (ws) =>
    ws.model.getState().components.map((c) => [shownName(ws, c.path), appearanceOf(ws, c)]),
  'what is kept': (ws) => [...RECORD_KINDS.values()].map((kind) => kept(ws, kind)),
  'where references lead': (ws) => kept(ws, ledgerEntry).map(({ of }) => of.map((r) => resolve(ws, r))),
  'figures drawn': (ws) => [
    keptShown(ws),
    ws.derived.of(drawnWalls),
    ws.derived.of(drawnClash),
    ws.derived.of(drawnPointed),
  ],
  'the figures of what is picked': (ws) => {
    const { picked, hover } = ws.selection.getState();
    const lit = [...picked, ...(hover ? [hover] : [])].filter(
      (i) => i.plane !== undefined || i.datum !== undefined,
    );
    return [
      ws.derived.of(probe),
      picked.map((i) => figuresOfOne(ws, i)),
      picked.length === 2 && pairOf(ws, picked),
      lit.map((i) => litLoose(ws, i)),
    ];
  },
  'what is searched': (ws) => ws.derived.of(searchedNames),
  'lists beside': (ws) => [wholePaths(ws), allPresets(ws), libraryOf(ws), envelopeVerdict(ws)],
};

/** What takes long to compute from nothing: looked at after the last step. */
const SLOW = ['faces in view', 'how parts are hatched'];

type Step = (ws: Workspace) => void;
const step = <T>(values: fc.Arbitrary<T>, run: (ws: Workspace, value: T) => void): fc.Arbitrary<Step> =>
  values.map((value) =>
    Object.assign((ws: Workspace) => run(ws, value), {
      [fc.toStringMethod]: () =>
        `${run.toString().replace(/\s+/g, ' ')} of ${(value as { id?: string } | null)?.id ?? fc.stringify(value)}`,
    }),
  );

const OWN = { id: 'own', name: 'Own', family: 'Steel', spread: 50, source: 'a test' } as const;
const path = fc.constantFrom(...PATHS);
const part = fc.nat({ max: 2 });
const material = fc.constantFrom('steel', 'own', null);
const thing: fc.Arbitrary<Picked> = fc.oneof(
  fc.record({
    kind: fc.constant('component' as const),
    component: fc.constantFrom('a', ...PATHS),
    index: fc.constant(0),
  }),
  fc.record({
    kind: fc.constantFrom('face' as const, 'edge' as const),
    component: fc.constantFrom(...PATHS.slice(0, 3)),
    index: fc.nat({ max: 5 }),
  }),
  fc.constantFrom<Picked>(
    { kind: 'datum', component: '', index: 0, datum: 'plane xy' },
    { kind: 'datum', component: '', index: 0, datum: 'origin' },
  ),
);
const plane: fc.Arbitrary<SectionPlane> = fc
  .record({
    axis: fc.nat({ max: 2 }),
    offset: fc.integer({ min: -2, max: 30 }),
    flipped: fc.boolean(),
    on: fc.boolean(),
  })
  .map(({ axis, offset, flipped, on }) => ({
    id: `plane ${axis}`,
    name: `Plane ${axis}`,
    origin: [0, 0, 0],
    normal: [axis === 0 ? 1 : 0, axis === 1 ? 1 : 0, axis === 2 ? 1 : 0],
    offset,
    flipped,
    on,
  }));
/** Those that ask nothing and need neither a page nor a server. */
const COMMAND_GROUPS = ['Visibility', 'Section', 'Reference', 'Directions', 'Turning', 'Panes', 'Style'];
const command = fc.constantFrom(...COMMANDS.filter((c) => COMMAND_GROUPS.includes(c.group)));

const steps = fc.oneof(
  { weight: 6, arbitrary: step(command, runCommand) },
  {
    weight: 3,
    arbitrary: step(fc.array(thing, { maxLength: 2 }), (ws, items) => ws.selection.getState().pick(items)),
  },
  step(fc.option(thing), (ws, item) => ws.selection.getState().setHover(item)),
  step(fc.constantFrom('undo', 'undo', 'redo'), (ws, way) => void ws.history.getState()[way as 'undo']()),
  {
    weight: 2,
    arbitrary: step(fc.uniqueArray(plane, { maxLength: 2, selector: (p) => p.id }), (ws, planes) =>
      ws.section.setState({ ...NO_SECTION, planes }),
    ),
  },
  step(fc.constantFrom('any', 'all'), (ws, combine) => ws.section.setState({ combine: combine as 'any' })),
  step(fc.tuple(part, material), (ws, [p, m]) => giveMaterial(ws, [p], m)),
  step(fc.tuple(path, material), (ws, [p, m]) => giveToComponents(ws, [p], m)),
  step(fc.tuple(part, fc.option(fc.integer({ min: 1, max: 9 }))), (ws, [p, kg]) =>
    typeMass(ws, p, kg === null ? null : { kg, at: null }),
  ),
  step(fc.nat({ max: 2 }), (ws, n) => ws.library.setState({ own: n ? [{ ...OWN, density: 7000 + n }] : [] })),
  step(path, (ws, p) =>
    changeRecords(ws, 'name', [given(ws, componentName, { component: p, name: `Called ${p}` })]),
  ),
  step(thing, (ws, item) =>
    changeRecords(ws, 'keep', [
      added(ws, ledgerEntry, {
        name: 'Kept',
        of: [referenceTo(ws, item)],
        figure: 'Area',
        was: 1,
        revision: 1,
      }),
    ]),
  ),
  step(fc.nat(), (ws, n) => {
    const kind = [ledgerEntry, componentName, partMaterial, componentMaterial][n % 4];
    const [first] = kept(ws, kind as typeof ledgerEntry);
    if (first) changeRecords(ws, 'remove', [removed(ws, kind as typeof ledgerEntry, first)]);
  }),
  step(fc.constantFrom<MassSet>('all', 'shown', 'picked', 'kept'), (ws, set) => ws.mass.setState({ set })),
  step(fc.option(fc.constantFrom(1000, 2700)), (ws, assumed) => ws.mass.setState({ assumed })),
  step(fc.boolean(), (ws, on) => ws.mass.setState({ boxOf: on ? ws.derived.of(chosenMass).key : null })),
  step(fc.boolean(), (ws, on) => {
    const key = on ? ws.derived.of(chosenMass).key : null;
    ws.mass.setState({ lookedInto: key, floats: key });
  }),
  step(fc.constantFrom('sea-water', 'fresh-water'), (ws, fluid) => ws.mass.setState({ fluid })),
  step(fc.constantFrom('model', 'view'), (ws, displaySystem) => ws.measure.setState({ displaySystem })),
  step(fc.option(fc.constantFrom<Vec3>([1, 2, 3], [4, 0, 9])), (ws, at) =>
    ws.measure.setState({
      pointed: at && { label: 'dX', value: { kind: 'length', value: at[0] }, ends: [[0, 0, 0], at] },
    }),
  ),
  step(fc.constantFrom('mm', 'in'), (ws, unit) => ws.profile.getState().change({ unit: unit as 'mm' })),
  step(fc.constantFrom('y', 'z'), (ws, up) => ws.camera.getState().setUpAxis(up as 'z')),
  {
    weight: 4,
    arbitrary: step(fc.integer({ min: 1, max: 400 }), (_, ms) => void jest.advanceTimersByTime(ms)),
  },
);

beforeEach(() => {
  jest.useFakeTimers();
  // Frames of what moves by itself.
  Object.assign(globalThis, {
    requestAnimationFrame: (draw: (at: number) => void) => setTimeout(() => draw(performance.now()), 16),
    cancelAnimationFrame: clearTimeout,
  });
});
afterEach(() => void jest.useRealTimers());

/** Names of what the sources derive; those of heavy values have an input beside. */
function declared(folder: string): string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const at = join(folder, entry.name);
    if (entry.isDirectory()) return declared(at);
    if (!/\.tsx?$/.test(entry.name) || /\.test\.tsx?$/.test(entry.name)) return [];
    return [
      ...readFileSync(at, 'utf8').matchAll(/\b(derived|derivedBy|heavy)(?:<[^(]*>)?\(\s*'([^']+)'/g),
    ].flatMap(([, how, name]) => (how === 'heavy' ? [name, `the input of ${name}`] : [name]));
  });
}

test('after any sequence of commands, picks, records, planes, settings and undo all that is derived is what one computes from nothing', () => {
  const asked = new Set<string>();
  fc.assert(
    fc.property(
      fc.array(steps, { minLength: 5, maxLength: 13 }),
      fc.array(fc.boolean(), { minLength: 16, maxLength: 16 }),
      (run, watched) => {
        const ws = opened();
        const ends = [
          ws.derived.work.want(ws, keptSide),
          ws.derived.work.want(ws, smallestBox),
          ws.derived.work.want(ws, sharedAndClosed),
          ws.derived.work.want(ws, floatsNow),
          // Some are watched as what draws them does, some only asked for now and then.
          ...Object.values(READERS).flatMap((read, i) =>
            watched[i] ? [ws.derived.follow((seen) => void read(seen))] : [],
          ),
        ];
        for (const [i, take] of run.entries()) {
          take(ws);
          const fresh = fromNothing(ws);
          for (const [name, read] of Object.entries(READERS)) {
            const now = read(ws);
            if (!SLOW.includes(name) || i === run.length - 1)
              expect([i, name, now]).toEqual([i, name, read(fresh)]);
          }
        }
        for (const name of ws.derived.names()) asked.add(name);
        ends.forEach((end) => end());
        ws.players.cutting!.stop();
        jest.clearAllTimers();
      },
    ),
  );
  expect([...asked].sort()).toEqual([...new Set(declared(join(import.meta.dirname, '..')))].sort());
});

test('a derived value is computed once for all who read it, again only when what it read has changed, and writes nothing', () => {
  const ws = opened();
  let count = 0;
  const value = derived('counted', (now) => [
    ++count,
    now.mass.getState().assumed,
    now.visibility.getState().peeking,
  ]);
  const heard: unknown[] = [];
  const end = ws.derived.follow((now) => heard.push(now.derived.of(value)));
  expect(ws.derived.of(value)).toEqual([1, null, false]);
  ws.mass.setState({ set: 'shown' });
  ws.visibility.getState().set({});
  ws.camera.getState().setUpAxis('y');
  expect(ws.derived.of(value)).toEqual([1, null, false]);
  ws.mass.setState({ assumed: 1000 });
  expect(ws.derived.of(value)).toEqual([2, 1000, false]);
  expect(heard).toEqual([
    [1, null, false],
    [2, 1000, false],
  ]);
  end();
  ws.mass.setState({ assumed: 2000 });
  expect(heard).toHaveLength(2);
  expect(ws.derived.of(value)).toEqual([3, 2000, false]);
  const writes = derived('writes', (now) => now.mass.setState({ assumed: 1 }));
  expect(() => ws.derived.of(writes)).toThrow('reads stores and writes none');
});

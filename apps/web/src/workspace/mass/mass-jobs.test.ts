import { NO_SECTION, type SectionPlane } from '@bathyscope/core/section';
import { boxPart } from '../../../../../packages/core/src/testing/box-part.ts';
import { cylinderPart } from '../../../../../packages/core/src/testing/round-parts.ts';
import { placedAt, showModel } from '../../testing/test-model.ts';
import { testWorkspace } from '../../testing/test-workspace.ts';
import { MASS_WORK, type MassReply, type MassRequest } from '../../workers/mass-work.ts';
import { hangingNow, standingNow, turningNow } from './balance.ts';
import { floatsNow, immersedNow, isSealed, markSealed, sharedAndClosed, TILTS } from './immersed.ts';
import type { Known } from '../derived/value.ts';
import { smallestBox } from './smallest-box.ts';
import { keptSide, sidesOf } from './kept-side.ts';
import { findMaterial } from '../keeping/library.ts';
import { askMass } from './mass-jobs.ts';
import { partsLikePicked, partsNamed } from '../shown/parts-like.ts';
import { chosenMass, setMassOf } from './chosen-mass.ts';
import { giveMaterial, typeMass } from './given-materials.ts';
import { openReason } from './open-edges.ts';
import type { Workspace } from '../workspace.ts';

/* What is weighed away from the interface's thread, here without one. */

const workers: FakeWorker[] = [];
class FakeWorker {
  onmessage: ((e: { data: MassReply }) => void) | null = null;
  onerror: ((e: { message: string }) => void) | null = null;
  asked: MassRequest | null = null;
  ended = false;
  constructor() {
    workers.push(this);
  }
  postMessage(asked: MassRequest) {
    this.asked = asked;
  }
  terminate() {
    this.ended = true;
  }
  /** Does its work, when the test says so. */
  answer() {
    const { job, asked } = this.asked!;
    this.onmessage!({ data: { answered: MASS_WORK[job](asked as never) } as MassReply });
  }
}
jest.mock('../../workers/start-mass-worker.ts', () => ({ startMassWorker: () => new FakeWorker() }));

/** ms, more than what a section that is dragged is waited for. */
const SETTLED = 200;
beforeAll(() => void jest.useFakeTimers());
afterAll(() => void jest.useRealTimers());

const newest = () => workers[workers.length - 1];

/** Six plates of steel that close a hollow of 20 × 30 × 40, and a pin without figures of its own. */
function chest(): Workspace {
  const ws = testWorkspace();
  showModel(
    ws,
    [boxPart(30, 40, 5), boxPart(5, 40, 40), boxPart(20, 5, 40), cylinderPart(2, 9)],
    [
      ['below', 0, placedAt(0, 0, 0)],
      ['above', 0, placedAt(0, 0, 45)],
      ['left', 1, placedAt(0, 0, 5)],
      ['right', 1, placedAt(25, 0, 5)],
      ['front', 2, placedAt(5, 0, 5)],
      ['back', 2, placedAt(5, 35, 5)],
    ],
  );
  giveMaterial(ws, [0, 1, 2], 'steel');
  return ws;
}
const plane = (normal: SectionPlane['normal'], offset: number): SectionPlane => ({
  id: `p${normal.join()}${offset}`,
  name: 'P',
  origin: [0, 0, 0],
  normal,
  offset,
  flipped: false,
  on: true,
});
const STEEL = 7850e-9;

function valueOf<V>(found: Known<V>): V {
  if (found.state !== 'ready') throw new Error(found.state);
  return found.value;
}
const sharedOf = (ws: Workspace) => valueOf(ws.derived.of(sharedAndClosed.known));

/** Asks what the set shares and closes, and answers. */
function looked(ws: Workspace): void {
  ws.mass.setState({ lookedInto: ws.derived.of(chosenMass).key });
  jest.advanceTimersByTime(1);
  newest().answer();
}

test('what a section leaves: boxes tell most of it, the rest is cut in a worker, and nothing is claimed before', () => {
  const ws = chest();
  ws.section.setState({ ...NO_SECTION, planes: [plane([0, 0, 1], 20)] });
  ws.mass.setState({ set: 'kept' });
  expect(ws.derived.of(chosenMass)).toMatchObject({ pending: true, parts: [] });
  const sides = [...sidesOf(ws)].map(([path, side]) => `${path.slice(2)} ${side}`);
  const away = sides.find((s) => s.endsWith('removed'))!.split(' ')[0];
  expect(sides.filter((s) => s.endsWith('cut'))).toHaveLength(4);
  const end = ws.derived.work.want(ws, keptSide);
  jest.advanceTimersByTime(SETTLED);
  expect(newest().asked).toMatchObject({ job: 'within', asked: { cut: { combine: 'any' } } });
  newest().answer();
  const { pending, weighed, parts, paths } = ws.derived.of(chosenMass);
  expect(pending).toBe(false);
  // One plate whole, and of the four others 15 or 25 of 40 mm.
  const height = away === 'above' ? 15 : 25;
  expect(weighed.known!.mass / STEEL).toBeCloseTo(30 * 40 * 5 + 2 * (5 * 40 + 20 * 5) * height, 3);
  const [short, long] = [20 + 5, 40 + 5].map((side) => 2 * height * side);
  // One plate all round; of each other both cut ends, one end it had, and its four
  // sides as high as it is kept.
  expect(weighed.known!.area).toBeCloseTo(
    2 * (30 * 40 + 30 * 5 + 40 * 5) + 4 * (20 * 5) + 4 * (40 * 5) + 2 * short + 2 * long,
    3,
  );
  expect(paths).not.toContain(`a/${away}`);
  expect(parts.reduce((n, p) => n + p.count, 0)).toBe(5);
  // Known already: nothing is asked again; another plane is.
  const asked = workers.length;
  const other = ws.derived.work.want(ws, keptSide);
  jest.advanceTimersByTime(SETTLED);
  expect(workers).toHaveLength(asked);
  ws.section.setState({ planes: [plane([0, 0, 1], 30)] });
  expect(ws.derived.of(chosenMass).pending).toBe(true);
  jest.advanceTimersByTime(SETTLED);
  expect(workers).toHaveLength(asked + 1);
  // A plane that is dragged on is waited for, and what was under way for it is given up; so is all when
  // nobody wants it any more.
  const given = newest();
  ws.section.setState({ planes: [plane([0, 0, 1], 31)] });
  expect(given.ended).toBe(true);
  jest.advanceTimersByTime(SETTLED / 2);
  ws.section.setState({ planes: [plane([0, 0, 1], 20)] });
  // Back where it was, what was known still holds.
  expect(ws.derived.of(chosenMass)).toMatchObject({ pending: false, weighed });
  ws.section.setState({ planes: [plane([0, 0, 1], 32)] });
  jest.advanceTimersByTime(SETTLED);
  expect(workers).toHaveLength(asked + 2);
  end();
  expect(newest().ended).toBe(false);
  other();
  expect(newest().ended).toBe(true);
  // What goes wrong is said, and is neither pending for ever nor nothing.
  const again = ws.derived.work.want(ws, keptSide);
  jest.advanceTimersByTime(SETTLED);
  newest().onmessage!({ data: { error: 'no memory' } });
  expect(ws.derived.of(chosenMass)).toMatchObject({
    pending: false,
    parts: [],
    failed: expect.stringContaining('Move a plane'),
  });
  again();
});

test('where only the corner that all planes cut away goes, the rest is the whole without it; a typed mass goes by volume', () => {
  const ws = chest();
  typeMass(ws, 0, { kg: 1, at: null });
  ws.section.setState({ on: true, combine: 'all', planes: [plane([1, 0, 0], 10), plane([0, 1, 0], 10)] });
  ws.mass.setState({ set: 'kept' });
  const end = ws.derived.work.want(ws, keptSide);
  jest.advanceTimersByTime(SETTLED);
  newest().answer();
  end();
  const { weighed, parts } = ws.derived.of(chosenMass);
  const plates = parts.find((p) => p.part === 0)!;
  const shares = [plates.total! / 2];
  // A quarter or so of 30 × 40 is gone: one of the four corners by the two planes.
  expect(
    [1, 2, 3, 4].map(
      (k) => 1 - [(10 * 10) / 1200, (20 * 10) / 1200, (10 * 30) / 1200, (20 * 30) / 1200][k - 1],
    ),
  ).toContainEqual(expect.closeTo(shares[0], 9));
  expect(weighed.typed.count).toBe(2);
});

test('the smallest box is found when it is asked for, is of the set it was asked for, and holds when that comes back', () => {
  const ws = chest();
  const end = ws.derived.work.want(ws, smallestBox);
  const state = () => ws.derived.of(smallestBox.known).state;
  expect(state()).toBe('nothing to do');
  ws.mass.setState({ boxOf: ws.derived.of(chosenMass).key });
  expect(state()).toBe('pending');
  jest.advanceTimersByTime(1);
  newest().answer();
  const found = ws.derived.of(smallestBox.known);
  const [most] = found.state === 'ready' ? [...found.value.size].sort((a, b) => b - a) : [];
  expect(most).toBeGreaterThanOrEqual(40);
  const asked = workers.length;
  ws.selection.getState().pick([{ kind: 'component', component: 'a/below', index: 0 }]);
  ws.mass.setState({ set: 'picked' });
  expect(state()).toBe('nothing to do');
  ws.mass.setState({ set: 'all' });
  jest.advanceTimersByTime(1);
  expect([state(), workers.length]).toEqual(['ready', asked]);
  end();
});

test('of one kind of work only the newest counts; what goes wrong is said, and leaves what stood', () => {
  const ws = chest();
  const taken: unknown[] = [];
  askMass(ws, 'immerse', [], (a) => taken.push(a));
  const first = newest();
  askMass(ws, 'immerse', [], (a) => taken.push(a));
  expect(first.ended).toBe(true);
  newest().onmessage!({ data: { error: 'nothing there' } });
  expect(taken).toEqual([null]);
  expect(ws.players.massWorkers.size).toBe(0);
  const asked = workers.length;
  const end = ws.derived.work.want(ws, sharedAndClosed);
  const state = () => ws.derived.of(sharedAndClosed.known).state;
  ws.mass.setState({ lookedInto: ws.derived.of(chosenMass).key });
  jest.advanceTimersByTime(1);
  expect(state()).toBe('pending');
  newest().onerror!({ message: 'out of memory' });
  expect(state()).toBe('failed');
  // It is tried again when asked to, and only what failed is.
  for (const left of ['ready', 'ready']) {
    ws.derived.work.again(sharedAndClosed);
    jest.advanceTimersByTime(1);
    if (state() === 'pending') newest().answer();
    expect(state()).toBe(left);
  }
  expect(workers).toHaveLength(asked + 2);
  end();
});

test('under water: a hollow that is closed displaces once it is marked as sealed, and comes back open by undo', () => {
  const ws = chest();
  const solids = ws.derived.of(chosenMass).weighed.known!.mass / STEEL;
  expect(ws.derived.of(immersedNow)!.displaced).toBeCloseTo(solids, 6);
  const end = ws.derived.work.want(ws, sharedAndClosed);
  looked(ws);
  const { hollows, overlap } = sharedOf(ws);
  expect(overlap.volume).toBeLessThan(1);
  expect(hollows).toHaveLength(1);
  markSealed(ws, hollows[0], true);
  expect(isSealed(ws, hollows[0])).toBe(true);
  const { displaced, within } = ws.derived.of(immersedNow)!;
  expect(Math.abs(displaced - 30 * 40 * 50)).toBeLessThan(within!);
  // Of another set nothing of it is known.
  ws.selection.getState().pick([{ kind: 'component', component: 'a/below', index: 0 }]);
  ws.mass.setState({ set: 'picked' });
  expect(ws.derived.of(immersedNow)!.displaced).toBeCloseTo(30 * 40 * 5, 6);
  // A side of a section is no thing that swims, though the set has the same components.
  ws.mass.setState({ set: 'kept' });
  expect(ws.derived.of(immersedNow)).toBeNull();
  ws.mass.setState({ set: 'all' });
  end();
  ws.history.getState().undo();
  expect(isSealed(ws, hollows[0])).toBe(false);
});

test('what components share is taken from the check for clashes where that is exact, of all, and no three meet', () => {
  const ws = testWorkspace();
  const [a, b, c] = ['all/a', 'all/b', 'all/c'];
  showModel(
    ws,
    [boxPart(30, 40, 5)],
    [
      [a, 0, placedAt(0, 0, 0)],
      [b, 0, placedAt(0.3, 0.7, 1)],
      [c, 0, placedAt(100, 0, 0)],
    ],
  );
  const paths = ws.model.getState().components.map((p) => p.path);
  giveMaterial(ws, [0], 'steel');
  const end = ws.derived.work.want(ws, sharedAndClosed);
  looked(ws);
  const under = () => ws.derived.of(immersedNow)!;
  const shared = 29.7 * 39.3 * 4;
  const seen = under();
  expect(seen.within!).toBeGreaterThan(0);
  expect(Math.abs(seen.displaced - (3 * 6000 - shared))).toBeLessThanOrEqual(seen.within!);
  const interference = (one: string, other: string, volume: number | null, within = 0) => ({
    a: paths.find((p) => p.endsWith(one))!,
    b: paths.find((p) => p.endsWith(other))!,
    relation: volume === null ? ('contact' as const) : ('clash' as const),
    distance: 0,
    from: [0, 0, 0] as const,
    to: [0, 0, 0] as const,
    clash: volume === null ? null : { volume, within, depth: 4 },
    accuracy: { kind: 'exact' as const },
  });
  ws.interference.setState({ of: 'all', ofAll: true, found: [interference('a', 'b', shared)] });
  expect(under().within).toBe(0);
  expect(under().displaced).toBeCloseTo(3 * 6000 - shared, 9);
  // Each of these leaves what rays saw: not all, not exact, not what is there, three that meet.
  for (const state of [
    { ofAll: false },
    { found: [interference('a', 'b', shared, 0.1)] },
    { found: [interference('a', 'b', shared / 2)] },
    { found: [interference('a', 'b', shared), interference('b', 'c', 0.001), interference('c', 'a', 0.001)] },
  ]) {
    ws.interference.setState({ of: 'all', ofAll: true, found: [interference('a', 'b', shared)], ...state });
    expect(under()).toEqual(seen);
  }
  // What only touches may share what is thinner than a clash.
  ws.interference.setState({
    ofAll: true,
    found: [interference('a', 'b', shared), interference('b', 'c', null)],
  });
  expect(under().within).toBeCloseTo(1e-4 * 2 * (30 * 40 + 30 * 5 + 40 * 5), 9);
  end();
});

test('of foam it floats: as deep as its weight says, with its hollow dry or flooded; what changes is worked out again, and steel sinks', () => {
  const ws = chest();
  const ends = [ws.derived.work.want(ws, sharedAndClosed), ws.derived.work.want(ws, floatsNow)];
  giveMaterial(ws, [0, 1, 2], 'syntactic-deep');
  const float = () => {
    expect(ws.derived.of(floatsNow.known).state).toBe('pending');
    jest.advanceTimersByTime(1);
    newest().answer();
    return valueOf(ws.derived.of(floatsNow.known));
  };
  expect(ws.derived.of(floatsNow.known).state).toBe('nothing to do');
  ws.mass.setState({ floats: ws.derived.of(chosenMass).key });
  const flooded = float().floats!;
  const { known } = ws.derived.of(chosenMass).weighed;
  const water = findMaterial(ws, 'sea-water')!.density;
  const displaced = (known!.mass / water) * 1e9;
  // 30 × 40 up to 5 mm, above that its walls.
  expect(flooded.draught).toBeCloseTo(5 + (displaced - 30 * 40 * 5) / (30 * 40 - 20 * 30), 6);
  expect(flooded.arms.map((a) => a.length)).toEqual([TILTS.length, TILTS.length]);
  looked(ws);
  float();
  markSealed(ws, sharedOf(ws).hollows[0], true);
  const dry = float().floats!;
  expect(Math.abs(dry.draught - displaced / 1200)).toBeLessThan(0.5);
  expect(dry.draught + dry.freeboard).toBeCloseTo(50, 6);
  // A box of this kind: KB + BM − KG about its two level axes (any book of naval architecture).
  const [t, kg] = [dry.draught, known!.centreOfGravity[2]];
  [40, 30].forEach((breadth, i) =>
    expect(Math.abs(dry.metacentric[i].height - (t / 2 + breadth ** 2 / (12 * t) - kg))).toBeLessThan(1),
  );
  giveMaterial(ws, [0, 1, 2], 'steel');
  expect(float()).toEqual({ floats: null });
  // An error is no answer.
  ws.mass.setState({ fluid: 'fresh-water' });
  jest.advanceTimersByTime(1);
  newest().onmessage!({ data: { error: 'out of memory' } });
  expect(ws.derived.of(floatsNow.known).state).toBe('failed');
  ends.forEach((end) => end());
});

test('it stands on its lowest plate, hangs from a picked corner, turns about a picked edge', () => {
  const ws = chest();
  const paths = ws.model.getState().components.map((c) => c.path);
  const known = setMassOf(ws, paths).known!;
  // The middle of 30 × 40.
  expect(standingNow(ws, paths, known)).toMatchObject({
    on: 'its lowest points',
    margin: expect.closeTo(15, 6) as number,
  });
  expect(hangingNow(ws, known)).toBeNull();
  // The corner at (30, 40, 5) of the lower plate.
  ws.selection.getState().pick([{ kind: 'vertex', component: 'a/below', index: 7 }]);
  expect(hangingNow(ws, known)!.offset).toBeCloseTo(Math.hypot(15, 20), 6);
  expect(standingNow(ws, [], known)).toContain('nothing it stands on');
  ws.selection.getState().pick([{ kind: 'edge', component: 'a/below', index: 0 }]);
  expect(turningNow(ws, known)!.away).toBeCloseTo(Math.hypot(20, 25), 6);
});

test('parts by a word of their name or of a component, by the colour they are shown in; why one has no volume', () => {
  const ws = chest();
  expect(partsNamed(ws, 'LEFT')).toEqual([1]);
  expect(partsNamed(ws, 'part 2')).toEqual([2]);
  expect(partsNamed(ws, '  ')).toEqual([]);
  expect(partsLikePicked(ws, ['a/left'])).toEqual([1]);
  ws.visibility.setState({
    states: {
      'a/left': { visible: true, colour: [1, 0, 0] },
      'a/front': { visible: true, colour: [1, 0, 0] },
    } as never,
  });
  expect(partsLikePicked(ws, ['a/left']).sort()).toEqual([1, 2]);
  expect(openReason(ws, 9)).toContain('geometry is not there');
});

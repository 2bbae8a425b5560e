import type { Point2 } from '@bathyscope/core/math';
import {
  cutPlaneOf,
  planeFrame,
  sectionProperties,
  type ComponentCut,
  type PlaneCurve,
  type SectionPlane,
  judgeCut,
} from '@bathyscope/core/section';
import { boxPart } from '../../../../../packages/core/src/testing/box-part.ts';
import { foundAgain } from '../../workspace/picking/cut-picks.ts';
import type { Picked } from '../../state/selection-store.ts';
import {
  abandonSection,
  acceptSection,
  addPlanes,
  changePlane,
  planeInHand,
  recordSection,
  setPlane,
  startDrag,
  stepPlane,
} from './section-changes.ts';
import { wholePaths, wholeSuggestions } from './whole-commands.ts';
import { COMMANDS } from '../registry.ts';
import { runCommand } from '../run-command.ts';
import { testWorkspace } from '../../testing/test-workspace.ts';
import { bestCut, loopsOf } from '../../workspace/cutting/cuts.ts';
import { sectionNow } from '../../workspace/cutting/section-now.ts';

const ws = testWorkspace();

const undo = () => ws.history.getState().undo();
const planes = () => ws.section.getState().planes;
const place = { origin: [0, 0, 0], normal: [0, 0, 1] } as const;

beforeEach(() => {
  ws.section.setState({ planes: [], on: true, combine: 'any', active: null, before: null, step: 1 });
  ws.history.getState().clear();
});

describe('setting a section', () => {
  test('Esc goes back to how it was before all planes that were set since; that can be undone; accepted, nothing is left to abandon', () => {
    addPlanes(ws, [place], ['A'], 'section A');
    recordSection(ws, 'move A', { planes: changePlane(ws, planes()[0].id, { offset: 5 }) });
    addPlanes(ws, [place], ['B'], 'section B');
    expect(planeInHand(ws)?.name).toBe('B');
    expect(abandonSection(ws)).toBe(true);
    expect(planes()).toEqual([]);
    expect(abandonSection(ws)).toBe(false);
    undo();
    expect(planes().map((p) => [p.name, p.offset])).toEqual([
      ['A', 5],
      ['B', 0],
    ]);
    setPlane(ws, planes()[0].id);
    recordSection(ws, 'move A', { planes: changePlane(ws, planes()[0].id, { offset: 9 }) });
    expect(acceptSection(ws)).toBe(true);
    expect(abandonSection(ws)).toBe(false);
    expect(planes()[0].offset).toBe(9);
  });

  test('a drag is one step back; steps by key in quick succession are one too; a seventh plane is refused and changes nothing', () => {
    const done = addPlanes(ws, [place], ['A'], 'section A');
    ws.history.getState().record(done!);
    const [{ id }] = planes();
    const drag = startDrag(ws, 'move A');
    for (const offset of [1, 2, 3]) drag.move(changePlane(ws, id, { offset }));
    drag.end();
    for (let i = 0; i < 4; i++) stepPlane(ws, planes()[0], i < 3 ? 1 : -1);
    expect(planes()[0].offset).toBe(5);
    expect(ws.history.getState().done.map((d) => d.name)).toEqual(['section A', 'move A', 'step A']);
    undo();
    expect(planes()[0].offset).toBe(3);
    undo();
    expect(planes()[0].offset).toBe(0);
    addPlanes(ws, [place, place, place, place, place], ['B', 'C', 'D', 'E', 'F'], 'five');
    expect(addPlanes(ws, [place], ['G'], 'section G')).toBeUndefined();
    expect(planes()).toHaveLength(6);
    expect(sectionNow(ws)).toEqual({ planes: planes(), on: true, combine: 'any' });
  });
});

describe('exact cuts', () => {
  const square: Point2[] = [
    [0, 0],
    [10, 0],
    [10, 10],
    [0, 10],
  ];
  const lines = (loop: Point2[]): PlaneCurve[] =>
    loop.map((from, i) => ({ shape: 'line', from, to: loop[(i + 1) % loop.length] }));
  const kernel = (...loops: Point2[][]) => ({
    loops: loops.map(lines),
    open: 0,
    tolerance: 0,
    lean: 1,
    touches: [],
  });
  const cut: ComponentCut = {
    component: 0,
    loops: [square],
    open: [],
    lean: { mean: 1, most: 1 },
    properties: sectionProperties([square]),
  };
  const plane: SectionPlane = { ...place, id: 'p', name: 'P', offset: 5, flipped: false, on: true };

  beforeEach(() => {
    const component = {
      path: 'a/box',
      depth: 1,
      parent: 'a',
      name: 'Hex bolt M8',
      placement: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1],
      mirrored: false,
      part: 0,
      children: [],
    };
    ws.model.setState({
      components: [component],
      byPath: new Map([[component.path, component]]),
      parts: new Map([
        [0, { geometry: { ...boxPart(10, 10, 10), chordTolerance: 0.01 }, bvh: null as never }],
      ]),
      detail: { structure: { parts: [{ name: 'Hex bolt M8', geometry: 'x' }] } } as never,
    });
    const made = cutPlaneOf(plane);
    ws.cut.setState({
      results: [{ plane, cut: made, frame: planeFrame(made), cuts: [cut] }],
      exact: new Map(),
      whole: new Set(),
    });
  });

  test('are taken where they close and agree with the mesh, clipped by the other planes, and refused with the reason where not', () => {
    expect(judgeCut(kernel(square), cut, 0.01)).toMatchObject({
      properties: { area: 100 },
      tolerance: 0,
    });
    const half = {
      ...cut,
      loops: [
        [
          [0, 0],
          [4, 0],
          [4, 10],
          [0, 10],
        ],
      ] as Point2[][],
    };
    expect(judgeCut(kernel(square), half, 0.01, [[1, 0, 4]])).toMatchObject({
      properties: { area: expect.closeTo(40, 9) },
    });
    expect(judgeCut({ loops: [], open: 1, tolerance: 0, lean: 1, touches: [] }, cut, 0.01)).toEqual({
      failed: expect.stringContaining('does not close'),
    });
    // One hole of many that the kernel lost is noticed, however little of the whole it is.
    const hole: Point2[] = [
      [4, 4],
      [4, 5],
      [5, 5],
      [5, 4],
    ];
    const pierced = { ...cut, loops: [square, hole], properties: sectionProperties([square, hole]) };
    expect(judgeCut(kernel(square, hole), pierced, 0.01)).toMatchObject({
      properties: { area: expect.closeTo(99, 9) },
    });
    expect(judgeCut(kernel(square), pierced, 0.01)).toEqual({
      failed: expect.stringContaining('disagree'),
    });
    expect(
      judgeCut(
        kernel([
          [0, 0],
          [9, 0],
          [9, 10],
          [0, 10],
        ]),
        cut,
        0.01,
      ),
    ).toEqual({ failed: expect.stringContaining('disagree') });
  });

  test('the best figure is the exact one; without it the mesh with its bound and the reason', () => {
    expect(bestCut(ws, 'p', cut)).toMatchObject({ exact: false, within: 0.01, properties: { area: 100 } });
    ws.cut.setState({ exact: new Map([['p', new Map([[0, { failed: 'it took too long' }]])]]) });
    expect(bestCut(ws, 'p', cut)).toMatchObject({ exact: false, note: 'it took too long' });
    const loops = [[{ shape: 'arc', centre: [5, 5], radius: 5, from: 0, to: 2 * Math.PI } as const]];
    ws.cut.setState({ exact: new Map([['p', new Map([[0, { loops, properties: null, tolerance: 0 }]])]]) });
    expect(bestCut(ws, 'p', cut).exact).toBe(true);
    expect(loopsOf(ws, 'p', cut)).toBe(loops);
  });

  test('a picked outline is found again by its place when the curves are numbered anew, and dropped when it moved away', () => {
    const item: Picked = { kind: 'outline', component: 'a/box', index: 0, plane: 'p', point: [5, 10, 5] };
    const [first] = foundAgain(ws, [item]);
    expect(loopsOf(ws, 'p', cut).flat()[first.index]).toMatchObject({ from: [10, 10], to: [0, 10] });
    ws.cut.setState({
      exact: new Map([
        [
          'p',
          new Map([
            [
              0,
              {
                loops: [
                  lines([
                    [0, 10],
                    [0, 0],
                    [10, 0],
                    [10, 10],
                  ]),
                ],
                properties: null,
                tolerance: 0,
              },
            ],
          ]),
        ],
      ]),
    });
    const [again] = foundAgain(ws, [first]);
    expect(loopsOf(ws, 'p', cut).flat()[again.index]).toMatchObject({ from: [10, 10], to: [0, 10] });
    expect(
      foundAgain(ws, [
        { ...item, point: [5, 12, 5] },
        { ...item, plane: 'gone' },
        { kind: 'face', component: 'a/box', index: 1 },
      ]),
    ).toEqual([{ kind: 'face', component: 'a/box', index: 1 }]);
  });

  test('keep whole is suggested with its reason and never done by itself', () => {
    expect(wholeSuggestions(ws)).toEqual([
      { part: 0, name: 'Hex bolt M8', reason: 'named as a bolt or screw', paths: ['a/box'] },
    ]);
    expect(wholePaths(ws)).toEqual([]);
    runCommand(ws, {
      ...COMMANDS.find((c) => c.id === 'keep-whole')!,
      needs: 'nothing',
      run: () =>
        COMMANDS.find((c) => c.id === 'keep-whole')!.run(ws, [
          { kind: 'component', component: 'a/box', index: 0 },
        ]),
    });
    expect(wholePaths(ws)).toEqual(['a/box']);
    expect(wholeSuggestions(ws)).toEqual([]);
    undo();
    expect(wholePaths(ws)).toEqual([]);
  });
});

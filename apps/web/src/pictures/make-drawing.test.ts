import { pipOrientation, FRAMES } from '@bathyscope/core/camera';
import { hiddenLineDrawing } from '@bathyscope/core/drawing';
import { IDENTITY } from '@bathyscope/core/math';
import { cutComponents, cutPlaneOf, planeFrame, type SectionPlane } from '@bathyscope/core/section';
import DxfParser from 'dxf-parser';
import { boxPart } from '../../../../packages/core/src/testing/box-part.ts';
import { placedAt, showModel } from '../testing/test-model.ts';
import type { DrawingReply, DrawingRequest } from '../workers/drawing-worker.ts';
import { makeDrawing, type DrawingWishes } from './make-drawing.ts';
import { writeDxf } from '../workers/write-dxf.ts';
import { testWorkspace } from '../testing/test-workspace.ts';

const ws = testWorkspace();

/** A worker that keeps what it is asked and answers when the test says so. */
const worker = {
  requests: [] as DrawingRequest[],
  ended: 0,
  onmessage: null as ((e: { data: DrawingReply }) => void) | null,
  onerror: null as ((e: { message: string }) => void) | null,
  postMessage(request: DrawingRequest) {
    this.requests.push(request);
  },
  terminate() {
    this.ended++;
  },
};
jest.mock('../workers/start-drawing-worker.ts', () => ({ startDrawingWorker: () => worker }));

const plane: SectionPlane = {
  id: 'p',
  name: 'P',
  origin: [0, 0, 20],
  normal: [0, 0, 1],
  offset: 0,
  flipped: false,
  on: true,
};
const wishes: DrawingWishes = {
  format: 'svg',
  hidden: true,
  smooth: false,
  hatched: true,
  scale: 0.5,
  dimensions: [],
};

/**
 * A block 40 × 20 × 30 cut at half its height, a sheet of 0.5 mm beside it, a pin kept
 * whole, a ghost and one hidden.
 */
beforeEach(() => {
  [worker.requests, worker.ended] = [[], 0];
  showModel(
    ws,
    [boxPart(40, 20, 40), boxPart(0.5, 20, 40), boxPart(2, 2, 40)],
    [
      ['Block', 0, IDENTITY],
      ['Sheet', 1, placedAt(50, 0, 0)],
      ['Pin', 2, placedAt(60, 0, 0)],
      ['Ghost', 2, placedAt(70, 0, 0)],
      ['Hidden', 2, placedAt(80, 0, 0)],
    ],
  );
  ws.visibility.getState().set({
    'a/Pin': { visible: true, ghosted: false, keptWhole: true },
    'a/Ghost': { visible: true, ghosted: true, keptWhole: false },
    'a/Hidden': { visible: false, ghosted: false, keptWhole: false },
  });
  const { components, parts } = ws.model.getState();
  const cut = cutPlaneOf(plane);
  const inputs = components.map(({ part, placement }, i) =>
    i < 2 ? { ...parts.get(part)!, placement, stored: placement } : null,
  );
  ws.section.setState({ planes: [plane], on: true, combine: 'any', uncutPanes: [] });
  ws.cut.setState({
    results: [{ plane, cut, frame: planeFrame(cut), cuts: cutComponents(inputs, cut) }],
    exact: new Map(),
    whole: new Set(['a/Pin']),
  });
});

/** What the worker does with the last request, here and now. */
function drawn(): ReturnType<typeof hiddenLineDrawing> {
  const { parts, components, orientation, hidden, smooth, section } = worker.requests.at(-1)!;
  return hiddenLineDrawing(
    components.map(({ part, placement, whole }) => ({ placement, whole, geometry: parts.get(part)! })),
    orientation,
    { hidden, smooth, section },
  );
}

test('the worker gets what is shown and solid, and the section as it cuts it: hatches by the scale, thin cuts in lines that touch', () => {
  void makeDrawing(ws, wishes, () => {});
  const { components, section, parts } = worker.requests[0];
  expect(components.map((c) => [c.part, c.whole])).toEqual([
    [0, false],
    [1, false],
    [2, true],
  ]);
  expect([...parts.keys()]).toEqual([0, 1, 2]);
  expect(section).toMatchObject({ combine: 'any', planes: [{ normal: [0, 0, 1], constant: 20 }] });
  // 2.5 mm on paper at 1:2 are 5 in the model, times what sets the part apart from its neighbours; the sheet
  // is filled, 0.25 mm wide lines side by side.
  const [block, sheet] = section!.caps;
  expect(block.spacing).toBeCloseTo(5 * block.hatch.spacing, 9);
  expect(sheet.spacing).toBeCloseTo(0.5, 9);
  void makeDrawing(ws, { ...wishes, hatched: false }, () => {});
  expect(worker.requests[1].section!.caps.map((c) => c.spacing)).toEqual([0, 0]);
  // DXF is at 1:1 whatever scale was chosen for paper.
  void makeDrawing(ws, { ...wishes, format: 'dxf' }, () => {});
  expect(worker.requests[2].section!.caps[0].spacing).toBeCloseTo(2.5 * block.hatch.spacing, 9);
});

test('a pane that shows the model uncut is drawn uncut, and so is a model without a section', () => {
  ws.section.setState({ uncutPanes: ['main'] });
  void makeDrawing(ws, wishes, () => {});
  expect(worker.requests[0].section).toBeUndefined();
  ws.section.setState({ uncutPanes: [] });
  ws.cut.setState({ results: [] });
  void makeDrawing(ws, wishes, () => {});
  expect(worker.requests[1].section).toBeUndefined();
});

test('as DXF an independent reader (dxf-parser 1.1.2) finds each line kind on its layer, the pin at its whole height', () => {
  const { setCamera, panes } = ws.camera.getState();
  setCamera({ ...panes[0].camera, orientation: pipOrientation([0, 1, 0], FRAMES.z) }, 0);
  void makeDrawing(ws, { ...wishes, format: 'dxf' }, () => {});
  const front = new DxfParser().parseSync(writeDxf(drawn()))!;
  type Line = { type: string; layer: string; vertices: { x: number; y: number }[] };
  const lines = (front.entities as unknown as Line[]).filter((e) => e.type === 'LINE');
  const top = (from: number, to: number) =>
    Math.max(
      ...lines
        .filter((l) => l.layer === 'VISIBLE')
        .flatMap((l) => l.vertices)
        .filter((v) => v.x > from && v.x < to)
        .map((v) => v.y),
    );
  expect(front.header['$INSUNITS']).toBe(4);
  // From the front the cut is seen edge on: the block is 20 high, the pin behind no plane 40; there is
  // nothing to hatch.
  expect([top(-1, 41), top(59, 63)]).toEqual([expect.closeTo(20, 4), expect.closeTo(40, 4)]);
  expect(lines.filter((l) => l.layer === 'HATCH')).toEqual([]);

  setCamera({ ...panes[0].camera, orientation: pipOrientation([0, 0, 1], FRAMES.z) }, 0);
  void makeDrawing(ws, { ...wishes, format: 'dxf' }, () => {});
  const above = (new DxfParser().parseSync(writeDxf(drawn()))!.entities as unknown as Line[]).filter(
    (e) => e.layer === 'HATCH',
  );
  const lengthOf = (from: number, to: number) =>
    above
      .filter((l) => l.vertices[0].x > from && l.vertices[0].x < to)
      .reduce((sum, { vertices: [a, b] }) => sum + Math.hypot(b.x - a.x, b.y - a.y), 0);
  const [block] = worker.requests.at(-1)!.section!.caps;
  // Lines so far apart fill 40 × 20, to within a line at the corners.
  expect(Math.abs((lengthOf(-1, 41) * block.spacing) / 800 - 1)).toBeLessThan(0.05);
  expect(lengthOf(49, 51)).toBeGreaterThan(0);
  expect(lengthOf(59, 99)).toBe(0);
});

test('progress is told; a fault is a sentence; what is cancelled ends at once', async () => {
  const shares: number[] = [];
  const { done, abort } = makeDrawing(ws, wishes, (share) => shares.push(share));
  worker.onmessage!({ data: { progress: 0.25 } });
  worker.onmessage!({ data: { text: '<svg/>', curves: 3, tolerance: 0.01 } });
  expect(await done).toEqual({ text: '<svg/>', curves: 3, tolerance: 0.01 });
  expect([shares, worker.ended]).toEqual([[0.25], 1]);
  abort();
  expect(worker.ended).toBe(2);
  const failing = makeDrawing(ws, wishes, () => {});
  worker.onmessage!({ data: { error: 'out of memory' } });
  await expect(failing.done).rejects.toThrow('The drawing could not be made: out of memory');
  const crashing = makeDrawing(ws, wishes, () => {});
  worker.onerror!({ message: '' });
  await expect(crashing.done).rejects.toThrow('The drawing could not be made.');
});

import { FRAMES, pipOrientation, viewBack, viewUp } from '@bathyscope/core/camera';
import { distance, rotate, type Vec3 } from '@bathyscope/core/math';
import { testWorkspace } from '../testing/test-workspace.ts';
import { paneAt } from '../workspace/view/panes.ts';

const ws = testWorkspace();

const near = (a: Vec3, b: Vec3) => expect(distance(a, b)).toBeLessThan(1e-9);

describe('panes', () => {
  const store = () => ws.camera.getState();
  beforeEach(() => {
    store().setCanvas({ width: 1000, height: 800 });
    store().setLayout('four', 'third angle');
  });
  afterAll(() => store().setLayout('one', 'third angle'));

  test('a layout divides the canvas, and a pixel knows its pane', () => {
    expect(store().panes.map((p) => [p.size.width, p.size.height])).toEqual([
      [500, 400],
      [500, 400],
      [500, 400],
      [500, 400],
    ]);
    expect(paneAt(ws, 100, 700)).toEqual({ index: 0, x: 100, y: 300 });
    expect(paneAt(ws, 100, 100).index).toBe(1);
    expect(paneAt(ws, 900, 700)).toMatchObject({ index: 2, x: 400, y: 300 });
  });

  test('linked panes follow the main one, and turning a linked one turns the main one', () => {
    const [main] = store().panes;
    store().setCamera({ ...main.camera, orientation: pipOrientation([0, 1, 0], FRAMES.z) }, 0);
    near(viewBack(store().panes[1].camera), [0, 0, 1]);
    near(viewBack(store().panes[2].camera), [1, 0, 0]);
    const top = store().panes[1].camera;
    store().setCamera({ ...top, orientation: pipOrientation([1, 0, 0], FRAMES.z) }, 1);
    near(viewUp(store().panes[0].camera), [1, 0, 0]);
    near(viewBack(store().panes[1].camera), [1, 0, 0]);
  });

  test('a fixed pane keeps its direction under pan and zoom, and goes free when it is turned; the up axis turns it', () => {
    store().setMode(3, { kind: 'fixed', pip: [0, 0, 1] });
    near(viewBack(store().panes[3].camera), [0, 0, 1]);
    store().setCamera({ ...store().panes[3].camera, height: 7, target: [1, 2, 3] }, 3);
    expect(store().panes[3].mode.kind).toBe('fixed');
    store().setUpAxis('y');
    near(viewBack(store().panes[3].camera), [0, 1, 0]);
    store().setUpAxis('z');
    store().setCamera({ ...store().panes[3].camera, orientation: pipOrientation([1, 1, 1], FRAMES.z) }, 3);
    expect(store().panes[3].mode.kind).toBe('free');
    expect(rotate(store().panes[3].camera.orientation, [0, 0, 1])[2]).toBeGreaterThan(0.5);
  });
});

import {
  homeOrientationOf,
  project,
  viewBack,
  viewRight,
  viewUp,
  type ViewCamera,
} from '@bathyscope/core/camera';
import { distance, dot, scale, type Box3, type Vec3 } from '@bathyscope/core/math';
import { boxPart } from '../../../../../packages/core/src/testing/box-part.ts';
import { Navigator, ORBIT_GAIN, type SceneQuestions } from './navigator.ts';
import { placedAt, showModel } from '../../testing/test-model.ts';
import { testWorkspace } from '../../testing/test-workspace.ts';
import { centredOn } from '../../workspace/view/camera-targets.ts';
import { changeSettings } from '../../workspace/keeping/change-settings.ts';

const ws = testWorkspace();

const BOX: Box3 = { min: [-50, -50, -50], max: [50, 50, 50] };
const START: ViewCamera = {
  projection: 'orthographic',
  target: [0, 0, 0],
  orientation: homeOrientationOf('z'),
  height: 200,
  lens: 0.6,
};

/** A scene whose answers a test sets: what is under the cursor, beside it, and picked. */
const scene = {
  under: null as Vec3 | null,
  nearest: null as Vec3 | null,
  picked: null as Vec3 | null,
  pivotShown: [] as boolean[],
  offers: [] as string[],
};
const questions: SceneQuestions = {
  pointAt: () => scene.under,
  nearestPoint: () => scene.nearest,
  pickedPoint: () => scene.picked,
  shownBox: () => BOX,
  showPivot: (on) => scene.pivotShown.push(on),
  offerPivot: (why) => scene.offers.push(why),
};
const navigator = new Navigator(ws, questions);
const camera = () => ws.camera.getState().panes[0].camera;
const size = () => ws.camera.getState().panes[0].size;
const seenAt = (p: Vec3) => project(camera(), size(), p);

beforeEach(() => {
  Object.assign(scene, { under: null, nearest: null, picked: null, pivotShown: [], offers: [] });
  changeSettings(ws, { pivotPolicy: 'kept', pivotGlides: false, orbitMode: 'turntable', zoomSpeed: 1 });
  const { setLayout, setCanvas, setCamera, setPivot, setHinge, setUpAxis } = ws.camera.getState();
  setLayout('one', 'third angle');
  setCanvas({ width: 800, height: 600 });
  setUpAxis('z');
  setHinge(null);
  setPivot([0, 0, 0]);
  setCamera(START, 0);
  ws.mode.setState({ locked: false });
});

const orbit = (dx: number, dy: number, steps = 10, at: { x: number; y: number } = { x: 400, y: 300 }) => {
  navigator.begin('orbit', at.x, at.y);
  for (let i = 1; i <= steps; i++)
    navigator.drag('orbit', dx / steps, dy / steps, at.x + (dx * i) / steps, at.y + (dy * i) / steps);
  navigator.end();
};

describe('orbiting', () => {
  test('by each policy about its point, which stays where it is seen; the pivot shows while the hand turns', () => {
    const [under, picked]: Vec3[] = [
      [20, -30, 10],
      [-15, 5, 40],
    ];
    for (const [policy, about] of [
      ['kept', [0, 0, 0]],
      ['cursor', under],
      ['picked', picked],
      ['centre', [0, 0, 0]],
    ] as const) {
      ws.camera.getState().setCamera({ ...START, target: [5, 6, 7] }, 0);
      Object.assign(scene, { under, picked, pivotShown: [] });
      changeSettings(ws, { pivotPolicy: policy });
      if (policy === 'centre') ws.camera.getState().setPivot([1, 2, 3]);
      const before = seenAt(about);
      orbit(90, 40);
      expect(ws.camera.getState().pivot).toEqual(about);
      expect([seenAt(about).x, seenAt(about).y]).toEqual([
        expect.closeTo(before.x, 6),
        expect.closeTo(before.y, 6),
      ]);
      expect(scene.pivotShown).toEqual([true, false]);
    }
  });

  test('over nothing, or with nothing picked, the pivot stays; as much is turned however many steps the drag has', () => {
    for (const policy of ['cursor', 'picked'] as const) {
      changeSettings(ws, { pivotPolicy: policy });
      ws.camera.getState().setPivot([3, 4, 5]);
      orbit(10, 0);
      expect(ws.camera.getState().pivot).toEqual([3, 4, 5]);
    }
    ws.camera.getState().setPivot([0, 0, 0]);
    ws.camera.getState().setCamera(START, 0);
    orbit(250, 0, 1);
    const once = viewBack(camera());
    ws.camera.getState().setCamera(START, 0);
    orbit(250, 0, 250);
    expect(distance(viewBack(camera()), once)).toBeLessThan(1e-9);
    // 250 px are a quarter of a turn.
    const level = (v: Vec3) => Math.atan2(v[1], v[0]);
    const turned = Math.abs(level(once) - level(viewBack(START)));
    expect(Math.min(turned, 2 * Math.PI - turned)).toBeCloseTo(250 * ORBIT_GAIN, 9);
    expect(viewRight(camera())[2]).toBeCloseTo(0, 9);
  });

  test('locked, only the first direction of the drag counts; let go, both do', () => {
    ws.mode.setState({ locked: true });
    const height = viewBack(camera())[2];
    navigator.begin('orbit', 400, 300);
    navigator.drag('orbit', 8, 1, 408, 301);
    for (let i = 0; i < 10; i++) navigator.drag('orbit', 0, 10, 408, 311);
    expect(viewBack(camera())[2]).toBeCloseTo(height, 9);
    ws.mode.setState({ locked: false });
    navigator.drag('orbit', 0, 30, 408, 400);
    expect(Math.abs(viewBack(camera())[2] - height)).toBeGreaterThan(0.05);
  });

  test('a pivot far off or behind the eye is said when a turn begins, not while it goes on, and not with a hinge', () => {
    ws.camera.getState().setPivot([5000, 0, 0]);
    orbit(5, 5, 3);
    expect(scene.offers).toEqual(['The pivot is far off the model, so it swings wide.']);
    const close: ViewCamera = { ...START, projection: 'perspective', height: 20 };
    ws.camera.getState().setCamera(close, 0);
    const back = viewBack(close);
    ws.camera.getState().setPivot(scale(back, 60));
    orbit(5, 0, 1);
    expect(scene.offers.at(-1)).toContain('behind the eye');
    ws.camera.getState().setHinge({ origin: [0, 0, 0], axis: [0, 0, 1], name: 'Z' });
    ws.camera.getState().setPivot([5000, 0, 0]);
    orbit(5, 0, 1);
    expect(scene.offers).toHaveLength(2);
  });

  test('a gliding pivot comes to the middle of the pane as the hand turns, and the model goes with it', () => {
    changeSettings(ws, { pivotGlides: true });
    ws.camera.getState().setPivot([40, 0, 0]);
    const away = () =>
      Math.hypot(seenAt([40, 0, 0]).x - size().width / 2, seenAt([40, 0, 0]).y - size().height / 2);
    const first = away();
    expect(first).toBeGreaterThan(50);
    let last = first;
    for (let i = 0; i < 5; i++) {
      orbit(60, 0);
      expect(away()).toBeLessThan(last);
      last = away();
    }
    expect(last).toBeLessThan(first * 0.1);
  });
});

describe('zooming and panning', () => {
  test('what lies under the cursor stays under it, in both projections, in and out', () => {
    for (const projection of ['orthographic', 'perspective'] as const)
      for (const factor of [1.3, 0.7]) {
        ws.camera.getState().setCamera({ ...START, projection }, 0);
        scene.under = [25, -20, 30];
        const at = seenAt(scene.under);
        const height = camera().height;
        navigator.zoom(factor, at.x, at.y);
        expect([seenAt(scene.under).x, seenAt(scene.under).y]).toEqual([
          expect.closeTo(at.x, 6),
          expect.closeTo(at.y, 6),
        ]);
        expect(factor > 1 ? camera().height < height : camera().height > height).toBe(true);
      }
  });

  test('beside the model zooming in aims at the nearest point of it and brings it back from out of sight; zooming out does not', () => {
    scene.nearest = [50, 0, 0];
    // Panned away: the nearest point is far beyond the left edge.
    const target = scale(viewRight(START), 600);
    ws.camera.getState().setCamera({ ...START, target }, 0);
    expect(seenAt(scene.nearest).x).toBeLessThan(0);
    for (let i = 0; i < 12; i++) navigator.zoom(1.1, 400, 300);
    expect(seenAt(scene.nearest).x).toBeGreaterThan(0);
    ws.camera.getState().setCamera({ ...START, target }, 0);
    const before = seenAt([0, 0, 0]);
    navigator.zoom(0.5, 400, 300);
    // Out about the middle of the pane, as if nothing were there.
    expect(seenAt([0, 0, 0]).x - 400).toBeCloseTo((before.x - 400) / 2, 6);
  });

  test('a zoom by drag follows its speed, upwards is nearer; the grabbed point follows a pan; roll turns about the pivot', () => {
    const zoomed = (speed: number, dy: number) => {
      ws.camera.getState().setCamera(START, 0);
      changeSettings(ws, { zoomSpeed: speed });
      navigator.begin('zoom', 400, 300);
      navigator.drag('zoom', 0, dy, 400, 300 + dy);
      return START.height / camera().height;
    };
    expect(zoomed(1, -100)).toBeCloseTo(1.006 ** 100, 9);
    expect(zoomed(2, -100)).toBeCloseTo(1.006 ** 200, 9);
    expect(zoomed(1, 100)).toBeCloseTo(1.006 ** -100, 9);

    ws.camera.getState().setCamera({ ...START, projection: 'perspective' }, 0);
    scene.under = [10, 20, 30];
    const at = seenAt(scene.under);
    navigator.begin('pan', at.x, at.y);
    navigator.drag('pan', 37, -21, at.x + 37, at.y - 21);
    expect([seenAt(scene.under).x, seenAt(scene.under).y]).toEqual([
      expect.closeTo(at.x + 37, 6),
      expect.closeTo(at.y - 21, 6),
    ]);

    ws.camera.getState().setCamera(START, 0);
    const [back, up] = [viewBack(START), viewUp(START)];
    navigator.begin('roll', 400, 300);
    navigator.drag('roll', 125, 0, 525, 300);
    expect(dot(viewBack(camera()), back)).toBeCloseTo(1, 9);
    expect(dot(viewUp(camera()), up)).toBeCloseTo(Math.cos(125 * ORBIT_GAIN), 9);
  });

  test('a drag works in the pane it began in; a point is centred in its own pane', () => {
    ws.camera.getState().setLayout(
      'beside',
      'third angle',
      [START, START].map((c) => ({ mode: { kind: 'free' }, camera: c })),
    );
    const [first, second] = ws.camera.getState().panes.map((p) => p.camera);
    navigator.begin('pan', 600, 300);
    navigator.drag('pan', 20, 0, 620, 300);
    const panes = ws.camera.getState().panes;
    expect(panes[0].camera.target).toEqual(first.target);
    expect(panes[1].camera.target).not.toEqual(second.target);
    const { x, y } = project(centredOn(ws, [12, -8, 5]), panes[1].size, [12, -8, 5]);
    expect([x, y]).toEqual([
      expect.closeTo(panes[1].size.width / 2, 6),
      expect.closeTo(panes[1].size.height / 2, 6),
    ]);
  });
});

test('zooming stops with sense, and as many steps back return, also from beyond the stop; after a rest or a pan every step counts', () => {
  let clock = 0;
  const time = jest.spyOn(performance, 'now').mockImplementation(() => clock);
  showModel(ws, [boxPart(100, 100, 100)], [['block', 0, placedAt(-50, -50, -50)]]);
  const size = Math.hypot(100, 100, 100);
  for (const [factor, limit] of [
    [1.15, size * 1e-4],
    [1 / 1.15, size * 200],
  ]) {
    ws.camera.getState().setCamera(START, 0);
    for (let i = 0; i < 150; i++) navigator.zoom(factor, 300, 200);
    const { height } = camera();
    expect(Math.abs(Math.log(height / limit))).toBeLessThan(Math.log(1.16));
    for (let i = 0; i < 150; i++) navigator.zoom(1 / factor, 300, 200);
    expect(camera().height).toBeCloseTo(START.height, 6);
    camera().target.forEach((x) => expect(x).toBeCloseTo(0, 6));
    for (let i = 0; i < 150; i++) navigator.zoom(factor, 300, 200);
    clock += 5000;
    navigator.zoom(1 / factor, 300, 200);
    expect(camera().height).toBeCloseTo(height * factor, 6);
    for (let i = 0; i < 150; i++) navigator.zoom(factor, 300, 200);
    navigator.begin('pan', 300, 200);
    navigator.zoom(1 / factor, 300, 200);
    expect(camera().height).toBeCloseTo(height * factor, 6);
  }
  time.mockRestore();
  ws.model.setState({ components: [], occurrences: [], byPath: new Map(), parts: new Map() });
});

test('a pivot that lies outside the pane or ten fields away is told of at the next orbit', () => {
  const offered = (pivot: Vec3, height: number) => {
    scene.offers.length = 0;
    ws.camera.getState().setCamera({ ...START, height }, 0);
    ws.camera.getState().setPivot(pivot);
    orbit(10, 0);
    return scene.offers;
  };
  expect(offered([0, 0, 0], 200)).toEqual([]);
  expect(offered([0, 0, 60], 20)).toEqual([expect.stringContaining('outside the pane')]);
  const deep = scale(viewBack(START), 60);
  expect(offered(deep, 5)).toEqual([expect.stringContaining('far from what is in view')]);
});

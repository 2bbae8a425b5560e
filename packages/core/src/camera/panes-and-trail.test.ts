import { distance, scale, type Vec3 } from '../math/vec3.ts';
import { lookFrom } from '../math/quaternion.ts';
import { defaultModes, linkedView, mainOfLinked, paneRects } from './pane-layout.ts';
import { DEFAULT_LENS, project, viewBack, viewRight, viewUp, type ViewCamera } from './view-camera.ts';
import { EMPTY_TRAIL, settle, step } from './view-trail.ts';

const PANE = { width: 900, height: 600 };
const base: ViewCamera = {
  projection: 'orthographic',
  target: [-4, 8, 1],
  orientation: lookFrom([1, -1, 1], [0, 0, 1]),
  height: 90,
  lens: DEFAULT_LENS,
};

test('linked panes look at the main view from its own sides and back again, with edges aligned', () => {
  for (const side of ['top', 'bottom', 'left', 'right'] as const) {
    const linked = linkedView(base, side, 1);
    const toEye = {
      top: viewUp(base),
      bottom: scale(viewUp(base), -1),
      left: scale(viewRight(base), -1),
      right: viewRight(base),
    }[side];
    expect(distance(viewBack(linked), toEye)).toBeLessThan(1e-12);
    const p: Vec3 = [11, 4, -6];
    const [a, b] = [project(base, PANE, p), project(linked, PANE, p)];
    if (side === 'top' || side === 'bottom') expect(b.x).toBeCloseTo(a.x, 9);
    else expect(b.y).toBeCloseTo(a.y, 9);
    const back = mainOfLinked(linked, side, 1);
    expect(back.orientation.every((x, k) => Math.abs(x - base.orientation[k]) < 1e-12)).toBe(true);
  }
});

test('third angle puts the top above and the right side to the right; first angle the other way (ISO 5456-2)', () => {
  const place = (arrangement: 'first angle' | 'third angle') => {
    const rects = paneRects('four', arrangement);
    const modes = defaultModes('four', arrangement);
    return modes.map((m, i) => [
      m.kind === 'linked' ? m.side : m.kind,
      Math.sign(rects[i].x - rects[0].x),
      Math.sign(rects[i].y - rects[0].y),
    ]);
  };
  expect(place('third angle')).toEqual([
    ['free', 0, 0],
    ['top', 0, -1],
    ['right', 1, 0],
    ['free', 1, -1],
  ]);
  expect(place('first angle')).toEqual([
    ['free', 0, 0],
    ['top', 0, 1],
    ['left', 1, 0],
    ['free', 1, 1],
  ]);
});

test('the trail goes back and forward; a new view drops what lay ahead, the same view adds nothing', () => {
  const views = [1, 2, 3].map((k) => ({ ...base, height: 100 * k }));
  let trail = views.reduce(settle, EMPTY_TRAIL);
  expect(settle(trail, { ...views[2] })).toBe(trail);
  trail = step(step(trail, -1)!, -1)!;
  expect(trail.views[trail.at]).toBe(views[0]);
  expect(step(trail, -1)).toBeNull();
  trail = settle(trail, { ...base, height: 7 });
  expect(trail.views.map((v) => v.height)).toEqual([100, 7]);
  expect(step(trail, 1)).toBeNull();
});

import { DEFAULT_LENS, type ViewCamera } from '../camera/view-camera.ts';
import { lookFrom } from '../math/quaternion.ts';
import { IDENTITY } from '../math/mat4.ts';
import { buildPartBvh, PickScene, type PickOptions } from './pick-scene.ts';
import { boxPart } from '../testing/box-part.ts';

const at = (x: number, y = 0, z = 0) => [...IDENTITY.slice(0, 12), x, y, z, 1];

test('pick-through lists every face on the line of sight, nearest first, also inside others', () => {
  const outer = boxPart(10, 10, 10);
  const inner = boxPart(2, 2, 2);
  const scene = new PickScene(
    [
      { part: 0, placement: IDENTITY },
      { part: 1, placement: at(4, 4, 4) },
    ],
    new Map([
      [0, outer],
      [1, inner],
    ]),
    new Map([
      [0, buildPartBvh(outer)],
      [1, buildPartBvh(inner)],
    ]),
  );
  const camera: ViewCamera = {
    projection: 'orthographic',
    target: [5, 5, 5],
    orientation: lookFrom([0, -1, 0], [0, 0, 1]),
    height: 20,
    lens: DEFAULT_LENS,
  };
  const hits = scene.through(camera, { width: 100, height: 100 }, 50, 50, { pickable: () => true });
  expect(hits.map((h) => [h.component, h.index])).toEqual([
    [0, 2],
    [1, 2],
    [1, 3],
    [0, 3],
  ]);
});

test('an edge that is not drawn does not win over its face; asked for, it is reached', () => {
  const part = boxPart(10, 10, 10);
  const camera: ViewCamera = {
    projection: 'orthographic',
    target: [5, 5, 5],
    orientation: lookFrom([0, -1, 0], [0, 0, 1]),
    height: 20,
    lens: DEFAULT_LENS,
  };
  // At the middle of the front face's upper edge, a little beneath it.
  const pick = (marks: object, options: Partial<PickOptions> = {}) => {
    const marked = { ...part, edges: part.edges.map((e) => ({ ...e, ...marks })) };
    const scene = new PickScene(
      [{ part: 0, placement: IDENTITY }],
      new Map([[0, marked]]),
      new Map([[0, buildPartBvh(marked)]]),
    );
    return scene.pick(camera, { width: 100, height: 100 }, 50, 27, { pickable: () => true, ...options })!
      .kind;
  };
  expect(pick({})).toBe('edge');
  for (const marks of [{ smooth: true }, { seam: true }]) expect(pick(marks)).toBe('face');
  expect(pick({ smooth: true }, { edges: 'smooth' })).toBe('edge');
  expect(pick({ seam: true }, { edges: 'smooth' })).toBe('face');
  expect(pick({ seam: true }, { edges: 'all', kinds: { face: false, edge: true, vertex: false } })).toBe(
    'edge',
  );
});

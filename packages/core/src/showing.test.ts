import fc from 'fast-check';
import { writeSvg } from './drawing/write-svg.ts';
import { plainCurves } from './drawing/plain-curves.ts';
import { boxOfCurves, type DrawnCurve } from './drawing/drawing.ts';
import { project, tileOf, DEFAULT_LENS, type ViewCamera } from './camera/view-camera.ts';
import { lookFrom } from './math/quaternion.ts';
import { IDENTITY } from './math/mat4.ts';
import { buildPartBvh, PickScene } from './picking/pick-scene.ts';
import { coaxialFaces, facesOfSameRadius, tangentFaces } from './picking/similar-faces.ts';
import {
  axisThroughPoints,
  checkEnvelope,
  gridStep,
  offsetPlane,
  planeDistance,
  planeThroughPoints,
  readReferenceGeometry,
} from './references/reference-geometry.ts';
import { presetOfStyle, readStyle, STYLE_PRESETS } from './style/view-style.ts';
import { boxPart } from './testing/box-part.ts';
import { cylinderPart } from './testing/round-parts.ts';
import {
  changeStates,
  invert,
  isolate,
  sameStates,
  showAll,
  stateOf,
  visibilityOf,
  type ComponentStates,
} from './visibility/component-states.ts';
import { neighboursWithin } from './visibility/neighbours.ts';

const at = (x: number, y = 0, z = 0) => [...IDENTITY.slice(0, 12), x, y, z, 1];

describe('visibility as sets', () => {
  const all = ['a', 'b', 'c', 'd'];
  const anyTable = fc
    .record(Object.fromEntries(all.map((p) => [p, fc.record({ visible: fc.boolean(), ghosted: fc.boolean(), keptWhole: fc.boolean() })])))
    .map((t) => changeStates(t as ComponentStates, [], {}));
  const shown = (t: ComponentStates) => all.filter((p) => stateOf(t, p).visible);

  test('isolate leaves exactly the kept, invert twice changes nothing, show all shows all', () => {
    fc.assert(
      fc.property(anyTable, fc.subarray(all), (table, kept) => {
        expect(shown(isolate(table, all, kept))).toEqual(kept);
        expect(shown(invert(table, all))).toEqual(all.filter((p) => !shown(table).includes(p)));
        expect(shown(invert(invert(table, all), all))).toEqual(shown(table));
        expect(visibilityOf(showAll(table, all), all)).toBe('all');
      }),
    );
  });

  test('a change and its old table are undo and redo; a colour of undefined is the file’s again', () => {
    const painted = changeStates({}, ['a'], { colour: [1, 0, 0], transparency: 0.5 });
    expect(stateOf(painted, 'a')).toMatchObject({ colour: [1, 0, 0], transparency: 0.5, visible: true });
    expect(sameStates(changeStates(painted, ['a'], { colour: undefined, transparency: undefined }), {})).toBe(true);
    expect(sameStates(painted, changeStates({}, ['a'], { colour: [1, 0, 0], transparency: 0.5 }))).toBe(true);
  });

  test('neighbours by the meshes, not by the boxes', () => {
    const part = boxPart(10, 10, 10);
    const bvh = buildPartBvh(part);
    const round = cylinderPart(5, 10);
    const meshes = [
      { placement: at(0), box: part.box, bvh },
      { placement: at(10.5), box: part.box, bvh },
      { placement: at(40), box: part.box, bvh },
      { placement: at(14, 14), box: round.box, bvh: buildPartBvh(round) },
    ];
    expect(neighboursWithin(meshes.slice(0, 3), [0], 1)).toEqual([0, 1]);
    // The cylinder's box touches the corner of the first box; its wall is √2·4 − 5 = 0.657 mm away.
    expect(neighboursWithin(meshes, [0], 0.4)).toEqual([0]);
    expect(neighboursWithin([meshes[0], meshes[3]], [0], 0.7)).toEqual([0, 1]);
    expect(neighboursWithin([meshes[0], meshes[3]], [0], 0.6)).toEqual([0]);
  });
});

test('styles are read back as written; nonsense becomes Work; presets are told apart', () => {
  for (const p of STYLE_PRESETS) expect(presetOfStyle(readStyle(JSON.parse(JSON.stringify(p.style))))?.id).toBe(p.id);
  expect(presetOfStyle(readStyle({ surface: 'gold', edgeWeight: 99, outlines: 'yes' }))?.id).toBe('work');
});

describe('reference geometry', () => {
  test('planes and axes through points; points on a line are refused with a sentence', () => {
    const plane = planeThroughPoints([0, 0, 5], [10, 0, 5], [0, 10, 5]);
    expect(plane.normal).toEqual([0, 0, 1]);
    expect(planeDistance(offsetPlane(plane, 2), [3, 3, 10])).toBeCloseTo(3, 12);
    expect(() => planeThroughPoints([0, 0, 0], [1, 1, 1], [2, 2, 2])).toThrow(/one line/);
    expect(() => axisThroughPoints([1, 2, 3], [1, 2, 3])).toThrow(/the same/);
    expect(
      readReferenceGeometry({
        planes: [
          { id: 'x', name: 'P', origin: [0, 0, 0], normal: [0, 0, 2] },
          { id: 'y', origin: 'no' },
        ],
        shown: ['x'],
      }),
    ).toMatchObject({ planes: [{ name: 'P', normal: [0, 0, 1] }], envelope: null });
  });

  test('an envelope: as placed, and in the best of the axis-aligned turns', () => {
    const model = { min: [0, 0, 0] as const, max: [100, 20, 30] as const };
    expect(checkEnvelope(model, { size: [101, 21, 31], at: null })).toMatchObject({ fitsAsPlaced: true });
    const turned = checkEnvelope(model, { size: [25, 110, 35], at: null });
    expect(turned).toMatchObject({
      fitsAsPlaced: false,
      asPlaced: [-75, 90, 5],
      best: { sides: [1, 0, 2], fits: true, spare: [10, 5, 5] },
    });
    expect(checkEnvelope(model, { size: [90, 90, 90], at: null }).best.fits).toBe(false);
    expect(checkEnvelope(model, { size: [200, 200, 200], at: [10, 0, 0] })).toMatchObject({ fitsAsPlaced: false, asPlaced: [-10, 0, 0] });
  });

  test('the grid has round steps', () => {
    expect([1000, 170, 12, 0.3].map(gridStep)).toEqual([20, 5, 0.5, expect.closeTo(0.01, 9)]);
  });
});

test('faces like the picked one: radius, tangent, coaxial', () => {
  const part = cylinderPart(5, 20);
  expect(facesOfSameRadius(part, 0)).toEqual([0]);
  expect(facesOfSameRadius(part, 1)).toEqual([]);
  expect(coaxialFaces(part, 0)).toEqual([0]);
  expect(tangentFaces(boxPart(1, 1, 1), 0)).toEqual([0]);
});

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

describe('pictures and drawings', () => {
  test('tiles of a picture see what the whole picture sees there, in both projections', () => {
    const whole = { width: 4000, height: 3000 };
    const tile = { x: 2048, y: 1024, width: 1000, height: 700 };
    for (const projection of ['orthographic', 'perspective'] as const) {
      const camera: ViewCamera = { projection, target: [1, 2, 3], orientation: lookFrom([1, -2, 1], [0, 0, 1]), height: 60, lens: 0.7 };
      const part = tileOf(camera, whole, tile);
      for (const p of [
        [4, 5, 6],
        [-9, 3, 1],
      ] as const) {
        const inWhole = project(camera, whole, p);
        const inTile = project(part, tile, p);
        const [ox, oy] = part.offset ?? [0, 0];
        expect(inTile.x - ox * tile.width).toBeCloseTo(inWhole.x - tile.x, 6);
        expect(inTile.y + oy * tile.height).toBeCloseTo(inWhole.y - tile.y, 6);
      }
    }
  });

  test('a drawing is written true to scale, circles as circles, with the line kinds of ISO 128', () => {
    const curves: DrawnCurve[] = [
      { kind: 'visible', shape: 'line', from: [0, 0], to: [40, 0] },
      { kind: 'visible', shape: 'arc', centre: [20, 10], radius: 10, from: 0, to: 2 * Math.PI },
      { kind: 'hidden', shape: 'arc', centre: [0, 0], radius: 5, from: 0, to: Math.PI / 2 },
      {
        kind: 'hidden',
        shape: 'polyline',
        points: [
          [0, 0],
          [1, 2],
          [3, 3],
        ],
      },
    ];
    const drawing = { curves, tolerance: 0.01, box: boxOfCurves(curves) };
    expect(drawing.box).toEqual({ minX: 0, minY: 0, maxX: 40, maxY: 20 });
    const svg = writeSvg(drawing, { scale: 0.5, title: 'A & B' });
    // 40 × 20 mm at 1:2 and 5 mm around.
    expect(svg).toContain('width="30mm" height="20mm"');
    expect(svg).toContain('<title>A &amp; B</title>');
    expect(svg).toContain('<circle cx="15" cy="10" r="5"/>');
    expect(svg).toMatch(/id="HIDDEN" stroke-width="0.25" stroke-dasharray="3 0.75"/);
    expect(plainCurves(drawing)).toMatchObject({
      circles: [{ radius: 10 }],
      arcs: [{ fromDegrees: 0, toDegrees: 90 }],
      lines: [{ to: [40, 0] }],
      polylines: [{ points: { length: 3 } }],
    });
  });
});

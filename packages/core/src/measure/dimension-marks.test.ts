import type { ViewCamera } from '../camera/view-camera.ts';
import type { Vec3 } from '../math/vec3.ts';
import { dimensionMarks } from './dimension-marks.ts';
import type { DrawnDimension } from './flatten-dimension.ts';
import { placeLabels } from './place-labels.ts';

/** Looks down Z at 1 px a millimetre: model (x, y) is at (200 + x, 150 − y). */
const camera: ViewCamera = {
  projection: 'orthographic',
  target: [0, 0, 0],
  orientation: [0, 0, 0, 1],
  height: 300,
  lens: 0.5,
};
const size = { width: 400, height: 300 };
const drawn = (
  kind: 'dimension' | 'least' | 'place' | 'pointed',
  ends: [Vec3, Vec3],
  text = '100.000 mm',
  key: string = kind,
): DrawnDimension => ({
  key,
  kind,
  ends,
  text,
});

test('a dimension is seen beside its ends, away from the middle of the model, and grows with the picture', () => {
  const ends: [Vec3, Vec3] = [
    [-50, 40, 0],
    [50, 40, 9],
  ];
  for (const scale of [1, 2]) {
    const [marks] = dimensionMarks([drawn('dimension', ends)], camera, size, [0, 0, 0], scale);
    // Upwards on the screen, for the model lies below.
    expect(marks.lines[2]).toEqual(
      [
        [150, 110 - 34 * scale],
        [250, 110 - 34 * scale],
      ].map((p) => p.map((x) => expect.closeTo(x, 6))),
    );
    expect(marks.label).toMatchObject({
      x: expect.closeTo(200, 6),
      y: expect.closeTo(110 - 34 * scale, 6),
      height: 16 * scale,
    });
    expect(marks.arrows).toHaveLength(2);
  }
});

test('the line of a least distance, a marked place, a pointer with its arrowhead', () => {
  const at: Vec3 = [10, 20, 0];
  const [least, place, pointed] = dimensionMarks(
    [
      drawn(
        'least',
        [
          [0, 0, 0],
          [30, 0, 0],
        ],
        '',
      ),
      drawn('place', [at, at], 'deep'),
      drawn('pointed', [at, at], 'Ø 6'),
    ],
    camera,
    size,
    [0, 0, 0],
  );
  expect(least).toMatchObject({
    lines: [
      [
        [200, 150],
        [230, 150],
      ],
    ],
    dots: [
      [200, 150],
      [230, 150],
    ],
    label: null,
    arrows: [],
  });
  expect(place).toMatchObject({ dots: [[210, 130]], label: { text: 'deep' } });
  expect(pointed.lines[0][0]).toEqual([210, 130]);
  expect(pointed.arrows[0][0]).toEqual([210, 130]);
});

test('what lies behind the eye is not drawn', () => {
  const near: ViewCamera = { ...camera, projection: 'perspective' };
  expect(
    dimensionMarks(
      [
        drawn('dimension', [
          [0, 0, 0],
          [0, 0, 5000],
        ]),
      ],
      near,
      size,
      [0, 0, 0],
    ),
  ).toEqual([]);
});

test('texts never lie on each other, however many there are: the first stays, others go aside, what finds no place is not there', () => {
  const apart = (labels: readonly { x: number; y: number }[]) => {
    for (let i = 0; i < labels.length; i++)
      for (let j = i + 1; j < labels.length; j++)
        expect(Math.abs(labels[i].x - labels[j].x) >= 70 || Math.abs(labels[i].y - labels[j].y) >= 16).toBe(
          true,
        );
  };
  const crowd = (count: number) =>
    placeLabels(Array.from({ length: count }, (_, i) => ({ x: 100 + i / 9, y: 80, width: 70, height: 16 })));
  const few = crowd(40);
  expect(few[0]).toEqual({ x: 100, y: 80 });
  expect(few).not.toContain(null);
  apart(few.map((at) => at!));
  const many = crowd(500);
  expect(many).toContain(null);
  apart(many.flatMap((at) => at ?? []));
  const far = [
    { x: 0, y: 0, width: 10, height: 10 },
    { x: 50, y: 0, width: 10, height: 10 },
    // Without a text it is where it is, and in nobody's way.
    { x: 50, y: 0, width: 0, height: 0 },
  ];
  expect(placeLabels(far)).toEqual(far.map(({ x, y }) => ({ x, y })));
});

import { withDimensions } from './drawing-dimensions.ts';
import { writeSvg } from './write-svg.ts';
import { plainCurves } from './plain-curves.ts';
import { boxOfCurves, type Drawing, type DrawnCurve } from './drawing.ts';
describe('pictures and drawings', () => {
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

test('dimensions lie on a group of their own, as large on paper as they should be whatever the scale', () => {
  const drawing: Drawing = {
    curves: [{ kind: 'visible', shape: 'line', from: [0, 0], to: [100, 0] }],
    tolerance: 0,
    box: { minX: 0, minY: -40, maxX: 100, maxY: 0 },
  };
  for (const scale of [1, 0.2]) {
    const measured = withDimensions(
      drawing,
      [
        {
          key: 'a',
          kind: 'dimension',
          ends: [
            [0, 0, 7],
            [100, 0, -7],
          ],
          text: '100.000 <mm>',
        },
        {
          key: 'b',
          kind: 'pointed',
          ends: [
            [50, -20, 0],
            [50, -20, 0],
          ],
          text: 'Ø 6.600 H7',
        },
      ],
      [0, 0, 0, 1],
      scale,
    );
    const [dimension, pointer] = measured.dimensions!;
    // Above the line: the model lies below it. 8 mm and 3.5 mm of paper.
    expect(dimension.lines[2].map((p) => [p[0], p[1] * scale])).toEqual([
      [0, expect.closeTo(8, 9)],
      [100, expect.closeTo(8, 9)],
    ]);
    expect(dimension.text.height * scale).toBeCloseTo(3.5, 12);
    expect(pointer.lines[0][0]).toEqual([50, -20]);
    expect(measured.box.maxY).toBeGreaterThan(8 / scale);
    const svg = writeSvg(measured, { scale, title: 'x' });
    expect(svg).toMatch(/<g id="DIMENSIONS"[\s\S]*100\.000 &lt;mm&gt;[\s\S]*Ø 6\.600 H7[\s\S]*<\/g>/);
  }
  expect(withDimensions(drawing, [], [0, 0, 0, 1], 1)).toBe(drawing);
});

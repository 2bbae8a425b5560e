import { writeSvg } from './write-svg.ts';
import { plainCurves } from './plain-curves.ts';
import { boxOfCurves, type DrawnCurve } from './drawing.ts';
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

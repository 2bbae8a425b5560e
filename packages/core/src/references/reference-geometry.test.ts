import {
  axisThroughPoints,
  checkEnvelope,
  gridStep,
  offsetPlane,
  planeDistance,
  planeThroughPoints,
  readReferenceGeometry,
} from './reference-geometry.ts';
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
    expect(checkEnvelope(model, { size: [200, 200, 200], at: [10, 0, 0] })).toMatchObject({
      fitsAsPlaced: false,
      asPlaced: [-10, 0, 0],
    });
  });

  test('the grid has round steps', () => {
    expect([1000, 170, 12, 0.3].map(gridStep)).toEqual([20, 5, 0.5, expect.closeTo(0.01, 9)]);
  });
});

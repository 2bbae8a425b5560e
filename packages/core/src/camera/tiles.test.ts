import { project, tileOf, type ViewCamera } from './view-camera.ts';
import { lookFrom } from '../math/quaternion.ts';

describe('pictures and drawings', () => {
  test('tiles of a picture see what the whole picture sees there, in both projections', () => {
    const whole = { width: 4000, height: 3000 };
    const tile = { x: 2048, y: 1024, width: 1000, height: 700 };
    for (const projection of ['orthographic', 'perspective'] as const) {
      const camera: ViewCamera = {
        projection,
        target: [1, 2, 3],
        orientation: lookFrom([1, -2, 1], [0, 0, 1]),
        height: 60,
        lens: 0.7,
      };
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
});

import { directionOfPick, normalAt } from './direction-of-pick.ts';
import { type Mat4 } from '../math/mat4.ts';
import { rotate, rotationAbout } from '../math/quaternion.ts';
import { normalize, type Vec3 } from '../math/vec3.ts';
import { boxPart } from '../testing/box-part.ts';

const placed = (m: Vec3, turn: Vec3 = [1, 0, 0]): Mat4 => {
  const q = rotationAbout(normalize(turn), 0.7);
  const [x, y, z] = (
    [
      [1, 0, 0],
      [0, 1, 0],
      [0, 0, 1],
    ] as Vec3[]
  ).map((a) => rotate(q, a));
  return [...x, 0, ...y, 0, ...z, 0, ...m, 1];
};

describe('picking', () => {
  const part = boxPart(10, 10, 10);
  test('directions of picked things: outward normal, along an edge, none for a vertex', () => {
    const base = { geometry: part, placement: placed([0, 0, 0], [0, 0, 1]) };
    const up = directionOfPick({ ...base, kind: 'face', index: 5, point: [1, 1, 10] })!;
    expect(up).toMatchObject({ kind: 'normal', origin: [1, 1, 10] });
    expect(up.direction[2]).toBeCloseTo(1, 9);
    expect(directionOfPick({ ...base, kind: 'edge', index: 8 })).toMatchObject({ kind: 'along' });
    expect(directionOfPick({ ...base, kind: 'vertex', index: 0 })).toBeNull();
    expect(normalAt({ ...base, kind: 'face', index: 5, point: [1, 1, 10] })!.direction[2]).toBeCloseTo(1, 6);
  });
});

import { placed } from '../testing/placed.ts';
import { directionOfPick, normalAt } from './direction-of-pick.ts';
import { boxPart } from '../testing/box-part.ts';

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

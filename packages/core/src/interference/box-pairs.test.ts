import fc from 'fast-check';
import { EMPTY_BOX, type Box3 } from '../math/box3.ts';
import { boxPairs } from './box-pairs.ts';

const anyBox: fc.Arbitrary<Box3> = fc
  .tuple(
    fc.array(fc.integer({ min: -9, max: 9 }), { minLength: 3, maxLength: 3 }),
    fc.array(fc.integer({ min: 0, max: 5 }), { minLength: 3, maxLength: 3 }),
  )
  .map(([min, size]) => ({
    min: min as unknown as Box3['min'],
    max: min.map((x, k) => x + size[k]) as unknown as Box3['max'],
  }));

test('the sweep finds just the pairs that all pairs tried one by one would, touching ones too; empty boxes meet nothing', () => {
  fc.assert(
    fc.property(
      fc.array(fc.oneof({ weight: 9, arbitrary: anyBox }, fc.constant(EMPTY_BOX)), { maxLength: 25 }),
      fc.integer({ min: 0, max: 3 }),
      (boxes, reach) => {
        const wanted: [number, number][] = [];
        for (let i = 0; i < boxes.length; i++)
          for (let j = i + 1; j < boxes.length; j++) {
            const [a, b] = [boxes[i], boxes[j]];
            if (a === EMPTY_BOX || b === EMPTY_BOX) continue;
            if ([0, 1, 2].every((k) => a.min[k] - b.max[k] <= reach && b.min[k] - a.max[k] <= reach))
              wanted.push([i, j]);
          }
        expect(boxPairs(boxes, reach)).toEqual(wanted);
      },
    ),
  );
});

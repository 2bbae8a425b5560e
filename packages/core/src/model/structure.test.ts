import { placed } from '../testing/placed.ts';
import { invertAffine, multiply, transformPoint, IDENTITY } from '../math/mat4.ts';
import { distance } from '../math/vec3.ts';
import { componentsOf, migratePath, listOccurrences, type ModelStructure } from './structure.ts';
import { migrateViewState } from '../view-state/view-state.ts';

describe('identity', () => {
  const structure: ModelStructure = {
    parts: [
      { name: 'Bolt', geometry: 'a' },
      { name: 'Plate/half~1', geometry: 'b', colour: [1, 0, 0] },
    ],
    root: {
      name: 'Rig',
      placement: IDENTITY,
      children: [
        { name: 'Bolt', part: 0, placement: IDENTITY },
        { name: 'Bolt', part: 0, placement: placed([1, 2, 3]) },
        {
          name: 'Sub',
          placement: placed([0, 0, 5]),
          colour: [0, 1, 0],
          children: [
            { name: 'Plate/half~1', part: 1, placement: IDENTITY },
            { name: 'Bolt', part: 0, placement: [-1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1] },
          ],
        },
      ],
    },
  };

  test('a file by another name has the same paths, and what was kept by the paths of before is found', () => {
    const paths = (name: string) =>
      listOccurrences({ ...structure, root: { ...structure.root, name } }).map((o) => o.path);
    expect(paths('Rig, checked')).toEqual(paths('Rig'));
    const hidden = { visible: false, ghosted: false, keptWhole: false };
    expect(
      migrateViewState({ version: 2, visibility: { 'Rig/Sub/Bolt': hidden, Rig: hidden } }).visibility,
    ).toEqual({
      './Sub/Bolt': hidden,
      '.': hidden,
    });
    expect(paths('Rig')).toEqual(paths('Rig').map(migratePath));
  });

  test('components are known by paths of names with ordinals; nested placements multiply; mirrored ones are flagged', () => {
    const all = listOccurrences(structure);
    expect(componentsOf(all).map((o) => o.path)).toEqual([
      './Bolt',
      './Bolt~2',
      './Sub/Plate%2Fhalf%7E1',
      './Sub/Bolt',
    ]);
    const last = all.at(-1)!;
    expect(last.mirrored).toBe(true);
    expect(last.colour).toEqual([0, 1, 0]);
    expect(
      distance(transformPoint(last.placement, [1, 1, 1]), transformPoint(placed([0, 0, 5]), [-1, 1, 1])),
    ).toBeLessThan(1e-12);
    const back = multiply(last.placement, invertAffine(last.placement));
    back.forEach((x, i) => expect(x).toBeCloseTo(IDENTITY[i], 12));
  });
});

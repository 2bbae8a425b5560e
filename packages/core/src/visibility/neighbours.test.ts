import fc from 'fast-check';
import { IDENTITY } from '../math/mat4.ts';
import { buildPartBvh } from '../picking/pick-scene.ts';
import { boxPart } from '../testing/box-part.ts';
import { cylinderPart } from '../testing/round-parts.ts';
import {
  changeStates,
  invert,
  isolate,
  sameStates,
  showAll,
  stateOf,
  visibilityOf,
  type ComponentStates,
} from './component-states.ts';
import { neighboursWithin } from './neighbours.ts';

const at = (x: number, y = 0, z = 0) => [...IDENTITY.slice(0, 12), x, y, z, 1];

describe('visibility as sets', () => {
  const all = ['a', 'b', 'c', 'd'];
  const anyTable = fc
    .record(
      Object.fromEntries(
        all.map((p) => [
          p,
          fc.record({ visible: fc.boolean(), ghosted: fc.boolean(), keptWhole: fc.boolean() }),
        ]),
      ),
    )
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
    expect(sameStates(changeStates(painted, ['a'], { colour: undefined, transparency: undefined }), {})).toBe(
      true,
    );
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

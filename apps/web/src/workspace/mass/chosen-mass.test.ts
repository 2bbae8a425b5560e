import { componentMaterial, partMaterial, typedMass } from '@bathyscope/contracts/records';
import { boxPart } from '../../../../../packages/core/src/testing/box-part.ts';
import { placedAt, showModel } from '../../testing/test-model.ts';
import { openedBlocks } from '../../testing/opened-models.ts';
import { setVisible } from '../../commands/show/visibility-commands.ts';
import { shownName } from '../shown/components.ts';
import { removeMaterial, saveMaterial } from '../keeping/library.ts';
import { kept } from '../keeping/records.ts';
import { visiblePaths } from '../shown/shown.ts';
import { massesByMaterial, partMasses, pathsOf, setMassOf } from './chosen-mass.ts';
import { giveMaterial, giveToComponents, materialOf, typedMassOf, typeMass } from './given-materials.ts';

test('what has no material is counted; given one, it is weighed, follows what is shown, and is taken back by undo', () => {
  const ws = openedBlocks();
  const all = () => setMassOf(ws, pathsOf(ws, 'all'));
  expect(all()).toMatchObject({ known: null, noDensity: 2, noVolume: 1 });
  giveMaterial(ws, [0], '6082');
  expect(materialOf(ws, 0)).toEqual({ name: 'Aluminium 6082', density: 2700, of: 'part', id: '6082' });
  // 6,000 mm³ each.
  expect(all().known!.mass).toBeCloseTo(2 * 6000 * 2700e-9, 12);
  expect(all().known!.centreOfGravity[0]).toBeCloseTo(55, 9);
  expect(
    partMasses(ws, pathsOf(ws, 'all')).map(({ count, total, open }) => [
      count,
      total && total.toFixed(4),
      open !== null,
    ]),
  ).toEqual([
    [1, null, true],
    [2, '0.0324', false],
  ]);
  setVisible(ws, ['a/two'], false);
  expect(setMassOf(ws, pathsOf(ws, 'shown')).known!.mass).toBeCloseTo(6000 * 2700e-9, 12);
  ws.selection.getState().pick([{ kind: 'face', component: 'a/two', index: 0 }]);
  expect(pathsOf(ws, 'picked')).toEqual(['a/two']);
  ws.history.getState().undo();
  expect(materialOf(ws, 0)).toBeNull();
  giveMaterial(ws, [0, 1], 'steel');
  giveMaterial(ws, [0], null);
  expect(kept(ws, partMaterial).map(({ material }) => material)).toEqual(['steel']);
});

test('one component may be of another material, a part may have a typed mass, and what is left may be assumed, and is said to be', () => {
  const ws = openedBlocks();
  const all = () => setMassOf(ws, pathsOf(ws, 'all'));
  giveMaterial(ws, [0], '6082');
  giveToComponents(ws, ['a/two'], 'steel');
  expect(all().known!.mass).toBeCloseTo(6000 * (2700 + 7850) * 1e-9, 12);
  expect(partMasses(ws, pathsOf(ws, 'all')).map((p) => [p.name, p.count, p.material?.of])).toHaveLength(3);
  expect(massesByMaterial(partMasses(ws, pathsOf(ws, 'all'))).map((m) => m.name)).toEqual([
    'Steel, unalloyed',
    'Aluminium 6082',
  ]);
  typeMass(ws, 1, { kg: 0.35, at: [0, 0, 10] });
  expect(all()).toMatchObject({ noVolume: 0, typed: { count: 1, asPoints: 1 } });
  ws.history.getState().undo();
  ws.history.getState().undo();
  ws.history.getState().undo();
  expect(all()).toMatchObject({ noDensity: 2, noVolume: 1 });
  ws.mass.setState({ assumed: 1000 });
  expect(all()).toMatchObject({
    noDensity: 0,
    noVolume: 1,
    assumed: { count: 2, mass: expect.closeTo(0.012, 12) as number },
  });
  // What is given to the part goes for all of it again.
  ws.mass.setState({ assumed: null });
  giveToComponents(ws, ['a/two'], 'steel');
  giveMaterial(ws, [0], '6082');
  expect(all().known!.mass).toBeCloseTo(2 * 6000 * 2700e-9, 12);
});

test('materials of one’s own are given like those of the library; taken out they are missing, and come back by undo', async () => {
  const ws = openedBlocks();
  const foam = {
    id: 'own-1',
    name: 'Foam TF-600',
    family: 'Foam' as const,
    density: 612,
    spread: 12,
    source: 'weighed',
  };
  await saveMaterial(ws, foam);
  giveMaterial(ws, [0], 'own-1');
  const all = () => setMassOf(ws, pathsOf(ws, 'all'));
  expect(all().known!.mass).toBeCloseTo(2 * 6000 * 612e-9, 12);
  await removeMaterial(ws, foam);
  expect(all()).toMatchObject({ noDensity: 2 });
  ws.history.getState().undo();
  await new Promise((done) => setTimeout(done));
  expect(all().known!.mass).toBeCloseTo(2 * 6000 * 612e-9, 12);
  await expect(saveMaterial(ws, { ...foam, id: 'own-2', name: 'aluminium 6082' })).rejects.toThrow(
    'comes with the program',
  );
});

test.each(['constructor', 'prototype', '__proto__', 'toString', 'hasOwnProperty'])(
  'a part and a component called “%s” are as any others',
  (name) => {
    const ws = openedBlocks();
    showModel(ws, [boxPart(10, 20, 30), boxPart(1, 1, 1)], [[name, 0, placedAt(0, 0, 0)], ['other', 1, placedAt(90, 0, 0)]]); // prettier-ignore
    // Also components right below nothing, whose path is their name.
    const { components } = ws.model.getState();
    const [named, other] = components.map((c) => ({ ...c, path: c.name }));
    ws.model.setState({
      partKeys: [name, 'other'],
      components: [named, other],
      byPath: new Map([named, other].map((c) => [c.path, c])),
    });
    expect(materialOf(ws, 0, name)).toBeNull();
    expect(typedMassOf(ws, 0)).toBeNull();
    expect(setMassOf(ws, [name])).toMatchObject({ known: null, noDensity: 1 });
    expect(shownName(ws, name)).toBe(name);
    giveMaterial(ws, [0], '6082');
    giveToComponents(ws, [name], 'steel');
    typeMass(ws, 0, { kg: 2, at: null });
    setVisible(ws, [name], false);
    expect([materialOf(ws, 0, name)?.id, materialOf(ws, 0)?.id, materialOf(ws, 1)]).toEqual([
      'steel',
      '6082',
      null,
    ]);
    expect(setMassOf(ws, [name]).known!.mass).toBeCloseTo(2, 12);
    expect(visiblePaths(ws)).toEqual(['other']);
    expect([
      kept(ws, partMaterial)[0].part,
      kept(ws, componentMaterial)[0].component,
      kept(ws, typedMass)[0].part,
    ]).toEqual([name, name, name]);
    setVisible(ws, [name], true);
    for (let i = 0; i < 3; i++) ws.history.getState().undo();
    expect([materialOf(ws, 0, name), typedMassOf(ws, 0), visiblePaths(ws)]).toEqual([
      null,
      null,
      [name, 'other'],
    ]);
  },
);

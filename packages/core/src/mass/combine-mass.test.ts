import { placed } from '../testing/placed.ts';
import { combineMass, placeMass } from './combine-mass.ts';
import { meshMass } from './mesh-mass.ts';
import { symmetricEigen } from '../math/eigen.ts';
import { IDENTITY } from '../math/mat4.ts';
import { boxPart } from '../testing/box-part.ts';

describe('mass', () => {
  test('the inertia of two boxes set together is that of the whole (Steiner; Dubbel, section B)', () => {
    const half = boxPart(10, 20, 30).mass!;
    const whole = boxPart(20, 20, 30).mass!;
    const both = combineMass([half, placeMass(half, [...IDENTITY.slice(0, 12), 10, 0, 0, 1])])!;
    expect(both.volume).toBeCloseTo(whole.volume, 9);
    for (let i = 0; i < 3; i++)
      for (let j = 0; j < 3; j++) expect(both.inertia[i][j]).toBeCloseTo(whole.inertia[i][j], 4);
  });

  test('the mesh figures of a box are the closed form, wherever it is placed', () => {
    const part = boxPart(3, 4, 5);
    const found = meshMass(part.mesh.positions, part.mesh.indices, 0)!;
    expect(found.volume).toBeCloseTo(60, 9);
    for (let k = 0; k < 3; k++) expect(found.inertia[k][k]).toBeCloseTo(part.mass!.inertia[k][k], 6);
    const turnedMoments = symmetricEigen(
      placeMass(part.mass!, placed([5, 6, 7], [1, 2, 3])).inertia.map((r) => [...r]),
    ).values;
    const moments = [0, 1, 2].map((k) => part.mass!.inertia[k][k]).sort((a, b) => a - b);
    turnedMoments.forEach((m, k) => expect(m).toBeCloseTo(moments[k], 6));
  });
});

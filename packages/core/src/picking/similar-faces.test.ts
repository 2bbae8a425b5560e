import { coaxialFaces, facesOfSameRadius, tangentFaces } from './similar-faces.ts';
import { boxPart } from '../testing/box-part.ts';
import { cylinderPart } from '../testing/round-parts.ts';

test('faces like the picked one: radius, tangent, coaxial', () => {
  const part = cylinderPart(5, 20);
  expect(facesOfSameRadius(part, 0)).toEqual([0]);
  expect(facesOfSameRadius(part, 1)).toEqual([]);
  expect(coaxialFaces(part, 0)).toEqual([0]);
  expect(tangentFaces(boxPart(1, 1, 1), 0)).toEqual([0]);
});

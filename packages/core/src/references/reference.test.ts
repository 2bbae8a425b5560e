import type { PartGeometry } from '../geometry/part-geometry.ts';
import { boxPart } from '../testing/box-part.ts';
import {
  fingerprintOf,
  findAgain,
  readReference,
  resolveReference,
  type IndexedReference,
  type Reference,
  type ReferenceScope,
} from './reference.ts';

/** A model of components by path, each with its part's key. */
const scopeOf = (components: Record<string, [part: string, geometry: PartGeometry]>): ReferenceScope => ({
  component: (path) => {
    const found = components[path];
    return found && { part: found[0], geometry: found[1] };
  },
  ofPart: (part) => Object.keys(components).filter((path) => components[path][0] === part),
});

const plate = boxPart(10, 20, 30);
const top: IndexedReference = {
  kind: 'face',
  component: './Plate',
  part: 'Plate',
  index: 5,
  fingerprint: fingerprintOf('face', 5, plate),
};

test('a face is found where it was, probably found when its part changed or was moved in the structure, else lost', () => {
  expect(resolveReference(top, scopeOf({ './Plate': ['Plate', plate] }))).toEqual({
    status: 'found',
    component: './Plate',
    index: 5,
  });
  expect(resolveReference(top, scopeOf({ './Plate': ['Plate', boxPart(10, 21, 30)] }))).toEqual({
    status: 'probably found',
    component: './Plate',
    index: 5,
  });
  expect(resolveReference(top, scopeOf({ './Frame/Plate': ['Plate', plate] }))).toEqual({
    status: 'probably found',
    component: './Frame/Plate',
    index: 5,
  });
  // Another part under the old name.
  expect(resolveReference(top, scopeOf({ './Plate': ['Lid', plate] })).status).toBe('probably found');
  // Of two that it may be, neither is taken.
  expect(resolveReference(top, scopeOf({ './A': ['Plate', plate], './B': ['Plate', plate] }))).toEqual({
    status: 'lost',
  });
  expect(resolveReference(top, scopeOf({ './Plate': ['Plate', boxPart(100, 200, 3)] }))).toEqual({
    status: 'lost',
  });
});

test('bodies, edges and vertices are found by what they are, whatever their number', () => {
  for (const kind of ['edge', 'vertex'] as const)
    for (const index of [0, 3, 7]) {
      const print = fingerprintOf(kind, index, plate);
      expect(findAgain(kind, (index + 1) % 8, print, plate)).toEqual({ status: 'found', index });
    }
  const body = fingerprintOf('body', 0, plate);
  expect(body).toMatchObject({
    shape: 'body',
    size: 2 * (10 * 20 + 20 * 30 + 30 * 10),
    position: [5, 10, 15],
  });
  expect(findAgain('body', 0, body, boxPart(10, 20, 31)).status).toBe('probably found');
});

test('what was kept before there were fingerprints is believed by its number; what no version wrote is none', () => {
  const old = readReference({ kind: 'face', component: './Plate', index: 2, point: [1, 2, 3] })!;
  expect(resolveReference(old, scopeOf({ './Plate': ['Plate', plate] }))).toEqual({
    status: 'found',
    component: './Plate',
    index: 2,
  });
  expect(
    resolveReference({ ...old, index: 60 } as IndexedReference, scopeOf({ './Plate': ['Plate', plate] })),
  ).toEqual({ status: 'lost' });
  expect(readReference(JSON.parse(JSON.stringify(top)))).toEqual(top);
  for (const bad of [
    null,
    'face',
    { kind: 'face' },
    { kind: 'face', component: '.', index: -1 },
    { kind: 'cap', component: '.', index: 0 },
  ])
    expect(readReference(bad)).toBeNull();
});

test('points and reference geometry are read back as they were kept; what no version wrote is refused', () => {
  const edge: IndexedReference = {
    kind: 'edge',
    component: './Plate',
    part: 'Plate',
    index: 3,
    fingerprint: fingerprintOf('edge', 3, plate),
  };
  const { kind: _, ...of } = edge;
  const point: Reference = {
    kind: 'point',
    snap: { kind: 'intersection', on: 'edge' },
    ...of,
    position: [1, 2, 3],
    with: edge,
  };
  expect(readReference(JSON.parse(JSON.stringify(point)))).toEqual(point);
  expect(resolveReference(point, scopeOf({ './Plate': ['Plate', plate] }))).toEqual({
    status: 'found',
    component: './Plate',
    index: 3,
  });
  // The other edge belongs to what is gone.
  const other: IndexedReference = { ...edge, component: './Lid', part: 'Lid' };
  expect(resolveReference({ ...point, with: other }, scopeOf({ './Plate': ['Plate', plate] }))).toEqual({
    status: 'lost',
  });
  const origin: Reference = { kind: 'datum', component: '', datum: 'origin' };
  expect(readReference(JSON.parse(JSON.stringify(origin)))).toEqual(origin);
  expect(resolveReference(origin, scopeOf({}))).toEqual({ status: 'lost' });
  expect(resolveReference(origin, { ...scopeOf({}), datum: (id) => id === 'origin' }).status).toBe('found');
  for (const bad of [
    { kind: 'datum', component: '' },
    { kind: 'point', component: '.', index: 0 },
    { kind: 'point', component: '.', index: 0, snap: { kind: 'tangent', on: 'edge' } },
    { kind: 'point', component: '.', index: 0, snap: { kind: 'centre', on: 'body' } },
  ])
    expect(readReference(bad)).toBeNull();
});

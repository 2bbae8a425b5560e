import type { EdgeFacts } from '../geometry/part-geometry.ts';
import type { Vec3 } from '../math/vec3.ts';
import { jointVertices } from './joint-vertices.ts';

const edge = (facts: Partial<EdgeFacts>): EdgeFacts => ({
  curve: 'line',
  accuracy: { kind: 'exact' },
  length: 1,
  smooth: false,
  seam: false,
  faces: [],
  vertices: [],
  axis: [0, 0, 1],
  ...facts,
});
const arc = (vertices: number[], radius = 5, centre: Vec3 = [0, 0, 0]) =>
  edge({ curve: 'circle', centre, radius, vertices });
const joints = (...edges: EdgeFacts[]) => [...jointVertices({ edges })].sort((a, b) => a - b);

test('where the halves of a hole meet its rim there is no corner', () => {
  expect(joints(arc([0, 1]), arc([1, 0]), edge({ vertices: [0, 2], smooth: true }))).toEqual([0, 1, 2]);
});

test('where a full circle begins, and where a line goes on, there is none', () => {
  expect(joints(arc([4, 4]), edge({ vertices: [4, 5], seam: true }))).toEqual([4, 5]);
  expect(joints(edge({ vertices: [0, 1] }), edge({ vertices: [1, 2] }))).toEqual([1]);
});

test('corners stay: of lines that turn, of a line and an arc, of arcs of two sizes, of three edges, and the end of a single one', () => {
  expect(joints(edge({ vertices: [0, 1] }), edge({ vertices: [1, 2], axis: [1, 0, 0] }))).toEqual([]);
  expect(joints(edge({ vertices: [0, 1] }), arc([1, 2]))).toEqual([]);
  expect(joints(arc([0, 1]), arc([1, 2], 6))).toEqual([]);
  expect(joints(arc([0, 1]), arc([1, 0]), edge({ vertices: [0, 2] }), edge({ vertices: [1, 3] }))).toEqual(
    [],
  );
  expect(joints(edge({ vertices: [0, 1] }))).toEqual([]);
});

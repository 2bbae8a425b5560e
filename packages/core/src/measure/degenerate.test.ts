import type { PartGeometry } from '../geometry/part-geometry.ts';
import { describePick, type PickedPart } from '../facts/describe-pick.ts';
import { IDENTITY } from '../math/mat4.ts';
import { derivedPoints } from '../snaps/derived-points.ts';
import { recogniseHoles } from '../holes/recognise-holes.ts';
import { massOfSet } from '../mass/set-mass.ts';
import { boxPart } from '../testing/box-part.ts';
import { measurePair } from './measure-pair.ts';
import { shapeOfPick } from './shape-of-pick.ts';

/**
 * A block whose first edge has no length, and whose first face no area and no mesh, as
 * damaged files have them.
 */
function damaged(): PickedPart {
  const part = boxPart(10, 20, 30);
  const geometry: PartGeometry = {
    ...part,
    edges: part.edges.map((e, i) => (i === 0 ? { ...e, length: 0, vertices: [0, 0] } : e)),
    faces: part.faces.map((f, i) => (i === 0 ? { ...f, area: 0 } : f)),
    mesh: { ...part.mesh, faceStart: Uint32Array.from([0, 0, 4, 6, 8, 10, 12]) },
    lines: {
      positions: new Float32Array(part.lines.positions),
      start: Uint32Array.from([0, 0, ...part.lines.start.slice(2)]),
    },
  };
  return { geometry, placement: IDENTITY };
}

test('an edge of no length and a face of no area have figures, alone and with anything else, and no number is none', () => {
  const part = damaged();
  const odd = [
    ['edge', 0],
    ['face', 0],
  ] as const;
  const others = [...odd, ['edge', 5], ['face', 3], ['vertex', 2], ['component', 0]] as const;
  for (const [kind, index] of odd) {
    const { main, rows } = describePick(kind, index, part);
    for (const fact of [...(main ? [main] : []), ...rows])
      expect(JSON.stringify(fact)).not.toMatch(/null|NaN/);
    for (const [other, at] of others)
      for (const [a, b] of [
        [shapeOfPick(kind, index, part), shapeOfPick(other, at, part)],
        [shapeOfPick(other, at, part), shapeOfPick(kind, index, part)],
      ]) {
        const { lead, rows: beneath, dimension } = measurePair(a, b);
        // Numbers that are none become null when they are written.
        for (const fact of [...(lead ? [lead] : []), ...beneath])
          expect(JSON.stringify(fact.value)).not.toContain('null');
        expect(JSON.stringify(dimension?.kind === 'dimension' ? dimension.ends : [])).not.toContain('null');
      }
  }
  for (const { at } of derivedPoints(part.geometry, 0)) expect(at.every(Number.isFinite)).toBe(true);
});

test('a component of lines only is measured by its lines, weighs nothing that is known, and is neither solid nor hole', () => {
  const part = boxPart(10, 20, 30);
  const geometry: PartGeometry = {
    ...part,
    faces: [],
    bodies: [],
    mesh: {
      ...part.mesh,
      positions: new Float32Array(0),
      indices: new Uint32Array(0),
      faceStart: Uint32Array.from([0]),
    },
    edges: part.edges.map((e) => ({ ...e, faces: [] })) as PartGeometry['edges'],
    mass: null,
  } as PartGeometry;
  const wire: PickedPart = { geometry, placement: IDENTITY };
  for (const [kind, index] of [
    ['edge', 0],
    ['vertex', 3],
    ['component', 0],
  ] as const) {
    const { main, rows } = describePick(kind, index, wire);
    expect(JSON.stringify([main, rows])).not.toMatch(/NaN/);
    const { lead, rows: beneath } = measurePair(
      shapeOfPick(kind, index, wire),
      shapeOfPick('edge', 5, damaged()),
    );
    for (const fact of [...(lead ? [lead] : []), ...beneath])
      expect(JSON.stringify(fact.value)).not.toContain('null');
  }
  expect(describePick('edge', 0, wire).main ?? describePick('edge', 0, wire).rows[0]).toMatchObject({
    value: { value: 10 },
  });
  expect(massOfSet([{ figures: geometry.mass, placement: IDENTITY, density: 1000 }])).toMatchObject({
    known: null,
    noDensity: 0,
    noVolume: 1,
  });
  expect(recogniseHoles(geometry)).toEqual([]);
});

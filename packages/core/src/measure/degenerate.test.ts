import type { PartGeometry } from '../geometry/part-geometry.ts';
import { describePick, type PickedPart } from '../facts/describe-pick.ts';
import { IDENTITY } from '../math/mat4.ts';
import { derivedPoints } from '../snaps/derived-points.ts';
import { boxPart } from '../testing/box-part.ts';
import { measurePair } from './measure-pair.ts';
import { shapeOfPick } from './shape-of-pick.ts';

/** A block whose first edge has no length, and whose first face no area and no mesh, as damaged files have them. */
function damaged(): PickedPart {
  const part = boxPart(10, 20, 30);
  const geometry: PartGeometry = {
    ...part,
    edges: part.edges.map((e, i) => (i === 0 ? { ...e, length: 0, vertices: [0, 0] } : e)),
    faces: part.faces.map((f, i) => (i === 0 ? { ...f, area: 0 } : f)),
    mesh: { ...part.mesh, faceStart: Uint32Array.from([0, 0, 4, 6, 8, 10, 12]) },
    lines: { positions: new Float32Array(part.lines.positions), start: Uint32Array.from([0, 0, ...part.lines.start.slice(2)]) },
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
    for (const fact of [...(main ? [main] : []), ...rows]) expect(JSON.stringify(fact)).not.toMatch(/null|NaN/);
    for (const [other, at] of others)
      for (const [a, b] of [
        [shapeOfPick(kind, index, part), shapeOfPick(other, at, part)],
        [shapeOfPick(other, at, part), shapeOfPick(kind, index, part)],
      ]) {
        const { lead, rows: beneath, dimension } = measurePair(a, b);
        // Numbers that are none become null when they are written.
        for (const fact of [...(lead ? [lead] : []), ...beneath]) expect(JSON.stringify(fact.value)).not.toContain('null');
        expect(JSON.stringify(dimension?.kind === 'dimension' ? dimension.ends : [])).not.toContain('null');
      }
  }
  for (const { at } of derivedPoints(part.geometry, 0)) expect(at.every(Number.isFinite)).toBe(true);
});

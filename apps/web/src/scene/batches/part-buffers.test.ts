import { boxPart } from '../../../../../packages/core/src/testing/box-part.ts';
import type { LoadedPart } from '../../state/model-store.ts';
import { edgeGeometry } from './part-buffers.ts';

const DARK: [number, number, number] = [0.1, 0.1, 0.2];
const LIGHT: [number, number, number] = [0.9, 0.8, 0.7];

/** The colours told of the ends of edges, one for each edge of a box. */
function tints(faceColours?: Record<number, [number, number, number]>): (number[] | null)[] {
  const geometry = boxPart(10, 20, 30);
  const g = edgeGeometry({ geometry } as LoadedPart, { name: 'Box', faceColours } as never, 'sharp');
  const tint = g.getAttribute('tint');
  expect(tint.count).toBe(g.getAttribute('position').count);
  const each = tint.count / geometry.edges.length;
  return geometry.edges.map((_, e) => {
    const [r, g2, b, a] = [0, 1, 2, 3].map((k) => tint.getComponent(e * each, k));
    return a > 0.5 ? [r, g2, b] : null;
  });
}

test('an edge is told the lighter colour of the faces beside it, where the file colours both', () => {
  expect(tints()).toEqual(Array(12).fill(null));
  // −X, +X, −Y dark, +Y light, the ends without a colour.
  const told = tints({ 0: DARK, 1: DARK, 2: DARK, 3: LIGHT });
  const { edges } = boxPart(10, 20, 30);
  edges.forEach(({ faces }, e) => {
    const wanted = faces.some((f) => f > 3) ? null : faces.includes(3) ? LIGHT : DARK;
    expect(told[e]?.map((x) => Math.round(10 * x) / 10) ?? null).toEqual(wanted);
  });
});

import { TINY, WELD_RELATIVE } from '../tolerances.ts';
import type { PartGeometry } from './part-geometry.ts';

/** For every vertex the first one at the same place: faces share no vertices in the mesh. */
export function weld(part: PartGeometry, apart = false): Uint32Array {
  const { mesh, box } = part;
  const { positions } = mesh;
  const size = Math.max(...[0, 1, 2].map((k) => box.max[k] - box.min[k]), TINY) * WELD_RELATIVE;
  const first = new Map<string, number>();
  const out = new Uint32Array(positions.length / 3);
  const bodyOf = apart ? bodyOfVertices(part) : null;
  for (let v = 0; v < out.length; v++) {
    const key = `${Math.round(positions[3 * v] / size)},${Math.round(positions[3 * v + 1] / size)},${Math.round(positions[3 * v + 2] / size)}${bodyOf ? ` ${bodyOf[v]}` : ''}`;
    const known = first.get(key);
    out[v] = known ?? v;
    if (known === undefined) first.set(key, v);
  }
  return out;
}

/** Of the faces they belong to; each vertex belongs to one face. */
function bodyOfVertices({ mesh, faces }: PartGeometry): Uint32Array {
  const out = new Uint32Array(mesh.positions.length / 3);
  faces.forEach(({ body }, f) => {
    for (let i = 3 * mesh.faceStart[f]; i < 3 * mesh.faceStart[f + 1]; i++) out[mesh.indices[i]] = body;
  });
  return out;
}

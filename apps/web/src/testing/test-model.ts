import type { PartGeometry } from '@bathyscope/core/geometry';
import { IDENTITY, type Mat4 } from '@bathyscope/core/math';
import { buildPartBvh } from '@bathyscope/core/picking';
import type { Workspace } from '../workspace/workspace.ts';

export const placedAt = (x: number, y: number, z: number): Mat4 => [...IDENTITY.slice(0, 12), x, y, z, 1];

/**
 * Puts an assembly “a” on the screen: components by name, each with the number of its part and its placement.
 */
export function showModel(
  ws: Workspace,
  parts: readonly PartGeometry[],
  components: readonly [name: string, part: number, placement: Mat4][],
): void {
  const list = components.map(([name, part, placement]) => ({
    path: `a/${name}`,
    depth: 1,
    parent: 'a',
    name,
    placement,
    mirrored: false,
    part,
    children: [],
  }));
  const root = {
    path: 'a',
    depth: 0,
    parent: null,
    name: 'a',
    placement: IDENTITY,
    mirrored: false,
    children: list.map((c) => c.path),
  };
  ws.model.setState({
    status: 'ready',
    components: list,
    occurrences: [root, ...list],
    byPath: new Map([root, ...list].map((o) => [o.path, o])),
    partKeys: parts.map((_, i) => `Part ${i}`),
    parts: new Map(parts.map((geometry, i) => [i, { geometry, bvh: buildPartBvh(geometry) }])),
    detail: {
      name: 'Frame',
      structure: { parts: parts.map((_, i) => ({ name: `Part ${i}`, geometry: String(i) })) },
    } as never,
  });
}

import { placedBox, type PartGeometry } from '@bathyscope/core/geometry';
import { boxPairs } from '@bathyscope/core/interference';
import type { Vec3 } from '@bathyscope/core/math';
import type { Occurrence } from '@bathyscope/core/model';
import type { ShapeSession } from '../shapes/shape-session.ts';

/**
 * What `--clash` adds: mm and mm³; `position` is where what both share is thickest, and
 * `depth` how thick it is there.
 */
export interface InspectedClash {
  a: { path: string; name: string };
  b: { path: string; name: string };
  volume: number;
  depth: number;
  position: Vec3;
  accuracy: 'exact' | 'mesh';
  /** mm³, where from the mesh. */
  within?: number;
}

type Component = Occurrence & { part: number };

/** All pairs of components that share material. */
export function inspectClash(
  components: readonly Component[],
  geometryOf: (part: number) => { hash: string; geometry: PartGeometry },
  session: ShapeSession,
): InspectedClash[] {
  const boxes = components.map((c) => placedBox(geometryOf(c.part).geometry, c.placement));
  const named = ({ path, name, instanceName }: Component) => ({ path, name: instanceName ?? name });
  const placed = ({ part, placement }: Component) => ({ hash: geometryOf(part).hash, placement });
  return boxPairs(boxes).flatMap(([i, j]) => {
    const [a, b] = [components[i], components[j]];
    const { clash, from } = interferenceOf(session, placed(a), placed(b));
    if (!clash) return [];
    const { volume, depth, within } = clash;
    return [
      {
        a: named(a),
        b: named(b),
        volume,
        depth,
        position: from,
        accuracy: within ? ('mesh' as const) : ('exact' as const),
        ...(within > 0 && { within }),
      },
    ];
  });
}

type Placed = Parameters<ShapeSession['interference']>[0];

function interferenceOf(
  session: ShapeSession,
  a: Placed,
  b: Placed,
): ReturnType<ShapeSession['interference']> {
  try {
    return session.interference(a, b, 'quick');
  } catch (error) {
    // The kernel's own exceptions are numbers; the meshes still answer.
    if (typeof error === 'number') return session.interference(a, b, 'mesh');
    throw error;
  }
}

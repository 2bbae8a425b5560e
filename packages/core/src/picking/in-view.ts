import { project, type Pane, type ViewCamera } from '../camera/view-camera.ts';
import { transformPoint } from '../math/mat4.ts';
import { add, map3, pointAt, type Vec3 } from '../math/vec3.ts';
import type { PickHit, PickOptions, PickScene } from './pick-scene.ts';

/* What can be pointed at in a view, for those who point with keys. */

/** A thing of the model where it is seen: px of the pane. */
export interface Seen extends PickHit {
  x: number;
  y: number;
}

/**
 * px between the lines of sight that look for faces. Narrower ones may be missed: whoever wants them zooms
 * in, as with a mouse.
 */
const GRID = 10;

/**
 * Samples of a pane: every pixel of a grid, from the middle outwards.
 * @returns px of the pane
 */
export function gridFromMiddle(pane: Pane): { x: number; y: number }[] {
  const [cx, cy] = [pane.width / 2, pane.height / 2];
  const points: { x: number; y: number; away: number }[] = [];
  for (let i = -Math.floor(cx / GRID); i <= cx / GRID; i++)
    for (let j = -Math.floor(cy / GRID); j <= cy / GRID; j++)
      points.push({ x: cx + i * GRID, y: cy + j * GRID, away: Math.hypot(i, j) });
  return points.sort((a, b) => a.away - b.away);
}

/**
 * The edges and corners of a face that nothing covers, the nearest on the screen to
 * where the face is seen first.
 */
export function boundsInView(
  scene: PickScene,
  camera: ViewCamera,
  pane: Pane,
  face: Seen,
  options: PickOptions,
): Seen[] {
  const { geometry, placement } = scene.placed(face.component);
  const found = new Map<string, Seen>();
  const note = (kind: 'edge' | 'vertex', index: number, point: Vec3) => {
    const { x, y, behind } = project(camera, pane, point);
    const before = found.get(`${kind}${index}`);
    const outside = x < 0 || y < 0 || x > pane.width || y > pane.height;
    if (behind || outside || (before && awayFrom(before, face) <= awayFrom({ x, y }, face))) return;
    if (!scene.isCovered(camera, pane, face.component, point, options))
      found.set(`${kind}${index}`, { kind, component: face.component, index, point, x, y });
  };
  for (const index of geometry.faces[face.index].edges) {
    const { seam, vertices } = geometry.edges[index];
    if (seam) continue;
    const [from, to] = [geometry.lines.start[index], geometry.lines.start[index + 1]];
    // Of an edge of two points its middle, else its points.
    const drawn = Array.from({ length: to - from }, (_, i) =>
      add(pointAt(geometry.lines.positions, from + i), geometry.origin),
    );
    const tried = drawn.length === 2 ? [map3(drawn[0], (a, k) => (a + drawn[1][k]) / 2)] : drawn.slice(1, -1);
    for (const point of tried) note('edge', index, transformPoint(placement, point));
    for (const v of vertices)
      if (!scene.isJoint(face.component, v))
        note('vertex', v, transformPoint(placement, pointAt(geometry.vertices, v)));
  }
  return [...found.values()].sort((a, b) => awayFrom(a, face) - awayFrom(b, face));
}

const awayFrom = (a: { x: number; y: number }, b: { x: number; y: number }): number =>
  Math.hypot(a.x - b.x, a.y - b.y);

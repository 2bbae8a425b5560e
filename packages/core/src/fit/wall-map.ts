import { boxDiagonal } from '../math/box3.ts';
import { add, cross, distance, length, normalize, pointAt, scale, subtract, type Vec3 } from '../math/vec3.ts';
import { thicknessAt } from './inscribed-ball.ts';
import type { SolidMesh } from './solid-mesh.ts';

/** Thickness all over a closed mesh, in small flat pieces; mm, in the mesh's frame. */
export interface WallMap {
  /** Corners of the pieces, nine numbers each. */
  corners: Float32Array;
  /** One a piece; NaN where nothing lies opposite. */
  thickness: Float32Array;
  thinnest: { thickness: number; at: Vec3; to: Vec3 } | null;
}

/** Pieces are no longer than this share of the mesh, as long as there are not too many of them. */
const FINEST = 1 / 50;
const MOST_PIECES = 30_000;
/** Cosine to the outward normal: what a ball touches is an opposite wall where it faces back so far. */
const OPPOSITE = -0.5;

/**
 * Thickness of the wall at a point: the diameter of the largest ball there where that ball touches an opposite wall, else what lies
 * along the normal (near an edge a ball is held by the side beside it, which is no wall).
 */
export function wallAt(mesh: SolidMesh, point: Vec3, outward: Vec3): { thickness: number; to: Vec3 } | null {
  const { along, ball, facing } = thicknessAt(mesh, point, outward, mesh.chord);
  if (facing <= OPPOSITE) return { thickness: ball.diameter, to: ball.touches };
  return along && { thickness: along.thickness, to: along.to };
}

/** @param tell hears how far it is, 0–1 */
export function wallMap(mesh: SolidMesh, tell: (share: number) => void = () => {}): WallMap {
  const pieces = smallPieces(mesh);
  const corners = new Float32Array(9 * pieces.length);
  const thickness = new Float32Array(pieces.length).fill(NaN);
  let thinnest: WallMap['thinnest'] = null;
  pieces.forEach((piece, i) => {
    piece.forEach((p, k) => corners.set(p, 9 * i + 3 * k));
    const normal = normalize(cross(subtract(piece[1], piece[0]), subtract(piece[2], piece[0])));
    const middle = scale(add(add(piece[0], piece[1]), piece[2]), 1 / 3);
    const wall = length(normal) > 0 ? wallAt(mesh, middle, normal) : null;
    if (wall) thickness[i] = wall.thickness;
    if (wall && wall.thickness > mesh.chord && (!thinnest || wall.thickness < thinnest.thickness)) thinnest = { ...wall, at: middle };
    if (i % TELL_EVERY === 0) tell(i / pieces.length);
  });
  return { corners, thickness, thinnest };
}
const TELL_EVERY = 500;

type Piece = [Vec3, Vec3, Vec3];

function smallPieces({ positions, indices, box }: SolidMesh): Piece[] {
  const whole = Array.from({ length: indices.length / 3 }, (_, t) => [0, 1, 2].map((k) => pointAt(positions, indices[3 * t + k])) as Piece);
  let longest = boxDiagonal(box) * FINEST;
  // So many pieces as the area asks for; coarser where they would be too many.
  const area = whole.reduce((sum, [p, q, r]) => sum + length(cross(subtract(q, p), subtract(r, p))) / 2, 0);
  longest = Math.max(longest, Math.sqrt((4 * area) / Math.max(1, MOST_PIECES - whole.length)));
  const pieces: Piece[] = [];
  const split = (piece: Piece): void => {
    const sides = [0, 1, 2].map((k) => distance(piece[k], piece[(k + 1) % 3]));
    const k = sides.indexOf(Math.max(...sides));
    if (sides[k] <= longest || pieces.length >= MOST_PIECES) return void pieces.push(piece);
    const [a, b, c] = [piece[k], piece[(k + 1) % 3], piece[(k + 2) % 3]];
    const middle = scale(add(a, b), 0.5);
    split([a, middle, c]);
    split([middle, b, c]);
  };
  whole.forEach(split);
  return pieces;
}

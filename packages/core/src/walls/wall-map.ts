import { boxDiagonal } from '../math/box3.ts';
import {
  add,
  cross,
  distance,
  length,
  normalize,
  pointAt,
  scale,
  subtract,
  type Vec3,
} from '../math/vec3.ts';
import { thicknessAt } from './inscribed-ball.ts';
import type { SolidMesh } from '../interference/solid-mesh.ts';

/** Thickness all over a closed mesh, in small flat pieces; mm, in the mesh's frame. */
export interface WallMap {
  /** Corners of the pieces, nine numbers each. */
  corners: Float32Array;
  /** One a piece; NaN where nothing lies opposite. */
  thickness: Float32Array;
  thinnest: { thickness: number; at: Vec3; to: Vec3 } | null;
  /** From the least to what nine tenths of the surface are not thicker than. */
  range: [number, number];
}

/**
 * How many pieces there may be more than a mesh has triangles, all over it, and again where
 * the thickness has a step.
 */
const MORE_PIECES = { everywhere: 20_000, atSteps: 40_000 };
/** Pieces are no longer than this share of the mesh, as long as they are enough for that. */
const FINEST = 1 / 50;
/** Share of the mesh down to which pieces at a step are split. */
const FINEST_AT_STEP = FINEST / 10;
/** Share by which the thickness of two pieces side by side differs where there is a step between them. */
const STEP = 0.3;
const MOST_SHARE = 0.9;
/** Cosine to the outward normal: what a ball touches is an opposite wall where it faces back so far. */
const OPPOSITE = -0.5;

/**
 * Thickness of the wall at a point: the diameter of the largest ball there where that ball touches an
 * opposite wall, else what lies along the normal (near an edge a ball is held by the side beside it, which is
 * no wall), if it faces back:
 * beside an acute edge the normal meets the other side of that edge.
 */
export function wallAt(mesh: SolidMesh, point: Vec3, outward: Vec3): { thickness: number; to: Vec3 } | null {
  const { along, ball, facing } = thicknessAt(mesh, point, outward, mesh.chord);
  if (facing <= OPPOSITE) return { thickness: ball.diameter, to: ball.touches };
  return along && along.facing <= OPPOSITE ? { thickness: along.thickness, to: along.to } : null;
}

interface Piece {
  corners: readonly [Vec3, Vec3, Vec3];
  /** The face of the mesh that it is a part of. */
  face: number;
}

interface Read extends Piece {
  middle: Vec3;
  /** null where nothing lies opposite */
  wall: ReturnType<typeof wallAt>;
}

/** @param tell hears how far it is, 0–1 */
export function wallMap(
  mesh: SolidMesh,
  tell: (share: number) => void = () => {},
  more = MORE_PIECES,
): WallMap {
  const expected = mesh.indices.length / 3 + more.everywhere + more.atSteps;
  let asked = 0;
  const read = (piece: Piece): Read => {
    if (asked++ % TELL_EVERY === 0) tell(Math.min(1, asked / expected));
    const [p, q, r] = piece.corners;
    const normal = normalize(cross(subtract(q, p), subtract(r, p)));
    const middle = scale(add(add(p, q), r), 1 / 3);
    return { ...piece, middle, wall: length(normal) > 0 ? wallAt(mesh, middle, normal) : null };
  };
  let pieces = smallPieces(mesh, more.everywhere).map(read);
  const most = pieces.length + more.atSteps;
  const finest = boxDiagonal(mesh.box) * FINEST_AT_STEP;
  // The longest first: what is seen most.
  for (
    let side = pieces.reduce((most, piece) => Math.max(most, longestSide(piece)), 0);
    side > finest;
    side *= Math.SQRT1_2
  ) {
    const split = pieces.map(
      (piece, k) =>
        longestSide(piece) > side * Math.SQRT1_2 &&
        [pieces[k - 1], pieces[k + 1]].some((p) => isStep(piece, p)),
    );
    if (pieces.length + split.filter(Boolean).length > most) break;
    pieces = pieces.flatMap((piece, k) => (split[k] ? halvesOf(piece).map(read) : [piece]));
  }
  const thinnest = pieces.reduce<WallMap['thinnest']>(
    (least, { wall, middle }) =>
      wall && wall.thickness > mesh.chord && !(least && least.thickness <= wall.thickness)
        ? { ...wall, at: middle }
        : least,
    null,
  );
  return {
    corners: Float32Array.from(pieces.flatMap((p) => p.corners.flat())),
    thickness: Float32Array.from(pieces, ({ wall }) => wall?.thickness ?? NaN),
    thinnest,
    range: rangeOf(pieces),
  };
}
const TELL_EVERY = 500;

function rangeOf(pieces: readonly Read[]): WallMap['range'] {
  const known = pieces
    .flatMap(({ wall, corners: [p, q, r] }) =>
      wall ? [{ thickness: wall.thickness, area: length(cross(subtract(q, p), subtract(r, p))) / 2 }] : [],
    )
    .sort((a, b) => a.thickness - b.thickness);
  if (!known.length) return [0, 1];
  let left = MOST_SHARE * known.reduce((sum, { area }) => sum + area, 0);
  const least = known[0].thickness;
  const most = known.find(({ area }) => (left -= area) < 0)?.thickness ?? least;
  return [least, most > least ? most : least + 1];
}

/**
 * Whether the thickness jumps between a piece and the one before or after it: of one face, they
 * mostly lie side by side.
 */
function isStep(piece: Read, beside: Read | undefined): boolean {
  if (beside?.face !== piece.face) return false;
  const [a, b] = [piece, beside].map(({ wall }) => wall?.thickness ?? Infinity);
  return a !== b && !(Math.abs(a - b) <= STEP * Math.max(a, b));
}

/** The mesh's triangles, split until none is longer than there may be pieces. */
function smallPieces({ positions, indices, faceStart, box }: SolidMesh, more: number): Piece[] {
  const whole = Array.from(faceStart.subarray(1), (end, face) =>
    Array.from({ length: end - faceStart[face] }, (_, t): Piece => {
      const [p, q, r] = [0, 1, 2].map((k) => pointAt(positions, indices[3 * (faceStart[face] + t) + k]));
      return { face, corners: [p, q, r] };
    }),
  ).flat();
  const most = whole.length + more;
  for (let longest = boxDiagonal(box) * FINEST; ; longest *= COARSER) {
    const pieces: Piece[] = [];
    // No more is made than may be kept: many long triangles would be millions of pieces.
    for (const piece of whole) if (pieces.length <= most) pieces.push(...splitTo(piece, longest));
    if (pieces.length <= most) return pieces;
  }
}
const COARSER = 1.2;

function splitTo(piece: Piece, longest: number): Piece[] {
  if (longestSide(piece) <= longest) return [piece];
  return halvesOf(piece).flatMap((half) => splitTo(half, longest));
}

const sidesOf = ({ corners }: Piece) => corners.map((p, k) => distance(p, corners[(k + 1) % 3]));
const longestSide = (piece: Piece) => Math.max(...sidesOf(piece));

/** A piece cut across its longest side. */
function halvesOf(piece: Piece): [Piece, Piece] {
  const { corners, face } = piece;
  const sides = sidesOf(piece);
  const k = sides.indexOf(Math.max(...sides));
  const [a, b, c] = [corners[k], corners[(k + 1) % 3], corners[(k + 2) % 3]];
  const middle = scale(add(a, b), 0.5);
  return [
    { face, corners: [a, middle, c] },
    { face, corners: [middle, b, c] },
  ];
}

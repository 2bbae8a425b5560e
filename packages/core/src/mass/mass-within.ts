import { areaWithin } from './area-within.ts';
import type { RayMesh } from './fill-rays.ts';
import type { HalfSpace } from './half-space.ts';
import type { MassFigures } from '../geometry/part-geometry.ts';
import { figuresOfMoments } from './sum-moments.ts';
import { isMirrored, transformPoint, type Mat4 } from '../math/mat4.ts';
import { add, cross, dot, pointAt, scale, subtract, type Vec3 } from '../math/vec3.ts';
import { LAYER } from '../tolerances.ts';

type Tetrahedron = readonly [Vec3, Vec3, Vec3, Vec3];

/**
 * Volume figures of what of a closed mesh lies in all of some half-spaces: the kept side of sections, what lies below water. Each
 * triangle makes a signed tetrahedron with a fixed point; each is cut by the planes, which needs no caps and is exact for the mesh.
 * Its bound is the layer between mesh and shape, of what of the round surface lies in the half-spaces or within a chord of them.
 * @param mesh outward-oriented, xyz in the frame that `place` places
 * @returns null when nothing is left
 */
export function massWithin(
  mesh: Pick<RayMesh, 'positions' | 'indices' | 'chord' | 'round'>,
  place: Mat4,
  halves: readonly HalfSpace[],
): MassFigures | null {
  const { positions, indices } = mesh;
  if (!indices.length) return null;
  const apex = transformPoint(place, pointAt(positions, indices[0]));
  // Counted from the apex, so that nothing is lost far from the origin.
  const planes = halves.map(({ normal, constant }) => ({ normal, constant: constant + dot(normal, apex) }));
  const sums = new Moments();
  const turn = isMirrored(place) ? -1 : 1;
  const origin: Vec3 = [0, 0, 0];
  for (let t = 0; t < indices.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => subtract(transformPoint(place, pointAt(positions, indices[t + k])), apex));
    const sign = Math.sign(dot(a, cross(b, c))) * turn;
    if (sign !== 0) addClipped(sums, [origin, a, b, c], planes, 0, sign);
  }
  const chord = mesh.chord ?? 0;
  const near = halves.map((h) => ({ ...h, constant: h.constant + chord }));
  return sums.figures(apex, chord > 0 ? LAYER * chord * areaWithin(mesh, place, near).round : 0);
}

function addClipped(sums: Moments, tetrahedron: Tetrahedron, planes: readonly HalfSpace[], from: number, sign: number): void {
  for (let k = from; k < planes.length; k++) {
    const { normal, constant } = planes[k];
    const heights = tetrahedron.map((p) => dot(normal, p) + constant);
    if (heights.every((h) => h >= 0)) continue;
    for (const piece of above(tetrahedron, heights)) addClipped(sums, piece, planes, k + 1, sign);
    return;
  }
  sums.add(tetrahedron, sign);
}

/** What of a tetrahedron lies above a plane, as tetrahedra. */
function above(tetrahedron: Tetrahedron, heights: readonly number[]): Tetrahedron[] {
  const on = [0, 1, 2, 3].filter((i) => heights[i] >= 0);
  const off = [0, 1, 2, 3].filter((i) => heights[i] < 0);
  const cut = (i: number, j: number): Vec3 =>
    add(tetrahedron[i], scale(subtract(tetrahedron[j], tetrahedron[i]), heights[i] / (heights[i] - heights[j])));
  if (on.length === 0) return [];
  if (on.length === 1) return [[tetrahedron[on[0]], cut(on[0], off[0]), cut(on[0], off[1]), cut(on[0], off[2])]];
  const [low, high] =
    on.length === 3
      ? [on.map((i) => tetrahedron[i]), on.map((i) => cut(i, off[0]))]
      : [
          [tetrahedron[on[0]], cut(on[0], off[0]), cut(on[0], off[1])],
          [tetrahedron[on[1]], cut(on[1], off[0]), cut(on[1], off[1])],
        ];
  return [
    [low[0], low[1], low[2], high[0]],
    [low[1], low[2], high[0], high[1]],
    [low[2], high[0], high[1], high[2]],
  ];
}

/** Sums of volumes and moments of tetrahedra: ∫1, ∫x, ∫x·xᵀ (F. Tonon, J. Math. Stat. 1(1), 2005). */
class Moments {
  private volume = 0;
  private readonly first = [0, 0, 0];
  private readonly second = [0, 0, 0, 0, 0, 0];

  add([a, b, c, d]: Tetrahedron, sign: number): void {
    const [u, v, w] = [subtract(b, a), subtract(c, a), subtract(d, a)];
    const volume = (sign * Math.abs(dot(u, cross(v, w)))) / 6;
    this.volume += volume;
    const sum = [a[0] + b[0] + c[0] + d[0], a[1] + b[1] + c[1] + d[1], a[2] + b[2] + c[2] + d[2]];
    for (let i = 0, n = 0; i < 3; i++) {
      this.first[i] += (volume * sum[i]) / 4;
      for (let j = i; j < 3; j++, n++)
        this.second[n] += (volume / 20) * (a[i] * a[j] + b[i] * b[j] + c[i] * c[j] + d[i] * d[j] + sum[i] * sum[j]);
    }
  }

  /** @param layer mm³: how far the volume may be off */
  figures(base: Vec3, layer: number): MassFigures | null {
    if (!(this.volume > 0)) return null;
    const within = layer / this.volume;
    return figuresOfMoments([this.volume, ...this.first, ...this.second], base, within, { kind: 'mesh', within });
  }
}

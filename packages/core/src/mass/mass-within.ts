import { areaWithin } from './area-within.ts';
import type { RayMesh } from './fill-rays.ts';
import type { MassFigures } from '../geometry/part-geometry.ts';
import { figuresOfMoments } from './sum-moments.ts';
import { isMirrored, transformPoint, type Mat4 } from '../math/mat4.ts';
import { belowOfTetrahedron, countedFrom, raised, type Plane, type Tetrahedron } from '../math/plane.ts';
import { cross, dot, pointAt, subtract, type Vec3 } from '../math/vec3.ts';
import { LAYER } from '../tolerances.ts';

/**
 * Volume figures of what of a closed mesh lies below all of some planes: the kept side of sections, what lies
 * below water. Each triangle makes a signed tetrahedron with a fixed point; each is cut by the planes, which
 * needs no caps and is exact for the mesh.
 * Its bound is the layer between mesh and shape, of what of the round surface lies there
 * or within a chord of it.
 * @param mesh outward-oriented, xyz in the frame that `place` places
 * @returns null when nothing is left
 */
export function massWithin(
  mesh: Pick<RayMesh, 'positions' | 'indices' | 'chord' | 'round'>,
  place: Mat4,
  planes: readonly Plane[],
): MassFigures | null {
  const { positions, indices } = mesh;
  if (!indices.length) return null;
  const apex = transformPoint(place, pointAt(positions, indices[0]));
  // Counted from the apex, so that nothing is lost far from the origin.
  const near = planes.map((plane) => countedFrom(plane, apex));
  const sums = new Moments();
  const turn = isMirrored(place) ? -1 : 1;
  const origin: Vec3 = [0, 0, 0];
  for (let t = 0; t < indices.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) =>
      subtract(transformPoint(place, pointAt(positions, indices[t + k])), apex),
    );
    const sign = Math.sign(dot(a, cross(b, c))) * turn;
    if (sign !== 0) addClipped(sums, [origin, a, b, c], near, 0, sign);
  }
  const chord = mesh.chord ?? 0;
  const beyond = planes.map((plane) => raised(plane, chord));
  return sums.figures(apex, chord > 0 ? LAYER * chord * areaWithin(mesh, place, beyond).round : 0);
}

function addClipped(
  sums: Moments,
  tetrahedron: Tetrahedron,
  planes: readonly Plane[],
  from: number,
  sign: number,
): void {
  if (from === planes.length) sums.add(tetrahedron, sign);
  else
    for (const piece of belowOfTetrahedron(tetrahedron, planes[from]))
      addClipped(sums, piece, planes, from + 1, sign);
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
        this.second[n] +=
          (volume / 20) * (a[i] * a[j] + b[i] * b[j] + c[i] * c[j] + d[i] * d[j] + sum[i] * sum[j]);
    }
  }

  /** @param layer mm³: how far the volume may be off */
  figures(base: Vec3, layer: number): MassFigures | null {
    if (!(this.volume > 0)) return null;
    const within = layer / this.volume;
    return figuresOfMoments([this.volume, ...this.first, ...this.second], base, within, {
      kind: 'mesh',
      within,
    });
  }
}

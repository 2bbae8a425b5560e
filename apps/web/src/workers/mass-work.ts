import type { MassFigures } from '@bathyscope/core/geometry';
import {
  areaWithin,
  armsAfloat,
  combineMass,
  hollowsOf,
  Hull,
  massWithin,
  meshMass,
  orientedBox,
  overlapOf,
  placeMass,
  type Floating,
  type Hollow,
  type Metacentre,
  type OrientedBox,
  type Overlap,
  type RayMesh,
} from '@bathyscope/core/mass';
import {
  type CutBy,
  IDENTITY,
  opposite,
  raised,
  normalize,
  transformDirection,
  transformPoint,
  type Plane,
  type Vec3,
} from '@bathyscope/core/math';
import { LAYER } from '@bathyscope/core/tolerances';

/* What of weighing goes through all triangles: for a worker. */

/** What is left of a component, with its surface: what was there before and what the planes cut. mm² */
export type ClippedMass = MassFigures & { area: number };

/** How something floats, and what rights it when it is tilted about two level axes. */
export interface FloatsSo extends Floating {
  /** Heights of the metacentre over the centre of gravity and how far they may be off, mm, by axis. */
  metacentric: [Metacentre, Metacentre];
  /** mm, by axis and angle. */
  arms: [number[], number[]];
}

export interface MassJobs {
  /** What sections leave of meshes; null where they leave nothing. */
  within: {
    asked: {
      items: RayMesh[];
      cut: CutBy;
    };
    answered: (ClippedMass | null)[];
  };
  /** The smallest box about meshes. Hints are directions of each in its own frame. */
  box: {
    asked: (Pick<RayMesh, 'positions' | 'place'> & { hints: readonly Vec3[] })[];
    answered: OrientedBox;
  };
  /** Where it floats; null where it sinks. Angles in rad. */
  float: {
    asked: {
      meshes: RayMesh[];
      segments: Float64Array[];
      /** mm³: how far what the segments stand for may be off. */
      off: number;
      volume: number;
      centreOfGravity: Vec3;
      up: Vec3;
      axes: readonly [Vec3, Vec3];
      angles: readonly number[];
    };
    answered: { floats: FloatsSo | null };
  };
  /**
   * What solids share, which hollows they close, and the size of a cell, mm: gaps narrower
   * than that count as closed.
   */
  immerse: { asked: RayMesh[]; answered: { overlap: Overlap; hollows: Hollow[]; cell: number } };
}

export type MassJob = keyof MassJobs;
export interface MassRequest<J extends MassJob = MassJob> {
  job: J;
  asked: MassJobs[J]['asked'];
}
export type MassReply<J extends MassJob = MassJob> =
  { answered: MassJobs[J]['answered'] } | { error: string };

export const MASS_WORK: { [J in MassJob]: (asked: MassJobs[J]['asked']) => MassJobs[J]['answered'] } = {
  within: ({ items, cut: { planes, combine } }) =>
    items.map((item) => (combine === 'all' ? outsideCorner(item, planes) : inside(item, planes))),
  float: ({ meshes, segments, off, volume, centreOfGravity, up, axes, angles }) => {
    const hull = new Hull(meshes, segments, off);
    const floating = hull.floats(volume, up);
    if (!floating) return { floats: null };
    const both = <T>(of: (axis: Vec3) => T): [T, T] => [of(axes[0]), of(axes[1])];
    return {
      floats: {
        ...floating,
        metacentric: both((axis) => hull.metacentre(volume, centreOfGravity, up, axis)!),
        arms: both((axis) => armsAfloat(hull, volume, centreOfGravity, up, axis, angles) ?? []),
      },
    };
  },
  box: (items) => {
    const points: number[] = [];
    for (const { positions, place } of items)
      for (let i = 0; i < positions.length; i += 3)
        points.push(...transformPoint(place, [positions[i], positions[i + 1], positions[i + 2]]));
    return orientedBox(
      points,
      items.flatMap(({ place, hints }) => hints.map((h) => normalize(transformDirection(place, h)))),
    );
  },
  immerse: (meshes) => ({ overlap: overlapOf(meshes), ...hollowsOf(meshes) }),
};

type Item = MassJobs['within']['asked']['items'][number];

function inside(item: Item, planes: readonly Plane[]): ClippedMass | null {
  const figures = massWithin(item, item.place, planes);
  if (!figures) return null;
  const { outer, cut } = areaWithin(item, item.place, planes);
  return { ...figures, area: outer + cut };
}

/** What all planes cut away is one corner: the rest is the whole without it. */
function outsideCorner(item: Item, planes: readonly Plane[]): ClippedMass | null {
  const { place, ...mesh } = item;
  const chord = mesh.chord ?? 0;
  const surface = areaWithin(mesh, place, []);
  const whole = meshMass(mesh.positions, mesh.indices, 0);
  if (!whole) return null;
  const removed = planes.map(opposite);
  const gone = massWithin(mesh, place, removed);
  const placed = placeMass(whole, place);
  const left = gone ? combineMass([placed, placeMass(gone, IDENTITY, -1)]) : placed;
  if (!left) return null;
  const { outer, cut } = gone ? areaWithin(mesh, place, removed) : { outer: 0, cut: 0 };
  // The layer beside what stays, and within a chord of the planes.
  const clear = areaWithin(
    mesh,
    place,
    removed.map((plane) => raised(plane, -chord)),
  ).round;
  const within = (LAYER * chord * (surface.round - clear)) / left.volume;
  return {
    ...left,
    volumeErrorEstimate: within,
    accuracy: { kind: 'mesh', within },
    area: surface.outer - outer + cut,
  };
}

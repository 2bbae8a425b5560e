import {
  combineMass,
  hollowsOf,
  IDENTITY,
  massWithin,
  meshMass,
  normalize,
  orientedBox,
  overlapOf,
  placeMass,
  transformDirection,
  transformPoint,
  type HalfSpace,
  type Hollow,
  type MassFigures,
  type OrientedBox,
  type Overlap,
  type RayMesh,
  type Vec3,
} from '@bathyscope/core';

/* What of weighing goes through all triangles: for a worker. */

export interface MassJobs {
  /** What sections leave of meshes; null where they leave nothing. */
  within: {
    asked: {
      items: (RayMesh & { within: number })[];
      halves: readonly HalfSpace[];
      /** Only what all planes cut away is gone, instead of what any does. */
      all: boolean;
    };
    answered: (MassFigures | null)[];
  };
  /** The smallest box about meshes. Hints are directions of each in its own frame. */
  box: { asked: (Pick<RayMesh, 'positions' | 'place'> & { hints: readonly Vec3[] })[]; answered: OrientedBox };
  /** What solids share, which hollows they close, and the size of a cell, mm: gaps narrower than that count as closed. */
  immerse: { asked: RayMesh[]; answered: { overlap: Overlap; hollows: Hollow[]; cell: number } };
}

export type MassJob = keyof MassJobs;
export interface MassRequest<J extends MassJob = MassJob> {
  job: J;
  asked: MassJobs[J]['asked'];
}
export type MassReply<J extends MassJob = MassJob> = { answered: MassJobs[J]['answered'] } | { error: string };

export const MASS_WORK: { [J in MassJob]: (asked: MassJobs[J]['asked']) => MassJobs[J]['answered'] } = {
  within: ({ items, halves, all }) =>
    items.map((item) => (all ? outsideCorner(item, halves) : massWithin(item, item.place, halves, item.within))),
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

/** What all planes cut away is one corner: the rest is the whole without it. */
function outsideCorner(
  { place, within, ...mesh }: MassJobs['within']['asked']['items'][number],
  halves: readonly HalfSpace[],
): MassFigures | null {
  const whole = meshMass(mesh.positions, mesh.indices, within);
  if (!whole) return null;
  const removed = halves.map(({ normal: [x, y, z], constant }): HalfSpace => ({ normal: [-x, -y, -z], constant: -constant }));
  const gone = massWithin(mesh, place, removed, within);
  const placed = placeMass(whole, place);
  return gone ? combineMass([placed, placeMass(gone, IDENTITY, -1)]) : placed;
}

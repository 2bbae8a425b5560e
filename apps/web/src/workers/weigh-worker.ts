import { combineMass, IDENTITY, massWithin, meshMass, placeMass, type HalfSpace, type MassFigures, type Mat4 } from '@bathyscope/core';

/* What sections leave of meshes, weighed away from the interface's thread. */

export interface WeighRequest {
  items: { path: string; positions: Float32Array; indices: Uint32Array; place: Mat4; within: number }[];
  halves: readonly HalfSpace[];
  /** Only what all planes cut away is gone, instead of what any does. */
  all: boolean;
}

export interface WeighReply {
  figures: [string, MassFigures | null][];
}

self.onmessage = ({ data: { items, halves, all } }: MessageEvent<WeighRequest>) => {
  const figures = items.map(({ path, place, within, ...mesh }): [string, MassFigures | null] => {
    if (!all) return [path, massWithin(mesh, place, halves, within)];
    // What all of them cut away is one corner: the rest is the whole without it.
    const whole = meshMass(mesh.positions, mesh.indices, within);
    const gone = massWithin(
      mesh,
      place,
      halves.map(({ normal, constant }) => ({ normal: [-normal[0], -normal[1], -normal[2]], constant: -constant })),
      within,
    );
    if (!whole) return [path, null];
    const placed = placeMass(whole, place);
    return [path, gone ? combineMass([placed, placeMass(gone, IDENTITY, -1)]) : placed];
  });
  self.postMessage({ figures } satisfies WeighReply);
};

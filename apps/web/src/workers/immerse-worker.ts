import { hollowsOf, overlapOf, type Hollow, type Overlap, type RayMesh } from '@bathyscope/core';

/* What solids share and which hollows they close, away from the interface's thread. */

export interface ImmerseRequest {
  meshes: RayMesh[];
}

export interface ImmerseReply {
  overlap: Overlap;
  hollows: Hollow[];
  /** mm: gaps narrower than this count as closed. */
  cell: number;
}

self.onmessage = ({ data: { meshes } }: MessageEvent<ImmerseRequest>) =>
  self.postMessage({ overlap: overlapOf(meshes), ...hollowsOf(meshes) } satisfies ImmerseReply);

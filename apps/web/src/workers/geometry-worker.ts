import { decodeGeometry } from '@bathyscope/contracts';
import type { PartGeometry } from '@bathyscope/core/geometry';
import { buildPartBvh } from '@bathyscope/core/picking';
import { messageOf } from '@bathyscope/core/tables';
import { MeshBVH, type SerializedBVH } from 'three-mesh-bvh';

/* Unpacks and prepares geometry for picking, away from the interface's thread. */

/** A geometry container. */
export interface GeometryRequest {
  container: ArrayBuffer;
}

export type GeometryReply = { geometry: PartGeometry; bvh: SerializedBVH } | { error: string };

self.onmessage = ({ data: { container } }: MessageEvent<GeometryRequest>) => {
  try {
    const geometry = decodeGeometry(new Uint8Array(container));
    const bvh = MeshBVH.serialize(buildPartBvh(geometry), { cloneBuffers: false });
    // The index stays with the geometry: sent once.
    const serialized = { ...bvh, index: null } as unknown as SerializedBVH;
    const { mesh, lines, vertices } = geometry;
    const transfer = [mesh.positions, mesh.normals, mesh.indices, lines.positions, vertices].map(
      (a) => a.buffer as ArrayBuffer,
    );
    self.postMessage({ geometry, bvh: serialized } satisfies GeometryReply, {
      transfer: [...new Set(transfer)],
    });
  } catch (error) {
    self.postMessage({ error: messageOf(error) } satisfies GeometryReply);
  }
};

import { decodeGeometry } from '@bathyscope/contracts';
import { buildPartBvh, type PartGeometry } from '@bathyscope/core';
import { MeshBVH, type SerializedBVH } from 'three-mesh-bvh';

/* Fetches, unpacks and prepares geometry for picking, away from the interface's thread. */

export interface GeometryRequest {
  hash: string;
}

export type GeometryReply =
  | { hash: string; geometry: PartGeometry; bvh: SerializedBVH }
  | { hash: string; error: string };

self.onmessage = async ({ data: { hash } }: MessageEvent<GeometryRequest>) => {
  try {
    const response = await fetch(`/api/geometries/${hash}`);
    if (!response.ok) throw new Error(`The server sent no geometry (${response.status}).`);
    const geometry = decodeGeometry(new Uint8Array(await response.arrayBuffer()));
    const bvh = MeshBVH.serialize(buildPartBvh(geometry), { cloneBuffers: false });
    // The index stays with the geometry: sent once.
    const serialized = { ...bvh, index: null } as unknown as SerializedBVH;
    const { mesh, lines, vertices } = geometry;
    const transfer = [mesh.positions, mesh.normals, mesh.indices, lines.positions, vertices].map((a) => a.buffer as ArrayBuffer);
    self.postMessage({ hash, geometry, bvh: serialized } satisfies GeometryReply, { transfer: [...new Set(transfer)] });
  } catch (error) {
    self.postMessage({ hash, error: error instanceof Error ? error.message : String(error) } satisfies GeometryReply);
  }
};

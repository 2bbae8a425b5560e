import { solidMesh } from '@bathyscope/core/interference';
import { messageOf } from '@bathyscope/core/tables';
import { wallMap, type WallMap } from '@bathyscope/core/walls';

/* Thickness of a part's walls, away from the interface's thread. */

export interface WallRequest {
  positions: Float32Array;
  indices: Uint32Array;
  faceStart: Uint32Array;
  /** mm */
  chord: number;
}

export type WallReply = { progress: number } | { map: WallMap } | { error: string };

self.onmessage = ({ data: { chord, ...mesh } }: MessageEvent<WallRequest>) => {
  const reply = (message: WallReply, transfer: Transferable[] = []) =>
    self.postMessage(message, { transfer });
  try {
    const map = wallMap(solidMesh(mesh, chord), (progress) => reply({ progress }));
    reply({ map }, [map.corners.buffer, map.thickness.buffer]);
  } catch (error) {
    reply({ error: messageOf(error) });
  }
};

import { normalize, orientedBox, transformDirection, transformPoint, type Mat4, type OrientedBox, type Vec3 } from '@bathyscope/core';

/* The smallest box about components, away from the interface's thread. */

export interface BoxRequest {
  items: { positions: Float32Array; place: Mat4; hints: Vec3[] }[];
}

export interface BoxReply {
  box: OrientedBox;
}

self.onmessage = ({ data: { items } }: MessageEvent<BoxRequest>) => {
  const points: number[] = [];
  const hints: Vec3[] = [];
  for (const { positions, place, hints: own } of items) {
    for (let i = 0; i < positions.length; i += 3) points.push(...transformPoint(place, [positions[i], positions[i + 1], positions[i + 2]]));
    for (const h of own) hints.push(normalize(transformDirection(place, h)));
  }
  self.postMessage({ box: orientedBox(points, hints) } satisfies BoxReply);
};

import type { OrientedBox } from '@bathyscope/core/mass';
import type { Vec3 } from '@bathyscope/core/math';
import { heavy } from '../derived/derived.ts';
import { chosenMass } from './chosen-mass.ts';
import { askMass, placedMeshesOf, stopMass } from './mass-jobs.ts';

/** The smallest box about the chosen set, once it was asked for; of another set it is asked for again. */
export const smallestBox = heavy<{ key: string; paths: readonly string[] }, OrientedBox>(
  'the smallest box',
  (ws) => {
    const { set, boxOf } = ws.mass.getState();
    const { key, paths } = ws.derived.of(chosenMass);
    return set !== 'kept' && boxOf === key ? { key, paths } : null;
  },
  0,
  (ws, { paths }, take) => {
    const items = placedMeshesOf(ws, paths).map(({ positions, place, geometry }) => ({
      positions,
      place,
      hints: geometry.faces.flatMap((f): Vec3[] => (f.axis && f.area > 0 ? [f.axis] : [])),
    }));
    askMass(ws, 'box', items, take);
    return () => stopMass(ws, 'box');
  },
);

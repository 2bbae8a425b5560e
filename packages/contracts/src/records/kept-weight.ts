import type { Vec3 } from '@bathyscope/core/math';
import { z } from 'zod';
import { name, point, recordKind, type RecordKind } from './record-kind.ts';

/** What something weighed when it was kept: kg, mm. */
export interface KeptWeight {
  name: string;
  mass: number;
  centreOfGravity: Vec3;
  revision: number;
}

export const keptWeight: RecordKind<KeptWeight> = recordKind({
  name: 'kept-weight',
  version: 1,
  document: z.object({ name, mass: z.number(), centreOfGravity: point, revision: z.number().catch(1) }),
  title: (weight) => weight.name,
});

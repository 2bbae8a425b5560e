import type { ReferenceSystem } from '@bathyscope/core/math';
import { ownSystem } from '../../workspace/measuring/systems.ts';
import { useSeen } from '../use-derived.ts';

/** The reference system of one's own that figures are told in, if any. */
export const useOwnSystem = (): ReferenceSystem | undefined => useSeen(ownSystem);

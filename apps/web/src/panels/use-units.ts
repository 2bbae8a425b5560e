import type { UnitStyle } from '@bathyscope/core/units';
import { useStore } from 'zustand';
import { useShallow } from 'zustand/react/shallow';
import { unitStyleOf } from '../state/settings-store.ts';
import { useProfile } from './use-profile.ts';

/** How the user wants figures told. */
export const useUnits = (): UnitStyle => useStore(useProfile(), useShallow(unitStyleOf));

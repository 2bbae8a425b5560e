import { LENGTH_DECIMALS, MILLIMETRES } from '@bathyscope/core/units';
import type { ComponentProps } from 'react';
import { useStore } from 'zustand';
import { NumberField } from '../ui/NumberField.tsx';
import { useProfile } from './use-profile.ts';

type Props = Omit<ComponentProps<typeof NumberField>, 'kind' | 'one' | 'unit' | 'decimals'>;

/** A length (mm inside) in the unit the user set. */
export function LengthField(props: Props) {
  const unit = useStore(useProfile(), (s) => s.unit);
  return (
    <NumberField
      {...props}
      kind="length"
      one={MILLIMETRES[unit]}
      unit={unit}
      decimals={LENGTH_DECIMALS[unit]}
    />
  );
}

import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react';
import { LENGTH_UNITS, MOST_PRECISION, type LengthUnit, type UnitStyle } from '@bathyscope/core/units';
import { useStore } from 'zustand';
import { changeSettings } from '../../workspace/keeping/change-settings.ts';
import { useWorkspace } from '../use-workspace.ts';

const INCHES: readonly (readonly [UnitStyle['inches'], string])[] = [
  ['decimal', 'decimals'],
  ['fraction', 'fractions, to 1/64'],
  ['feet', 'feet and inches'],
];
const ANGLES: readonly (readonly [UnitStyle['angles'], string])[] = [
  ['degrees', 'degrees'],
  ['minutes', 'degrees, minutes, seconds'],
  ['radians', 'radians'],
];
/** Unit of length, and beside it how exactly and in what else figures are told. */
export function UnitSwitch() {
  const ws = useWorkspace();
  const { unit, precision, inches, angles, secondUnit } = useStore(ws.profile);
  return (
    <div className="flex">
      <select
        aria-label="Unit of length"
        title="Unit of length"
        value={unit}
        onChange={(e) => changeSettings(ws, { unit: e.target.value as LengthUnit })}
        className="figures h-6 rounded-l border border-border bg-well px-1 text-[12px]"
      >
        {LENGTH_UNITS.map((u) => (
          <option key={u}>{u}</option>
        ))}
      </select>
      <Popover className="relative">
        <PopoverButton
          aria-label={`Units and precision: ${precision} decimals of a millimetre`}
          title="Precision, fractions, angles, a second unit"
          className="figures h-6 rounded-r border whitespace-nowrap border-l-0 border-border bg-well px-1.5 text-[12px] hover:bg-hover"
        >
          · {precision}
        </PopoverButton>
        <PopoverPanel
          anchor={{ to: 'bottom end', gap: 6 }}
          className="z-50 flex w-76 flex-col gap-2 rounded-md border border-line bg-panel p-3 text-[13px] text-soft shadow-card"
        >
          <Wish
            label="Decimals of a millimetre"
            value={String(precision)}
            options={Array.from({ length: MOST_PRECISION + 1 }, (_, n) => [String(n), String(n)] as const)}
            onChange={(value) => changeSettings(ws, { precision: Number(value) })}
          />
          <Wish
            label="Inches as"
            value={inches}
            options={INCHES}
            onChange={(value) => changeSettings(ws, { inches: value })}
          />
          <Wish
            label="Angles in"
            value={angles}
            options={ANGLES}
            onChange={(value) => changeSettings(ws, { angles: value })}
          />
          <Wish
            label="A second unit"
            value={secondUnit}
            options={[
              ['none', 'none'] as const,
              ...LENGTH_UNITS.filter((u) => u !== unit).map((u) => [u, u] as const),
            ]}
            onChange={(value) => changeSettings(ws, { secondUnit: value })}
          />
        </PopoverPanel>
      </Popover>
    </div>
  );
}

interface WishProps<T extends string> {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onChange: (value: T) => void;
}

function Wish<T extends string>({ label, value, options, onChange }: WishProps<T>) {
  return (
    <label className="flex items-center justify-between gap-2">
      {label}
      <select
        className="rounded border border-border bg-paper px-1 py-0.5 text-ink"
        value={value}
        onChange={(e) => onChange(e.target.value as T)}
      >
        {options.map(([id, name]) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}

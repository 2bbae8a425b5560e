import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react';
import { LENGTH_UNITS, MOST_PRECISION, type LengthUnit, type UnitStyle } from '@bathyscope/core';
import { useStore } from 'zustand';
import { changeSettings } from '../../workspace/change-settings.ts';
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
const FIELD = 'rounded border border-border bg-paper px-1 py-0.5 text-ink';

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
          className="figures h-6 rounded-r border border-l-0 border-border bg-well px-1.5 text-[12px] hover:bg-hover"
        >
          · {precision}
        </PopoverButton>
        <PopoverPanel
          anchor={{ to: 'bottom end', gap: 6 }}
          className="z-50 flex w-76 flex-col gap-2 rounded-md border border-line bg-panel p-3 text-[13px] text-soft shadow-card"
        >
          <label className="flex items-center justify-between gap-2">
            Decimals of a millimetre
            <select className={FIELD} value={precision} onChange={(e) => changeSettings(ws, { precision: Number(e.target.value) })}>
              {Array.from({ length: MOST_PRECISION + 1 }, (_, n) => (
                <option key={n}>{n}</option>
              ))}
            </select>
          </label>
          <label className="flex items-center justify-between gap-2">
            Inches as
            <select
              className={FIELD}
              value={inches}
              onChange={(e) => changeSettings(ws, { inches: e.target.value as UnitStyle['inches'] })}
            >
              {INCHES.map(([id, name]) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </select>
          </label>
          <label className="flex items-center justify-between gap-2">
            Angles in
            <select
              className={FIELD}
              value={angles}
              onChange={(e) => changeSettings(ws, { angles: e.target.value as UnitStyle['angles'] })}
            >
              {ANGLES.map(([id, name]) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </select>
          </label>
          <label className="flex items-center justify-between gap-2">
            A second unit
            <select
              className={FIELD}
              value={secondUnit}
              onChange={(e) => changeSettings(ws, { secondUnit: e.target.value as LengthUnit | 'none' })}
            >
              <option value="none">none</option>
              {LENGTH_UNITS.filter((u) => u !== unit).map((u) => (
                <option key={u}>{u}</option>
              ))}
            </select>
          </label>
        </PopoverPanel>
      </Popover>
    </div>
  );
}

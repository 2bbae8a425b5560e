import type { ReadDensity } from '@bathyscope/core/mass';
import { useState } from 'react';
import { BUTTON, FIELD } from './Head.tsx';
import { WhichDensity } from './WhichDensity.tsx';

interface Props {
  label: string;
  initial?: string;
  read: (text: string) => ReadDensity;
  /** Hears the density, kg/m³. */
  onTake: (density: number) => void;
}

/** A density that is typed. Where a bare number may be in two units, it asks which, showing both. */
export function DensityField({ label, initial = '', read, onTake }: Props) {
  const [text, setText] = useState(initial);
  const [said, setSaid] = useState<ReadDensity | null>(null);
  const take = () => {
    const found = read(text);
    setSaid(found);
    if ('density' in found) onTake(found.density);
  };
  return (
    <div className="mt-1">
      <label className="flex items-center gap-1.5 text-[12.5px] text-soft">
        {label}
        <input
          className={`${FIELD} w-28 text-right text-ink`}
          value={text}
          aria-invalid={said !== null && 'wrong' in said}
          placeholder="7850 or 7.85 g/cm³"
          onChange={(e) => setText(e.target.value)}
          onKeyDown={(e) => e.key === 'Enter' && (e.preventDefault(), take())}
        />
        <button type="button" className={BUTTON} onClick={take}>
          Take
        </button>
      </label>
      {said && 'wrong' in said && (
        <p role="alert" className="text-[12.5px] text-red">
          {said.wrong}
        </p>
      )}
      {said && 'either' in said && <WhichDensity written={text} either={said.either} onTake={onTake} />}
    </div>
  );
}

import { densityText } from '@bathyscope/core/mass';
import { BUTTON } from './Head.tsx';

/** Asks which of two densities a bare number is, showing both. */
export function WhichDensity({
  written,
  either: [asWritten, asGrams],
  onTake,
}: {
  written: string;
  either: readonly [number, number];
  onTake: (density: number) => void;
}) {
  return (
    <p role="alert" className="flex flex-wrap items-center gap-1.5 text-[12.5px] text-amber">
      Which is meant?
      <button type="button" className={BUTTON} onClick={() => onTake(asGrams)}>
        {written.trim()} g/cm³ = {densityText(asGrams)}
      </button>
      <button type="button" className={BUTTON} onClick={() => onTake(asWritten)}>
        {densityText(asWritten)}
      </button>
    </p>
  );
}

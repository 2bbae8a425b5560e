import { useState } from 'react';

interface Props {
  label: string;
  value: number;
  decimals: number;
  className?: string;
  /** What values are taken; others leave the old one. */
  check?: (value: number) => boolean;
  onChange: (value: number) => void;
  /** Arrow keys up (1) and down (−1). */
  onStep?: (sign: 1 | -1) => void;
}

/** A number that is typed: taken on Enter or when the field is left, as it was after Esc. A comma is a decimal point. */
export function NumberField({ label, value, decimals, className = '', check, onChange, onStep }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const take = () => {
    const next = Number((typed ?? '').replace(',', '.').replace('\u2212', '-'));
    if (typed !== null && typed.trim() !== '' && Number.isFinite(next) && next !== value && (check?.(next) ?? true)) onChange(next);
    setTyped(null);
  };
  return (
    <input
      aria-label={label}
      inputMode="decimal"
      value={typed ?? value.toFixed(decimals)}
      className={`figures h-7 rounded border border-border bg-well px-2 text-right text-[12.5px] text-ink ${className}`}
      onChange={(e) => setTyped(e.target.value)}
      onFocus={(e) => e.target.select()}
      onBlur={take}
      onKeyDown={(e) => {
        if (e.key === 'Enter') take();
        if (e.key === 'Escape') setTyped(null);
        const sign = e.key === 'ArrowUp' ? 1 : e.key === 'ArrowDown' ? -1 : 0;
        if (sign && onStep) {
          e.preventDefault();
          setTyped(null);
          onStep(sign);
        }
      }}
    />
  );
}

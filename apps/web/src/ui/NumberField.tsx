import { autoUpdate, flip, FloatingPortal, offset, shift, useFloating } from '@floating-ui/react';
import { bareUnit, type FieldKind } from '@bathyscope/core/units';
import { useId, useState } from 'react';
import { useTypedNumber } from './use-typed-number.ts';

interface Props {
  label: string;
  /** What the number is; decides which units are understood. */
  kind: FieldKind;
  /** mm, rad, s, or the number. */
  value: number;
  /** One of the unit shown, inside; millimetres, degrees, seconds where nothing is said. */
  one?: number;
  /** Shown behind the field. */
  unit: string;
  decimals: number;
  className?: string;
  title?: string;
  /** What is wrong with a value, as a sentence. */
  check?: (value: number) => string | null;
  onChange: (value: number) => void;
  /** Arrow keys up (1) and down (−1). */
  onStep?: (sign: 1 | -1) => void;
}

/**
 * A number that is typed, with units and sums: taken on Enter or when the field is left, as it was after Esc.
 * It says what it understood; what is wrong stays there, with what is wrong about it.
 */
export function NumberField({
  label,
  kind,
  value,
  one = bareUnit(kind, 'mm'),
  unit,
  decimals,
  className = '',
  title,
  check,
  onChange,
  onStep,
}: Props) {
  const {
    text,
    typing,
    value: next,
    note,
    type,
    forget,
  } = useTypedNumber({ kind, value, one, unit, decimals, check });
  const [focused, setFocused] = useState(false);
  const { refs, floatingStyles } = useFloating({
    placement: 'bottom-end',
    middleware: [offset(2), flip(), shift({ padding: 4 })],
    whileElementsMounted: autoUpdate,
  });
  const noteId = useId();
  const take = () => {
    if (!typing || next === null) return;
    forget();
    if (next !== value) onChange(next);
  };
  return (
    <>
      <input
        ref={refs.setReference}
        aria-label={unit ? `${label}, ${unit}` : label}
        aria-invalid={note?.wrong ?? false}
        aria-describedby={note ? noteId : undefined}
        title={title}
        value={text}
        autoComplete="off"
        spellCheck={false}
        className={`figures h-7 rounded border bg-well px-2 text-right text-[12.5px] text-ink ${note?.wrong ? 'border-red' : 'border-border'} ${className}`}
        onChange={(e) => type(e.target.value)}
        onFocus={(e) => {
          setFocused(true);
          e.target.select();
        }}
        onBlur={() => {
          setFocused(false);
          take();
        }}
        onKeyDown={(e) => {
          if (e.key === 'Enter') take();
          if (e.key === 'Escape' && typing) {
            e.stopPropagation();
            forget();
          }
          const sign = e.key === 'ArrowUp' ? 1 : e.key === 'ArrowDown' ? -1 : 0;
          if (sign && onStep) {
            e.preventDefault();
            forget();
            onStep(sign);
          }
        }}
      />{' '}
      {unit && <span>{unit}</span>}
      {note && (focused || note.wrong) && (
        <FloatingPortal>
          <span
            ref={refs.setFloating}
            id={noteId}
            role={note.wrong ? 'alert' : 'status'}
            style={floatingStyles}
            className={`pointer-events-none z-50 max-w-64 rounded border bg-panel px-2 py-0.5 text-[12.5px] shadow-card ${note.wrong ? 'border-red text-red' : 'figures border-line text-ink'}`}
          >
            {note.text}
          </span>
        </FloatingPortal>
      )}
    </>
  );
}

import type { ReactNode } from 'react';

interface Props {
  checked: boolean;
  onChange: (on: boolean) => void;
  className?: string;
  children: ReactNode;
}

/** A box to tick, and what it says. */
export function CheckBox({ checked, onChange, className = '', children }: Props) {
  return (
    <label className={`flex items-center gap-2 ${className}`}>
      <input
        type="checkbox"
        className="accent-(--blue)"
        checked={checked}
        onChange={(e) => onChange(e.target.checked)}
      />
      <span>{children}</span>
    </label>
  );
}

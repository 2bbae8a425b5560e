import type { LucideIcon } from 'lucide-react';
import type { ButtonHTMLAttributes } from 'react';

interface Props extends ButtonHTMLAttributes<HTMLButtonElement> {
  icon: LucideIcon;
  label: string;
  shortcut?: string;
}

/** A button with an icon only: its name is told to screen readers and on hover, with the key beside it. */
export function IconButton({ icon: Icon, label, shortcut, className = '', ...rest }: Props) {
  return (
    <button
      type="button"
      aria-label={label}
      title={shortcut ? `${label} (${shortcut})` : label}
      className={`grid size-7 place-items-center rounded hover:bg-hover disabled:opacity-40 ${className}`}
      {...rest}
    >
      <Icon size={17} strokeWidth={1.6} aria-hidden />
    </button>
  );
}

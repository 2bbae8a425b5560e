import { useState } from 'react';

interface Props {
  name: string;
  label: string;
  /** Shown where there is none; then it may also be taken away. */
  empty?: string;
  className?: string;
  /** A long name takes more lines; else it is cut. */
  wraps?: boolean;
  onRename: (name: string) => void;
}

/**
 * A name that becomes a field on a click: Enter keeps, Esc leaves it as it was, an empty name is not taken
 * unless there is a word for none.
 */
export function EditableName({ name, label, empty, className = '', wraps = false, onRename }: Props) {
  const [draft, setDraft] = useState<string | null>(null);
  if (draft === null)
    return (
      <button
        type="button"
        title={`${label}: click to change`}
        className={`max-w-full ${wraps ? 'break-words' : 'truncate'} rounded px-1 text-left hover:bg-hover ${className}`}
        onClick={() => setDraft(name)}
      >
        {name || empty}
      </button>
    );
  const keep = () => {
    const text = draft.trim();
    if ((text || empty) && text !== name) onRename(text);
    setDraft(null);
  };
  return (
    <input
      autoFocus
      aria-label={label}
      value={draft}
      maxLength={200}
      size={Math.max(12, draft.length)}
      className={`max-w-full rounded border border-border bg-panel px-1 ${className}`}
      onChange={(e) => setDraft(e.target.value)}
      onFocus={(e) => e.target.select()}
      onBlur={keep}
      onKeyDown={(e) => {
        if (e.key === 'Enter') keep();
        if (e.key === 'Escape') setDraft(null);
        e.stopPropagation();
      }}
    />
  );
}

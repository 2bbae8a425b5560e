interface Props<T extends string> {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onChange: (value: T) => void;
}

/** A few exclusive choices side by side. */
export function Choice<T extends string>({ label, value, options, onChange }: Props<T>) {
  return (
    <div role="group" aria-label={label} className="flex overflow-hidden rounded border border-border">
      {options.map(([id, name]) => (
        <button
          key={id}
          type="button"
          aria-pressed={id === value}
          onClick={() => onChange(id)}
          className={`flex-1 border-r border-border px-1 whitespace-nowrap py-0.5 text-[13px] last:border-r-0 ${id === value ? 'bg-blue font-medium text-on-blue' : 'bg-paper hover:bg-hover'}`}
        >
          {name}
        </button>
      ))}
    </div>
  );
}

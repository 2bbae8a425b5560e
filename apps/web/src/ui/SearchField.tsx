interface Props {
  /** What is searched, and for what. */
  label: string;
  placeholder: string;
  value: string;
  onChange: (text: string) => void;
  className: string;
}

/** A field whose text narrows what is listed below it. */
export const SearchField = ({ label, placeholder, value, onChange, className }: Props) => (
  <input
    type="search"
    aria-label={label}
    placeholder={placeholder}
    autoComplete="off"
    value={value}
    onChange={(e) => onChange(e.target.value)}
    className={`rounded-full border border-border bg-well px-3 placeholder:text-soft ${className}`}
  />
);

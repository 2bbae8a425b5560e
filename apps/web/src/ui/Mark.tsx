/** The program's mark and name. */
export function Mark() {
  return (
    <span className="flex items-center gap-2 font-semibold">
      <svg viewBox="0 0 32 32" className="size-[18px]" aria-hidden>
        <circle cx="16" cy="16" r="13" fill="var(--panel)" stroke="var(--blue)" strokeWidth="4" />
        <circle cx="16" cy="16" r="5.5" fill="var(--magenta)" />
      </svg>
      <span className="text-[15px] max-[899px]:sr-only">Bathyscope</span>
    </span>
  );
}

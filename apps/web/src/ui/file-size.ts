/** Bytes as people say them. */
export function fileSize(bytes: number): string {
  const units = ['B', 'kB', 'MB', 'GB'];
  const at = Math.min(units.length - 1, Math.max(0, Math.floor(Math.log10(Math.max(1, bytes)) / 3)));
  const value = bytes / 1000 ** at;
  return `${at && value < 10 ? value.toFixed(1) : Math.round(value)} ${units[at]}`;
}

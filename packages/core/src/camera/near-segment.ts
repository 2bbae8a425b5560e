interface Pixel {
  x: number;
  y: number;
}

/**
 * Where a segment on the screen comes nearest to a pixel: its share of the way, 0 at the first end and 1 at
 * the second, and how far that is, px.
 */
export function nearSegment(a: Pixel, b: Pixel, x: number, y: number): { share: number; away: number } {
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  const square = dx * dx + dy * dy;
  const share = square > 0 ? Math.max(0, Math.min(1, ((x - a.x) * dx + (y - a.y) * dy) / square)) : 0;
  return { share, away: Math.hypot(a.x + share * dx - x, a.y + share * dy - y) };
}

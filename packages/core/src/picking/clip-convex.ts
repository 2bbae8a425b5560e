/** A convex polygon, or a line of two points, cut to a rectangle with y downwards (I. Sutherland and G. Hodgman, Comm. ACM 17(1), 1974). */
export function clipConvex(
  corners: readonly { x: number; y: number }[],
  { left, right, top, bottom }: { left: number; right: number; top: number; bottom: number },
): { x: number; y: number }[] {
  const sides: ((p: { x: number; y: number }) => number)[] = [(p) => p.x - left, (p) => right - p.x, (p) => p.y - top, (p) => bottom - p.y];
  return sides.reduce(
    (rest, height) =>
      rest.flatMap((p, i) => {
        const next = rest[(i + 1) % rest.length];
        const [a, b] = [height(p), height(next)];
        const here = a >= 0 ? [p] : [];
        if (a >= 0 === b >= 0) return here;
        const share = a / (a - b);
        return [...here, { x: p.x + share * (next.x - p.x), y: p.y + share * (next.y - p.y) }];
      }),
    [...corners],
  );
}

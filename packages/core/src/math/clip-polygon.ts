/**
 * What of a convex polygon, or of a line of two points, lies where all of some heights are not below 0
 * (I. Sutherland and G. Hodgman, Comm. ACM 17(1), 1974).
 * @param between the point at a share of the way from one to another
 */
export function clipPolygon<P>(
  corners: readonly P[],
  heights: readonly ((p: P) => number)[],
  between: (a: P, b: P, share: number) => P,
): readonly P[] {
  let left = corners;
  for (const height of heights) {
    const at = left.map(height);
    if (at.every((h) => h >= 0)) continue;
    left = left.flatMap((p, i) => {
      const next = (i + 1) % left.length;
      const here = at[i] >= 0 ? [p] : [];
      return at[i] >= 0 === at[next] >= 0 ? here : [...here, between(p, left[next], at[i] / (at[i] - at[next]))];
    });
    if (!left.length) break;
  }
  return left;
}

/** A text on the screen, px: its middle and size. */
export interface LabelBox {
  x: number;
  y: number;
  width: number;
  height: number;
}

const GAP = 2;
const RINGS = 8;
const SPOKES = 8;

/**
 * Moves texts apart that would lie on each other: each in its turn goes to the nearest place
 * around its own that is free.
 * Those that find none stay. @returns the middles
 */
export function placeLabels(labels: readonly LabelBox[]): { x: number; y: number }[] {
  const placed: LabelBox[] = [];
  return labels.map((label) => {
    const free = (x: number, y: number) => placed.every((p) => !meet({ ...label, x, y }, p));
    const at = placesAround(label).find(([x, y]) => free(x, y)) ?? [label.x, label.y];
    placed.push({ ...label, x: at[0], y: at[1] });
    return { x: at[0], y: at[1] };
  });
}

const meet = (a: LabelBox, b: LabelBox): boolean =>
  Math.abs(a.x - b.x) < (a.width + b.width) / 2 + GAP &&
  Math.abs(a.y - b.y) < (a.height + b.height) / 2 + GAP;

function placesAround({ x, y, width, height }: LabelBox): [number, number][] {
  const places: [number, number][] = [[x, y]];
  for (let ring = 1; ring <= RINGS; ring++)
    for (let spoke = 0; spoke < SPOKES; spoke++) {
      // Upwards first: texts stand over their lines.
      const angle = -Math.PI / 2 + (2 * Math.PI * spoke) / SPOKES;
      places.push([
        x + Math.cos(angle) * ring * (width / 2 + GAP),
        y + Math.sin(angle) * ring * (height + GAP),
      ]);
    }
  return places;
}

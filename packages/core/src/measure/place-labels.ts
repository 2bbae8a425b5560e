/** A text on the screen, px: its middle and size. */
export interface LabelBox {
  x: number;
  y: number;
  width: number;
  height: number;
}

const GAP = 2;
const SPOKES = 8;

/**
 * Moves texts apart that would lie on each other: each in its turn goes to the nearest place around its own
 * that is free. Empty ones are in nobody's way. @returns the middles
 */
export function placeLabels(labels: readonly LabelBox[]): { x: number; y: number }[] {
  const placed: LabelBox[] = [];
  return labels.map((label) => {
    const { x, y } = label.width > 0 ? freePlace(label, placed) : label;
    if (label.width > 0) placed.push({ ...label, x, y });
    return { x, y };
  });
}

/** Far enough upwards nothing lies any more, so that one is always found. */
function freePlace(label: LabelBox, placed: readonly LabelBox[]): { x: number; y: number } {
  for (const [x, y] of placesAround(label))
    if (placed.every((p) => !meet({ ...label, x, y }, p))) return { x, y };
  return label;
}

const meet = (a: LabelBox, b: LabelBox): boolean =>
  Math.abs(a.x - b.x) < (a.width + b.width) / 2 + GAP &&
  Math.abs(a.y - b.y) < (a.height + b.height) / 2 + GAP;

/** Its own place, then rings of places about it without an end. */
function* placesAround({ x, y, width, height }: LabelBox): Generator<[number, number]> {
  yield [x, y];
  for (let ring = 1; ; ring++)
    for (let spoke = 0; spoke < SPOKES; spoke++) {
      // Upwards first: texts stand over their lines.
      const angle = -Math.PI / 2 + (2 * Math.PI * spoke) / SPOKES;
      yield [x + Math.cos(angle) * ring * (width / 2 + GAP), y + Math.sin(angle) * ring * (height + GAP)];
    }
}

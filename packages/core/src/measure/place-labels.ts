/** A text on the screen, px: its middle and size. */
export interface LabelBox {
  x: number;
  y: number;
  width: number;
  height: number;
}

const GAP = 2;
const SPOKES = 8;
/** Places farther off are not tried: what a text there belongs to is not seen any more. */
const RINGS = 24;

/**
 * Moves texts apart that would lie on each other: each in its turn goes to the nearest place around its own
 * that is free. Empty ones are in nobody's way. @returns the middles; null where no place is free
 */
export function placeLabels(labels: readonly LabelBox[]): ({ x: number; y: number } | null)[] {
  const placed = new Placed(Math.max(1, ...labels.map((l) => l.height)));
  return labels.map((label) => {
    if (!(label.width > 0)) return { x: label.x, y: label.y };
    const at = placesAround(label).find(([x, y]) => placed.isFree({ ...label, x, y }));
    if (!at) return null;
    const [x, y] = at;
    placed.add({ ...label, x, y });
    return { x, y };
  });
}

/** What is placed, in level bands: only what lies in the same or the next can meet. */
class Placed {
  private readonly bands = new Map<number, LabelBox[]>();
  private readonly band: number;

  /** @param highest of the texts */
  constructor(highest: number) {
    this.band = highest + GAP;
  }

  private bandOf({ y }: LabelBox): number {
    return Math.floor(y / this.band);
  }

  add(label: LabelBox): void {
    const band = this.bandOf(label);
    const there = this.bands.get(band);
    if (there) there.push(label);
    else this.bands.set(band, [label]);
  }

  isFree(label: LabelBox): boolean {
    const band = this.bandOf(label);
    return [band - 1, band, band + 1].every((b) => !this.bands.get(b)?.some((p) => meet(label, p)));
  }
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

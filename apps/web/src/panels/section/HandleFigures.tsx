import { project, type Pane, type ViewCamera } from '@bathyscope/core/camera';
import { offsetAt, planeInBox, type SectionPlane } from '@bathyscope/core/section';
import { changePlane, recordSection, stepPlane } from '../../commands/cut/section-changes.ts';
import { NumberField } from '../../ui/NumberField.tsx';
import { shownBox } from '../../workspace/shown/shown.ts';
import type { Rect } from '../../workspace/measuring/card-place.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { LengthField } from '../LengthField.tsx';
import { useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';
import { useOwnSystem } from '../measure/use-own-system.ts';
import { placeOf } from './plane-place.ts';

/** px */
const WIDTH = 176;
const HEIGHT = 86;
const GAP = 18;
const MARGIN = 4;
/** The share of a cut's width and height that counts as its middle. */
const MIDDLE = 0.6;

interface Spot {
  x: number;
  y: number;
}

interface Props {
  pane: { camera: ViewCamera; size: Pane };
  /** px in the pane. */
  handle: Spot & { points: Spot[] };
  plane: SectionPlane;
  tilts: readonly [number, number];
  setTilt: (which: 0 | 1, angle: number) => void;
}

/** The handle's figures beside it, where they leave the middle of the cut free. */
export function HandleFigures({ pane, handle, plane, tilts, setTilt }: Props) {
  const ws = useWorkspace();
  const system = useOwnSystem();
  const place = placeOf(plane, system);
  const cut = useSeen((now) => middleOfCut(now, plane, pane));
  return (
    <div
      data-testid="handle-figures"
      className="pointer-events-auto absolute rounded-md border border-line bg-panel px-2 py-1 text-[12.5px] shadow-card"
      style={{ ...spotOf(cut, handle, pane.size), width: WIDTH }}
    >
      <label className="flex items-center gap-1" title={place.counted}>
        <span className="flex-1 text-soft">{place.name}</span>
        <LengthField
          label={`${place.name} at the handle`}
          value={place.at}
          className="h-6 w-[78px]"
          onChange={(at) =>
            recordSection(ws, `move ${plane.name}`, {
              planes: changePlane(ws, plane.id, { offset: offsetAt(plane, at, system) }),
            })
          }
          onStep={(sign) => stepPlane(ws, plane, sign)}
        />
      </label>
      {([0, 1] as const).map((i) => (
        <label key={i} className="mt-0.5 flex items-center gap-1">
          <span className="flex-1 text-soft">{i === 0 ? 'Tilt ↔' : 'Tilt ↕'}</span>
          <NumberField
            label={i === 0 ? 'Tilt of the level arm' : 'Tilt of the upright arm'}
            kind="angle"
            unit="°"
            value={tilts[i]}
            decimals={2}
            className="h-6 w-[78px]"
            onChange={(angle) => setTilt(i, angle)}
          />
        </label>
      ))}
    </div>
  );
}

/** The middle of what the plane cuts out of all that is shown, px in the pane; null when it cuts nothing. */
function middleOfCut(ws: Workspace, plane: SectionPlane, { camera, size }: Props['pane']): Rect | null {
  const seen = planeInBox(plane, shownBox(ws)).map((p) => project(camera, size, p));
  if (!seen.length || seen.some((s) => s.behind)) return null;
  const middle = (of: 'x' | 'y', most: number): [number, number] => {
    const [low, high] = [
      Math.max(0, Math.min(...seen.map((s) => s[of]))),
      Math.min(most, Math.max(...seen.map((s) => s[of]))),
    ];
    const edge = ((high - low) * (1 - MIDDLE)) / 2;
    return [low + edge, high - edge];
  };
  const [left, right] = middle('x', size.width);
  const [top, bottom] = middle('y', size.height);
  return { left, top, right, bottom };
}

const overlap = (a: Rect, b: Rect): number =>
  Math.max(0, Math.min(a.right, b.right) - Math.max(a.left, b.left)) *
  Math.max(0, Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top));

/**
 * Beside the handle, else beside the middle of the cut, else along the pane's left edge: the first
 * place that covers neither.
 */
function spotOf(
  middle: Rect | null,
  handle: Props['handle'],
  { width, height }: Pane,
): { left: number; top: number } {
  const xs = [handle, ...handle.points].map((p) => p.x);
  const ys = [handle, ...handle.points].map((p) => p.y);
  const own: Rect = {
    left: Math.min(...xs) - 8,
    right: Math.max(...xs) + 8,
    top: Math.min(...ys) - 8,
    bottom: Math.max(...ys) + 8,
  };
  const beside = (r: Rect): [number, number][] => [
    [r.right + GAP, handle.y - HEIGHT / 2],
    [r.left - GAP - WIDTH, handle.y - HEIGHT / 2],
    [handle.x - WIDTH / 2, r.bottom + GAP],
    [handle.x - WIDTH / 2, r.top - GAP - HEIGHT],
  ];
  const corners: [number, number][] = [
    [MARGIN, MARGIN],
    [MARGIN, height - HEIGHT - MARGIN],
    [width - WIDTH - MARGIN, MARGIN],
  ];
  const spots = [...beside(own), ...(middle ? beside(middle) : []), ...corners].map(([left, top]) => {
    const x = Math.max(MARGIN, Math.min(width - WIDTH - MARGIN, left));
    const y = Math.max(MARGIN, Math.min(height - HEIGHT - MARGIN, top));
    const rect = { left: x, top: y, right: x + WIDTH, bottom: y + HEIGHT };
    return { left: x, top: y, covered: overlap(rect, own) + (middle ? overlap(rect, middle) : 0) };
  });
  const { left, top } = spots.reduce((best, s) => (s.covered < best.covered ? s : best));
  return { left, top };
}

import { dot } from '@bathyscope/core/math';
import { tiltPlane, type SectionPlane } from '@bathyscope/core/section';
import { ALONG_AXIS } from '@bathyscope/core/tolerances';
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { acceptSection, changePlane, recordSection, startDrag } from '../../commands/cut/section-changes.ts';
import type { PaneState } from '../../state/camera-store.ts';
import { shownBox } from '../../workspace/shown/shown.ts';
import { useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';
import { placeHandle, type PlacedHandle } from './place-handle.ts';

/** The arms that tilt, as a share of the one that moves. */
export const TILT_ARM = 0.75;
/** Cosine from which planes count as parallel. */
const PARALLEL = 1 - ALONG_AXIS;

type Tilts = readonly [number, number];

const SIGNS: Readonly<Record<string, 1 | -1 | undefined>> = {
  ArrowUp: 1,
  ArrowRight: 1,
  ArrowDown: -1,
  ArrowLeft: -1,
};

/** What the handle of a plane does: where it sits, and how a drag or keys move and tilt the plane. */
export function usePlaneHandle(plane: SectionPlane, pane: PaneState) {
  const ws = useWorkspace();
  /** rad, of both arms, since the handle was put on. */
  const [tilts, setTilts] = useState<Tilts>([0, 0]);
  const drag = useRef<{
    is: ReturnType<typeof startDrag>;
    x: number;
    y: number;
    plane: SectionPlane;
    placed: PlacedHandle;
    tilts: Tilts;
    planes: SectionPlane[];
  } | null>(null);
  const placed = useSeen((now) => placeHandle(shownBox(now), plane, pane.camera, pane.size));

  const begin = (what: string) => (e: PointerEvent<SVGGElement>) => {
    if (!placed) return;
    e.stopPropagation();
    e.currentTarget.setPointerCapture(e.pointerId);
    const { planes } = ws.section.getState();
    const is = startDrag(ws, `${what} ${plane.name}`);
    drag.current = { is, x: e.clientX, y: e.clientY, plane, placed, tilts, planes };
  };
  const end = () => {
    drag.current?.is.end();
    drag.current = null;
  };
  /** mm along the normal since the drag began. */
  const moved = (e: PointerEvent): number => {
    const { x, y, placed: from } = drag.current!;
    return ((e.clientX - x) * from.along[0] + (e.clientY - y) * from.along[1]) * from.mmPerPx;
  };
  /** With Shift the planes parallel to it come along, so that a slab keeps its thickness. */
  const slideTo = (e: PointerEvent) => {
    if (!drag.current) return;
    const { planes, plane: from, is } = drag.current;
    const by = moved(e);
    is.move(
      planes.map((p) => {
        const along = dot(p.normal, from.normal);
        return p.id === from.id || (e.shiftKey && Math.abs(along) > PARALLEL)
          ? { ...p, offset: p.offset + by * along }
          : p;
      }),
    );
  };
  const tiltTo = (which: 0 | 1) => (e: PointerEvent) => {
    const d = drag.current;
    if (!d) return;
    const angle = Math.atan2(moved(e), d.placed.arm * TILT_ARM);
    d.is.move(changePlane(ws, plane.id, tilted(which, angle, d.plane, d.placed)));
    setTilts(withTilt(d.tilts, which, d.tilts[which] + angle));
  };
  const setTilt = (which: 0 | 1, angle: number) => {
    if (!placed) return;
    recordSection(ws, `tilt ${plane.name}`, {
      planes: changePlane(ws, plane.id, tilted(which, angle - tilts[which], plane, placed)),
    });
    setTilts(withTilt(tilts, which, angle));
  };
  const abandonDrag = (): boolean => {
    if (!drag.current) return false;
    setTilts(drag.current.tilts);
    drag.current.is.abandon();
    drag.current = null;
    return true;
  };
  const keys = (step: (sign: 1 | -1, fine: boolean) => void) => (e: KeyboardEvent) => {
    if (e.key === 'Escape' && abandonDrag()) return e.stopPropagation();
    if (e.key === 'Enter') acceptSection(ws);
    const sign = SIGNS[e.key];
    if (!sign || e.ctrlKey || e.altKey) return;
    e.preventDefault();
    e.stopPropagation();
    step(sign, e.shiftKey);
  };
  return { placed, tilts, setTilt, begin, end, slideTo, tiltTo, keys };
}

const withTilt = (tilts: Tilts, which: 0 | 1, angle: number): Tilts =>
  which === 0 ? [angle, tilts[1]] : [tilts[0], angle];

/**
 * About v for the arm along u, about u for the arm along v; moving an arm along the normal counts positive.
 */
const tilted = (which: 0 | 1, angle: number, from: SectionPlane, { at, u, v }: PlacedHandle): SectionPlane =>
  tiltPlane(from, at, which === 0 ? v : u, which === 0 ? -angle : angle);

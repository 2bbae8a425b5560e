import { pixelSizeAt, project, viewBack, type ViewCamera } from '@bathyscope/core/camera';
import {
  addScaled,
  boxCentre,
  cross,
  dot,
  length,
  normalize,
  rotate,
  subtract,
  type Vec3,
} from '@bathyscope/core/math';
import { tiltPlane, type SectionPlane } from '@bathyscope/core/section';
import { ALONG_AXIS } from '@bathyscope/core/tolerances';
import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { useStore } from 'zustand';
import { shownBox } from '../../workspace/shown/shown.ts';
import {
  acceptSection,
  changePlane,
  recordSection,
  startDrag,
  stepPlane,
} from '../../commands/cut/section-changes.ts';
import { HandleFigures } from './HandleFigures.tsx';
import { placeOf } from './plane-place.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { OverPane } from '../frame/OverPane.tsx';
import { useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';

/** px */
const ARM = 62;
/** px: a normal that looks shorter than this points at the eye; the hand then moves it up and down. */
const FORESHORTENED = 14;
const DEGREE = Math.PI / 180;
/** Cosine from which planes count as parallel. */
const PARALLEL = 1 - ALONG_AXIS;

interface Placed {
  /** Where the handle sits in the plane, and on the canvas. */
  at: Vec3;
  x: number;
  y: number;
  /** Unit direction of the normal on the canvas, and mm along it for one px. */
  along: readonly [number, number];
  mmPerPx: number;
  /** mm of an arm. */
  arm: number;
  u: Vec3;
  v: Vec3;
}

/**
 * The handle of the plane that is being set: moves it along its normal and tilts it two ways;
 * its figures can be typed.
 */
export function SectionHandle() {
  const ws = useWorkspace();
  const { planes, active, on } = useStore(ws.section);
  const plane = planes.find((p) => p.id === active);
  if (!plane || !on || !plane.on) return null;
  return <Handle key={plane.id} plane={plane} />;
}

function placeHandle(
  ws: Workspace,
  plane: SectionPlane,
  camera: ViewCamera,
  size: { width: number; height: number },
): Placed | null {
  const box = shownBox(ws);
  const { normal } = plane;
  const onPlane = (p: Vec3): Vec3 =>
    addScaled(p, normal, dot(subtract(addScaled(plane.origin, normal, plane.offset), p), normal));
  let at = onPlane(boxCentre(box));
  let s = project(camera, size, at);
  // Panned away, the handle comes along.
  if (s.behind || s.x < ARM || s.y < ARM || s.x > size.width - ARM || s.y > size.height - ARM) {
    at = onPlane(camera.target);
    s = project(camera, size, at);
    if (s.behind) return null;
  }
  const px = pixelSizeAt(camera, size, at);
  const arm = ARM * px;
  const tip = project(camera, size, addScaled(at, normal, arm));
  const [dx, dy] = [tip.x - s.x, tip.y - s.y];
  const seen = Math.hypot(dx, dy);
  const towards = Math.sign(dot(normal, viewBack(camera))) || 1;
  const right = rotate(camera.orientation, [1, 0, 0]);
  const level = addScaled(right, normal, -dot(right, normal));
  const u = length(level) > 1e-3 ? normalize(level) : normalize(cross(normal, viewBack(camera)));
  const flat = seen < FORESHORTENED;
  return {
    at,
    x: s.x,
    y: s.y,
    along: flat ? [0, -towards] : [dx / seen, dy / seen],
    mmPerPx: flat ? px : arm / seen,
    arm,
    u,
    v: cross(normal, u),
  };
}

function Handle({ plane }: { plane: SectionPlane }) {
  const ws = useWorkspace();
  const { panes } = useStore(ws.camera);
  const [pane] = panes;
  const [tilts, setTilts] = useState<readonly [number, number]>([0, 0]);
  const grip = useRef<SVGGElement>(null);
  const isNew = useRef(ws.section.getState().before !== null);
  useEffect(() => {
    if (isNew.current) grip.current?.focus({ preventScroll: true });
  }, []);
  const drag = useRef<{
    is: ReturnType<typeof startDrag>;
    x: number;
    y: number;
    plane: SectionPlane;
    placed: Placed;
    tilts: readonly [number, number];
    planes: SectionPlane[];
  } | null>(null);
  const placed = useSeen((now) => placeHandle(now, plane, pane.camera, pane.size));
  if (!placed) return null;
  const { x, y, along } = placed;
  const tip = { x: x + along[0] * ARM, y: y + along[1] * ARM };
  const ends = [placed.u, placed.v].map((d) =>
    project(pane.camera, pane.size, addScaled(placed.at, d, placed.arm * 0.75)),
  );

  const begin = (what: string) => (e: PointerEvent<SVGGElement>) => {
    e.stopPropagation();
    e.currentTarget.setPointerCapture(e.pointerId);
    drag.current = {
      is: startDrag(ws, `${what} ${plane.name}`),
      x: e.clientX,
      y: e.clientY,
      plane,
      placed,
      tilts,
      planes: ws.section.getState().planes,
    };
  };
  const moved = (e: PointerEvent): number => {
    const d = drag.current!;
    return ((e.clientX - d.x) * d.placed.along[0] + (e.clientY - d.y) * d.placed.along[1]) * d.placed.mmPerPx;
  };
  /**
   * Moves the plane from where the drag began; the planes parallel to it come along, so that a
   * slab keeps its thickness.
   */
  const slide = (by: number, together: boolean) => {
    const { planes, plane: from, is } = drag.current!;
    is.move(
      planes.map((p) => {
        const along = dot(p.normal, from.normal);
        return p.id === from.id || (together && Math.abs(along) > PARALLEL)
          ? { ...p, offset: p.offset + by * along }
          : p;
      }),
    );
  };
  const end = () => {
    drag.current?.is.end();
    drag.current = null;
  };
  /**
   * About v for the arm along u, about u for the arm along v; moving an arm along the normal counts positive.
   */
  const tilted = (which: 0 | 1, angle: number, from: SectionPlane, at: Placed): SectionPlane =>
    tiltPlane(from, at.at, which === 0 ? at.v : at.u, which === 0 ? -angle : angle);
  const setTilt = (which: 0 | 1, angle: number) => {
    recordSection(ws, `tilt ${plane.name}`, {
      planes: changePlane(ws, plane.id, tilted(which, angle - tilts[which], plane, placed)),
    });
    setTilts(which === 0 ? [angle, tilts[1]] : [tilts[0], angle]);
  };
  const abandonDrag = (e: KeyboardEvent): boolean => {
    if (e.key !== 'Escape' || !drag.current) return false;
    setTilts(drag.current.tilts);
    drag.current.is.abandon();
    drag.current = null;
    e.stopPropagation();
    return true;
  };
  const keys = (step: (sign: 1 | -1, fine: boolean) => void) => (e: KeyboardEvent) => {
    if (abandonDrag(e)) return;
    if (e.key === 'Enter') acceptSection(ws);
    const sign =
      e.key === 'ArrowUp' || e.key === 'ArrowRight'
        ? 1
        : e.key === 'ArrowDown' || e.key === 'ArrowLeft'
          ? -1
          : 0;
    if (!sign || e.ctrlKey || e.altKey) return;
    e.preventDefault();
    e.stopPropagation();
    step(sign, e.shiftKey);
  };
  return (
    <OverPane rect={pane.rect}>
      <svg
        className="absolute inset-0 size-full overflow-visible"
        aria-label={`Handle of ${plane.name}`}
        role="group"
      >
        <g stroke="var(--magenta)" strokeWidth={2} fill="none">
          <line x1={x} y1={y} x2={tip.x} y2={tip.y} />
          <circle cx={x} cy={y} r={3} fill="var(--magenta)" />
          {ends.map((e, i) => (
            <line key={i} x1={x} y1={y} x2={e.x} y2={e.y} strokeWidth={1.2} strokeDasharray="4 3" />
          ))}
        </g>
        <g
          ref={grip}
          role="slider"
          tabIndex={0}
          aria-label={`Move ${plane.name}`}
          aria-valuenow={placeOf(plane).at}
          aria-valuetext={`${placeOf(plane).at.toFixed(3)} mm`}
          className="pointer-events-auto cursor-grab focus:outline-none [&:focus-visible>circle]:stroke-[4]"
          onPointerDown={begin('move')}
          onPointerUp={end}
          onLostPointerCapture={end}
          onPointerMove={(e) => drag.current && slide(moved(e), e.shiftKey)}
          onKeyDown={keys((sign) => stepPlane(ws, plane, sign))}
        >
          <title>Drag to move, with Shift all parallel planes; arrow keys step</title>
          <circle cx={tip.x} cy={tip.y} r={10} fill="var(--panel)" stroke="var(--magenta)" strokeWidth={2} />
          <path
            d="M-4 -1 L0 -6 L4 -1 M-4 1 L0 6 L4 1"
            transform={`translate(${tip.x} ${tip.y}) rotate(${(Math.atan2(along[0], -along[1]) * 180) / Math.PI})`}
            stroke="var(--magenta)"
            strokeWidth={1.6}
            fill="none"
          />
        </g>
        {ends.map((e, i) => (
          <g
            key={i}
            role="slider"
            tabIndex={0}
            aria-label={`Tilt ${plane.name}, ${i === 0 ? 'level' : 'upright'} arm`}
            aria-valuenow={tilts[i] / DEGREE}
            className="pointer-events-auto cursor-grab focus:outline-none [&:focus-visible>rect]:stroke-[4]"
            onPointerDown={begin('tilt')}
            onPointerUp={end}
            onLostPointerCapture={end}
            onPointerMove={(event) => {
              const d = drag.current;
              if (!d) return;
              const angle = Math.atan2(moved(event), d.placed.arm * 0.75);
              d.is.move(changePlane(ws, plane.id, tilted(i as 0 | 1, angle, d.plane, d.placed)));
              setTilts(i === 0 ? [d.tilts[0] + angle, d.tilts[1]] : [d.tilts[0], d.tilts[1] + angle]);
            }}
            onKeyDown={keys((sign, fine) => setTilt(i as 0 | 1, tilts[i] + sign * (fine ? 0.1 : 1) * DEGREE))}
          >
            <rect
              x={-6}
              y={-6}
              width={12}
              height={12}
              transform={`translate(${e.x} ${e.y}) rotate(45)`}
              fill="var(--panel)"
              stroke="var(--magenta)"
              strokeWidth={2}
            />
          </g>
        ))}
      </svg>
      <HandleFigures
        pane={pane}
        handle={{ x, y, points: [tip, ...ends] }}
        plane={plane}
        tilts={tilts}
        setTilt={setTilt}
      />
    </OverPane>
  );
}

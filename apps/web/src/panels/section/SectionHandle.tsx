import { project } from '@bathyscope/core/camera';
import { addScaled } from '@bathyscope/core/math';
import type { SectionPlane } from '@bathyscope/core/section';
import { useEffect, useRef } from 'react';
import { useStore } from 'zustand';
import { stepPlane } from '../../commands/cut/section-changes.ts';
import { OverPane } from '../frame/OverPane.tsx';
import { useWorkspace } from '../use-workspace.ts';
import { HandleFigures } from './HandleFigures.tsx';
import { ARM } from './place-handle.ts';
import { placeOf } from './plane-place.ts';
import { TILT_ARM, usePlaneHandle } from './use-plane-handle.ts';

const DEGREE = Math.PI / 180;

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

function Handle({ plane }: { plane: SectionPlane }) {
  const ws = useWorkspace();
  const { panes } = useStore(ws.camera);
  const [pane] = panes;
  const handle = usePlaneHandle(plane, pane);
  const grip = useRef<SVGGElement>(null);
  const isNew = useRef(ws.section.getState().before !== null);
  useEffect(() => {
    if (isNew.current) grip.current?.focus({ preventScroll: true });
  }, []);
  const { placed, tilts, setTilt, begin, end, slideTo, tiltTo, keys } = handle;
  if (!placed) return null;
  const { x, y, along } = placed;
  const tip = { x: x + along[0] * ARM, y: y + along[1] * ARM };
  const ends = [placed.u, placed.v].map((d) =>
    project(pane.camera, pane.size, addScaled(placed.at, d, placed.arm * TILT_ARM)),
  );
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
          onPointerMove={slideTo}
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
            onPointerMove={tiltTo(i as 0 | 1)}
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

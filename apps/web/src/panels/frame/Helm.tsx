import { sixAxisStep, STILL, type SixRates } from '@bathyscope/core/camera';
import { X } from 'lucide-react';
import { useEffect, useRef, useState, type PointerEvent as ReactPointer } from 'react';
import { useStore } from 'zustand';
import { stopTurning } from '../../workspace/view/turn-view.ts';
import { IconButton } from '../../ui/IconButton.tsx';
import { useWorkspace } from '../use-workspace.ts';
import { activePane } from '../../workspace/view/panes.ts';
import { changeSettings } from '../../workspace/keeping/change-settings.ts';

/** Full deflection: half a pane height, a factor of e, or a third of a turn; per second. */
const SLIDE = 0.5;
const NEARER = 1;
const TWIST = 2;
const REACH = 30;

type Part = 'slide' | 'tilt' | 'twist' | 'lever';

/** How far each part of the stick is pushed, −1…1 across and up. */
type Deflections = Record<Part, { x: number; y: number }>;

const CENTRED: Deflections = {
  slide: { x: 0, y: 0 },
  tilt: { x: 0, y: 0 },
  twist: { x: 0, y: 0 },
  lever: { x: 0, y: 0 },
};

const ratesOf = (d: Deflections): SixRates => ({
  right: d.slide.x * SLIDE,
  up: d.slide.y * SLIDE,
  nearer: d.lever.y * NEARER,
  pitch: -d.tilt.y * TWIST,
  yaw: d.tilt.x * TWIST,
  roll: -d.twist.x * TWIST,
});

/**
 * The on-screen stand-in for a six-axis hand controller. What is pushed moves on; with Shift it stays pushed
 * when let go, so that all six can go at once.
 */
export function Helm() {
  const ws = useWorkspace();
  const shown = useStore(ws.profile, (s) => s.helm);
  return shown ? <OpenHelm /> : null;
}

function OpenHelm() {
  const ws = useWorkspace();
  const [pushed, setPushed] = useState(CENTRED);
  useMotion(pushed);
  const push = (part: Part, x: number, y: number) => setPushed((old) => ({ ...old, [part]: { x, y } }));
  const still = Object.values(pushed).every((d) => d.x === 0 && d.y === 0);
  return (
    <section
      aria-label="Helm"
      className="absolute right-44 bottom-3 z-10 rounded-md border border-line bg-panel p-2 shadow-card"
    >
      <header className="mb-1 flex items-center gap-1">
        <h2 className="flex-1 text-[13px] font-semibold">Helm</h2>
        {!still && (
          <button
            type="button"
            className="rounded px-1.5 text-[12px] text-magenta hover:bg-hover"
            onClick={() => setPushed(CENTRED)}
          >
            Centre all
          </button>
        )}
        <IconButton
          icon={X}
          label="Close the helm"
          className="size-6"
          onClick={() => changeSettings(ws, { helm: false })}
        />
      </header>
      <div className="flex items-center gap-3">
        <Stick part="slide" label="Slide" at={pushed.slide} push={push} />
        <Stick part="tilt" label="Tilt" at={pushed.tilt} push={push} />
        <Stick part="lever" label="Near, far" at={pushed.lever} push={push} only="y" />
        <Stick part="twist" label="Roll" at={pushed.twist} push={push} only="x" />
      </div>
      <p className="mt-1 text-[12px] text-soft">Shift: stays where it is pushed</p>
    </section>
  );
}

/** Moves the camera while anything is pushed. */
function useMotion(pushed: Deflections): void {
  const ws = useWorkspace();
  const now = useRef(pushed);
  useEffect(() => {
    now.current = pushed;
  }, [pushed]);
  const moving = Object.values(pushed).some((d) => d.x !== 0 || d.y !== 0);
  useEffect(() => {
    if (!moving) return;
    stopTurning(ws);
    let last = performance.now();
    let frame = requestAnimationFrame(function step(time) {
      const seconds = Math.min(0.1, Math.max(0, (time - last) / 1000));
      last = time;
      const { pivot, setCamera } = ws.camera.getState();
      setCamera(sixAxisStep(activePane(ws).camera, pivot, { ...STILL, ...ratesOf(now.current) }, seconds));
      frame = requestAnimationFrame(step);
    });
    return () => cancelAnimationFrame(frame);
  }, [moving, ws]);
}

interface StickProps {
  part: Part;
  label: string;
  at: { x: number; y: number };
  push: (part: Part, x: number, y: number) => void;
  /** A part that moves one way only. */
  only?: 'x' | 'y';
}

const KEYS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

function Stick({ part, label, at, push, only }: StickProps) {
  const start = useRef<{ x: number; y: number } | null>(null);
  const clamp = (v: number) => Math.max(-1, Math.min(1, v));
  const set = (x: number, y: number) => push(part, only === 'y' ? 0 : clamp(x), only === 'x' ? 0 : clamp(y));
  const letGo = (keep: boolean) => {
    start.current = null;
    if (!keep) set(0, 0);
  };
  const width = only === 'y' ? 30 : 72;
  const height = only === 'x' ? 30 : 72;
  return (
    <div className="flex flex-col items-center">
      <button
        type="button"
        aria-label={`${label}: arrow keys push, letting go centres`}
        style={{ width, height }}
        className="relative touch-none rounded-full border border-border bg-well"
        onPointerDown={(e: ReactPointer<HTMLButtonElement>) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          start.current = { x: e.clientX - at.x * REACH, y: e.clientY + at.y * REACH };
        }}
        onPointerMove={(e) =>
          start.current && set((e.clientX - start.current.x) / REACH, (start.current.y - e.clientY) / REACH)
        }
        onPointerUp={(e) => letGo(e.shiftKey)}
        onKeyDown={(e) => {
          if (!(e.key in KEYS)) return;
          e.preventDefault();
          e.stopPropagation();
          set(KEYS[e.key][0], KEYS[e.key][1]);
        }}
        onKeyUp={(e) => e.key in KEYS && letGo(e.shiftKey)}
        onDoubleClick={() => set(0, 0)}
      >
        <span
          aria-hidden
          className={`absolute top-1/2 left-1/2 size-5 rounded-full border border-border ${at.x || at.y ? 'bg-magenta' : 'bg-blue'}`}
          style={{
            transform: `translate(calc(-50% + ${at.x * (width / 2 - 14)}px), calc(-50% - ${at.y * (height / 2 - 14)}px))`,
          }}
        />
      </button>
      <span className="text-[12px] text-soft">{label}</span>
    </div>
  );
}

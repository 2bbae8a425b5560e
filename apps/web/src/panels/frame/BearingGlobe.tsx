import {
  orbitFree,
  pipDirection,
  pipKind,
  pipName,
  pipOf,
  PIPS,
  roll,
  turnAbout,
  type ModelFrame,
  type Pip,
} from '@bathyscope/core/camera';
import {
  cross,
  dot,
  rotate,
  rotationAbout,
  scale,
  vecOf,
  type Quaternion,
  type Vec3,
} from '@bathyscope/core/math';
import { ROUNDING, TINY } from '@bathyscope/core/tolerances';
import { House, RotateCcw, RotateCw } from 'lucide-react';
import { useRef, type PointerEvent as ReactPointer } from 'react';
import { useStore } from 'zustand';
import { lookFromPip } from '../../commands/look/direction-commands.ts';
import { commandById } from '../../commands/registry.ts';
import { runCommand } from '../../commands/run-command.ts';
import { stopTurning } from '../../workspace/view/turn-view.ts';
import { ORBIT_GAIN } from '../../scene/input/navigator.ts';
import { IconButton } from '../../ui/IconButton.tsx';
import type { Workspace } from '../../workspace/workspace.ts';
import { useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';
import { activePane, modelFrame } from '../../workspace/view/panes.ts';

const SIZE = 136;
const MIDDLE = SIZE / 2;
const SPHERE = 42;
const RING = 50;
const RIM = 62;
const LETTERS: Record<string, string> = {
  front: 'F',
  back: 'Bk',
  left: 'L',
  right: 'R',
  top: 'T',
  bottom: 'Bt',
};
const AXES = [
  ['X', [1, 0, 0], '#b3261e'],
  ['Y', [0, 1, 0], '#2c7a4b'],
  ['Z', [0, 0, 1], '#1f5f7e'],
] as const;

/** Where a unit vector of the model is on the globe, and whether it faces the eye. */
interface Seen {
  x: number;
  y: number;
  front: boolean;
}

const seen = (q: Quaternion, v: Vec3, radius: number): Seen => {
  const [right, up, back] = [rotate(q, [1, 0, 0]), rotate(q, [0, 1, 0]), rotate(q, [0, 0, 1])];
  return {
    x: MIDDLE + dot(v, right) * radius,
    y: MIDDLE - dot(v, up) * radius,
    front: dot(v, back) > -ROUNDING,
  };
};

/**
 * The orientation control: 26 pips to look from, the sphere to turn freely, rings about the
 * model's axes, the rim to roll.
 */
export function BearingGlobe() {
  const ws = useWorkspace();
  const camera = useStore(ws.camera, (s) => (s.panes[s.active] ?? s.panes[0]).camera);
  const frame = useSeen(modelFrame);
  const q = camera.orientation;
  const at = pipOf(q, frame);
  return (
    <div
      role="group"
      aria-label="Bearing globe"
      className="absolute right-3 bottom-2 z-10 flex flex-col items-center"
    >
      <Sphere q={q} frame={frame} at={at} />
      <div className="-mt-1 flex gap-0.5 text-soft">
        {(['roll-left-90', 'home', 'roll-right-90'] as const).map((id) => {
          const command = commandById(id);
          return (
            <IconButton
              key={id}
              icon={{ 'roll-left-90': RotateCcw, home: House, 'roll-right-90': RotateCw }[id]}
              label={command.name}
              className="size-6 bg-panel/70"
              onClick={() => runCommand(ws, command)}
            />
          );
        })}
      </div>
    </div>
  );
}

/** A drag on one element: `move` gets the motion and where the hand is from the globe's middle. */
function useDrag(move: (dx: number, dy: number, from: Vec2, to: Vec2) => void) {
  const ws = useWorkspace();
  const last = useRef<Vec2 | null>(null);
  const place = (e: ReactPointer<SVGElement>): Vec2 => {
    const box = e.currentTarget.ownerSVGElement!.getBoundingClientRect();
    return { x: e.clientX - box.left - MIDDLE, y: e.clientY - box.top - MIDDLE };
  };
  return {
    onPointerDown: (e: ReactPointer<SVGElement>) => {
      stopTurning(ws);
      e.currentTarget.setPointerCapture(e.pointerId);
      last.current = place(e);
    },
    onPointerMove: (e: ReactPointer<SVGElement>) => {
      if (!last.current) return;
      const to = place(e);
      move(to.x - last.current.x, to.y - last.current.y, last.current, to);
      last.current = to;
    },
    onPointerUp: () => void (last.current = null),
  };
}

interface Vec2 {
  x: number;
  y: number;
}

const move = (
  ws: Workspace,
  change: (
    c: ReturnType<typeof activePane>['camera'],
    pivot: Vec3,
  ) => ReturnType<typeof activePane>['camera'],
): void => {
  const { pivot, setCamera } = ws.camera.getState();
  setCamera(change(activePane(ws).camera, pivot));
};

/** rad from one place of the hand to another, around the middle, anticlockwise, the short way. */
function around(from: Vec2, to: Vec2): number {
  const angle = Math.atan2(-to.y, to.x) - Math.atan2(-from.y, from.x);
  return angle - 2 * Math.PI * Math.round(angle / (2 * Math.PI));
}

function Sphere({ q, frame, at }: { q: Quaternion; frame: ModelFrame; at: Pip | null }) {
  const ws = useWorkspace();
  const turn = useDrag((dx, dy) =>
    move(ws, (c, pivot) => orbitFree(c, pivot, dx * ORBIT_GAIN, dy * ORBIT_GAIN)),
  );
  const rim = useDrag((_dx, _dy, from, to) => move(ws, (c, pivot) => roll(c, pivot, around(from, to))));
  const pips = PIPS.map((pip) => ({ pip, ...seen(q, pipDirection(pip, frame), SPHERE) }));
  return (
    <svg width={SIZE} height={SIZE} className="select-none">
      <circle
        cx={MIDDLE}
        cy={MIDDLE}
        r={RIM}
        fill="none"
        stroke="var(--line)"
        strokeWidth={8}
        opacity={0.6}
        className="cursor-ew-resize"
        {...rim}
      >
        <title>Drag the rim to roll</title>
      </circle>
      {Array.from({ length: 24 }, (_, i) => (
        <line
          key={i}
          x1={MIDDLE}
          y1={MIDDLE - RIM - 4}
          x2={MIDDLE}
          y2={MIDDLE - RIM + (i % 6 ? -1 : 4)}
          stroke="var(--soft)"
          strokeWidth={1}
          transform={`rotate(${i * 15} ${MIDDLE} ${MIDDLE})`}
          pointerEvents="none"
        />
      ))}
      {AXES.map(([name, axis, colour]) => (
        <Ring key={name} name={name} axis={axis} colour={colour} q={q} front={false} />
      ))}
      <circle
        cx={MIDDLE}
        cy={MIDDLE}
        r={SPHERE}
        fill="var(--panel)"
        fillOpacity={0.85}
        stroke="var(--soft)"
        strokeWidth={1}
        className="cursor-grab"
        {...turn}
      >
        <title>Drag to turn freely</title>
      </circle>
      <Graticule q={q} frame={frame} />
      {AXES.map(([name, axis, colour]) => (
        <Ring key={name} name={name} axis={axis} colour={colour} q={q} front />
      ))}
      {pips
        .filter((p) => !p.front && pipKind(p.pip) === 'face')
        .map((p) => (
          <circle
            key={pipName(p.pip)}
            cx={p.x}
            cy={p.y}
            r={2}
            fill="var(--soft)"
            opacity={0.4}
            pointerEvents="none"
          />
        ))}
      {pips
        .filter((p) => p.front)
        .map((p) => (
          <PipMark key={pipName(p.pip)} {...p} active={p.pip === at} />
        ))}
    </svg>
  );
}

function PipMark({ pip, x, y, active }: { pip: Pip; active: boolean } & Seen) {
  const ws = useWorkspace();
  const kind = pipKind(pip);
  const name = pipName(pip);
  const fill = active
    ? 'var(--magenta)'
    : kind === 'face'
      ? 'var(--blue)'
      : kind === 'corner'
        ? 'var(--ink)'
        : 'var(--panel)';
  return (
    <g
      role="button"
      aria-label={`Look from ${name}`}
      aria-pressed={active}
      tabIndex={-1}
      className="cursor-pointer [&:hover>.dot]:stroke-(--magenta)"
      onClick={() => lookFromPip(ws, pip)}
    >
      <title>{`Look from ${name}`}</title>
      <circle cx={x} cy={y} r={kind === 'face' ? 9 : 6.5} fill="transparent" />
      <circle
        className="dot"
        cx={x}
        cy={y}
        r={kind === 'face' ? 8 : kind === 'corner' ? 4 : 3.2}
        fill={fill}
        stroke={kind === 'edge' ? 'var(--ink)' : 'transparent'}
        strokeWidth={1.4}
      />
      {kind === 'face' && (
        <text
          x={x}
          y={y + 3.2}
          textAnchor="middle"
          fontSize={LETTERS[name].length > 1 ? 8 : 9.5}
          fontWeight={600}
          fill="var(--on-blue)"
          pointerEvents="none"
        >
          {LETTERS[name]}
        </text>
      )}
    </g>
  );
}

const STEPS = 48;

/** Circles of latitude and longitude in the model's frame. */
function Graticule({ q, frame }: { q: Quaternion; frame: ModelFrame }) {
  const circle = (point: (a: number) => Vec3) => pathOf(q, point, SPHERE - 0.5, true);
  const on = (a: number, lat: number): Vec3 =>
    vecOf(
      (k) =>
        Math.cos(lat) * (Math.cos(a) * frame.right[k] + Math.sin(a) * frame.front[k]) +
        Math.sin(lat) * frame.up[k],
    );
  const lines = [
    ...[-Math.PI / 4, 0, Math.PI / 4].map((lat) => circle((a) => on(a, lat))),
    ...[0, Math.PI / 4, Math.PI / 2, (3 * Math.PI) / 4].map((lon) => circle((a) => on(lon, a))),
  ];
  return (
    <path
      d={lines.join('')}
      fill="none"
      stroke="var(--soft)"
      strokeWidth={0.8}
      opacity={0.55}
      pointerEvents="none"
    />
  );
}

/** A circle on the sphere as a path, of it the half that faces the eye or the other. */
function pathOf(q: Quaternion, point: (angle: number) => Vec3, radius: number, front: boolean): string {
  let path = '';
  let pen = false;
  for (let i = 0; i <= STEPS; i++) {
    const p = seen(q, point((2 * Math.PI * i) / STEPS), radius);
    const drawn = p.front === front;
    if (drawn) path += `${pen ? 'L' : 'M'}${p.x.toFixed(1)} ${p.y.toFixed(1)}`;
    pen = drawn;
  }
  return path;
}

/** A lettered ring about one of the model's axes: dragging along it turns the model about that axis. */
function Ring({
  name,
  axis,
  colour,
  q,
  front,
}: {
  name: string;
  axis: Vec3;
  colour: string;
  q: Quaternion;
  front: boolean;
}) {
  const ws = useWorkspace();
  const [u, v]: [Vec3, Vec3] = axis[0]
    ? [
        [0, 1, 0],
        [0, 0, 1],
      ]
    : axis[1]
      ? [
          [0, 0, 1],
          [1, 0, 0],
        ]
      : [
          [1, 0, 0],
          [0, 1, 0],
        ];
  const point = (a: number): Vec3 => vecOf((k) => Math.cos(a) * u[k] + Math.sin(a) * v[k]);
  const turn = useDrag((dx, dy, from, to) => {
    const back = rotate(q, [0, 0, 1]);
    const facing = dot(axis, back);
    // Seen end on the hand goes round; else what faces the eye follows it, along axis × back.
    const [right, up] = [rotate(q, [1, 0, 0]), rotate(q, [0, 1, 0])];
    const way = cross(axis, back);
    const along = (dx * dot(way, right) - dy * dot(way, up)) / Math.max(TINY, Math.hypot(...way));
    const angle = Math.abs(facing) > 0.9 ? around(from, to) * Math.sign(facing) : along / RING;
    move(ws, (c, pivot) => turnAbout(c, pivot, rotationAbout(axis, -angle)));
  });
  const path = pathOf(q, point, RING, front);
  const letter = letterPlace(q, point, name);
  return (
    <g
      {...(front ? turn : {})}
      className={front ? 'cursor-pointer' : ''}
      pointerEvents={front ? undefined : 'none'}
    >
      {front && <title>{`Drag to turn about ${name}`}</title>}
      <path
        d={path}
        fill="none"
        stroke={colour}
        strokeWidth={1.6}
        opacity={front ? 0.75 : 0.25}
        className="dark:brightness-150"
      />
      {front && <path d={path} fill="none" stroke="transparent" strokeWidth={7} />}
      {front && (
        <>
          <circle cx={letter.x} cy={letter.y} r={6} fill={colour} className="dark:brightness-125" />
          <text
            x={letter.x}
            y={letter.y + 3}
            textAnchor="middle"
            fontSize={8.5}
            fontWeight={600}
            fill="#ffffff"
          >
            {name}
          </text>
        </>
      )}
    </g>
  );
}

/**
 * Each letter sits on the half of its ring that faces the eye, where it is furthest from the lettered pips
 * and near its own side.
 */
function letterPlace(q: Quaternion, point: (a: number) => Vec3, name: string): Seen {
  const side = { X: [0, 1], Y: [1, 0], Z: [-1, 0] }[name]!;
  const faces = AXES.flatMap(([, axis]) => [axis, scale(axis, -1)])
    .map((v) => seen(q, v, SPHERE))
    .filter((p) => p.front);
  let best = seen(q, point(0), RING);
  let score = -Infinity;
  for (let i = 0; i < STEPS; i++) {
    const p = seen(q, point((2 * Math.PI * i) / STEPS), RING);
    const clear = Math.min(18, ...faces.map((f) => Math.hypot(f.x - p.x, f.y - p.y)));
    const s = 3 * clear + (p.x - MIDDLE) * side[0] + (p.y - MIDDLE) * side[1];
    if (p.front && s > score) {
      score = s;
      best = p;
    }
  }
  return best;
}

import { afloat, ellipsoidOf, massText, type OrientedBox, type MassProperties } from '@bathyscope/core/mass';
import { addScaled, type Vec3 } from '@bathyscope/core/math';
import { significant } from '@bathyscope/core/units';
import { useCallback } from 'react';
import { useStore } from 'zustand';
import type { PaneState } from '../../state/camera-store.ts';
import { upOf } from '../../workspace/mass/balance.ts';
import { immersedNow, sharedAndClosed } from '../../workspace/mass/immersed.ts';
import { findMaterial } from '../../workspace/keeping/library.ts';
import { inertiaSystem } from '../../workspace/mass/mass-in-system.ts';
import { OverPane } from '../frame/OverPane.tsx';
import { AXIS_COLOURS, pathOf, placeIn, SystemAxes, type Place } from '../frame/SystemAxes.tsx';
import { chosenMass } from '../../workspace/mass/chosen-mass.ts';
import { useDerived, useSeen } from '../use-derived.ts';
import { smallestBox } from '../../workspace/mass/smallest-box.ts';
import { useWorkspace } from '../use-workspace.ts';

/**
 * Where the weighed set balances, its principal axes and ellipsoid of inertia, drawn over every
 * pane while it is weighed.
 */
export function MassMarks() {
  const ws = useWorkspace();
  const on = useStore(ws.profile, (s) => s.task === 'mass');
  return on ? <Drawn /> : null;
}

function Drawn() {
  const ws = useWorkspace();
  const now = useDerived(chosenMass);
  const { panes } = useStore(ws.camera);
  const { known } = now.weighed;
  if (!known) return null;
  return panes.map((pane) => (
    <OverPane key={pane.id} rect={pane.rect}>
      <svg className="absolute inset-0 size-full" role="group" aria-label="Centre of gravity">
        <Marks known={known} pane={pane} />
      </svg>
    </OverPane>
  ));
}

const NUMBERS = ['I₁', 'I₂', 'I₃'];
const ROUND = 72;
/** px */
const MARK = 9;
const ARROW = 90;

function Marks({ known, pane }: { known: MassProperties; pane: PaneState }) {
  const ws = useWorkspace();
  const place = placeIn(pane.camera, pane.size);
  const { marks, about, fluid } = useStore(ws.mass);
  const box = useDerived(smallestBox.known);
  const c = known.centreOfGravity;
  const [x, y] = place(c);
  const half = ellipsoidOf(known);
  const { axes } = known.principal;
  // Once for what they are of, not at every step of a turning view.
  const system = useSeen(
    useCallback(
      (seen) => (about !== 'centre' && about !== 'origin' ? inertiaSystem(seen, about, c) : null),
      [about, c],
    ),
  );
  // Where it is lifted is drawn once it was looked into.
  const looked = useDerived(sharedAndClosed.known).state === 'ready';
  const density = useSeen((seen) => findMaterial(seen, fluid)?.density);
  const body = useDerived(immersedNow);
  const up = useSeen(upOf);
  return (
    <>
      {marks.ellipsoid && <Ellipsoid place={place} centre={c} axes={axes} half={half} />}
      {marks.axes &&
        axes.map((axis, k) => {
          const reach = 1.15 * Math.max(half[k], Math.max(...half) / 4);
          const [a, b] = [place(addScaled(c, axis, -reach)), place(addScaled(c, axis, reach))];
          return (
            <g key={k} stroke={AXIS_COLOURS[k]} data-testid="principal-axis">
              <path d={pathOf([a, b])} strokeWidth={1.3} strokeDasharray="6 4" />
              <circle cx={b[0]} cy={b[1]} r={9} fill="var(--panel)" />
              <text
                x={b[0]}
                y={b[1] + 4}
                textAnchor="middle"
                fontSize={11}
                fill={AXIS_COLOURS[k]}
                stroke="none"
              >
                {NUMBERS[k]}
              </text>
            </g>
          );
        })}
      {box.state === 'ready' && <Box place={place} box={box.value} />}
      {system && <SystemAxes place={place} system={system} reach={Math.max(...half) / 2} />}
      {looked && body && density !== undefined && (
        <Lift place={place} at={body.centreOfBuoyancy} net={afloat(body, density, up).lift} up={up} />
      )}
      <g data-testid="centre-of-gravity">
        <circle cx={x} cy={y} r={MARK} fill="white" stroke="black" />
        <path
          d={`M${x} ${y}v${-MARK}a${MARK} ${MARK} 0 0 1 ${MARK} ${MARK}zM${x} ${y}v${MARK}a${MARK} ${MARK} 0 0 1 ${-MARK} ${-MARK}z`}
          fill="black"
        />
        <Label
          x={x + 16}
          y={y - 26}
          lines={[massText(known.mass), 'centre of gravity']}
          colour="var(--magenta)"
        />
      </g>
    </>
  );
}

const LINE = 14;
const WIDE = 7.4;

function Label({ x, y, lines, colour }: { x: number; y: number; lines: readonly string[]; colour: string }) {
  const width = WIDE * Math.max(...lines.map((l) => l.length)) + 8;
  return (
    <g transform={`translate(${x} ${y})`} className="figures">
      <rect
        x={0}
        y={-LINE}
        width={width}
        height={LINE * lines.length + 8}
        rx={3}
        fill="var(--panel)"
        stroke={colour}
        opacity={0.94}
      />
      {lines.map((line, i) => (
        <text
          key={line}
          x={width / 2}
          y={2 + LINE * i}
          textAnchor="middle"
          stroke="none"
          fontSize={12}
          fill={i ? 'var(--soft)' : colour}
        >
          {line}
        </text>
      ))}
    </g>
  );
}

function Ellipsoid({
  place,
  centre,
  axes,
  half,
}: {
  place: Place;
  centre: Vec3;
  axes: readonly Vec3[];
  half: Vec3;
}) {
  const rings = [
    [0, 1],
    [1, 2],
    [2, 0],
  ] as const;
  return rings.map(([i, j]) => (
    <path
      key={i}
      data-testid="ellipsoid"
      fill="none"
      stroke="var(--blue)"
      strokeWidth={1.2}
      strokeDasharray="5 4"
      d={pathOf(
        Array.from({ length: ROUND + 1 }, (_, n) => {
          const t = (2 * Math.PI * n) / ROUND;
          return place(
            addScaled(addScaled(centre, axes[i], half[i] * Math.cos(t)), axes[j], half[j] * Math.sin(t)),
          );
        }),
      )}
    />
  ));
}

function Box({ place, box: { centre, axes, size } }: { place: Place; box: OrientedBox }) {
  const corner = (n: number): Vec3 =>
    axes.reduce((p, a, k) => addScaled(p, a, (((n >> k) & 1 ? 1 : -1) * size[k]) / 2), centre);
  const edges = [0, 1, 2, 3, 4, 5, 6, 7].flatMap((n) =>
    [1, 2, 4].flatMap((bit) => (n & bit ? [] : [[n, n | bit]])),
  );
  return (
    <path
      data-testid="smallest-box"
      fill="none"
      stroke="var(--magenta)"
      strokeWidth={1}
      d={edges.map(([a, b]) => pathOf([place(corner(a)), place(corner(b))])).join('')}
    />
  );
}

function Lift({ place, at, net, up }: { place: Place; at: Vec3; net: number; up: Vec3 }) {
  const from = place(at);
  const to = place(addScaled(at, up, 1));
  const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
  // Seen from above or below the arrow is a dot.
  const [dx, dy] =
    length > 0 ? [((to[0] - from[0]) / length) * ARROW, ((to[1] - from[1]) / length) * ARROW] : [0, 0];
  const tip = [from[0] + dx, from[1] + dy] as const;
  const [nx, ny] = [dx / ARROW, dy / ARROW];
  return (
    <g stroke="var(--blue)" fill="var(--blue)" data-testid="buoyancy">
      <circle cx={from[0]} cy={from[1]} r={6} />
      <path d={pathOf([from, tip])} strokeWidth={2} />
      <path
        d={`${pathOf([tip, [tip[0] - 10 * nx + 5 * ny, tip[1] - 10 * ny - 5 * nx], [tip[0] - 10 * nx - 5 * ny, tip[1] - 10 * ny + 5 * nx]])}Z`}
        stroke="none"
      />
      <Label
        x={tip[0] - 130}
        y={tip[1] - 10}
        lines={[`${significant(net, 4)} N`, 'buoyancy']}
        colour="var(--blue)"
      />
    </g>
  );
}

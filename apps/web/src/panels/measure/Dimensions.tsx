import { project, valueText, type Pane, type Vec3, type ViewCamera } from '@bathyscope/core';
import { useStore } from 'zustand';
import type { Picked } from '../../state/selection-store.ts';
import { OverPane } from '../frame/OverPane.tsx';
import { useWorkspace } from '../use-workspace.ts';
import { useMeasuredPair } from './use-measured-pair.ts';

/** Between two picked things: the leading distance as a dimension, and the line of the least distance. */
export function Dimensions() {
  const ws = useWorkspace();
  const picked = useStore(ws.selection, (s) => s.picked);
  return picked.length === 2 ? <Between items={picked} /> : null;
}

interface Drawn {
  ends: readonly [Vec3, Vec3];
  text: string;
  least: boolean;
}

function Between({ items }: { items: readonly Picked[] }) {
  const ws = useWorkspace();
  const { panes } = useStore(ws.camera);
  const unit = useStore(ws.profile, (s) => s.unit);
  const { pair, least } = useMeasuredPair(items);
  const say = (fact: NonNullable<typeof pair>['lead']) => {
    const { text, unit: shown } = valueText(fact!.value, unit);
    return `${text} ${shown}`;
  };
  const point = (label: string) => least?.rows.find((r) => r.label === label)?.value.value as Vec3 | undefined;
  const [from, to] = [point('From'), point('To')];
  const drawn: Drawn[] = [];
  if (pair?.lead && pair.dimension) drawn.push({ ends: pair.dimension, text: say(pair.lead), least: false });
  if (least?.main && from && to) drawn.push({ ends: [from, to], text: pair?.lead ? '' : say(least.main), least: true });
  return panes.map((pane) => (
    <OverPane key={pane.id} rect={pane.rect}>
      <svg className="absolute inset-0 size-full" role="group" aria-label="Dimensions">
        {drawn.map((d) => (
          <Dimension key={String(d.least)} {...d} camera={pane.camera} size={pane.size} />
        ))}
      </svg>
    </OverPane>
  ));
}

/** px; ISO 129-1: filled arrowheads 15° wide. */
const ARROW = 12;
const HALF_WIDTH = ARROW * Math.tan((7.5 * Math.PI) / 180);
/** px: shorter ones have their arrowheads outside. */
const SHORT = 3 * ARROW;
const TEXT_HEIGHT = 13;

/** Extension lines are of no use between two places; the line, its arrowheads and its text, readable from below or from the right. */
function Dimension({ ends, text, least, camera, size }: Drawn & { camera: ViewCamera; size: Pane }) {
  const [a, b] = ends.map((p) => project(camera, size, p));
  if (a.behind || b.behind) return null;
  const length = Math.hypot(b.x - a.x, b.y - a.y);
  const way = length > 0 ? ([(b.x - a.x) / length, (b.y - a.y) / length] as const) : ([1, 0] as const);
  const colour = 'var(--magenta)';
  if (least)
    return (
      <g stroke={colour} fill={colour}>
        <line x1={a.x} y1={a.y} x2={b.x} y2={b.y} strokeDasharray="3 3" />
        <circle cx={a.x} cy={a.y} r={2.5} />
        <circle cx={b.x} cy={b.y} r={2.5} />
        {text && <Label x={(a.x + b.x) / 2} y={(a.y + b.y) / 2} text={text} />}
      </g>
    );
  // Inwards where there is room, else from outside.
  const inwards = length >= SHORT ? 1 : -1;
  const arrow = (p: { x: number; y: number }, sense: number) => {
    const [dx, dy] = [way[0] * sense * ARROW, way[1] * sense * ARROW];
    const [nx, ny] = [-way[1] * HALF_WIDTH, way[0] * HALF_WIDTH];
    return `M${p.x} ${p.y} L${p.x + dx + nx} ${p.y + dy + ny} L${p.x + dx - nx} ${p.y + dy - ny} Z`;
  };
  const out = inwards < 0 ? 2 * ARROW : 0;
  return (
    <g stroke={colour} fill={colour}>
      <line
        x1={a.x - way[0] * out}
        y1={a.y - way[1] * out}
        x2={b.x + way[0] * out}
        y2={b.y + way[1] * out}
        strokeWidth={1.4}
        data-testid="dimension"
      />
      <path d={arrow(a, inwards)} stroke="none" />
      <path d={arrow(b, -inwards)} stroke="none" />
      <Label x={(a.x + b.x) / 2} y={(a.y + b.y) / 2} text={text} way={length >= SHORT ? way : undefined} />
    </g>
  );
}

/** Over the line, on a small ground, turned with it so that it is read from below or from the right. */
function Label({ x, y, text, way }: { x: number; y: number; text: string; way?: readonly [number, number] }) {
  const angle = way ? (Math.atan2(way[1], way[0]) * 180) / Math.PI : 0;
  const upright = angle > 90 ? angle - 180 : angle <= -90 ? angle + 180 : angle;
  const width = text.length * 7.4 + 8;
  return (
    <g transform={`translate(${x} ${y}) rotate(${upright})`}>
      <rect
        x={-width / 2}
        y={-TEXT_HEIGHT - 6}
        width={width}
        height={TEXT_HEIGHT + 3}
        rx={3}
        fill="var(--panel)"
        stroke="none"
        opacity={0.9}
      />
      <text className="figures" textAnchor="middle" y={-7} fontSize={TEXT_HEIGHT} stroke="none" fill="var(--magenta)">
        {text}
      </text>
    </g>
  );
}

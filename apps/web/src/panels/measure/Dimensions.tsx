import type { Fact } from '@bathyscope/core/facts';
import { boxCentre, isEmptyBox, type Vec3 } from '@bathyscope/core/math';
import {
  dimensionMarks,
  TEXT_SIZE,
  type DimensionMarks,
  type DrawnDimension,
  type Moved,
} from '@bathyscope/core/measure';
import { useRef, type PointerEvent, type WheelEvent } from 'react';
import { useStore } from 'zustand';
import type { Picked } from '../../state/selection-store.ts';
import { clickAt } from '../../commands/pick/clicks.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { dimensionOfOne } from '../../workspace/measuring/all-figures.ts';
import {
  drawnClash,
  drawnKept,
  drawnLead,
  drawnPointed,
  drawnWalls,
  isDrawn,
  keptShown,
  moveDimension,
  sayFigure,
} from '../../workspace/measuring/drawn-dimensions.ts';
import { figuresOfOne } from '../../workspace/measuring/figures.ts';
import { figuresOfMany, threePoints } from '../../workspace/measuring/measured.ts';
import { shownBox } from '../../workspace/shown/shown.ts';
import { OverPane } from '../frame/OverPane.tsx';
import { useDerived, useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';
import { useKeptFigures } from './use-kept.ts';
import { useMeasuredPair } from './use-measured-pair.ts';

/** What is measured, drawn in every pane: between two picked things, where a clash is, and what is kept. */
export function Dimensions() {
  const ws = useWorkspace();
  const picked = useStore(ws.selection, (s) => s.picked);
  const kept = [...useKept(), ...useDerived(drawnWalls), ...useDerived(drawnPointed)];
  const drawn = useSeen((now) => isDrawn(now, picked));
  if (picked.length === 2) return <OfTwo items={picked} kept={kept} />;
  if (drawn) return <OfOthers items={picked} kept={kept} />;
  return picked.length ? <AllDrawn drawn={kept} /> : <OfClash kept={kept} />;
}

const OfTwo = ({ items, kept }: { items: readonly Picked[]; kept: readonly DrawnDimension[] }) => (
  <AllDrawn drawn={[...useBetween(items), ...kept]} />
);
function OfOthers({ items, kept }: { items: readonly Picked[]; kept: readonly DrawnDimension[] }) {
  const drawn = useSeen((ws) => {
    const [facts, shape] =
      items.length === 1
        ? [figuresOfOne(ws, items[0]), dimensionOfOne(ws, items[0])]
        : [figuresOfMany(ws, items), threePoints(ws, items)?.dimension ?? null];
    return facts ? drawnLead(ws, items, facts, shape) : [];
  });
  return <AllDrawn drawn={[...drawn, ...kept]} />;
}
const OfClash = ({ kept }: { kept: readonly DrawnDimension[] }) => (
  <AllDrawn drawn={[...useDerived(drawnClash), ...kept]} />
);

/** Kept figures that are not switched off. */
function useKept(): DrawnDimension[] {
  const shown = useSeen(keptShown);
  const found = useKeptFigures(shown);
  return useSeen((ws) => shown.flatMap((kept, i) => drawnKept(ws, kept, found[i].data)));
}

function useBetween(items: readonly Picked[]): DrawnDimension[] {
  const { pair, least } = useMeasuredPair(items);
  const point = (label: string) =>
    least?.rows.find((r) => r.label === label)?.value.value as Vec3 | undefined;
  const [from, to, thickest] = ['From', 'To', 'Thickest at'].map(point);
  return useSeen((ws) => {
    const drawn: DrawnDimension[] = [];
    const say = (fact: Fact) => sayFigure(ws, fact);
    if (pair?.lead)
      drawn.push(
        ...drawnLead(ws, items, { main: pair.lead, rows: [], title: '', accuracy: null }, pair.dimension),
      );
    if (least?.main && from && to)
      drawn.push({ key: 'least', kind: 'least', ends: [from, to], text: pair?.lead ? '' : say(least.main) });
    if (least?.main && thickest)
      drawn.push({
        key: 'clash',
        kind: 'place',
        ends: [thickest, thickest],
        text: `${say(least.main)} deep`,
      });
    return drawn;
  });
}

function AllDrawn({ drawn }: { drawn: readonly DrawnDimension[] }) {
  const ws = useWorkspace();
  const { panes } = useStore(ws.camera);
  const box = useSeen(shownBox);
  if (!drawn.length) return null;
  const middle: Vec3 = isEmptyBox(box) ? [0, 0, 0] : boxCentre(box);
  return panes.map((pane) => (
    <OverPane key={pane.id} rect={pane.rect}>
      <svg className="absolute inset-0 size-full" role="group" aria-label="Dimensions">
        {dimensionMarks(drawn, pane.camera, pane.size, middle).map((marks) => (
          <Marks
            key={`${marks.kind} ${marks.key}`}
            marks={marks}
            moved={drawn.find((d) => d.key === marks.key)?.moved ?? STILL}
          />
        ))}
      </svg>
    </OverPane>
  ));
}

const COLOUR = 'var(--magenta)';
const path = (points: readonly (readonly [number, number])[]): string =>
  `M${points.map((p) => p.join(' ')).join('L')}`;

const STILL: Moved = [0, 0];
/** What can be drawn elsewhere: a clash, a thinnest place and the nearest points are shown where they are. */
const MOVABLE: readonly DimensionMarks['kind'][] = ['dimension', 'angle', 'round', 'pointed'];

/** What a drag of a dimension by its text does; a double click puts it back. */
function useMoving({ key, kind, axes }: DimensionMarks, moved: Moved) {
  const ws = useWorkspace();
  const start = useRef<{ x: number; y: number; moved: Moved } | null>(null);
  if (!MOVABLE.includes(kind)) return null;
  const move = (e: PointerEvent<SVGGElement>, done: boolean) => {
    const from = start.current;
    if (!from) return;
    const [dx, dy] = [e.clientX - from.x, e.clientY - from.y];
    if (done) start.current = null;
    // Who clicks means what lies behind the text.
    if (done && !dx && !dy) return clickBehind(ws, e);
    const [one, two] = axes.map(([x, y], i) => from.moved[i] + dx * x + dy * y);
    moveDimension(ws, key, [one, two], done);
  };
  return {
    className: 'pointer-events-auto cursor-move',
    onPointerDown: (e: PointerEvent<SVGGElement>) => {
      if (e.button !== 0) return;
      e.currentTarget.setPointerCapture(e.pointerId);
      start.current = { x: e.clientX, y: e.clientY, moved };
    },
    onPointerMove: (e: PointerEvent<SVGGElement>) => move(e, false),
    onPointerUp: (e: PointerEvent<SVGGElement>) => move(e, true),
    onDoubleClick: () => moveDimension(ws, key, STILL, true),
    // Over a text the wheel zooms as beside it.
    onWheel: ({ nativeEvent }: WheelEvent<SVGGElement>) =>
      sceneElement()?.dispatchEvent(new globalThis.WheelEvent('wheel', nativeEvent)),
  };
}

const sceneElement = (): Element | null => document.querySelector('[data-testid=scene]');

function clickBehind(ws: Workspace, { clientX, clientY, shiftKey, ctrlKey }: PointerEvent): void {
  const box = sceneElement()?.getBoundingClientRect();
  if (box) clickAt(ws, clientX - box.left, clientY - box.top, shiftKey || ctrlKey);
}

function Marks({ marks, moved }: { marks: DimensionMarks; moved: Moved }) {
  const { kind, lines, arrows, dots, label, colour = COLOUR } = marks;
  const moving = useMoving(marks, moved);
  return (
    <g stroke={colour} fill={colour} data-testid={kind}>
      {lines.map((line, i) => (
        <path
          key={i}
          d={path(line)}
          fill="none"
          strokeWidth={1.2}
          strokeDasharray={kind === 'least' ? '3 3' : undefined}
        />
      ))}
      {arrows.map((arrow, i) => (
        <path key={i} d={`${path(arrow)}Z`} stroke="none" />
      ))}
      {dots.map(([x, y], i) =>
        kind === 'place' ? (
          <path
            key={i}
            fill="none"
            strokeWidth={1.6}
            d={`M${x - 11} ${y}h22M${x} ${y - 11}v22M${x - 7} ${y}a7 7 0 1 0 14 0a7 7 0 1 0 -14 0`}
          />
        ) : (
          <circle key={i} cx={x} cy={y} r={2.5} />
        ),
      )}
      {label && (
        <g transform={`translate(${label.x} ${label.y})`} {...moving}>
          <rect
            x={-label.width / 2}
            y={-label.height / 2}
            width={label.width}
            height={label.height}
            rx={3}
            fill="var(--panel)"
            stroke="none"
            opacity={0.92}
          />
          <text
            className="figures"
            textAnchor="middle"
            y={TEXT_SIZE / 2 - 2}
            fontSize={TEXT_SIZE}
            stroke="none"
            fill={colour}
          >
            {label.text}
          </text>
        </g>
      )}
    </g>
  );
}

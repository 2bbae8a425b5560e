import { ledgerEntry } from '@bathyscope/contracts/records';
import {
  boxCentre,
  dimensionMarks,
  isEmptyBox,
  TEXT_SIZE,
  type DimensionMarks,
  type DrawnDimension,
  type Fact,
  type Moved,
  type Vec3,
} from '@bathyscope/core';
import { useRef, type PointerEvent, type WheelEvent } from 'react';
import { useStore } from 'zustand';
import type { Picked } from '../../state/selection-store.ts';
import { clickAt } from '../../commands/pick/clicks.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { dimensionOfOne } from '../../workspace/all-figures.ts';
import { drawnKept, drawnLead, isDrawn, keptShown, moveDimension, sayFigure } from '../../workspace/drawn-dimensions.ts';
import { figuresOfOne } from '../../workspace/figures.ts';
import { figuresOfMany, threePoints } from '../../workspace/measured.ts';
import { thinnestPlace, wallAtPick } from '../../workspace/walls.ts';
import { shownBox } from '../../workspace/shown.ts';
import { OverPane } from '../frame/OverPane.tsx';
import { useUnits } from '../use-units.ts';
import { useRecords } from '../use-records.ts';
import { useWorkspace } from '../use-workspace.ts';
import { useKeptFigures } from './use-kept.ts';
import { useMeasuredPair } from './use-measured-pair.ts';

/** What is measured, drawn in every pane: between two picked things, where a clash is, and what is kept. */
export function Dimensions() {
  const ws = useWorkspace();
  const picked = useStore(ws.selection, (s) => s.picked);
  const kept = [...useKept(), ...useWalls()];
  useStore(ws.ledger);
  useStore(ws.profile, (s) => s.task);
  useStore(ws.measure);
  if (picked.length === 2) return <OfTwo items={picked} kept={kept} />;
  if (isDrawn(ws, picked)) return <OfOthers items={picked} kept={kept} />;
  return picked.length ? <AllDrawn drawn={kept} /> : <OfClash kept={kept} />;
}

const OfTwo = ({ items, kept }: { items: readonly Picked[]; kept: readonly DrawnDimension[] }) => (
  <AllDrawn drawn={[...useBetween(items), ...kept]} />
);
function OfOthers({ items, kept }: { items: readonly Picked[]; kept: readonly DrawnDimension[] }) {
  const ws = useWorkspace();
  useStore(ws.cut);
  useUnits();
  const [facts, shape] =
    items.length === 1
      ? [figuresOfOne(ws, items[0]), dimensionOfOne(ws, items[0])]
      : [figuresOfMany(ws, items), threePoints(ws, items)?.dimension ?? null];
  return <AllDrawn drawn={[...(facts ? drawnLead(ws, items, facts, shape) : []), ...kept]} />;
}
const OfClash = ({ kept }: { kept: readonly DrawnDimension[] }) => <AllDrawn drawn={[...useClash(), ...kept]} />;

/** The wall where a face was clicked, and the thinnest place of what is mapped. */
function useWalls(): DrawnDimension[] {
  const ws = useWorkspace();
  const on = useStore(ws.measure, (s) => s.tab === 'wall');
  const measuring = useStore(ws.profile, (s) => s.task === 'measure');
  const picked = useStore(ws.selection, (s) => s.picked);
  useStore(ws.wall);
  useUnits();
  if (!on || !measuring) return [];
  const say = (value: number) => sayFigure(ws, { label: '', value: { kind: 'length', value } });
  const wall = picked.length === 1 ? wallAtPick(ws, picked[0]) : null;
  const thinnest = thinnestPlace(ws);
  const main = wall && typeof wall !== 'string' ? wall.facts.main?.value.value : undefined;
  return [
    ...(wall && typeof wall !== 'string' && wall.along
      ? [{ key: 'wall', kind: 'least' as const, ends: wall.along, text: say(main as number) }]
      : []),
    ...(thinnest ? [{ key: 'thinnest', kind: 'place' as const, ends: thinnest.ends, text: `thinnest ${say(thinnest.thickness)}` }] : []),
  ];
}

/** Kept figures that are not switched off. */
function useKept(): DrawnDimension[] {
  const ws = useWorkspace();
  useRecords(ledgerEntry);
  useStore(ws.ledger);
  useUnits();
  const shown = keptShown(ws);
  const found = useKeptFigures(shown);
  return shown.flatMap((kept, i) => drawnKept(ws, kept, found[i].data));
}

function useBetween(items: readonly Picked[]): DrawnDimension[] {
  const { pair, least } = useMeasuredPair(items);
  const ws = useWorkspace();
  const say = (fact: Fact) => sayFigure(ws, fact);
  useUnits();
  const point = (label: string) => least?.rows.find((r) => r.label === label)?.value.value as Vec3 | undefined;
  const [from, to, thickest] = ['From', 'To', 'Thickest at'].map(point);
  const drawn: DrawnDimension[] = [];
  if (pair?.lead) drawn.push(...drawnLead(ws, items, { main: pair.lead, rows: [], title: '', accuracy: null }, pair.dimension));
  if (least?.main && from && to) drawn.push({ key: 'least', kind: 'least', ends: [from, to], text: pair?.lead ? '' : say(least.main) });
  if (least?.main && thickest) drawn.push({ key: 'clash', kind: 'place', ends: [thickest, thickest], text: `${say(least.main)} deep` });
  return drawn;
}

/** The clash that was chosen from the list, for as long as nothing is picked. */
function useClash(): DrawnDimension[] {
  const ws = useWorkspace();
  const shown = useStore(ws.fit, (s) => s.shown);
  const say = (fact: Fact) => sayFigure(ws, fact);
  useUnits();
  if (!shown || 'failed' in shown || !shown.clash) return [];
  const depth: Fact = { label: 'Depth', value: { kind: 'length', value: shown.clash.depth } };
  return [{ key: 'clash', kind: 'place', ends: [shown.from, shown.from], text: `${say(depth)} deep` }];
}

function AllDrawn({ drawn }: { drawn: readonly DrawnDimension[] }) {
  const ws = useWorkspace();
  const { panes } = useStore(ws.camera);
  useStore(ws.visibility);
  if (!drawn.length) return null;
  const box = shownBox(ws);
  const middle: Vec3 = isEmptyBox(box) ? [0, 0, 0] : boxCentre(box);
  return panes.map((pane) => (
    <OverPane key={pane.id} rect={pane.rect}>
      <svg className="absolute inset-0 size-full" role="group" aria-label="Dimensions">
        {dimensionMarks(drawn, pane.camera, pane.size, middle).map((marks) => (
          <Marks key={`${marks.kind} ${marks.key}`} marks={marks} moved={drawn.find((d) => d.key === marks.key)?.moved ?? STILL} />
        ))}
      </svg>
    </OverPane>
  ));
}

const COLOUR = 'var(--magenta)';
const path = (points: readonly (readonly [number, number])[]): string => `M${points.map((p) => p.join(' ')).join('L')}`;

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
    onWheel: ({ nativeEvent }: WheelEvent<SVGGElement>) => sceneElement()?.dispatchEvent(new globalThis.WheelEvent('wheel', nativeEvent)),
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
        <path key={i} d={path(line)} fill="none" strokeWidth={1.2} strokeDasharray={kind === 'least' ? '3 3' : undefined} />
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
          <text className="figures" textAnchor="middle" y={TEXT_SIZE / 2 - 2} fontSize={TEXT_SIZE} stroke="none" fill={colour}>
            {label.text}
          </text>
        </g>
      )}
    </g>
  );
}

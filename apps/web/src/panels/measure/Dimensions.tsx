import { placeLabels, project, valueText, type Fact, type Pane, type Vec3, type ViewCamera } from '@bathyscope/core';
import { useStore } from 'zustand';
import type { Picked } from '../../state/selection-store.ts';
import { OverPane } from '../frame/OverPane.tsx';
import { useWorkspace } from '../use-workspace.ts';
import { useMeasuredPair } from './use-measured-pair.ts';

/** One thing drawn over the model; lengths mm, in model space. */
interface Drawn {
  key: string;
  /** A dimension with arrowheads; the line between two nearest points; or a place. */
  kind: 'dimension' | 'least' | 'place';
  ends: readonly [Vec3, Vec3];
  text: string;
}

/** What is measured, drawn in every pane: between two picked things, and where a clash is. */
export function Dimensions() {
  const ws = useWorkspace();
  const picked = useStore(ws.selection, (s) => s.picked);
  if (picked.length === 2) return <OfTwo items={picked} />;
  return picked.length ? null : <OfClash />;
}

const OfTwo = ({ items }: { items: readonly Picked[] }) => <AllDrawn drawn={useBetween(items)} />;
const OfClash = () => <AllDrawn drawn={useClash()} />;

function useSay(): (fact: Fact) => string {
  const ws = useWorkspace();
  const unit = useStore(ws.profile, (s) => s.unit);
  return ({ value }) => {
    const { text, unit: shown } = valueText(value, unit);
    return `${text} ${shown}`;
  };
}

function useBetween(items: readonly Picked[]): Drawn[] {
  const { pair, least } = useMeasuredPair(items);
  const say = useSay();
  const point = (label: string) => least?.rows.find((r) => r.label === label)?.value.value as Vec3 | undefined;
  const [from, to, thickest] = ['From', 'To', 'Thickest at'].map(point);
  const drawn: Drawn[] = [];
  if (pair?.lead && pair.dimension) drawn.push({ key: 'lead', kind: 'dimension', ends: pair.dimension, text: say(pair.lead) });
  if (least?.main && from && to) drawn.push({ key: 'least', kind: 'least', ends: [from, to], text: pair?.lead ? '' : say(least.main) });
  if (least?.main && thickest) drawn.push({ key: 'clash', kind: 'place', ends: [thickest, thickest], text: `${say(least.main)} deep` });
  return drawn;
}

/** The clash that was chosen from the list, for as long as nothing is picked. */
function useClash(): Drawn[] {
  const ws = useWorkspace();
  const shown = useStore(ws.fit, (s) => s.shown);
  const say = useSay();
  if (!shown || 'failed' in shown || !shown.clash) return [];
  const depth: Fact = { label: 'Depth', value: { kind: 'length', value: shown.clash.depth } };
  return [{ key: 'clash', kind: 'place', ends: [shown.from, shown.from], text: `${say(depth)} deep` }];
}

function AllDrawn({ drawn }: { drawn: readonly Drawn[] }) {
  const ws = useWorkspace();
  const { panes } = useStore(ws.camera);
  if (!drawn.length) return null;
  return panes.map((pane) => (
    <OverPane key={pane.id} rect={pane.rect}>
      <svg className="absolute inset-0 size-full" role="group" aria-label="Dimensions">
        {laidOut(drawn, pane.camera, pane.size).map(({ key, ...d }) => (
          <OnScreen key={key} {...d} />
        ))}
      </svg>
    </OverPane>
  ));
}

type Spot = { x: number; y: number };

interface LaidOut {
  key: string;
  kind: Drawn['kind'];
  ends: readonly [Spot, Spot];
  text: string;
  /** Middle of the text. */
  label: Spot;
}

const TEXT_HEIGHT = 13;
const widthOf = (text: string): number => text.length * 7.4 + 8;
/** px that a text stands over its line. */
const OVER = 10;

/** Where all of it is on the screen, texts pushed apart. */
function laidOut(drawn: readonly Drawn[], camera: ViewCamera, size: Pane): LaidOut[] {
  const seen = drawn.flatMap(({ key, kind, ends, text }) => {
    const [a, b] = ends.map((p) => project(camera, size, p));
    if (a.behind || b.behind) return [];
    return [{ key, kind, text, ends: [a, b] as const, label: { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 - OVER } }];
  });
  const labels = placeLabels(seen.map((d) => ({ ...d.label, width: d.text ? widthOf(d.text) : 0, height: d.text ? TEXT_HEIGHT + 3 : 0 })));
  return seen.map((d, i) => ({ ...d, label: labels[i] }));
}

/** px; ISO 129-1: filled arrowheads 15° wide. */
const ARROW = 12;
const HALF_WIDTH = ARROW * Math.tan((7.5 * Math.PI) / 180);
/** px: shorter ones have their arrowheads outside. */
const SHORT = 3 * ARROW;
const COLOUR = 'var(--magenta)';

function OnScreen({ kind, ends: [a, b], text, label }: Omit<LaidOut, 'key'>) {
  const middle = { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 };
  const moved = Math.hypot(label.x - middle.x, label.y - middle.y) > 2 * OVER;
  return (
    <g stroke={COLOUR} fill={COLOUR}>
      {kind === 'dimension' ? <Arrows a={a} b={b} /> : <Ends a={a} b={b} place={kind === 'place'} />}
      {text && moved && <line x1={middle.x} y1={middle.y} x2={label.x} y2={label.y} strokeWidth={0.8} />}
      {text && <Label {...label} text={text} />}
    </g>
  );
}

function Ends({ a, b, place }: { a: Spot; b: Spot; place: boolean }) {
  if (place)
    return (
      <g data-testid="place" fill="none" strokeWidth={1.6}>
        <circle cx={a.x} cy={a.y} r={7} />
        <path d={`M${a.x - 11} ${a.y}h22M${a.x} ${a.y - 11}v22`} />
      </g>
    );
  return (
    <>
      <line x1={a.x} y1={a.y} x2={b.x} y2={b.y} strokeDasharray="3 3" />
      <circle cx={a.x} cy={a.y} r={2.5} />
      <circle cx={b.x} cy={b.y} r={2.5} />
    </>
  );
}

/** Extension lines are of no use between two places: the line and its arrowheads, from outside where it is short. */
function Arrows({ a, b }: { a: Spot; b: Spot }) {
  const length = Math.hypot(b.x - a.x, b.y - a.y);
  const way = length > 0 ? ([(b.x - a.x) / length, (b.y - a.y) / length] as const) : ([1, 0] as const);
  const inwards = length >= SHORT ? 1 : -1;
  const arrow = (p: Spot, sense: number) => {
    const [dx, dy] = [way[0] * sense * ARROW, way[1] * sense * ARROW];
    const [nx, ny] = [-way[1] * HALF_WIDTH, way[0] * HALF_WIDTH];
    return `M${p.x} ${p.y} L${p.x + dx + nx} ${p.y + dy + ny} L${p.x + dx - nx} ${p.y + dy - ny} Z`;
  };
  const out = inwards < 0 ? 2 * ARROW : 0;
  return (
    <>
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
    </>
  );
}

/** On a small ground, level, so that it is read whichever way the line runs. */
function Label({ x, y, text }: Spot & { text: string }) {
  const width = widthOf(text);
  return (
    <g transform={`translate(${x} ${y})`}>
      <rect
        x={-width / 2}
        y={-TEXT_HEIGHT / 2 - 2}
        width={width}
        height={TEXT_HEIGHT + 3}
        rx={3}
        fill="var(--panel)"
        stroke="none"
        opacity={0.9}
      />
      <text className="figures" textAnchor="middle" y={TEXT_HEIGHT / 2 - 2} fontSize={TEXT_HEIGHT} stroke="none" fill={COLOUR}>
        {text}
      </text>
    </g>
  );
}

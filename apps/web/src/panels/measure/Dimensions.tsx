import {
  placeLabels,
  project,
  shortLength,
  toleranceText,
  valueText,
  type Fact,
  type KeptFigure,
  type LengthUnit,
  type Pane,
  type Vec3,
  type ViewCamera,
} from '@bathyscope/core';
import { useStore } from 'zustand';
import { samePick, type Picked } from '../../state/selection-store.ts';
import { OverPane } from '../frame/OverPane.tsx';
import { useUnits } from '../use-units.ts';
import { useWorkspace } from '../use-workspace.ts';
import { figureOf } from '../../workspace/ledger.ts';
import { pickOf } from '../../workspace/references.ts';
import { useKeptFigures } from './use-kept.ts';
import { useMeasuredPair } from './use-measured-pair.ts';

/** One thing drawn over the model; lengths mm, in model space. */
interface Drawn {
  key: string;
  /** A dimension with arrowheads; the line between two nearest points; or a place. */
  kind: 'dimension' | 'least' | 'place' | 'pointed';
  ends: readonly [Vec3, Vec3];
  text: string;
  colour?: string;
}

/** What is measured, drawn in every pane: between two picked things, where a clash is, and what is kept. */
export function Dimensions() {
  const ws = useWorkspace();
  const picked = useStore(ws.selection, (s) => s.picked);
  const kept = useKept(picked);
  if (picked.length === 2) return <OfTwo items={picked} kept={kept} />;
  return picked.length ? <AllDrawn drawn={kept} /> : <OfClash kept={kept} />;
}

const OfTwo = ({ items, kept }: { items: readonly Picked[]; kept: readonly Drawn[] }) => (
  <AllDrawn drawn={[...useBetween(items), ...kept]} />
);
const OfClash = ({ kept }: { kept: readonly Drawn[] }) => <AllDrawn drawn={[...useClash(), ...kept]} />;

/** Kept figures that are not switched off: as dimensions where they have ends, else pointed to. */
function useKept(picked: readonly Picked[]): Drawn[] {
  const ws = useWorkspace();
  const figures = useStore(ws.preference, (s) => s.figures);
  const hidden = useStore(ws.ledger, (s) => s.hidden);
  const unit = useUnits();
  // What is picked is drawn anyway.
  const isPicked = ({ of }: KeptFigure) => {
    const items = of.map((r) => pickOf(ws, r));
    return items.length === picked.length && items.every((item) => picked.some((p) => samePick(p, item)));
  };
  const shown = figures.filter((f) => !hidden.includes(f.id) && !(picked.length > 1 && isPicked(f)));
  const found = useKeptFigures(shown);
  return shown.flatMap((kept, i): Drawn[] => {
    const { data } = found[i];
    const fact = data && figureOf(data.facts, kept.figure);
    if (!data || !fact) return [];
    const { text, unit: said } = valueText(fact.value, unit);
    const drawn = {
      key: kept.id,
      text: [text, said, kept.tolerance && toleranceWord(kept, unit.unit)].filter(Boolean).join(' '),
      colour: kept.colour,
    };
    const ends = kept.figure === data.facts.main?.label ? data.dimension : null;
    if (ends) return [{ ...drawn, kind: 'dimension', ends }];
    return data.at ? [{ ...drawn, kind: 'pointed', ends: [data.at, data.at] }] : [];
  });
}

/** The tolerance alone, as it stands behind a dimension. */
const toleranceWord = ({ tolerance }: KeptFigure, unit: LengthUnit): string =>
  toleranceText(tolerance!, (value) => shortLength(value, unit).split(' ')[0]);

function useSay(): (fact: Fact) => string {
  const unit = useUnits();
  return ({ value }) => {
    const { text, unit: shown } = valueText(value, unit);
    return `${text} ${shown}`.trim();
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
  colour?: string;
  /** Middle of the text. */
  label: Spot;
}

const TEXT_HEIGHT = 13;
const widthOf = (text: string): number => text.length * 7.4 + 8;
/** px that a text stands over its line, or beside what it points to. */
const OVER = 10;
const ASIDE = 34;

/** Where all of it is on the screen, texts pushed apart. */
function laidOut(drawn: readonly Drawn[], camera: ViewCamera, size: Pane): LaidOut[] {
  const seen = drawn.flatMap(({ key, kind, ends, text, colour }) => {
    const [a, b] = ends.map((p) => project(camera, size, p));
    if (a.behind || b.behind) return [];
    const middle = { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 };
    const label = kind === 'pointed' ? { x: middle.x + ASIDE, y: middle.y - ASIDE } : { x: middle.x, y: middle.y - OVER };
    return [{ key, kind, text, colour, ends: [a, b] as const, label }];
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

function OnScreen({ kind, ends: [a, b], text, label, colour = COLOUR }: Omit<LaidOut, 'key'>) {
  const middle = { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 };
  const moved = Math.hypot(label.x - middle.x, label.y - middle.y) > 2 * OVER;
  return (
    <g stroke={colour} fill={colour}>
      {kind === 'dimension' ? (
        <Arrows a={a} b={b} />
      ) : kind === 'pointed' ? (
        <Pointer at={a} from={label} />
      ) : (
        <Ends a={a} b={b} place={kind === 'place'} />
      )}
      {text && moved && kind !== 'pointed' && <line x1={middle.x} y1={middle.y} x2={label.x} y2={label.y} strokeWidth={0.8} />}
      {text && <Label {...label} text={text} colour={colour} />}
    </g>
  );
}

/** A line from the text to a place, with an arrowhead there. */
function Pointer({ at, from }: { at: Spot; from: Spot }) {
  const length = Math.hypot(from.x - at.x, from.y - at.y) || 1;
  const [dx, dy] = [(from.x - at.x) / length, (from.y - at.y) / length];
  return (
    <>
      <line x1={at.x} y1={at.y} x2={from.x} y2={from.y} strokeWidth={1.1} data-testid="pointer" />
      <path
        stroke="none"
        d={`M${at.x} ${at.y} L${at.x + dx * ARROW - dy * HALF_WIDTH} ${at.y + dy * ARROW + dx * HALF_WIDTH} L${at.x + dx * ARROW + dy * HALF_WIDTH} ${at.y + dy * ARROW - dx * HALF_WIDTH} Z`}
      />
    </>
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
function Label({ x, y, text, colour }: Spot & { text: string; colour: string }) {
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
      <text className="figures" textAnchor="middle" y={TEXT_HEIGHT / 2 - 2} fontSize={TEXT_HEIGHT} stroke="none" fill={colour}>
        {text}
      </text>
    </g>
  );
}

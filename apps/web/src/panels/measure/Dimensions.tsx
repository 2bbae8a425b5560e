import {
  boxCentre,
  dimensionMarks,
  isEmptyBox,
  TEXT_SIZE,
  type DimensionMarks,
  type DrawnDimension,
  type Fact,
  type Vec3,
} from '@bathyscope/core';
import { useStore } from 'zustand';
import type { Picked } from '../../state/selection-store.ts';
import { drawnKept, keptShown, sayFigure } from '../../workspace/drawn-dimensions.ts';
import { thinnestPlace, wallAtPick } from '../../workspace/walls.ts';
import { shownBox } from '../../workspace/shown.ts';
import { OverPane } from '../frame/OverPane.tsx';
import { useUnits } from '../use-units.ts';
import { useWorkspace } from '../use-workspace.ts';
import { useKeptFigures } from './use-kept.ts';
import { useMeasuredPair } from './use-measured-pair.ts';

/** What is measured, drawn in every pane: between two picked things, where a clash is, and what is kept. */
export function Dimensions() {
  const ws = useWorkspace();
  const picked = useStore(ws.selection, (s) => s.picked);
  const kept = [...useKept(), ...useWalls()];
  if (picked.length === 2) return <OfTwo items={picked} kept={kept} />;
  return picked.length ? <AllDrawn drawn={kept} /> : <OfClash kept={kept} />;
}

const OfTwo = ({ items, kept }: { items: readonly Picked[]; kept: readonly DrawnDimension[] }) => (
  <AllDrawn drawn={[...useBetween(items), ...kept]} />
);
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
  useStore(ws.preference, (s) => s.figures);
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
  if (pair?.lead && pair.dimension) drawn.push({ key: 'lead', kind: 'dimension', ends: pair.dimension, text: say(pair.lead) });
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
        {dimensionMarks(drawn, pane.camera, pane.size, middle).map(({ key, ...marks }) => (
          <Marks key={key} {...marks} />
        ))}
      </svg>
    </OverPane>
  ));
}

const COLOUR = 'var(--magenta)';
const path = (points: readonly (readonly [number, number])[]): string => `M${points.map((p) => p.join(' ')).join('L')}`;

function Marks({ kind, lines, arrows, dots, label, colour = COLOUR }: Omit<DimensionMarks, 'key'>) {
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
        <g transform={`translate(${label.x} ${label.y})`}>
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

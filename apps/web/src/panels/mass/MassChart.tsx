import { CHART_PALETTE } from '@bathyscope/core/colours';
import { massText } from '@bathyscope/core/mass';
import { Bar, BarChart, Cell, LabelList, ResponsiveContainer, XAxis, YAxis } from 'recharts';

interface MassBar {
  name: string;
  mass: number;
  paths: string[];
}

const ROW = 24;
const NAME_WIDTH = 108;
const LONGEST_NAME = 15;

const short = (name: string): string =>
  name.length > LONGEST_NAME ? `${name.slice(0, LONGEST_NAME - 1)}…` : name;

/** Bars of masses; a click on one picks what it stands for. */
export default function MassChart({
  bars,
  onPick,
}: {
  bars: readonly MassBar[];
  onPick: (paths: string[]) => void;
}) {
  const data = bars.map((bar) => ({ ...bar, label: massText(bar.mass) }));
  return (
    <div className="mt-1">
      <div aria-hidden style={{ height: ROW * data.length }}>
        <ResponsiveContainer width="100%" height="100%">
          <BarChart
            accessibilityLayer={false}
            data={data}
            layout="vertical"
            margin={{ top: 0, right: 62, bottom: 0, left: 0 }}
            barCategoryGap={6}
          >
            <XAxis type="number" hide domain={[0, 'dataMax']} />
            <YAxis
              type="category"
              dataKey="name"
              width={NAME_WIDTH}
              axisLine={false}
              tickLine={false}
              interval={0}
              tickFormatter={short}
              tick={{ fontSize: 12.5, fill: 'var(--ink)' }}
            />
            <Bar
              dataKey="mass"
              isAnimationActive={false}
              className="cursor-pointer"
              onClick={(_, i) => onPick(bars[i].paths)}
            >
              {data.map((bar, i) => (
                <Cell key={bar.name} fill={`#${CHART_PALETTE[i % CHART_PALETTE.length].map(hex).join('')}`} />
              ))}
              <LabelList dataKey="label" position="right" style={{ fontSize: 12, fill: 'var(--ink)' }} />
            </Bar>
          </BarChart>
        </ResponsiveContainer>
      </div>
      <ul className="sr-only" aria-label="Masses">
        {data.map((bar) => (
          <li key={bar.name}>
            <button type="button" onClick={() => onPick(bar.paths)}>
              Pick {bar.name}, {bar.label}
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}

const hex = (share: number): string =>
  Math.round(255 * share)
    .toString(16)
    .padStart(2, '0');

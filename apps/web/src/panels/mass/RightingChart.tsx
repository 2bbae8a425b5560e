import { rightingArms, type Immersed } from '@bathyscope/core/mass';
import type { Vec3 } from '@bathyscope/core/math';
import { significant } from '@bathyscope/core/units';
import { CartesianGrid, Line, LineChart, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from 'recharts';

import { TILTS, tiltAxes } from '../../workspace/mass/immersed.ts';

const DEGREE = Math.PI / 180;
const TURN = 180;
const HEIGHT = 150;

/**
 * The righting arm over tilts to both sides, about two level axes that stand square to each other. @param
 * afloat arms of what floats; under water without them
 */
export default function RightingChart({
  body,
  up,
  afloat,
}: {
  body: Immersed;
  up: Vec3;
  afloat?: readonly [number[], number[]];
}) {
  const [a, b] = afloat ?? tiltAxes(up).map((axis) => rightingArms(body, up, axis, TILTS));
  const data = TILTS.map((angle, i) => ({ tilt: Math.round(angle / DEGREE), a: a[i], b: b[i] }));
  const worst = (arms: readonly number[]) => significant(Math.max(...arms.map(Math.abs)), 4);
  return (
    <figure className="mt-1">
      <div style={{ height: HEIGHT }} aria-hidden>
        <ResponsiveContainer width="100%" height="100%">
          <LineChart
            accessibilityLayer={false}
            data={data}
            margin={{ top: 4, right: 8, bottom: 0, left: -12 }}
          >
            <CartesianGrid stroke="var(--line)" />
            <XAxis
              dataKey="tilt"
              type="number"
              domain={[-TURN, TURN]}
              ticks={[-180, -90, 0, 90, 180]}
              tick={{ fontSize: 12, fill: 'var(--soft)' }}
              unit="°"
            />
            <YAxis tick={{ fontSize: 12, fill: 'var(--soft)' }} width={52} />
            <ReferenceLine y={0} stroke="var(--soft)" />
            <Line dataKey="a" stroke="var(--blue)" dot={false} isAnimationActive={false} />
            <Line
              dataKey="b"
              stroke="var(--magenta)"
              dot={false}
              strokeDasharray="5 3"
              isAnimationActive={false}
            />
          </LineChart>
        </ResponsiveContainer>
      </div>
      <figcaption className="text-[12.5px] text-soft">
        Righting arm in mm {afloat ? 'afloat' : 'under water'} when tilted about one level axis (largest{' '}
        {worst(a)}) and, dashed, about the one square to it (largest {worst(b)}
        ). It rights itself where the curve has the sign of the tilt.
      </figcaption>
    </figure>
  );
}

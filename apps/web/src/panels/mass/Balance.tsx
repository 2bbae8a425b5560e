import type { MassProperties } from '@bathyscope/core/mass';
import { significant } from '@bathyscope/core/units';
import { lazy, Suspense, useState } from 'react';
import { useStore } from 'zustand';
import type { MassState } from '../../state/mass-store.ts';
import { Choice } from '../../ui/Choice.tsx';
import { hangingNow, standingNow, turningNow, upOf } from '../../workspace/mass/balance.ts';
import type { ChosenMass } from '../../workspace/mass/chosen-mass.ts';
import { useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';
import { Buoyancy } from './Buoyancy.tsx';
import { Head, LINK, Row } from './Head.tsx';
import { degrees, useMassFormat } from './use-mass-format.ts';

const RightingChart = lazy(() => import('./RightingChart.tsx'));

const KINDS: readonly (readonly [NonNullable<MassState['balance']> | '', string])[] = [
  ['stands', 'Stands'],
  ['hangs', 'Hangs'],
  ['turns', 'Turns'],
];

/** Whether it stands, hangs level, turns; and what it does under water. */
export function Balance({ known, now: { paths, key } }: { known: MassProperties; now: ChosenMass }) {
  const ws = useWorkspace();
  const kind = useStore(ws.mass, (s) => s.balance);
  const [curve, setCurve] = useState(false);
  const up = useSeen(upOf);
  const [x, y, z] = up;
  return (
    <>
      <Head
        title="Balance"
        aside={<span className="text-[12.5px] text-soft">up is +{x ? 'X' : y ? 'Y' : z ? 'Z' : ''}</span>}
      >
        <div className="mt-1">
          <Choice
            label="Balance"
            value={kind ?? ''}
            options={KINDS}
            onChange={(next) => ws.mass.setState({ balance: next === kind || next === '' ? null : next })}
          />
        </div>
        {kind === 'stands' && <Stands known={known} paths={paths} />}
        {kind === 'hangs' && <Hangs known={known} />}
        {kind === 'turns' && <Turns known={known} />}
      </Head>
      <Buoyancy setKey={key}>
        {(body, afloat) => (
          <>
            <button type="button" className={LINK} aria-expanded={curve} onClick={() => setCurve((c) => !c)}>
              {curve ? 'Hide the righting arms' : 'Righting arms over tilt'}
            </button>
            {curve && (
              <Suspense fallback={<p className="text-[13px] text-soft">Drawing …</p>}>
                <RightingChart body={body} up={up} afloat={afloat} />
              </Suspense>
            )}
          </>
        )}
      </Buoyancy>
    </>
  );
}

function Stands({ known, paths }: { known: MassProperties; paths: readonly string[] }) {
  const { length } = useMassFormat();
  const found = useSeen((ws) => standingNow(ws, paths, known));
  if (typeof found === 'string') return <p className="mt-1 text-[13px] text-amber">{found}</p>;
  const falls = found.margin < 0;
  return (
    <dl className="mt-1">
      <Row label={falls ? 'It falls over' : 'It stands'} value={`on ${found.on}`} />
      <Row
        label={falls ? 'Outside its support by' : 'Inside its support by'}
        value={length(Math.abs(found.margin))}
      />
      {!falls && <Row label="Tips when leant over" value={degrees(found.tip)} />}
    </dl>
  );
}

function Hangs({ known }: { known: MassProperties }) {
  const { length } = useMassFormat();
  const found = useSeen((ws) => hangingNow(ws, known));
  if (!found)
    return (
      <p className="mt-1 text-[13px] text-soft">
        Pick the point it hangs from: a vertex, a centre, a point (R).
      </p>
    );
  return (
    <dl className="mt-1">
      <Row label="Turns until it hangs" value={degrees(found.tilt)} />
      <Row label="Centre of gravity beside the plumb line" value={length(found.offset)} />
      <Row label="Hangs level from" value={found.level.map(length).join('  ')} />
    </dl>
  );
}

function Turns({ known }: { known: MassProperties }) {
  const { length } = useMassFormat();
  const found = useSeen((ws) => turningNow(ws, known));
  if (!found)
    return (
      <p className="mt-1 text-[13px] text-soft">Pick the axis: an edge, a hole, a shaft, a reference axis.</p>
    );
  return (
    <dl className="mt-1">
      <Row label="Centre of gravity off the axis" value={length(found.away)} />
      <Row label="Torque of its weight" value={significant(found.torque / 1000, 4)} unit="N·m" />
    </dl>
  );
}

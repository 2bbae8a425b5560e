import { accuracyText } from '@bathyscope/core/facts';
import { densityText, massFigures, massText, readDensity, type MassProperties } from '@bathyscope/core/mass';
import { boxSize } from '@bathyscope/core/math';
import { AlertTriangle } from 'lucide-react';
import { useState } from 'react';
import { useStore } from 'zustand';
import { boxOf } from '../../workspace/shown/components.ts';
import { smallestBox } from '../../workspace/mass/smallest-box.ts';
import { displayedPoint } from '../../workspace/mass/mass-in-system.ts';
import { useDerived, useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';
import { DensityField } from './DensityField.tsx';
import { FigureRows, LINK, Row } from './Head.tsx';
import { useMassFormat } from './use-mass-format.ts';
import type { ChosenMass } from '../../workspace/mass/chosen-mass.ts';

const counted = (n: number, one: string, many: string): string =>
  n === 1 ? `One component ${one}` : `${n} components ${many}`;

/** The total at a glance, what it leaves out or assumes, and the figures of the whole. */
export function Total({ now }: { now: ChosenMass }) {
  const ws = useWorkspace();
  const { set, assumed } = useStore(ws.mass);
  const { weighed, parts, pending, failed } = now;
  const { known, noDensity, noVolume } = weighed;
  const [asking, setAsking] = useState(false);
  const empty = failed ?? (set === 'picked' ? 'Pick components to weigh them.' : 'Nothing is shown.');
  return (
    <section aria-label="Total" className="px-3 pt-2">
      <p className="flex flex-wrap items-baseline gap-x-2">
        <span className="figures text-[20px] font-medium whitespace-nowrap" data-testid="total-mass">
          {pending ? '…' : known ? massText(known.mass) : '–'}
        </span>
        <span className="text-[13px] text-soft">
          {weighed.assumed.count
            ? 'with an assumed density'
            : noDensity || noVolume
              ? 'known mass'
              : 'in all'}
        </span>
        {known && (
          <span
            className={`ml-auto rounded-full border border-line bg-paper px-2 text-[12px] ${known.accuracy.kind === 'exact' ? 'text-green' : 'text-amber'}`}
            title={accuracyText(known.accuracy, 'mm').sentence}
          >
            {accuracyText(known.accuracy, 'mm').text}
          </span>
        )}
      </p>
      {noDensity > 0 && (
        <div
          className="mt-1 flex items-center gap-1.5 rounded border border-amber px-2 py-1 text-[13px] text-amber"
          role="status"
        >
          <AlertTriangle size={14} aria-hidden className="shrink-0" />
          <span className="min-w-0 flex-1 text-[12.5px]">
            {counted(noDensity, 'has no material', 'have no material')}
          </span>
          <button type="button" className={LINK} onClick={() => setAsking((a) => !a)}>
            Assume…
          </button>
        </div>
      )}
      {assumed !== null && weighed.assumed.count > 0 && (
        <p
          className="mt-1 flex items-center gap-1.5 rounded border border-amber px-2 py-1 text-[13px] text-amber"
          role="status"
        >
          <span className="min-w-0 flex-1">
            Assumed {densityText(assumed)} for {weighed.assumed.count}: {massText(weighed.assumed.mass)} of it
            is a guess.
          </span>
          <button type="button" className={LINK} onClick={() => ws.mass.setState({ assumed: null })}>
            Take back
          </button>
        </p>
      )}
      {asking && noDensity > 0 && (
        <DensityField
          label="Density to assume"
          onTake={(density) => {
            ws.mass.setState({ assumed: density });
            setAsking(false);
          }}
          read={readDensity}
        />
      )}
      {noVolume > 0 && (
        <p className="mt-1 text-[13px] text-amber">
          {counted(
            noVolume,
            'is no closed solid and has no volume.',
            'are no closed solids and have no volume.',
          )}
        </p>
      )}
      {weighed.typed.asPoints > 0 && (
        <p className="mt-1 text-[13px] text-soft">
          {counted(weighed.typed.asPoints, 'has', 'have')} a typed mass and no shape:{' '}
          {weighed.typed.asPoints === 1 ? 'it counts' : 'they count'} as points in the inertia.
        </p>
      )}
      {!parts.length && !pending && <p className="text-[13px] text-soft">{empty}</p>}
      {known && <Figures known={known} now={now} />}
    </section>
  );
}

function Figures({ known, now: { paths, key, weighed } }: { known: MassProperties; now: ChosenMass }) {
  const ws = useWorkspace();
  const { plain, unit } = useMassFormat();
  const set = useStore(ws.mass, (s) => s.set);
  const around = useSeen((seen) => boxOf(seen, paths));
  const centre = useSeen((seen) => displayedPoint(seen, known.centreOfGravity));
  const box = useDerived(smallestBox.known);
  return (
    <dl className="mt-1">
      <FigureRows
        figures={massFigures(weighed, { centreOfGravity: centre, cut: set === 'kept' })}
        group="whole"
      />
      {set !== 'kept' && (
        <>
          <Row label="Box along the axes" value={boxSize(around).map(plain).join(' × ')} unit={unit} />
          {box.state === 'ready' ? (
            <Row label="Smallest box" value={box.value.size.map(plain).join(' × ')} unit={unit} />
          ) : (
            <div className="flex items-baseline justify-between gap-2 border-b border-line py-1 last:border-0">
              <dt className="text-[13px] text-soft">Smallest box</dt>
              <dd className="text-right">
                {box.state === 'pending' ? (
                  <span role="status" className="text-[12.5px] text-soft">
                    Looking …
                  </span>
                ) : (
                  <button
                    type="button"
                    className={LINK}
                    onClick={() => {
                      ws.mass.setState({ boxOf: key });
                      ws.derived.work.again(smallestBox);
                    }}
                  >
                    {box.state === 'failed' ? 'could not be found: try again' : 'Find it'}
                  </button>
                )}
              </dd>
            </div>
          )}
        </>
      )}
    </dl>
  );
}

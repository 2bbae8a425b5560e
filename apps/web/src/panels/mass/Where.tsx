import { lazy, Suspense } from 'react';
import { useStore } from 'zustand';
import { massesByMaterial } from '../../workspace/mass/chosen-mass.ts';
import type { PartMass } from '../../workspace/mass/chosen-mass.ts';
import { useWorkspace } from '../use-workspace.ts';
import { Head, LINK } from './Head.tsx';

// Charts are half as large as all the rest, and few look at them first.
const MassChart = lazy(() => import('./MassChart.tsx'));

/** Bars that are shown; what is lighter is summed up. */
const BARS = 8;

/** Where the mass sits, by part or by material. */
export function Where({ parts }: { parts: readonly PartMass[] }) {
  const ws = useWorkspace();
  const by = useStore(ws.mass, (s) => s.by);
  const all =
    by === 'material'
      ? massesByMaterial(parts)
      : parts.flatMap(({ name, count, total, paths }) =>
          total === null ? [] : [{ name: count > 1 ? `${count} × ${name}` : name, mass: total, paths }],
        );
  const sorted = [...all].sort((a, b) => b.mass - a.mass);
  const rest = sorted.slice(BARS);
  const bars = [
    ...sorted.slice(0, BARS),
    ...(rest.length
      ? [
          {
            name: `${rest.length} more`,
            mass: rest.reduce((m, r) => m + r.mass, 0),
            paths: rest.flatMap((r) => r.paths),
          },
        ]
      : []),
  ];
  return (
    <Head
      title="Where it sits"
      aside={
        <button
          type="button"
          className={LINK}
          onClick={() => ws.mass.setState({ by: by === 'part' ? 'material' : 'part' })}
        >
          {by === 'part' ? 'by material' : 'by part'}
        </button>
      }
    >
      <Suspense fallback={<p className="text-[13px] text-soft">Drawing …</p>}>
        <MassChart
          bars={bars}
          onPick={(paths) =>
            ws.selection
              .getState()
              .pick(paths.map((component) => ({ kind: 'component', component, index: 0 })))
          }
        />
      </Suspense>
    </Head>
  );
}

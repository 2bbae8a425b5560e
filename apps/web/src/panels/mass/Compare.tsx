import { keptWeight } from '@bathyscope/contracts/records';
import { massText, type MassProperties } from '@bathyscope/core/mass';
import { distance } from '@bathyscope/core/math';
import { Trash2 } from 'lucide-react';
import { useStore } from 'zustand';
import { EditableName } from '../../ui/EditableName.tsx';
import { IconButton } from '../../ui/IconButton.tsx';
import { sayFigure } from '../../workspace/measuring/drawn-dimensions.ts';
import { added, changed, changeRecords, removed } from '../../workspace/keeping/records.ts';
import { useRecords } from '../use-records.ts';
import { useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';
import { MadeBy } from '../frame/MadeBy.tsx';
import { Head, LINK } from './Head.tsx';

const SET_NAMES = { all: 'All', shown: 'Visible', picked: 'Picked', kept: 'Kept side' } as const;

/** Weights that were kept, and by how much what is weighed now differs from each. */
export function Compare({ known }: { known: MassProperties }) {
  const ws = useWorkspace();
  const weights = useRecords(keptWeight);
  const set = useStore(ws.mass, (s) => s.set);
  const moved = useSeen((now) =>
    weights.map((w) =>
      sayFigure(now, {
        label: '',
        value: { kind: 'length', value: distance(known.centreOfGravity, w.centreOfGravity) },
      }),
    ),
  );
  const keep = () => {
    const { revision = 1 } = ws.model.getState().detail ?? {};
    const name = `${SET_NAMES[set]} ${weights.length + 1}`;
    const weight = { name, mass: known.mass, centreOfGravity: known.centreOfGravity, revision };
    changeRecords(ws, `weight “${name}” kept`, [added(ws, keptWeight, weight)]);
  };
  return (
    <Head
      title="Compared"
      aside={
        <button type="button" className={LINK} onClick={keep}>
          Keep this weight
        </button>
      }
    >
      {weights.length === 0 && (
        <p className="text-[13px] text-soft">Keep a weight, then change something or weigh another set.</p>
      )}
      <ul aria-label="Kept weights">
        {weights.map((w, i) => {
          const more = known.mass - w.mass;
          return (
            <li key={w.id} className="border-b border-line py-1 text-[12.5px] last:border-0">
              <div className="flex items-center gap-1">
                <span className="flex min-w-0 flex-1 items-baseline gap-1">
                  <EditableName
                    name={w.name}
                    label="Name of the kept weight"
                    onRename={(name) =>
                      changeRecords(ws, `weight named “${name}”`, [changed(ws, keptWeight, w, { name })])
                    }
                  />
                  <span className="shrink-0 text-soft">rev {w.revision}</span>
                </span>
                <MadeBy kind={keptWeight} id={w.id} />
                <span className="figures">{massText(w.mass)}</span>
                <IconButton
                  icon={Trash2}
                  label={`Forget ${w.name}`}
                  className="size-6"
                  onClick={() =>
                    changeRecords(ws, `weight “${w.name}” forgotten`, [removed(ws, keptWeight, w)])
                  }
                />
              </div>
              <p className="figures px-1 text-soft">
                now {more < 0 ? '−' : '+'}
                {massText(Math.abs(more))}
                {w.mass > 0 ? ` (${((100 * more) / w.mass).toFixed(1).replace('-', '−')} %)` : ''}, centre{' '}
                {moved[i]} off
              </p>
            </li>
          );
        })}
      </ul>
    </Head>
  );
}

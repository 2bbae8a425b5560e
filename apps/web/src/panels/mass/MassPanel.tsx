import { useEffect } from 'react';
import { useStore } from 'zustand';
import { Choice } from '../../ui/Choice.tsx';
import { floatsNow, sharedAndClosed } from '../../workspace/mass/immersed.ts';
import { keptSide } from '../../workspace/mass/kept-side.ts';
import { smallestBox } from '../../workspace/mass/smallest-box.ts';
import { chosenMass } from '../../workspace/mass/chosen-mass.ts';
import { useDerived } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';
import { AssignMaterial } from './AssignMaterial.tsx';
import { Balance } from './Balance.tsx';
import { Compare } from './Compare.tsx';
import { Inertia } from './Inertia.tsx';
import { MassMenu } from './MassMenu.tsx';
import { PartList } from './PartList.tsx';
import { Total } from './Total.tsx';
import { Where } from './Where.tsx';

const SETS = [
  ['all', 'All'],
  ['shown', 'Visible'],
  ['picked', 'Picked'],
  ['kept', 'Kept side'],
] as const;

/** What a set weighs, what of it is not known, where the mass sits, and how it balances. */
export function MassPanel() {
  const ws = useWorkspace();
  const set = useStore(ws.mass, (s) => s.set);
  const now = useDerived(chosenMass);
  useEffect(() => {
    const ends = [
      ws.derived.work.want(ws, keptSide),
      ws.derived.work.want(ws, smallestBox),
      ws.derived.work.want(ws, sharedAndClosed),
      ws.derived.work.want(ws, floatsNow),
    ];
    return () => ends.forEach((end) => end());
  }, [ws]);
  const { known } = now.weighed;
  return (
    <div className="flex min-h-0 flex-1 flex-col overflow-y-auto pt-2.5 pb-4">
      <div className="flex items-center justify-between px-3">
        <h2 className="font-semibold">Mass</h2>
        <MassMenu now={now} />
      </div>
      <div className="mt-1.5 px-3">
        <Choice
          label="Mass of"
          value={set}
          options={SETS}
          onChange={(next) => ws.mass.setState({ set: next })}
        />
      </div>
      <Total now={now} />
      <AssignMaterial parts={now.parts} />
      {known && <Where parts={now.parts} />}
      {now.parts.length > 0 && <PartList parts={now.parts} />}
      {known && <Inertia known={known} weighed={now.weighed} />}
      {known && <Compare known={known} />}
      {/* A side of a section is no thing that stands or swims. */}
      {known && set !== 'kept' && <Balance known={known} now={now} />}
    </div>
  );
}

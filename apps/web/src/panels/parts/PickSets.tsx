import { pickSet } from '@bathyscope/contracts/records';
import { Trash2 } from 'lucide-react';
import { EditableName } from '../../ui/EditableName.tsx';
import { IconButton } from '../../ui/IconButton.tsx';
import { useRecords } from '../use-records.ts';
import { useWorkspace } from '../use-workspace.ts';
import { pickOf } from '../../workspace/measuring/references.ts';
import { MadeBy } from '../frame/MadeBy.tsx';
import { Status } from '../frame/Status.tsx';
import { changed, changeRecords, removed } from '../../workspace/keeping/records.ts';

/** Picked sets that were named and kept; a click picks them again. */
export function PickSets() {
  const ws = useWorkspace();
  const sets = useRecords(pickSet);
  if (!sets.length) return null;
  return (
    <ul aria-label="Kept picks" className="max-h-28 shrink-0 overflow-y-auto border-t border-line px-3 py-1">
      {sets.map((set) => (
        <li key={set.id} className="flex items-center gap-1">
          <button
            type="button"
            className="rounded px-1 text-[12.5px] text-magenta hover:bg-hover"
            onClick={() => ws.selection.getState().pick(set.items.flatMap((r) => pickOf(ws, r) ?? []))}
          >
            Pick {set.items.length}
          </button>
          <Status of={set.items} />
          <MadeBy kind={pickSet} id={set.id} />
          <EditableName
            name={set.name}
            label="Name of the set"
            className="min-w-0 flex-1"
            onRename={(name) => changeRecords(ws, `name of “${name}”`, [changed(ws, pickSet, set, { name })])}
          />
          <IconButton
            icon={Trash2}
            label={`Forget ${set.name}`}
            className="size-6 text-soft"
            onClick={() => changeRecords(ws, `forget “${set.name}”`, [removed(ws, pickSet, set)])}
          />
        </li>
      ))}
    </ul>
  );
}

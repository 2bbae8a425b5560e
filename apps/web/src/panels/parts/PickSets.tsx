import { Trash2 } from 'lucide-react';
import { useStore } from 'zustand';
import { EditableName } from '../../ui/EditableName.tsx';
import { IconButton } from '../../ui/IconButton.tsx';
import { useWorkspace } from '../use-workspace.ts';
import { pickOf } from '../../workspace/references.ts';
import { Status } from '../frame/Status.tsx';
import { perform } from '../../workspace/perform.ts';

/** Picked sets that were named and kept; a click picks them again. */
export function PickSets() {
  const ws = useWorkspace();
  const sets = useStore(ws.preference, (s) => s.pickSets);
  useStore(ws.model, (s) => s.parts);
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
          <EditableName
            name={set.name}
            label="Name of the set"
            className="min-w-0 flex-1"
            onRename={(name) =>
              perform(ws, `name of “${name}”`, ws.preference, { pickSets: sets.map((s) => (s.id === set.id ? { ...s, name } : s)) })
            }
          />
          <IconButton
            icon={Trash2}
            label={`Forget ${set.name}`}
            className="size-6 text-soft"
            onClick={() => perform(ws, `forget “${set.name}”`, ws.preference, { pickSets: sets.filter((s) => s.id !== set.id) })}
          />
        </li>
      ))}
    </ul>
  );
}

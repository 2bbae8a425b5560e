import { referenceSystem } from '@bathyscope/contracts/records';
import { Trash2 } from 'lucide-react';
import { useStore } from 'zustand';
import { commandById } from '../../commands/registry.ts';
import { runCommand } from '../../commands/run-command.ts';
import { EditableName } from '../../ui/EditableName.tsx';
import { IconButton } from '../../ui/IconButton.tsx';
import { changed, changeRecords, removed } from '../../workspace/keeping/records.ts';
import { MadeBy } from '../frame/MadeBy.tsx';
import { Status } from '../frame/Status.tsx';
import { useRecords } from '../use-records.ts';
import { useWorkspace } from '../use-workspace.ts';

/** Which axes points and directions are told in. */
export function DisplaySystem() {
  const ws = useWorkspace();
  const displaySystem = useStore(ws.measure, (s) => s.displaySystem);
  const systems = useRecords(referenceSystem);
  const picked = useStore(ws.selection, (s) => s.picked.length);
  const own = systems.find((s) => s.id === displaySystem);
  return (
    <div className="mt-2 px-3 text-[13px]">
      <div className="flex items-center gap-2">
        <label className="flex flex-1 items-center gap-2 text-soft">
          Told in
          <select
            value={own || displaySystem === 'view' ? displaySystem : 'model'}
            className="min-w-0 flex-1 rounded border border-border bg-paper px-1 py-0.5 text-ink"
            onChange={(e) => ws.measure.setState({ displaySystem: e.target.value })}
          >
            <option value="model">the model’s axes</option>
            <option value="view">the view’s axes</option>
            {systems.map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}
              </option>
            ))}
          </select>
        </label>
        <button
          type="button"
          disabled={!picked}
          title="From what is picked: the first is the origin, X runs along the second, Y lies on the side of the third"
          className="rounded border border-border bg-paper px-2 py-0.5 hover:bg-hover disabled:opacity-40"
          onClick={() => runCommand(ws, commandById('new-system'))}
        >
          New
        </button>
      </div>
      {own && (
        <div className="mt-1 flex items-center gap-1">
          <EditableName
            name={own.name}
            label="Name of the reference system"
            className="min-w-0 flex-1"
            onRename={(name) =>
              changeRecords(ws, `name of “${own.name}”`, [changed(ws, referenceSystem, own, { name })])
            }
          />
          <Status of={own.of} />
          <MadeBy kind={referenceSystem} id={own.id} />
          <IconButton
            icon={Trash2}
            label={`Forget ${own.name}`}
            className="size-6 text-soft"
            onClick={() => changeRecords(ws, `forget “${own.name}”`, [removed(ws, referenceSystem, own)])}
          />
        </div>
      )}
    </div>
  );
}

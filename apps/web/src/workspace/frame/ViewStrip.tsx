import { ChevronDown, ChevronUp, Mouse } from 'lucide-react';
import { useStore } from 'zustand';
import { commandById } from '../../commands/registry.ts';
import { runCommand, waitingStore } from '../../commands/run-command.ts';
import { RIGHT_DRAG_ORBITS } from '../../scene/gestures.ts';
import { modelStore } from '../../stores/model-store.ts';
import { selectionStore } from '../../stores/selection-store.ts';
import { settingsStore } from '../../stores/settings-store.ts';
import { IconButton } from '../../ui/IconButton.tsx';

const BUTTONS = ['home', 'fit', 'show-all', 'fit-picked'].map(commandById);

/** Ways back to the model, always in sight, and what the mouse does now. */
export function ViewStrip() {
  const { stripFolded, setStripFolded } = useStore(settingsStore);
  return (
    <footer className={`relative flex shrink-0 items-center gap-4 border-t border-line bg-paper px-3 ${stripFolded ? 'h-8' : 'h-[92px]'}`}>
      <div className={stripFolded ? 'flex gap-1' : 'grid grid-flow-col grid-rows-2 gap-1.5'}>
        {BUTTONS.map((command) => (
          <button key={command.id} type="button" title={`${command.name} (${command.shortcut})`} onClick={() => runCommand(command)}
            className={`flex items-center gap-1.5 rounded border border-line bg-panel px-2.5 hover:bg-hover ${stripFolded ? 'h-6' : 'h-[35px]'}`}>
            <command.icon size={16} strokeWidth={1.6} aria-hidden /> {command.name}
            <kbd className="figures ml-1 text-[11px] text-soft">{command.shortcut}</kbd>
          </button>
        ))}
      </div>
      <span className="flex-1" />
      <Status folded={stripFolded} />
      <IconButton icon={stripFolded ? ChevronUp : ChevronDown} label={stripFolded ? 'Unfold the strip' : 'Fold the strip'} onClick={() => setStripFolded(!stripFolded)} />
    </footer>
  );
}

function Status({ folded }: { folded: boolean }) {
  const { waiting, repeating } = useStore(waitingStore);
  const picked = useStore(selectionStore, (s) => s.picked);
  const first = useStore(modelStore, (s) => (picked.length === 1 ? s.byPath.get(picked[0].component)?.name : undefined));
  const hint = waiting
    ? `${waiting.name}: click ${waiting.needs === 'components' ? 'a component' : 'what it is for'}${repeating ? ', and the next' : ''}; Esc ends`
    : RIGHT_DRAG_ORBITS.hint;
  const said = picked.length === 0 ? 'Nothing picked' : picked.length === 1 ? `Picked: 1 ${picked[0].kind} of ${first ?? '…'}` : `Picked: ${picked.length} things`;
  return (
    <div role="status" className={`min-w-0 border-line text-[12.5px] text-soft ${folded ? 'flex gap-4' : 'w-[250px] border-l pl-3'}`}>
      {!folded && <p className="font-medium text-ink">{RIGHT_DRAG_ORBITS.name}</p>}
      <p className={waiting ? 'font-medium text-magenta' : ''}><Mouse size={13} className="mr-1 inline" aria-hidden />{hint}</p>
      <p className="truncate">{said}</p>
    </div>
  );
}

import { LENGTH_UNITS } from '@bathyscope/core';
import { CircleHelp, ImageDown, Link2, MoonStar, Redo2, Settings2, Sun, Undo2 } from 'lucide-react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { useStore } from 'zustand';
import { api } from '../../api/api.ts';
import { commandById } from '../../commands/registry.ts';
import { runCommand } from '../../commands/run-command.ts';
import { cameraStore } from '../../stores/camera-store.ts';
import { historyStore } from '../../stores/history-store.ts';
import { modelStore } from '../../stores/model-store.ts';
import { changeSettings, settingsStore } from '../../stores/settings-store.ts';
import { EditableName } from '../../ui/EditableName.tsx';
import { IconButton } from '../../ui/IconButton.tsx';
import { Mark } from '../../ui/Mark.tsx';
import { CommandField } from './CommandField.tsx';

/** Mark, model, command field, unit, undo, theme, help. */
export function TopLine() {
  const detail = useStore(modelStore, (s) => s.detail);
  return (
    <header className="flex h-10 shrink-0 items-center gap-3 border-b border-line bg-panel px-3">
      <div className="flex min-w-0 flex-1 items-center gap-3">
        <Link to="/" title="Back to the shelf" className="rounded"><Mark /></Link>
        {detail && (
          <>
            <span className="h-4 w-px bg-line" />
            <EditableName name={detail.name} label="Model name" className="min-w-0 font-medium" onRename={(name) => void rename(detail.id, name)} />
            <span className="figures shrink-0 rounded border border-line bg-well px-1.5 text-[12px] text-soft">rev {detail.revision}</span>
          </>
        )}
      </div>
      <CommandField />
      <div className="flex flex-1 items-center justify-end gap-1.5">
        <UnitSwitch />
        <ProjectionButton />
        <UndoButtons />
        <IconButton icon={ImageDown} label="Picture or drawing" onClick={() => runCommand(commandById('picture'))} />
        <IconButton icon={Link2} label="Copy a link to this view" onClick={() => runCommand(commandById('link'))} />
        <ThemeButton />
        <IconButton icon={Settings2} label="Settings" onClick={() => runCommand(commandById('settings'))} />
        <IconButton icon={CircleHelp} label="Keys and gestures" shortcut="?" onClick={() => runCommand(commandById('help'))} />
      </div>
    </header>
  );
}

async function rename(id: string, name: string): Promise<void> {
  const before = modelStore.getState().detail!.name;
  modelStore.getState().rename(name);
  await api.rename(id, name).catch((e: Error) => {
    modelStore.getState().rename(before);
    toast.error(e.message);
  });
}

function UnitSwitch() {
  const unit = useStore(settingsStore, (s) => s.unit);
  return (
    <select aria-label="Unit of length" title="Unit of length" value={unit} onChange={(e) => changeSettings({ unit: e.target.value as typeof unit })}
      className="figures h-6 rounded border border-border bg-well px-1 text-[12px]">
      {LENGTH_UNITS.map((u) => <option key={u}>{u}</option>)}
    </select>
  );
}

function ProjectionButton() {
  const projection = useStore(cameraStore, (s) => (s.panes[s.active] ?? s.panes[0]).camera.projection);
  return (
    <button type="button" aria-label={`Projection: ${projection}`} title="Orthographic or perspective (O)" className="figures h-6 rounded border border-border bg-well px-1.5 text-[12px] hover:bg-hover"
      onClick={() => runCommand(commandById('projection'))}>{projection === 'orthographic' ? 'Ortho' : 'Persp'}</button>
  );
}

function UndoButtons() {
  const done = useStore(historyStore, (s) => s.done.at(-1));
  const undone = useStore(historyStore, (s) => s.undone.at(-1));
  return (
    <>
      <IconButton icon={Undo2} label={done ? `Undo ${done.name}` : 'Undo'} shortcut="Ctrl+Z" disabled={!done} onClick={() => runCommand(commandById('undo'))} />
      <IconButton icon={Redo2} label={undone ? `Redo ${undone.name}` : 'Redo'} shortcut="Ctrl+Shift+Z" disabled={!undone} onClick={() => runCommand(commandById('redo'))} />
    </>
  );
}

function ThemeButton() {
  const night = useStore(settingsStore, (s) => s.theme === 'abyss');
  return <IconButton icon={night ? Sun : MoonStar} label={night ? 'Day colours' : 'Night colours'} onClick={() => runCommand(commandById('theme'))} />;
}

import { CircleHelp, ImageDown, Link2, MoonStar, Redo2, Settings2, Sun, Undo2 } from 'lucide-react';
import { Link } from 'react-router';
import { toast } from '../../ui/notices.ts';
import { useStore } from 'zustand';
import { commandById } from '../../commands/registry.ts';
import { runCommand } from '../../commands/run-command.ts';
import { EditableName } from '../../ui/EditableName.tsx';
import { IconButton } from '../../ui/IconButton.tsx';
import { Mark } from '../../ui/Mark.tsx';
import { CommandField } from './CommandField.tsx';
import type { Workspace } from '../../workspace/workspace.ts';
import { Revisions } from './Revisions.tsx';
import { UnitSwitch } from './UnitSwitch.tsx';
import { useWorkspace } from '../use-workspace.ts';

/** Mark, model, command field, unit, undo, theme, help. */
export function TopLine() {
  const ws = useWorkspace();
  const detail = useStore(ws.model, (s) => s.detail);
  return (
    <header className="flex h-10 shrink-0 items-center gap-3 border-b border-line bg-panel px-3">
      <div className="flex min-w-0 flex-1 items-center gap-3">
        <Link to="/" title="Back to the shelf" className="rounded">
          <Mark />
        </Link>
        {detail && (
          <>
            <span className="h-4 w-px bg-line" />
            <h1 className="flex min-w-12">
              <EditableName
                name={detail.name}
                label="Model name"
                className="min-w-0 font-medium"
                onRename={(name) => void rename(ws, name)}
              />
            </h1>
            <Revisions />
            <Unsaved />
          </>
        )}
      </div>
      <CommandField />
      <div className="flex flex-1 items-center justify-end gap-1.5">
        <UnitSwitch />
        <ProjectionButton />
        <UndoButtons />
        <IconButton
          icon={ImageDown}
          label="Picture or drawing"
          onClick={() => runCommand(ws, commandById('picture'))}
        />
        <IconButton
          icon={Link2}
          label="Copy a link to this view"
          onClick={() => runCommand(ws, commandById('link'))}
        />
        <ThemeButton />
        <IconButton
          icon={Settings2}
          label="Settings"
          onClick={() => runCommand(ws, commandById('settings'))}
        />
        <IconButton
          icon={CircleHelp}
          label="Keys and gestures"
          shortcut="?"
          onClick={() => runCommand(ws, commandById('help'))}
        />
      </div>
    </header>
  );
}

/** Said only while it is so; what waits is tried again by itself. */
function Unsaved() {
  const ws = useWorkspace();
  const unsaved = useStore(ws.keeping, (s) => s.unsaved);
  return (
    unsaved && (
      <span
        role="status"
        title="What was changed last could not be kept. It is tried again until it can."
        className="shrink-0 text-[12.5px] font-medium text-amber"
      >
        not saved yet
      </span>
    )
  );
}

async function rename(ws: Workspace, name: string): Promise<void> {
  const before = ws.model.getState().detail!.name;
  ws.model.getState().rename(name);
  await ws.source.states.rename(name).catch((e: Error) => {
    ws.model.getState().rename(before);
    toast.error(e.message);
  });
}

function ProjectionButton() {
  const ws = useWorkspace();
  const projection = useStore(ws.camera, (s) => (s.panes[s.active] ?? s.panes[0]).camera.projection);
  return (
    <button
      type="button"
      aria-label={`Projection: ${projection}`}
      title="Orthographic or perspective (O)"
      className="figures h-6 rounded border border-border bg-well px-1.5 text-[12px] hover:bg-hover max-[899px]:hidden"
      onClick={() => runCommand(ws, commandById('projection'))}
    >
      {projection === 'orthographic' ? 'Ortho' : 'Persp'}
    </button>
  );
}

function UndoButtons() {
  const ws = useWorkspace();
  const done = useStore(ws.history, (s) => s.done.at(-1));
  const undone = useStore(ws.history, (s) => s.undone.at(-1));
  return (
    <>
      <IconButton
        icon={Undo2}
        label={done ? `Undo ${done.name}` : 'Undo'}
        shortcut="Ctrl+Z"
        disabled={!done}
        onClick={() => runCommand(ws, commandById('undo'))}
      />
      <IconButton
        icon={Redo2}
        label={undone ? `Redo ${undone.name}` : 'Redo'}
        shortcut="Ctrl+Shift+Z"
        disabled={!undone}
        onClick={() => runCommand(ws, commandById('redo'))}
      />
    </>
  );
}

function ThemeButton() {
  const ws = useWorkspace();
  const night = useStore(ws.profile, (s) => s.theme === 'abyss');
  return (
    <IconButton
      icon={night ? Sun : MoonStar}
      label={night ? 'Day colours' : 'Night colours'}
      onClick={() => runCommand(ws, commandById('theme'))}
    />
  );
}

import type { SavedView } from '@bathyscope/contracts';
import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/react';
import { Bookmark, Box, Pin, Search } from 'lucide-react';
import { useState } from 'react';
import { useStore } from 'zustand';
import { stopSweep } from '../../commands/cut/section-sweep.ts';
import { leaveCommandField } from '../../commands/edit/command-field-focus.ts';
import { shownShortcut } from '../../commands/keys.ts';
import { findCommands } from '../../commands/registry.ts';
import { showSavedView } from '../../commands/keep/saved-views.ts';
import { runCommand } from '../../commands/run-command.ts';
import type { Command } from '../../commands/command.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { useWorkspace } from '../use-workspace.ts';
import { changeSettings } from '../../workspace/change-settings.ts';

type Entry = { kind: 'command'; command: Command } | { kind: 'component'; path: string; name: string } | { kind: 'view'; view: SavedView };

const SHOWN_PARTS = 8;
/** More than are read through; what is typed finds the others. */
const SHOWN_COMMANDS = 24;

/** What is listed, and how many commands are not. */
function entriesFor(ws: Workspace, text: string): { entries: Entry[]; more: number } {
  const found = findCommands(text);
  const commands = found.slice(0, SHOWN_COMMANDS).map((command): Entry => ({ kind: 'command', command }));
  const more = found.length - commands.length;
  const wanted = text.trim().toLowerCase();
  if (!wanted) return { entries: commands, more };
  const parts = ws.model
    .getState()
    .occurrences.filter((o) => `${o.instanceName ?? ''} ${o.name}`.toLowerCase().includes(wanted))
    .slice(0, SHOWN_PARTS)
    .map((o): Entry => ({ kind: 'component', path: o.path, name: o.instanceName ? `${o.instanceName} · ${o.name}` : o.name }));
  const views = ws.savedViews
    .getState()
    .views.filter((v) => v.name.toLowerCase().includes(wanted))
    .map((view): Entry => ({ kind: 'view', view }));
  return { entries: [...commands, ...views, ...parts], more };
}

function Key({ command }: { command: Command }) {
  const ws = useWorkspace();
  const key = shownShortcut(ws, command);
  return key ? <kbd className="figures text-[11px] text-soft">{key}</kbd> : null;
}

/** Pins a command to the strip in the scene, or takes it out. */
function PinButton({ id, name }: { id: string; name: string }) {
  const ws = useWorkspace();
  const pinned = useStore(ws.profile, (s) => s.pinned);
  const on = pinned.includes(id);
  return (
    <button
      type="button"
      tabIndex={-1}
      aria-label={on ? `Unpin ${name}` : `Pin ${name} to the scene`}
      title={on ? 'Take it out of the strip in the scene' : 'Pin it to the strip in the scene'}
      className={`grid size-6 place-items-center rounded hover:bg-line ${on ? 'text-magenta' : 'text-soft'}`}
      onMouseDown={(e) => {
        e.preventDefault();
        e.stopPropagation();
      }}
      onClick={(e) => {
        e.stopPropagation();
        changeSettings(ws, { pinned: on ? pinned.filter((p) => p !== id) : [...pinned, id] });
      }}
    >
      <Pin size={14} fill={on ? 'currentColor' : 'none'} aria-hidden />
    </button>
  );
}

/** Finds commands by their names and the trade's other words for them, and components by name. */
export function CommandField() {
  const ws = useWorkspace();
  const [text, setText] = useState('');
  // After a choice the field takes the focus back once more; it must not open then.
  const [opens, setOpens] = useState(true);
  const { entries, more } = entriesFor(ws, text);
  const choose = (entry: Entry | null) => {
    setText('');
    // Esc chooses nothing, and the next search opens at once.
    if (entry) setOpens(false);
    leaveCommandField(() => {
      if (entry?.kind === 'command') runCommand(ws, entry.command);
      if (entry?.kind === 'view') showSavedView(ws, entry.view);
      if (entry?.kind === 'component') ws.selection.getState().pick([{ kind: 'component', component: entry.path, index: 0 }]);
    });
  };
  return (
    <Combobox<Entry | null> value={null} onChange={choose} immediate={opens} onClose={() => setText('')}>
      <div className="relative w-[300px] max-w-[34vw] min-w-28">
        <Search size={14} className="absolute top-1.5 left-2.5 text-soft" aria-hidden />
        <ComboboxInput
          id="command-field"
          aria-label="Find a command, part or view"
          placeholder="Find a command, part or view"
          autoComplete="off"
          displayValue={() => text}
          onChange={(e) => setText(e.target.value)}
          onBlur={(e) => {
            setOpens(true);
            setText('');
            // The field shows what was typed until it is told otherwise; left, it is empty for the next search.
            e.currentTarget.value = '';
          }}
          onKeyDown={(e) => {
            if (e.key !== 'Escape') return;
            e.currentTarget.blur();
            // What was started from here ends with Esc, also before the focus is back in the scene.
            stopSweep(ws);
          }}
          className="h-[26px] w-full rounded-full border border-border bg-well pr-14 pl-8 placeholder:text-soft"
        />
        <kbd className="figures pointer-events-none absolute top-1 right-2 rounded border border-line bg-panel px-1 text-[11px] text-soft">
          Ctrl K
        </kbd>
        <ComboboxOptions className="absolute top-8 z-40 max-h-96 w-full min-w-72 overflow-y-auto rounded-md border border-border bg-panel py-1 shadow-card empty:hidden">
          {entries.map((entry) => {
            const Icon = entry.kind === 'command' ? entry.command.icon : entry.kind === 'view' ? Bookmark : Box;
            const [key, name] =
              entry.kind === 'command'
                ? [entry.command.id, entry.command.name]
                : entry.kind === 'view'
                  ? [entry.view.id, entry.view.name]
                  : [entry.path, entry.name];
            return (
              // Another text makes another list: Enter takes its first entry, not the one that was first before.
              <ComboboxOption
                key={`${text}\n${key}`}
                value={entry}
                className="flex cursor-pointer items-center gap-2.5 px-3 py-1 data-focus:bg-hover"
              >
                <Icon size={15} strokeWidth={1.6} className="shrink-0 text-soft" aria-hidden />
                <span className="min-w-0 flex-1 truncate">{name}</span>
                {entry.kind === 'command' && <Key command={entry.command} />}
                {entry.kind === 'command' && <PinButton id={entry.command.id} name={entry.command.name} />}
              </ComboboxOption>
            );
          })}
          {more > 0 && <p className="px-3 pt-1 text-[12.5px] text-soft">and {more} more commands: type on</p>}
        </ComboboxOptions>
      </div>
    </Combobox>
  );
}

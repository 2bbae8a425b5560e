import type { SavedView } from '@bathyscope/contracts/records';
import type { Of } from '../../state/record-store.ts';
import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/react';
import { Bookmark, Box, CircleSlash, Pin, Search, type LucideIcon } from 'lucide-react';
import { useState } from 'react';
import { useStore } from 'zustand';
import { stopSweep } from '../../commands/cut/section-sweep.ts';
import { leaveCommandField } from '../../commands/edit/command-field-focus.ts';
import { useShortcut } from '../use-shortcut.ts';
import { searchedNames } from '../../commands/searched-names.ts';
import { absentFor, findCommands, plain } from '../../commands/find-commands.ts';
import { savedViews, showSavedView } from '../../commands/keep/saved-views.ts';
import { runCommand } from '../../commands/run-command.ts';
import type { Command } from '../../commands/command.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';
import { changeSettings } from '../../workspace/keeping/change-settings.ts';

type Entry =
  | { kind: 'command'; command: Command; by: string | null }
  /** What is not there: chosen it does nothing, so that Enter never runs what merely comes nearest. */
  | { kind: 'absent'; say: string }
  | { kind: 'part'; paths: string[]; name: string; within: string }
  | { kind: 'view'; view: Of<SavedView> };

const SHOWN_PARTS = 8;
/** More than are read through; what is typed finds the others. */
const SHOWN_COMMANDS = 24;

interface Found {
  entries: Entry[];
  /** How many commands are not listed. */
  more: number;
}

/** What is listed: what bears the text as its name before what only mentions it. */
function entriesFor(ws: Workspace, text: string): Found {
  const found = findCommands(text);
  const shown = found.slice(0, SHOWN_COMMANDS);
  const more = found.length - shown.length;
  const as = (rank: (n: number) => boolean) =>
    shown.filter((f) => rank(f.rank)).map(({ command, by }): Entry => ({ kind: 'command', command, by }));
  const wanted = plain(text);
  if (!wanted) return { entries: as(() => true), more };
  const absent = absentFor(text);
  const nearest: Entry[] = absent
    ? [
        { kind: 'absent', say: absent.say },
        { kind: 'command', command: absent.nearest, by: 'nearest' },
      ]
    : [];
  const parts = partsNamed(ws, wanted);
  const views = savedViews(ws)
    .filter((v) => plain(v.name).includes(wanted))
    .map((view): Entry => ({ kind: 'view', view }));
  const leading = parts.filter((p) => p.rank < 2).slice(0, SHOWN_PARTS);
  const others = parts.filter((p) => p.rank === 2).slice(0, SHOWN_PARTS - leading.length);
  const entries = [
    ...as((n) => n < 2),
    ...nearest,
    ...as((n) => n === 2),
    ...leading.map((p) => p.entry),
    ...as((n) => n > 2),
    ...views,
    ...others.map((p) => p.entry),
  ];
  const once = entries.filter(
    (e, i) =>
      e.kind !== 'command' || entries.findIndex((o) => o.kind === 'command' && o.command === e.command) === i,
  );
  return { entries: once, more };
}

/**
 * Parts by name, each once, with all its places: 0 the name itself, 1 a name that starts so, 2
 * one that holds the text.
 */
function partsNamed(ws: Workspace, wanted: string): { entry: Entry; rank: number }[] {
  const { byPath } = ws.model.getState();
  const groups = new Map<string, { paths: string[]; name: string; rank: number }>();
  for (const { o, names } of ws.derived.of(searchedNames)) {
    if (!names.some((n) => n.includes(wanted))) continue;
    const rank = names.includes(wanted) ? 0 : names.some((n) => n.startsWith(wanted)) ? 1 : 2;
    const name = o.instanceName ? `${o.instanceName} · ${o.name}` : o.name;
    const group = groups.get(name);
    if (group) group.paths.push(o.path);
    else groups.set(name, { paths: [o.path], name, rank });
  }
  return [...groups.values()]
    .sort((a, b) => a.rank - b.rank)
    .map(({ paths, name, rank }) => ({
      rank,
      entry: { kind: 'part', paths, name, within: ancestorsOf(byPath, paths[0]) },
    }));
}

/** The names of what a place lies in, from the top down without the model itself. */
function ancestorsOf(byPath: ReadonlyMap<string, { name: string }>, path: string): string {
  const steps = path.split('/');
  const names = steps.slice(1, -1).map((_, i) => byPath.get(steps.slice(0, i + 2).join('/'))?.name ?? '');
  return names.filter(Boolean).join(' › ');
}

const pinCommand = (ws: Workspace, id: string): void => {
  const { pinned } = ws.profile.getState();
  changeSettings(ws, { pinned: pinned.includes(id) ? pinned.filter((p) => p !== id) : [...pinned, id] });
};

function Key({ command }: { command: Command }) {
  const key = useShortcut(command);
  return key ? <kbd className="figures text-[11px] text-soft">{key}</kbd> : null;
}

/** Pins a command to the strip in the scene, or takes it out: for the mouse; keys have Alt+Enter. */
function PinMark({ id }: { id: string }) {
  const ws = useWorkspace();
  const on = useStore(ws.profile, (s) => s.pinned.includes(id));
  return (
    <span
      aria-hidden
      data-pin={id}
      title={
        on
          ? 'Take it out of the strip in the scene (Alt+Enter)'
          : 'Pin it to the strip in the scene (Alt+Enter)'
      }
      className={`grid size-6 place-items-center rounded hover:bg-line ${on ? 'text-magenta' : 'text-soft'}`}
      onMouseDown={(e) => {
        e.preventDefault();
        e.stopPropagation();
      }}
      onClick={(e) => {
        e.stopPropagation();
        pinCommand(ws, id);
      }}
    >
      <Pin size={14} fill={on ? 'currentColor' : 'none'} aria-hidden />
    </span>
  );
}

function shownAs(entry: Entry): [key: string, name: string, icon: LucideIcon] {
  if (entry.kind === 'absent') return ['absent', entry.say, CircleSlash];
  if (entry.kind === 'command') return [entry.command.id, entry.command.name, entry.command.icon];
  return entry.kind === 'view'
    ? [entry.view.id, entry.view.name, Bookmark]
    : [entry.paths[0], entry.name, Box];
}

/** Finds commands by their names and the trade's other words for them, and components by name. */
export function CommandField() {
  const ws = useWorkspace();
  const [text, setText] = useState('');
  // After a choice the field takes the focus back once more; it must not open then.
  const [opens, setOpens] = useState(true);
  const { entries, more } = useSeen((now) => entriesFor(now, text));
  const choose = (entry: Entry | null) => {
    setText('');
    // Esc chooses nothing, and the next search opens at once.
    if (entry) setOpens(false);
    leaveCommandField(() => {
      if (entry?.kind === 'command') runCommand(ws, entry.command);
      if (entry?.kind === 'view') showSavedView(ws, entry.view);
      if (entry?.kind === 'part')
        ws.selection
          .getState()
          .pick(entry.paths.map((component) => ({ kind: 'component', component, index: 0 })));
    });
  };
  return (
    <Combobox<Entry | null> value={null} onChange={choose} immediate={opens} onClose={() => setText('')}>
      {({ activeOption }) => (
        <div className="relative w-[300px] max-w-[30vw] min-w-28">
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
              // The field shows what was typed until it is told otherwise; left, it is
              // empty for the next search.
              e.currentTarget.value = '';
            }}
            onKeyDown={(e) => {
              if (e.key === 'Enter' && e.altKey && activeOption?.kind === 'command') {
                e.preventDefault();
                pinCommand(ws, activeOption.command.id);
                return;
              }
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
          <ComboboxOptions
            modal={false}
            className="absolute top-8 z-40 max-h-96 w-full min-w-72 overflow-y-auto rounded-md border border-border bg-panel py-1 shadow-card empty:hidden"
          >
            {!entries.length && text.trim() && (
              <p className="px-3 py-1 text-[13px] text-soft">Nothing found for “{text.trim()}”.</p>
            )}
            {entries.map((entry) => {
              const [key, name, Icon] = shownAs(entry);
              return (
                // Another text makes another list: Enter takes its first entry, not the
                // one that was first before.
                <ComboboxOption
                  key={`${text}\n${key}`}
                  value={entry}
                  className="flex cursor-pointer items-center gap-2.5 px-3 py-1 data-focus:bg-hover"
                >
                  <Icon size={15} strokeWidth={1.6} className="shrink-0 text-soft" aria-hidden />
                  <span className="min-w-0 flex-1">
                    <span
                      className={`block ${entry.kind === 'absent' ? 'text-[12.5px] text-soft' : 'truncate'}`}
                    >
                      {name}
                    </span>
                    {entry.kind === 'part' && entry.within && (
                      <span className="block truncate text-[12px] text-soft">in {entry.within}</span>
                    )}
                  </span>
                  {entry.kind === 'part' && entry.paths.length > 1 && (
                    <span className="figures text-[12px] text-soft">× {entry.paths.length}</span>
                  )}
                  {entry.kind === 'command' && entry.by && (
                    <span className="shrink-0 text-[12px] text-soft">{entry.by}</span>
                  )}
                  {entry.kind === 'command' && <Key command={entry.command} />}
                  {entry.kind === 'command' && <PinMark id={entry.command.id} />}
                </ComboboxOption>
              );
            })}
            {more > 0 && (
              <p className="px-3 pt-1 text-[12.5px] text-soft">and {more} more commands: type on</p>
            )}
          </ComboboxOptions>
        </div>
      )}
    </Combobox>
  );
}

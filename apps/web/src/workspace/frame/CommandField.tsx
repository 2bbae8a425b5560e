import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/react';
import { Box, Search } from 'lucide-react';
import { useState } from 'react';
import { findCommands } from '../../commands/registry.ts';
import { runCommand } from '../../commands/run-command.ts';
import type { Command } from '../../commands/command.ts';
import { modelStore } from '../../stores/model-store.ts';
import { selectionStore } from '../../stores/selection-store.ts';

type Entry = { kind: 'command'; command: Command } | { kind: 'component'; path: string; name: string };

const SHOWN_PARTS = 8;

function entriesFor(text: string): Entry[] {
  const commands = findCommands(text).map((command): Entry => ({ kind: 'command', command }));
  const wanted = text.trim().toLowerCase();
  if (!wanted) return commands;
  const parts = modelStore.getState().occurrences
    .filter((o) => `${o.instanceName ?? ''} ${o.name}`.toLowerCase().includes(wanted)).slice(0, SHOWN_PARTS)
    .map((o): Entry => ({ kind: 'component', path: o.path, name: o.instanceName ? `${o.instanceName} · ${o.name}` : o.name }));
  return [...commands, ...parts];
}

/** Finds commands by their names and the trade's other words for them, and components by name. */
export function CommandField() {
  const [text, setText] = useState('');
  const entries = entriesFor(text);
  const choose = (entry: Entry | null) => {
    setText('');
    // The field takes the focus back after a choice and would open again: hand it to the model once that is done.
    setTimeout(() => document.querySelector<HTMLElement>('[data-testid=scene]')?.focus());
    if (entry?.kind === 'command') runCommand(entry.command);
    if (entry?.kind === 'component') selectionStore.getState().pick([{ kind: 'component', component: entry.path, index: 0 }]);
  };
  return (
    <Combobox<Entry | null> value={null} onChange={choose} immediate onClose={() => setText('')}>
      <div className="relative w-[300px] max-w-[34vw] min-w-28">
        <Search size={14} className="absolute top-1.5 left-2.5 text-soft" aria-hidden />
        <ComboboxInput id="command-field" aria-label="Find a command or part" placeholder="Find a command or part" autoComplete="off"
          displayValue={() => text} onChange={(e) => setText(e.target.value)}
          onKeyDown={(e) => e.key === 'Escape' && e.currentTarget.blur()}
          className="h-[26px] w-full rounded-full border border-border bg-well pr-14 pl-8 placeholder:text-soft" />
        <kbd className="figures pointer-events-none absolute top-1 right-2 rounded border border-line bg-panel px-1 text-[11px] text-soft">Ctrl K</kbd>
        <ComboboxOptions className="absolute top-8 z-40 max-h-96 w-full min-w-72 overflow-y-auto rounded-md border border-border bg-panel py-1 shadow-card empty:hidden">
          {entries.map((entry) => {
            const Icon = entry.kind === 'command' ? entry.command.icon : Box;
            return (
              <ComboboxOption key={entry.kind === 'command' ? entry.command.id : entry.path} value={entry} className="flex cursor-pointer items-center gap-2.5 px-3 py-1 data-focus:bg-hover">
                <Icon size={15} strokeWidth={1.6} className="shrink-0 text-soft" aria-hidden />
                <span className="min-w-0 flex-1 truncate">{entry.kind === 'command' ? entry.command.name : entry.name}</span>
                {entry.kind === 'command' && entry.command.shortcut && <kbd className="figures text-[11px] text-soft">{entry.command.shortcut}</kbd>}
              </ComboboxOption>
            );
          })}
        </ComboboxOptions>
      </div>
    </Combobox>
  );
}

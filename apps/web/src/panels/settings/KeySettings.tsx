import { useState, type KeyboardEvent } from 'react';
import { useStore } from 'zustand';
import type { Command } from '../../commands/command.ts';
import { GROUPS } from '../../commands/command.ts';
import { keysOf, pressName, shownKey } from '../../commands/keys.ts';
import { COMMANDS } from '../../commands/registry.ts';
import { useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';
import { changeSettings } from '../../workspace/keeping/change-settings.ts';

/** What the browser keeps for itself, whatever a page does. */
const BROWSER_KEYS = [
  'Ctrl+T',
  'Ctrl+N',
  'Ctrl+W',
  'Ctrl+Shift+T',
  'Ctrl+Shift+N',
  'Ctrl+Shift+W',
  'F11',
  'F12',
  'Tab',
  'Shift+Tab',
  'Alt+F4',
];

/** The key of every command; a press on a key field takes the next key for it. */
export function KeySettings() {
  const ws = useWorkspace();
  const ownKeys = useStore(ws.profile, (s) => s.ownKeys);
  const [search, setSearch] = useState('');
  const wanted = search.trim().toLowerCase();
  const shown = (c: Command) =>
    !wanted || `${c.name} ${c.searchWords.join(' ')}`.toLowerCase().includes(wanted);
  return (
    <div>
      <div className="mb-3 flex gap-3">
        <input
          type="search"
          aria-label="Search the commands"
          placeholder="Search the commands"
          value={search}
          onChange={(e) => setSearch(e.target.value)}
          className="h-8 flex-1 rounded border border-border bg-well px-2"
        />
        <button
          type="button"
          disabled={!Object.keys(ownKeys).length}
          className="rounded border border-border px-2 hover:bg-hover disabled:text-soft"
          onClick={() => changeSettings(ws, { ownKeys: {} })}
        >
          All as they came
        </button>
      </div>
      {GROUPS.map((group) => {
        const commands = COMMANDS.filter((c) => c.group === group && shown(c));
        if (!commands.length) return null;
        return (
          <section key={group} className="mb-4">
            <h3 className="mb-1 text-xs font-semibold tracking-wider text-soft uppercase">{group}</h3>
            {commands.map((c) => (
              <KeyRow key={c.id} command={c} ownKeys={ownKeys} />
            ))}
          </section>
        );
      })}
    </div>
  );
}

function KeyRow({ command, ownKeys }: { command: Command; ownKeys: Record<string, string> }) {
  const ws = useWorkspace();
  const { caps } = useStore(ws.keyboard);
  const [message, setMessage] = useState('');
  const keys = useSeen((now) => keysOf(now, command, ownKeys));
  const setKey = (key: string | undefined) => {
    const { [command.id]: _, ...others } = ownKeys;
    changeSettings(ws, { ownKeys: key === undefined ? others : { ...others, [command.id]: key } });
  };
  const onKey = (e: KeyboardEvent<HTMLButtonElement>) => {
    const name = pressName(ws, e);
    if (['Shift', 'Control', 'Alt', 'Meta'].includes(e.key) || name === 'Tab' || name === 'Shift+Tab') return;
    e.preventDefault();
    e.stopPropagation();
    if (name === 'Esc') return e.currentTarget.blur();
    if (BROWSER_KEYS.includes(name)) return setMessage(`The browser keeps ${name} for itself.`);
    const other = COMMANDS.find((c) => c.id !== command.id && keysOf(ws, c, ownKeys).includes(name));
    setMessage(other ? `${name} was for “${other.name}”; it does this now.` : '');
    setKey(name);
    e.currentTarget.blur();
  };
  return (
    <div className="flex items-center gap-2 border-t border-line py-0.5">
      <span className="min-w-0 flex-1 truncate">{command.name}</span>
      {message && (
        <span role="status" className="text-[12.5px] text-amber">
          {message}
        </span>
      )}
      {ownKeys[command.id] !== undefined && (
        <button
          type="button"
          className="text-[12.5px] text-blue underline"
          onClick={() => {
            setKey(undefined);
            setMessage('');
          }}
        >
          as it came
        </button>
      )}
      <button
        type="button"
        aria-label={`Key of ${command.name}`}
        title="Click, then press the key"
        onKeyDown={onKey}
        onClick={(e) => e.currentTarget.focus()}
        className="figures h-7 min-w-28 rounded border border-line bg-well px-2 text-[12.5px] focus:border-magenta focus:bg-magenta-wash focus:outline-2 focus:outline-(--magenta)"
      >
        {keys.length ? keys.map((key) => shownKey(key, caps)).join('  ') : '–'}
      </button>
    </div>
  );
}

import { useState } from 'react';
import { useStore } from 'zustand';
import { GROUPS } from '../../commands/command.ts';
import { keysOf, shownKey } from '../../commands/keys.ts';
import { plain } from '../../commands/find-commands.ts';
import { COMMANDS } from '../../commands/registry.ts';
import { gestureMapOf, presetOf } from '../../scene/input/active-gestures.ts';
import { ACTION_NAMES, GESTURES } from '../../state/gestures.ts';
import { SearchField } from '../../ui/SearchField.tsx';
import { Window } from '../../ui/Window.tsx';
import { useWorkspace } from '../use-workspace.ts';
import { capital } from '../../ui/capital.ts';

const TOUCH: [string, string][] = [
  ['Touch: one finger', 'Orbit'],
  ['Touch: two fingers', 'Pan and zoom'],
  ['Touch: double tap', 'Fit all'],
  ['Touch: long press', 'Menu'],
];
const HELD: [string, string][] = [
  ['L, held while orbiting', 'Lock to the first direction'],
  ['1–9, held', 'Store this view in the slot'],
  ['T, held', 'Arrows pan'],
  ['Shift + the view pad', 'The same from behind'],
];

/** Keys and gestures, drawn from the registry and the current preset. */
export function HelpDialog() {
  const ws = useWorkspace();
  const open = useStore(ws.dialog, (s) => s.open === 'help');
  const [text, setText] = useState('');
  const close = () => {
    ws.dialog.setState({ open: null });
    setText('');
  };
  const settings = useStore(ws.profile);
  const { caps } = useStore(ws.keyboard);
  const map = gestureMapOf(settings);
  const gestures = GESTURES.filter((g) => (map[g.name] ?? 'none') !== 'none').map((g): [string, string] => [
    capital(g.name),
    ACTION_NAMES[map[g.name]],
  ]);
  const wanted = plain(text);
  const fits = (...texts: readonly string[]) => texts.some((t) => plain(t).includes(wanted));
  const mouse = [...gestures, ...TOUCH, ...HELD].filter(([key, does]) => fits(key, does));
  const groups = GROUPS.map((group) => ({
    group,
    rows: COMMANDS.filter((c) => c.group === group)
      .map((command) => ({
        command,
        keys: keysOf(ws, command, settings.ownKeys).map((key) => shownKey(key, caps)),
      }))
      .filter(({ command, keys }) => keys.length && fits(command.name, ...command.searchWords, ...keys))
      .map(({ command, keys }): [string, string] => [keys.join('  '), command.name]),
  })).filter(({ rows }) => rows.length);
  return (
    <Window
      open={open}
      close={close}
      title="Keys and gestures"
      className="max-h-full w-full max-w-3xl overflow-y-auto"
    >
      <SearchField
        label="Find a key or gesture"
        placeholder="Find a key or gesture"
        value={text}
        onChange={setText}
        className="mb-3 h-7 w-full max-w-72"
      />
      <div className="grid gap-6 sm:grid-cols-2">
        {mouse.length > 0 && (
          <section>
            <h3 className={HEADING}>Mouse: {presetOf(settings).name}</h3>
            <Rows rows={mouse} />
          </section>
        )}
        <div className="space-y-4">
          {groups.map(({ group, rows }) => (
            <section key={group}>
              <h3 className={HEADING}>{group}</h3>
              <Rows rows={rows} />
            </section>
          ))}
        </div>
      </div>
      {!mouse.length && !groups.length && (
        <p className="text-soft">No key or gesture for “{text.trim()}”. Ctrl+K finds every command.</p>
      )}
    </Window>
  );
}

const HEADING = 'mb-1 text-xs font-semibold tracking-wider text-soft uppercase';

function Rows({ rows }: { rows: [string, string][] }) {
  return (
    <dl>
      {rows.map(([key, does]) => (
        <div key={key + does} className="flex justify-between gap-4 border-b border-line py-1">
          <dt>{does}</dt>
          <dd className="figures text-right text-[12px] text-soft">{key}</dd>
        </div>
      ))}
    </dl>
  );
}

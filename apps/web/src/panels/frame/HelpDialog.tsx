import { useStore } from 'zustand';
import { GROUPS } from '../../commands/command.ts';
import { keysOf, shownKey } from '../../commands/keys.ts';
import { COMMANDS } from '../../commands/registry.ts';
import { gestureMapOf, presetOf } from '../../scene/input/active-gestures.ts';
import { ACTION_NAMES, GESTURES } from '../../state/gestures.ts';
import { Window } from '../../ui/Window.tsx';
import { useWorkspace } from '../use-workspace.ts';

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

const TOUCH: [string, string][] = [
  ['Touch: one finger', 'Orbit'],
  ['Touch: two fingers', 'Pan and zoom'],
  ['Touch: double tap', 'Fit all'],
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
  const close = () => ws.dialog.setState({ open: null });
  const settings = useStore(ws.profile);
  const map = gestureMapOf(settings);
  const gestures = GESTURES.filter((g) => (map[g.name] ?? 'none') !== 'none').map((g): [string, string] => [
    capital(g.name),
    ACTION_NAMES[map[g.name]],
  ]);
  return (
    <Window open={open} close={close} title="Keys and gestures" className="max-h-full w-full max-w-3xl overflow-y-auto">
      <div className="grid gap-6 sm:grid-cols-2">
        <section>
          <h3 className="mb-1 text-xs font-semibold tracking-wider text-soft uppercase">Mouse: {presetOf(settings).name}</h3>
          <Rows rows={[...gestures, ...TOUCH, ...HELD]} />
        </section>
        <div className="space-y-4">
          {GROUPS.map((group) => (
            <section key={group}>
              <h3 className="mb-1 text-xs font-semibold tracking-wider text-soft uppercase">{group}</h3>
              <Rows
                rows={COMMANDS.filter((c) => c.group === group && keysOf(ws, c, settings.ownKeys).length).map((c) => [
                  keysOf(ws, c, settings.ownKeys).map(shownKey).join('  '),
                  c.name,
                ])}
              />
            </section>
          ))}
        </div>
      </div>
    </Window>
  );
}

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

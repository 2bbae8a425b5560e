import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react';
import { X } from 'lucide-react';
import { useStore } from 'zustand';
import { COMMANDS } from '../../commands/registry.ts';
import { RIGHT_DRAG_ORBITS, type GestureBinding } from '../../scene/gestures.ts';
import { dialogStore } from '../../stores/dialog-store.ts';
import { IconButton } from '../../ui/IconButton.tsx';

const GROUPS = ['Views', 'Visibility', 'Picking', 'Edit', 'Window'] as const;
const BUTTONS = ['Left', 'Middle', 'Right'];
const ACTIONS: Record<string, string> = { orbit: 'Orbit about the pivot', pan: 'Pan', zoom: 'Zoom', pick: 'Pick', none: 'Nothing' };

const FIXED_GESTURES: [string, string][] = [
  ['Wheel', 'Zoom at the cursor'],
  ['Left click', 'Pick; on the same thing again: its component'],
  ['Shift or Ctrl + click', 'Add to what is picked, or take out'],
  ['Middle click on the model', 'Move the pivot there'],
  ['Double middle click', 'Fit all'],
  ['Right click', 'Menu'],
  ['Touch: one finger, two fingers, double tap', 'Orbit; pan and zoom; fit all'],
];

const bindingName = (b: GestureBinding): string => `${b.shift ? 'Shift + ' : ''}${b.ctrl ? 'Ctrl + ' : ''}${BUTTONS[b.button]} drag`;

/** Keys and gestures, drawn from the registry and the current preset. */
export function HelpDialog() {
  const open = useStore(dialogStore, (s) => s.open === 'help');
  const close = () => dialogStore.setState({ open: null });
  const drags = RIGHT_DRAG_ORBITS.drags.filter((b) => b.action !== 'pick').map((b): [string, string] => [bindingName(b), ACTIONS[b.action]]);
  return (
    <Dialog open={open} onClose={close} className="relative z-50">
      <div className="fixed inset-0 bg-black/40" aria-hidden />
      <div className="fixed inset-0 grid place-items-center p-6">
        <DialogPanel className="max-h-full w-full max-w-3xl overflow-y-auto rounded-lg border border-border bg-panel p-5 text-ink shadow-card">
          <div className="mb-3 flex items-center">
            <DialogTitle className="flex-1 text-lg font-semibold">Keys and gestures</DialogTitle>
            <IconButton icon={X} label="Close" onClick={close} />
          </div>
          <div className="grid gap-6 sm:grid-cols-2">
            <section>
              <h3 className="mb-1 text-xs font-semibold tracking-wider text-soft uppercase">Mouse: {RIGHT_DRAG_ORBITS.name}</h3>
              <Rows rows={[...drags, ...FIXED_GESTURES]} />
            </section>
            <div className="space-y-4">
              {GROUPS.map((group) => (
                <section key={group}>
                  <h3 className="mb-1 text-xs font-semibold tracking-wider text-soft uppercase">{group}</h3>
                  <Rows rows={COMMANDS.filter((c) => c.group === group && c.shortcut).map((c) => [[c.shortcut!, ...(c.alsoKeys ?? [])].join('  '), c.name])} />
                </section>
              ))}
            </div>
          </div>
        </DialogPanel>
      </div>
    </Dialog>
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

import { useCallback, useEffect, useRef } from 'react';
import { useStore } from 'zustand';
import { shownShortcut } from '../../commands/keys.ts';
import { COMMANDS } from '../../commands/registry.ts';
import { runCommand } from '../../commands/run-command.ts';
import { PRESETS } from '../../state/gestures.ts';
import { type OpenMenu } from '../../state/menu-store.ts';
import { GestureMenu } from './GestureMenu.tsx';
import { useWorkspace } from '../use-workspace.ts';

const WIDTH = 232;
const ROW = 28;

/** What can be done with what was right-clicked; drawn from the registry. */
export function ContextMenu() {
  const ws = useWorkspace();
  const open = useStore(ws.menu, (s) => s.open);
  return open && <OpenContextMenu open={open} />;
}

function OpenContextMenu({ open }: { open: OpenMenu }) {
  const ws = useWorkspace();
  const ref = useRef<HTMLDivElement>(null);
  const close = useCallback(() => ws.menu.setState({ open: null }), [ws]);
  const { picked } = ws.selection.getState();
  // Only what fits what was clicked on.
  const onParts = picked.some((p) => p.datum === undefined);
  const commands = COMMANDS.filter(
    (c) =>
      (c.menu === 'both' || c.menu === open.on) && (c.needs !== 'components' || onParts) && (!c.fits || picked.some((p) => c.fits!(p, ws))),
  );
  useEffect(() => {
    const buttons = () => [...(ref.current?.querySelectorAll('button') ?? [])];
    buttons()[0]?.focus();
    const onKey = (e: KeyboardEvent) => {
      const all = buttons();
      const at = all.indexOf(document.activeElement as HTMLButtonElement);
      const steps: Record<string, number> = { ArrowDown: at + 1, ArrowUp: at - 1, Home: 0, End: all.length - 1 };
      if (e.key in steps) all[(steps[e.key] + all.length) % all.length]?.focus();
      else if (e.key === 'Escape' || e.key === 'Tab') close();
      else return;
      e.preventDefault();
      e.stopPropagation();
    };
    const onPress = (e: PointerEvent) => !ref.current?.contains(e.target as Node) && close();
    window.addEventListener('keydown', onKey, true);
    window.addEventListener('pointerdown', onPress, true);
    return () => {
      window.removeEventListener('keydown', onKey, true);
      window.removeEventListener('pointerdown', onPress, true);
    };
  }, [open, close]);
  const left = Math.min(open.x, window.innerWidth - WIDTH - 8);
  const top = Math.max(8, Math.min(open.y, window.innerHeight - (commands.length + (open.on === 'space' ? PRESETS.length : 0)) * ROW - 24));
  return (
    <div
      ref={ref}
      role="menu"
      aria-label={open.on === 'thing' ? 'What can be done with it' : 'Views'}
      style={{ left, top, width: WIDTH }}
      className="fixed z-40 max-h-[calc(100vh-16px)] overflow-y-auto rounded-md border border-border bg-panel py-1 shadow-card"
    >
      {commands.map((command) => {
        const { id, name, icon: Icon } = command;
        const shortcut = shownShortcut(ws, command);
        return (
          <button
            key={id}
            type="button"
            role="menuitem"
            style={{ height: ROW }}
            className="flex w-full items-center gap-2.5 px-3 hover:bg-hover focus:bg-hover focus:outline-none"
            onClick={() => {
              close();
              runCommand(ws, command);
            }}
          >
            <Icon size={16} strokeWidth={1.6} className="text-soft" aria-hidden />
            <span className="flex-1 text-left">{name}</span>
            {shortcut && <kbd className="figures text-[11px] text-soft">{shortcut}</kbd>}
          </button>
        );
      })}
      {open.on === 'space' && <GestureMenu rowHeight={ROW} close={close} />}
    </div>
  );
}

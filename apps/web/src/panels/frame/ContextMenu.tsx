import { Ellipsis } from 'lucide-react';
import { useCallback, useEffect, useLayoutEffect, useRef, useState } from 'react';
import { useStore } from 'zustand';
import { useShortcut } from '../use-shortcut.ts';
import type { Command } from '../../commands/command.ts';
import { menuEntries } from '../../commands/menu-entries.ts';
import { runCommand } from '../../commands/run-command.ts';
import { type OpenMenu } from '../../state/menu-store.ts';
import { GestureMenu } from './GestureMenu.tsx';
import { useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';

const ROW = 28;
const MARGIN = 8;

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
  const [all, setAll] = useState(false);
  const [at, setAt] = useState<{ left: number; top: number } | null>(null);
  const { short, more } = useSeen((now) => menuEntries(now, open.on));
  // Beside the cursor, as far as it has room there.
  useLayoutEffect(() => {
    const { width, height } = ref.current!.getBoundingClientRect();
    const within = (x: number, size: number, space: number) =>
      Math.max(MARGIN, Math.min(x, space - size - MARGIN));
    setAt({
      left: within(open.x, width, window.innerWidth),
      top: within(open.y, height, window.innerHeight),
    });
  }, [open, all]);
  useEffect(() => {
    const buttons = () => [...(ref.current?.querySelectorAll('button') ?? [])];
    buttons()[0]?.focus();
    const onKey = (e: KeyboardEvent) => {
      const all = buttons();
      const at = all.indexOf(document.activeElement as HTMLButtonElement);
      const steps: Record<string, number> = {
        ArrowDown: at + 1,
        ArrowUp: at - 1,
        Home: 0,
        End: all.length - 1,
      };
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
  }, [open, close, all]);
  return (
    <div
      ref={ref}
      role="menu"
      aria-label={open.on === 'thing' ? 'What can be done with it' : 'Views'}
      style={at ?? { left: open.x, top: open.y, visibility: 'hidden' }}
      className="fixed z-40 max-h-[calc(100vh-16px)] w-max min-w-56 overflow-y-auto rounded-md border border-border bg-panel py-1 whitespace-nowrap shadow-card"
    >
      {(all ? [...short, ...more] : short).map(({ name, commands }) => (
        <div
          key={name}
          role="group"
          aria-label={name}
          className="border-line not-first:mt-1 not-first:border-t not-first:pt-1"
        >
          {commands.map((command) => (
            <Entry key={command.id} command={command} close={close} />
          ))}
        </div>
      ))}
      {!all && (more.length > 0 || open.on === 'space') && (
        <button
          type="button"
          role="menuitem"
          style={{ height: ROW }}
          className="mt-1 flex w-full items-center gap-2.5 border-t border-line px-3 hover:bg-hover focus:bg-hover focus:outline-none"
          onClick={() => setAll(true)}
        >
          <Ellipsis size={16} strokeWidth={1.6} className="text-soft" aria-hidden />
          <span className="flex-1 text-left">More …</span>
        </button>
      )}
      {all && open.on === 'space' && <GestureMenu rowHeight={ROW} close={close} />}
    </div>
  );
}

function Entry({ command, close }: { command: Command; close: () => void }) {
  const ws = useWorkspace();
  const shortcut = useShortcut(command);
  return (
    <button
      type="button"
      role="menuitem"
      style={{ height: ROW }}
      className="flex w-full items-center gap-2.5 px-3 hover:bg-hover focus:bg-hover focus:outline-none"
      onClick={() => {
        close();
        runCommand(ws, command);
      }}
    >
      <command.icon size={16} strokeWidth={1.6} className="text-soft" aria-hidden />
      <span className="flex-1 text-left">{command.name}</span>
      {shortcut && <kbd className="figures text-[11px] text-soft">{shortcut}</kbd>}
    </button>
  );
}

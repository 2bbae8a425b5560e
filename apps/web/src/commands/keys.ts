import type { Command } from './command.ts';
import { COMMANDS } from './registry.ts';
import { runCommand } from './run-command.ts';
import type { KeyCaps } from '../state/keyboard-store.ts';
import type { Workspace } from '../workspace/workspace.ts';

/** ms after which a key counts as held. */
const HOLD = 600;

type Press = Pick<KeyboardEvent, 'key' | 'code' | 'ctrlKey' | 'metaKey' | 'shiftKey' | 'altKey'>;

const ARROWS: Record<string, string> = {
  ArrowLeft: 'Left',
  ArrowRight: 'Right',
  ArrowUp: 'Up',
  ArrowDown: 'Down',
};

/**
 * The press as written in shortcuts: `Ctrl+Shift+Z`, `F`, `?`, `T+Left`. Signs that need Shift to type are
 * written without it.
 */
export function pressName(ws: Workspace, e: Press): string {
  const key =
    e.key === 'Escape'
      ? 'Esc'
      : e.key === ' '
        ? 'Space'
        : (ARROWS[e.key] ?? (e.key.length === 1 ? e.key.toUpperCase() : e.key));
  const sign = key.length === 1 && !/[A-Z0-9]/.test(key);
  const shift = e.shiftKey && !sign ? 'Shift+' : '';
  const held = key in { Left: 0, Right: 0, Up: 0, Down: 0 } && ws.mode.getState().panning ? 'T+' : '';
  return `${e.ctrlKey || e.metaKey ? 'Ctrl+' : ''}${e.altKey ? 'Alt+' : ''}${shift}${held}${key}`;
}

/** The same press by the place of the key: `Shift+@KeyQ`. */
const placeName = (e: Press): string =>
  `${e.ctrlKey || e.metaKey ? 'Ctrl+' : ''}${e.altKey ? 'Alt+' : ''}${e.shiftKey ? 'Shift+' : ''}@${e.code}`;

/** The keys of a command in force: the user's own instead of the first, then the others. */
export function keysOf(
  ws: Workspace,
  command: Command,
  ownKeys: Record<string, string> = ws.profile.getState().ownKeys,
): string[] {
  const own = ownKeys[command.id];
  const first = own === undefined ? command.shortcut : own;
  return [...(first ? [first] : []), ...(own === undefined ? (command.alsoKeys ?? []) : [])];
}

export function commandForPress(ws: Workspace, e: Press): Command | undefined {
  const [place, name] = [placeName(e), pressName(ws, e)];
  // A key that the user gave to a command wins over those that come with the program.
  const { ownKeys } = ws.profile.getState();
  const own = COMMANDS.find(
    (c) => ownKeys[c.id] !== undefined && (ownKeys[c.id] === name || ownKeys[c.id] === place),
  );
  return (
    own ??
    COMMANDS.find((c) => keysOf(ws, c).includes(place)) ??
    COMMANDS.find((c) => keysOf(ws, c).includes(name))
  );
}

/** Asks the browser what is printed on the keys. */
async function readCaps(ws: Workspace): Promise<void> {
  const { keyboard } = navigator as { keyboard?: { getLayoutMap(): Promise<Map<string, string>> } };
  const layout = await keyboard?.getLayoutMap().catch(() => undefined);
  if (layout)
    ws.keyboard.setState({ caps: new Map(Array.from(layout, ([code, cap]) => [code, cap.toUpperCase()])) });
}

const SHOWN: Record<string, string> = { Left: '←', Right: '→', Up: '↑', Down: '↓', Backspace: '⌫' };

/** A key as shown to the user. */
export const shownKey = (key: string, caps: KeyCaps): string =>
  key
    .replace(/@(\w+)/, (_, code: string) => caps.get(code) ?? code.replace(/^Key|^Digit/, ''))
    .split('+')
    .map((k) => SHOWN[k] ?? k)
    .join('+') || key;

/** The first key of a command as shown, or undefined. */
export const shownShortcut = (ws: Workspace, command: Command): string | undefined => {
  const [first] = keysOf(ws, command);
  return first === undefined ? undefined : shownKey(first, ws.keyboard.getState().caps);
};

const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    (/^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) &&
      !/^(checkbox|radio|range|button)$/.test((target as HTMLInputElement).type)));

/** Enter and Space belong to the button or link that has the focus. */
const isPressing = (e: KeyboardEvent): boolean =>
  (e.key === 'Enter' || e.key === ' ') &&
  e.target instanceof HTMLElement &&
  e.target.closest(PRESSED) !== null;

const PRESSED =
  'button, a, summary, input, select, textarea, [role="row"], [role="option"], [role="menuitem"], [role="slider"]';

/** Listens for the keys of all commands. @returns what ends it */
export function listenToKeys(ws: Workspace): () => void {
  void readCaps(ws);
  let held: { code: string; timer: ReturnType<typeof setTimeout>; command: Command } | null = null;
  const off = new AbortController();

  const onDown = (e: KeyboardEvent) => {
    if (e.defaultPrevented || isPressing(e) || document.querySelector('[role="dialog"]')) return;
    const typing = isTyping(e.target);
    if (!typing && !e.ctrlKey && !e.altKey && !e.metaKey) holdKeys(ws, e, true);
    const command = commandForPress(ws, e);
    // While a name is typed only the command field's own key works.
    if (!command || (typing && command.id !== 'command-field')) return;
    e.preventDefault();
    if (!command.hold) return runCommand(ws, command);
    if (e.repeat || held) return;
    const timer = setTimeout(() => {
      held = null;
      command.hold!(ws);
    }, HOLD);
    held = { code: e.code, timer, command };
  };
  const onUp = (e: KeyboardEvent) => {
    holdKeys(ws, e, false);
    if (held?.code !== e.code) return;
    clearTimeout(held.timer);
    const { command } = held;
    held = null;
    runCommand(ws, command);
  };
  const release = () => ws.mode.setState({ locked: false, panning: false });
  window.addEventListener('keydown', onDown, { signal: off.signal });
  window.addEventListener('keyup', onUp, { signal: off.signal });
  window.addEventListener('blur', release, { signal: off.signal });
  return () => {
    off.abort();
    release();
  };
}

/** L held locks an orbit to its first direction; T held makes the arrows pan. */
function holdKeys(ws: Workspace, e: KeyboardEvent, down: boolean): void {
  const key = e.key.toLowerCase();
  if (key === 'l') ws.mode.setState({ locked: down });
  if (key === 't') ws.mode.setState({ panning: down });
}

import type { Command } from './command.ts';
import { COMMANDS } from './registry.ts';
import { runCommand } from './run-command.ts';

/** The press as written in shortcuts: `Ctrl+Shift+Z`, `F`, `?`. Signs that need Shift to type are written without it. */
export function pressName(e: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'shiftKey' | 'altKey'>): string {
  const key = e.key === 'Escape' ? 'Esc' : e.key.length === 1 ? e.key.toUpperCase() : e.key;
  const sign = key.length === 1 && !/[A-Z0-9]/.test(key);
  const shift = e.shiftKey && !sign ? 'Shift+' : '';
  return `${e.ctrlKey || e.metaKey ? 'Ctrl+' : ''}${e.altKey ? 'Alt+' : ''}${shift}${key}`;
}

export const commandForPress = (name: string): Command | undefined =>
  COMMANDS.find((c) => c.shortcut === name || c.alsoKeys?.includes(name));

const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

/** Listens for the keys of all commands. @returns what ends it */
export function listenToKeys(): () => void {
  const onKey = (e: KeyboardEvent) => {
    if (e.defaultPrevented || document.querySelector('[role="dialog"]')) return;
    const command = commandForPress(pressName(e));
    if (!command) return;
    // While a name is typed only the command field's own key works.
    if (isTyping(e.target) && command.id !== 'command-field') return;
    e.preventDefault();
    runCommand(command);
  };
  window.addEventListener('keydown', onKey);
  return () => window.removeEventListener('keydown', onKey);
}

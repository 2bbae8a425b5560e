import type { Command } from '../commands/command.ts';
import { shownShortcut } from '../commands/keys.ts';
import { useSeen } from './use-derived.ts';

/**
 * The first key of a command as it is printed on this keyboard, or undefined; drawn again when
 * the user gives it another.
 */
export const useShortcut = (command: Command): string | undefined =>
  useSeen((now) => shownShortcut(now, command));

import type { LucideIcon } from 'lucide-react';
import type { Inverse } from '../stores/history-store.ts';
import type { Picked } from '../stores/selection-store.ts';

/** What a command wants to act on: nothing, any picked thing, or components. */
export type Need = 'nothing' | 'thing' | 'components';

/**
 * One action of the program, the same wherever it is offered: rail, context menu, command field, key and help page are
 * all drawn from the registry.
 */
export interface Command {
  id: string;
  name: string;
  /** Heading under which help lists it. */
  group: 'Views' | 'Visibility' | 'Picking' | 'Edit' | 'Window';
  icon: LucideIcon;
  /** Key as shown; see `keys.ts` for how presses are matched. */
  shortcut?: string;
  /** Further keys that do the same. */
  alsoKeys?: readonly string[];
  /** The trade's other words for it. */
  searchWords: readonly string[];
  needs: Need;
  /** Where the context menu offers it. */
  menu?: 'thing' | 'space' | 'both';
  /** A sentence when it cannot run now, else null. */
  refusal?: () => string | null;
  /** Does it. What changed the display returns its inverse for the undo list. */
  run: (items: Picked[]) => Inverse | void;
}

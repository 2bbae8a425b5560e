import type { LucideIcon } from 'lucide-react';
import type { Inverse } from '../state/history-store.ts';
import type { Picked } from '../state/selection-store.ts';
import type { Workspace } from '../workspace/workspace.ts';

/** What a command wants to act on: nothing, any picked thing, or components. */
export type Need = 'nothing' | 'thing' | 'components';

export const GROUPS = [
  'Views',
  'Directions',
  'Turning',
  'Saved views',
  'Panes',
  'Style',
  'Section',
  'Reference',
  'Visibility',
  'Picking',
  'Measure',
  'Pictures',
  'Edit',
  'Window',
] as const;

/**
 * One action of the program, the same wherever it is offered: rail, context menu, command field, key and help
 * page are all drawn from the registry.
 */
export interface Command {
  id: string;
  name: string;
  /** Heading under which help lists it. */
  group: (typeof GROUPS)[number];
  icon: LucideIcon;
  /** Key as pressed; `@KeyQ` for a place on the keyboard whatever is printed there. See `keys.ts`. */
  shortcut?: string;
  /** Further keys that do the same. */
  alsoKeys?: readonly string[];
  /** The trade's other words for it. */
  searchWords: readonly string[];
  needs: Need;
  /**
   * How many of them it takes; picked ones count, the rest are clicked one after another. One when absent.
   */
  count?: number;
  /** Which picked things it can act on; all when absent. */
  fits?: (item: Picked, ws: Workspace) => boolean;
  /** What would fit, said when something else is picked. */
  wants?: string;
  /** Where the context menu offers it. */
  menu?: 'thing' | 'space' | 'both';
  /** A sentence when it cannot run now, else null. */
  refusal?: (ws: Workspace) => string | null;
  /** Does it. What changed the display returns its inverse for the undo list. */
  run: (ws: Workspace, items: Picked[]) => Inverse | void;
  /** What the same key does when it is held. */
  hold?: (ws: Workspace) => void;
  /** It works on what a mode of the left drag or a waiting command is about, and does not end them. */
  keepsMode?: boolean;
}

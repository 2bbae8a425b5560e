import { changeStates, stateOf, type ComponentStates } from '@bathyscope/core';
import { Eye, EyeOff, Focus } from 'lucide-react';
import type { Inverse } from '../stores/history-store.ts';
import { componentsBelow, modelStore } from '../stores/model-store.ts';
import { selectionStore } from '../stores/selection-store.ts';
import { visibilityStore } from '../stores/visibility-store.ts';
import type { Command } from './command.ts';

/** Puts a new table in place and tells how to go back; nothing to undo when nothing changed. */
function change(name: string, next: ComponentStates): Inverse | void {
  const { states, set } = visibilityStore.getState();
  if (JSON.stringify(states) === JSON.stringify(next)) return;
  set(next);
  return { name, undo: () => set(states), redo: () => set(next) };
}

const count = (n: number): string => `${n} component${n === 1 ? '' : 's'}`;

/** Hides or shows everything at or below the given occurrences. */
export function setVisible(paths: readonly string[], visible: boolean): Inverse | void {
  const all = [...new Set(paths.flatMap(componentsBelow))];
  return change(`${visible ? 'show' : 'hide'} ${count(all.length)}`, changeStates(visibilityStore.getState().states, all, { visible }));
}

const allPaths = (): string[] => modelStore.getState().components.map((c) => c.path);

export const VISIBILITY_COMMANDS: Command[] = [
  {
    id: 'hide', name: 'Hide', group: 'Visibility', icon: EyeOff, shortcut: 'H', searchWords: ['blank', 'switch off', 'invisible', 'suppress from view'],
    needs: 'components', menu: 'thing',
    run: (items) => {
      const inverse = setVisible(items.map((i) => i.component), false);
      selectionStore.getState().pick([]);
      return inverse;
    },
  },
  {
    id: 'isolate', name: 'Isolate', group: 'Visibility', icon: Focus, shortcut: 'I', searchWords: ['show only', 'solo', 'hide others'],
    needs: 'components', menu: 'thing',
    run: (items) => {
      const kept = items.flatMap((i) => componentsBelow(i.component));
      const hidden = changeStates(visibilityStore.getState().states, allPaths(), { visible: false });
      return change(`isolate ${count(kept.length)}`, changeStates(hidden, kept, { visible: true }));
    },
  },
  {
    id: 'show-all', name: 'Show all', group: 'Visibility', icon: Eye, shortcut: 'U', searchWords: ['unhide', 'unblank', 'switch on', 'make visible'],
    needs: 'nothing', menu: 'both',
    run: () => change('show all', changeStates(visibilityStore.getState().states, allPaths(), { visible: true })),
  },
];

/** Components that are drawn. */
export const visiblePaths = (): string[] => {
  const { states } = visibilityStore.getState();
  return allPaths().filter((path) => stateOf(states, path).visible);
};

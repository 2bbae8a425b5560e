import { changeStates, stateOf, wholeReason, type ComponentPath } from '@bathyscope/core';
import { Bolt, ScanSearch, Scissors } from 'lucide-react';
import { dialogStore } from '../stores/dialog-store.ts';
import type { Inverse } from '../stores/history-store.ts';
import { componentsBelow, modelStore } from '../stores/model-store.ts';
import { visibilityStore } from '../stores/visibility-store.ts';
import type { Command } from './command.ts';
import { changeTable } from './visibility-commands.ts';

const table = () => visibilityStore.getState().states;
const below = (paths: readonly string[]): string[] => [...new Set(paths.flatMap(componentsBelow))];
const count = (n: number): string => `${n} component${n === 1 ? '' : 's'}`;

export const wholePaths = (): string[] => modelStore.getState().components.map((c) => c.path).filter((p) => stateOf(table(), p).keptWhole);

export const keepWhole = (paths: readonly ComponentPath[], keptWhole: boolean): Inverse | void => changeTable(`${keptWhole ? 'keep whole' : 'cut again'} ${count(paths.length)}`, changeStates(table(), paths, { keptWhole }));

/** Parts that drawing practice leaves uncut, with the reason and their components that are cut now. */
export function wholeSuggestions(): { part: number; name: string; reason: string; paths: string[] }[] {
  const { components, parts, detail } = modelStore.getState();
  const byPart = new Map<number, string[]>();
  for (const c of components) if (!stateOf(table(), c.path).keptWhole) byPart.set(c.part, [...(byPart.get(c.part) ?? []), c.path]);
  return [...byPart].flatMap(([part, paths]) => {
    const name = detail!.structure.parts[part].name;
    const reason = wholeReason(name, parts.get(part)!.geometry);
    return reason ? [{ part, name, reason, paths }] : [];
  });
}

export const WHOLE_COMMANDS: Command[] = [
  {
    id: 'keep-whole', name: 'Keep whole', group: 'Section', icon: Bolt, searchWords: ['do not cut', 'exclude from section', 'uncut', 'fastener', 'shaft'], needs: 'components', menu: 'thing',
    run: (items) => {
      const paths = below(items.map((i) => i.component));
      return keepWhole(paths, !paths.every((p) => stateOf(table(), p).keptWhole));
    },
  },
  {
    id: 'section-only', name: 'Section only these', group: 'Section', icon: Scissors, searchWords: ['cut only', 'section components', 'keep others whole'], needs: 'components', menu: 'thing',
    run: (items) => {
      const cut = new Set(below(items.map((i) => i.component)));
      const all = modelStore.getState().components.map((c) => c.path);
      return changeTable(`section only ${count(cut.size)}`, changeStates(changeStates(table(), all.filter((p) => !cut.has(p)), { keptWhole: true }), cut, { keptWhole: false }));
    },
  },
  { id: 'cut-all', name: 'Cut everything again', group: 'Section', icon: Scissors, searchWords: ['no exceptions', 'reset keep whole'], needs: 'nothing', refusal: () => (wholePaths().length ? null : 'Nothing is kept whole.'), run: () => keepWhole(wholePaths(), false) },
  { id: 'suggest-whole', name: 'Suggest what to keep whole …', group: 'Section', icon: ScanSearch, searchWords: ['fasteners', 'bolts', 'shafts', 'pins', 'balls', 'recognise'], needs: 'nothing', refusal: () => (wholeSuggestions().length ? null : 'Nothing here is named or shaped like a fastener, shaft, pin or ball that is still cut.'), run: () => dialogStore.setState({ open: 'whole' }) },
];

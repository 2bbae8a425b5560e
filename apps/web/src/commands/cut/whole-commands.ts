import type { ComponentPath } from '@bathyscope/core/model';
import { wholeReason } from '@bathyscope/core/section';
import { changeStates, stateOf } from '@bathyscope/core/visibility';
import { Bolt, ScanSearch, Scissors } from 'lucide-react';
import type { Inverse } from '../../state/history-store.ts';
import type { Command } from '../command.ts';
import { changeTable } from '../show/visibility-commands.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { componentsBelow } from '../../workspace/shown/components.ts';

const table = (ws: Workspace) => ws.visibility.getState().states;
const below = (ws: Workspace, paths: readonly string[]): string[] => [
  ...new Set(paths.flatMap((path) => componentsBelow(ws, path))),
];
const count = (n: number): string => `${n} component${n === 1 ? '' : 's'}`;

export const wholePaths = (ws: Workspace): string[] =>
  ws.model
    .getState()
    .components.map((c) => c.path)
    .filter((p) => stateOf(table(ws), p).keptWhole);

export const keepWhole = (
  ws: Workspace,
  paths: readonly ComponentPath[],
  keptWhole: boolean,
): Inverse | void =>
  changeTable(
    ws,
    `${keptWhole ? 'keep whole' : 'cut again'} ${count(paths.length)}`,
    changeStates(table(ws), paths, { keptWhole }),
  );

/** Parts that drawing practice leaves uncut, with the reason and their components that are cut now. */
export function wholeSuggestions(
  ws: Workspace,
): { part: number; name: string; reason: string; paths: string[] }[] {
  const { components, parts, detail } = ws.model.getState();
  const byPart = new Map<number, string[]>();
  for (const c of components)
    if (!stateOf(table(ws), c.path).keptWhole) byPart.set(c.part, [...(byPart.get(c.part) ?? []), c.path]);
  return [...byPart].flatMap(([part, paths]) => {
    const name = detail!.structure.parts[part].name;
    const reason = wholeReason(name, parts.get(part)!.geometry);
    return reason ? [{ part, name, reason, paths }] : [];
  });
}

export const WHOLE_COMMANDS: Command[] = [
  {
    id: 'keep-whole',
    name: 'Keep whole',
    group: 'Section',
    icon: Bolt,
    searchWords: ['do not cut', 'exclude from section', 'uncut', 'fastener', 'shaft'],
    needs: 'components',
    menu: 'thing',
    run: (ws, items) => {
      const paths = below(
        ws,
        items.map((i) => i.component),
      );
      return keepWhole(ws, paths, !paths.every((p) => stateOf(table(ws), p).keptWhole));
    },
  },
  {
    id: 'section-only',
    name: 'Section only these',
    group: 'Section',
    icon: Scissors,
    searchWords: ['cut only', 'section components', 'keep others whole'],
    needs: 'components',
    menu: 'thing',
    run: (ws, items) => {
      const cut = new Set(
        below(
          ws,
          items.map((i) => i.component),
        ),
      );
      const all = ws.model.getState().components.map((c) => c.path);
      return changeTable(
        ws,
        `section only ${count(cut.size)}`,
        changeStates(
          changeStates(
            table(ws),
            all.filter((p) => !cut.has(p)),
            { keptWhole: true },
          ),
          cut,
          { keptWhole: false },
        ),
      );
    },
  },
  {
    id: 'cut-all',
    name: 'Cut everything again',
    group: 'Section',
    icon: Scissors,
    searchWords: ['no exceptions', 'reset keep whole'],
    needs: 'nothing',
    refusal: (ws) => (wholePaths(ws).length ? null : 'Nothing is kept whole.'),
    run: (ws) => keepWhole(ws, wholePaths(ws), false),
  },
  {
    id: 'suggest-whole',
    name: 'Suggest what to keep whole …',
    group: 'Section',
    icon: ScanSearch,
    searchWords: ['fasteners', 'bolts', 'shafts', 'pins', 'balls', 'recognise'],
    needs: 'nothing',
    refusal: (ws) =>
      wholeSuggestions(ws).length
        ? null
        : 'Nothing here is named or shaped like a fastener, shaft, pin or ball that is still cut.',
    run: (ws) => ws.dialog.setState({ open: 'whole' }),
  },
];

import type { OpenMenu } from '../state/menu-store.ts';
import type { Workspace } from '../workspace/workspace.ts';
import { GROUPS, type Command } from './command.ts';
import { COMMANDS } from './registry.ts';

/** Commands under a heading. */
export interface MenuGroup {
  name: string;
  commands: Command[];
}

/** What is used most, the first that fits of each row; a thing's menu is so long at most. */
const SHORT: Record<
  OpenMenu['on'],
  readonly (readonly [name: string, most: number, ids: readonly string[]])[]
> = {
  thing: [
    ['Look', 2, ['fit-picked', 'normal-to', 'hinge']],
    ['Show', 4, ['hide', 'isolate', 'ghost', 'show-all']],
    ['Cut', 1, ['section-face', 'section-axis', 'section-edge']],
    ['Pick', 2, ['pick-component', 'pick-through']],
  ],
  space: [
    ['Look', 4, ['home', 'fit', 'trail-back', 'save-view']],
    ['Show', 2, ['show-all', 'peek']],
    ['Edit', 2, ['undo', 'settings']],
  ],
};

/** What a context menu offers: the few that are used most, and all others by their groups. */
export function menuEntries(ws: Workspace, on: OpenMenu['on']): { short: MenuGroup[]; more: MenuGroup[] } {
  const { picked } = ws.selection.getState();
  const onParts = picked.some((p) => p.datum === undefined);
  // Only what fits what was clicked on.
  const offered = COMMANDS.filter(
    (c) =>
      (c.menu === 'both' || c.menu === on) &&
      (c.needs !== 'components' || onParts) &&
      (!c.fits || picked.some((p) => c.fits!(p, ws))),
  );
  const short = SHORT[on].map(([name, most, ids]): MenuGroup => ({
    name,
    commands: ids.flatMap((id) => offered.find((c) => c.id === id) ?? []).slice(0, most),
  }));
  const used = new Set(short.flatMap((g) => g.commands));
  const more = GROUPS.map((name): MenuGroup => ({
    name,
    commands: offered.filter((c) => c.group === name && !used.has(c)),
  }));
  const filled = (groups: MenuGroup[]) => groups.filter((g) => g.commands.length);
  return { short: filled(short), more: filled(more) };
}

import { componentName } from '@bathyscope/contracts/records';
import { componentColour } from '@bathyscope/core/colours';
import { ownOf } from '@bathyscope/core/tables';
import { keptAt } from '../keeping/records.ts';
import type { Workspace } from '../workspace.ts';

/* Parts that are alike for whoever gives materials. */

/** Parts whose name, or a name that a component of theirs has on the screen, holds a word. */
export function partsNamed(ws: Workspace, word: string): number[] {
  const wanted = word.trim().toLowerCase();
  if (!wanted) return [];
  const { components, detail } = ws.model.getState();
  const found = new Set<number>();
  for (const { path, part, name } of components) {
    const all = [keptAt(ws, componentName, path)?.name, name, detail?.structure?.parts[part].name];
    if (all.some((n) => n?.toLowerCase().includes(wanted))) found.add(part);
  }
  return [...found];
}

/** Parts that are shown in a colour that one of some components has, too. */
export function partsLikePicked(ws: Workspace, paths: readonly string[]): number[] {
  const { components } = ws.model.getState();
  const { states } = ws.visibility.getState();
  const colourOf = (c: (typeof components)[number]) => componentColour(c, ownOf(states, c.path)).join();
  const wanted = new Set(components.filter((c) => paths.includes(c.path)).map(colourOf));
  return [...new Set(components.filter((c) => wanted.has(colourOf(c))).map((c) => c.part))];
}

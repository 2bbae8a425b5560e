import { componentName } from '@bathyscope/contracts/records';
import { derived } from '../derived/derived.ts';
import { keptAt } from '../keeping/records.ts';
import { EMPTY_BOX, transformBox, uniteBoxes, type Box3 } from '@bathyscope/core/math';
import type { Workspace } from '../workspace.ts';

/** All components at or below an occurrence. */
export function componentsBelow(ws: Workspace, path: string): string[] {
  const { byPath } = ws.model.getState();
  const occurrence = byPath.get(path);
  if (!occurrence) return [];
  return occurrence.part !== undefined
    ? [path]
    : occurrence.children.flatMap((path) => componentsBelow(ws, path));
}

/** What a component is called on the screen: by the user, else by the file. */
export function shownName(ws: Workspace, path: string): string {
  const occurrence = ws.model.getState().byPath.get(path);
  return keptAt(ws, componentName, path)?.name ?? occurrence?.instanceName ?? occurrence?.name ?? path;
}

/** The box around components, in model space. */
export function boxOf(ws: Workspace, paths: Iterable<string>): Box3 {
  const { byPath, parts } = ws.model.getState();
  let box = EMPTY_BOX;
  for (const path of paths) {
    const component = byPath.get(path);
    const part = component?.part === undefined ? undefined : parts.get(component.part);
    if (component && part) box = uniteBoxes(box, transformBox(component.placement, part.geometry.box));
  }
  return box;
}

const boxOfModel = derived('the box of the model', (ws) =>
  boxOf(
    ws,
    ws.model.getState().components.map((c) => c.path),
  ),
);

export const modelBox = (ws: Workspace): Box3 => ws.derived.of(boxOfModel);

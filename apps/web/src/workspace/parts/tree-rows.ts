import type { Occurrence } from '@bathyscope/core';

export interface TreeRow {
  occurrence: Occurrence;
  expanded: boolean | null;
  /** 1-based among its siblings, for screen readers. */
  position: number;
  siblings: number;
}

const shownName = (o: Occurrence): string => `${o.instanceName ?? ''} ${o.name}`.toLowerCase();

/** The rows of the tree as shown: below folded branches nothing; while searching, matches within their branches, all unfolded. */
export function treeRows(occurrences: readonly Occurrence[], byPath: ReadonlyMap<string, Occurrence>, folded: ReadonlySet<string>, search: string): TreeRow[] {
  const root = occurrences[0];
  if (!root) return [];
  const wanted = search.trim().toLowerCase();
  const kept = wanted ? keptBySearch(occurrences, byPath, wanted) : null;
  const rows: TreeRow[] = [];
  const visit = (occurrence: Occurrence, position: number, siblings: number) => {
    const branch = occurrence.children.length > 0;
    const expanded = branch ? kept !== null || !folded.has(occurrence.path) : null;
    rows.push({ occurrence, expanded, position, siblings });
    if (!expanded) return;
    const children = occurrence.children.filter((path) => !kept || kept.has(path));
    children.forEach((path, i) => visit(byPath.get(path)!, i + 1, children.length));
  };
  if (!kept || kept.size) visit(root, 1, 1);
  return rows;
}

function keptBySearch(occurrences: readonly Occurrence[], byPath: ReadonlyMap<string, Occurrence>, wanted: string): Set<string> {
  const kept = new Set<string>();
  for (const o of occurrences) {
    if (!shownName(o).includes(wanted)) continue;
    for (let at: Occurrence | undefined = o; at && !kept.has(at.path); at = at.parent === null ? undefined : byPath.get(at.parent)) kept.add(at.path);
  }
  return kept;
}

import {
  fingerprintOf,
  invertAffine,
  resolveReference,
  transformPoint,
  type Reference,
  type ReferenceScope,
  type Resolved,
} from '@bathyscope/core';
import type { Picked } from '../state/selection-store.ts';
import type { Workspace } from './workspace.ts';

/* What is kept of a pick, and where it leads in the model as it is now. */

/** What to keep of a picked thing, so that it is found in a later revision too. */
export function referenceTo(ws: Workspace, { kind, component, index, point, plane }: Picked): Reference {
  const { byPath, parts, partKeys } = ws.model.getState();
  const occurrence = byPath.get(component);
  const number = occurrence?.part;
  const of = { component, ...(number !== undefined && { part: partKeys[number] }) };
  if (kind === 'component') return { kind, ...of };
  if (kind === 'cap' || kind === 'outline' || kind === 'corner')
    return { kind, index, plane: plane ?? '', ...of, ...(point && { position: point }) };
  const geometry = number === undefined ? undefined : parts.get(number)?.geometry;
  return {
    kind,
    index,
    ...of,
    ...(geometry && { fingerprint: fingerprintOf(kind, index, geometry) }),
    ...(point && occurrence && { position: transformPoint(invertAffine(occurrence.placement), point) }),
  };
}

/** The same for whole components, by their paths. */
export const componentReferences = (ws: Workspace, paths: readonly string[]): Reference[] =>
  paths.map((component) => referenceTo(ws, { kind: 'component', component, index: 0 }));

const scopeOf = (ws: Workspace): ReferenceScope => {
  const { byPath, parts, partKeys, components } = ws.model.getState();
  return {
    component: (path) => {
      const found = byPath.get(path);
      return found && (found.part === undefined ? {} : { part: partKeys[found.part], geometry: parts.get(found.part)?.geometry });
    },
    ofPart: (part) => components.filter((c) => partKeys[c.part] === part).map((c) => c.path),
  };
};

/** Where a reference leads now. */
export function resolve(ws: Workspace, reference: Reference): Resolved {
  const { parts } = ws.model.getState();
  // Looking up goes through all faces of a part, and lists ask at every change.
  if (ws.memo.resolved?.parts !== parts) ws.memo.resolved = { parts, by: new WeakMap() };
  let found = ws.memo.resolved.by.get(reference);
  if (!found) ws.memo.resolved.by.set(reference, (found = resolveReference(reference, scopeOf(ws))));
  return found;
}

/** The thing that a reference leads to, as a pick; null when it is lost. */
export function pickOf(ws: Workspace, reference: Reference): Picked | null {
  const found = resolve(ws, reference);
  if (found.status === 'lost') return null;
  const { kind } = reference;
  const { component, index } = found;
  if (kind === 'component') return { kind, component, index };
  const placement = ws.model.getState().byPath.get(component)?.placement;
  const { position } = reference;
  if ('plane' in reference) return { kind, component, index, plane: reference.plane, ...(position && { point: position }) };
  return { kind, component, index, ...(position && placement && { point: transformPoint(placement, position) }) };
}

/** What is said of references that are not simply found: “2 probably, 1 lost”; empty when all are. */
export function statusText(ws: Workspace, references: readonly Reference[]): string {
  const count = (status: Resolved['status']) => references.filter((r) => resolve(ws, r).status === status).length;
  const [probably, lost] = [count('probably found'), count('lost')];
  return [probably && `${probably} probably`, lost && `${lost} lost`].filter(Boolean).join(', ');
}

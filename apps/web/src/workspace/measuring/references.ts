import { invertAffine, transformPoint } from '@bathyscope/core/math';
import {
  fingerprintOf,
  resolveReference,
  type IndexedKind,
  type Reference,
  type ReferenceScope,
  type Resolved,
  type Snap,
} from '@bathyscope/core/references';
import type { Picked } from '../../state/selection-store.ts';
import { derivedBy } from '../derived/derived.ts';
import { datumOf } from '../picking/datums.ts';
import { pointOfPick } from '../picking/snap-picks.ts';
import type { Workspace } from '../workspace.ts';

/* What is kept of a pick, and where it leads in the model as it is now. */

/** What to keep of a picked thing, so that it is found in a later revision too. */
export function referenceTo(ws: Workspace, item: Picked): Reference {
  const { kind, component, index, point, plane, snap } = item;
  if (kind === 'datum') return { kind, component: '', datum: item.datum ?? '' };
  const { byPath, parts, partKeys } = ws.model.getState();
  const occurrence = byPath.get(component);
  const number = occurrence?.part;
  const of = { component, ...(number !== undefined && { part: partKeys[number] }) };
  if (kind === 'component') return { kind, ...of };
  if (kind === 'cap' || kind === 'outline' || kind === 'corner')
    return { kind, index, plane: plane ?? '', ...of, ...(point && { position: point }) };
  if (kind === 'point' && plane !== undefined)
    return { kind, snap: snapOf(snap!), index, plane, ...of, ...(point && { position: point }) };
  const geometry = number === undefined ? undefined : parts.get(number)?.geometry;
  const known = (indexed: IndexedKind) => ({
    index,
    ...of,
    ...(geometry && { fingerprint: fingerprintOf(indexed, index, geometry) }),
    ...(point && occurrence && { position: transformPoint(invertAffine(occurrence.placement), point) }),
  });
  if (kind !== 'point') return { kind, ...known(kind) };
  const other = snap!.with && referenceTo(ws, { kind: 'edge', ...snap!.with });
  return {
    kind,
    snap: snapOf(snap!),
    ...known(snap!.on === 'face' ? 'face' : 'edge'),
    ...(other?.kind === 'edge' && { with: other }),
  };
}

const snapOf = ({ kind, on, which }: Snap): Omit<Snap, 'with'> => ({
  kind,
  on,
  ...(which !== undefined && { which }),
});

/** The same for whole components, by their paths. */
export const componentReferences = (ws: Workspace, paths: readonly string[]): Reference[] =>
  paths.map((component) => referenceTo(ws, { kind: 'component', component, index: 0 }));

const scopeOf = (ws: Workspace): ReferenceScope => {
  const { byPath, parts, partKeys, components } = ws.model.getState();
  return {
    component: (path) => {
      const found = byPath.get(path);
      return (
        found &&
        (found.part === undefined
          ? {}
          : { part: partKeys[found.part], geometry: parts.get(found.part)?.geometry })
      );
    },
    datum: (id) => datumOf(ws, id) !== null,
    ofPart: (part) => components.filter((c) => partKeys[c.part] === part).map((c) => c.path),
  };
};

/** Looking up goes through all faces of a part, and lists ask at every change. */
const resolved = derivedBy('where a reference leads', (ws, reference: Reference) =>
  resolveReference(reference, scopeOf(ws)),
);

/** Where a reference leads now. */
export const resolve = (ws: Workspace, reference: Reference): Resolved => ws.derived.of(resolved, reference);

/** The thing that a reference leads to, as a pick; null when it is lost. */
export function pickOf(ws: Workspace, reference: Reference): Picked | null {
  const found = resolve(ws, reference);
  if (found.status === 'lost') return null;
  if (reference.kind === 'datum') return { kind: 'datum', component: '', index: 0, datum: reference.datum };
  const { kind } = reference;
  const { component, index } = found;
  if (kind === 'component') return { kind, component, index };
  const placement = ws.model.getState().byPath.get(component)?.placement;
  const { position } = reference;
  if (reference.kind === 'point') {
    const other = reference.with && resolve(ws, reference.with);
    const snap: Snap = {
      ...reference.snap,
      ...(other && other.status !== 'lost' && { with: { component: other.component, index: other.index } }),
    };
    const item: Picked = { kind: 'point', component, index, snap };
    if (reference.plane !== undefined)
      return { ...item, plane: reference.plane, ...(position && { point: position }) };
    const near = position && placement && transformPoint(placement, position);
    const now = pointOfPick(ws, { ...item, ...(near && { point: near }) });
    return now && { ...item, point: now.at };
  }
  if ('plane' in reference)
    return { kind, component, index, plane: reference.plane, ...(position && { point: position }) };
  return {
    kind,
    component,
    index,
    ...(position && placement && { point: transformPoint(placement, position) }),
  };
}

/** What is said of references that are not simply found: “2 probably, 1 lost”; empty when all are. */
export function statusText(ws: Workspace, references: readonly Reference[]): string {
  const count = (status: Resolved['status']) =>
    references.filter((r) => resolve(ws, r).status === status).length;
  const [probably, lost] = [count('probably found'), count('lost')];
  return [probably && `${probably} probably`, lost && `${lost} lost`].filter(Boolean).join(', ');
}

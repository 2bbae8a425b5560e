import { putAside } from '@bathyscope/contracts/records';
import type { Reference } from '@bathyscope/core/references';
import { mapReferences } from '@bathyscope/core/revisions';
import { pointedTo } from '../../workspace/revisions/carry-over.ts';
import type { LookedUp } from '../../workspace/revisions/look-up.ts';
import { changeRecords, given, keptAt, removed, settled } from '../../workspace/keeping/records.ts';
import { referenceTo } from '../../workspace/measuring/references.ts';
import type { Picked } from '../../state/selection-store.ts';
import type { Workspace } from '../../workspace/workspace.ts';

/* What becomes of what was kept on another revision: each can be undone. */

const sure = ({ became: _, ...reference }: Reference): Reference => reference as Reference;

/** Takes what was only probably found for what it is. */
export function accept(ws: Workspace, { kind, id, title }: LookedUp): void {
  changeRecords(
    ws,
    `accept “${title}”`,
    settled(ws, kind, id, (document) => mapReferences(document, sure)),
  );
  ws.lookedUp.setState({ old: null });
}

/** Puts what is picked in the place of a reference that was not plainly found. */
export function pointAgain(
  ws: Workspace,
  { kind, id, title }: LookedUp,
  reference: Reference,
  item: Picked,
): void {
  const put = (r: Reference): Reference => (r === reference ? referenceTo(ws, item) : r);
  changeRecords(
    ws,
    `point “${title}” to another place`,
    settled(ws, kind, id, (document) => mapReferences(document, put)),
  );
  ws.lookedUp.setState({ old: null });
}

/** The same for what is of a component or a part by name alone, which is lost. */
export function giveTo(ws: Workspace, { kind, id, title }: LookedUp, item: Picked): void {
  const change = settled(
    ws,
    kind,
    id,
    () => null,
    (stored) => kind.carried(stored, pointedTo(ws, item.component)),
  );
  changeRecords(ws, `give “${title}” to another`, change);
  ws.lookedUp.setState({ old: null });
}

/** Leaves something out on this revision; on others it stays. */
export function putAsideHere(ws: Workspace, { id, title }: LookedUp): void {
  const revision = ws.model.getState().detail?.revision ?? 1;
  changeRecords(ws, `put “${title}” aside`, [given(ws, putAside, { record: id, revision })]);
  ws.lookedUp.setState({ old: null });
  ws.notify(`“${title}” is put aside on revision ${revision}; on others it stays.`, { id: 'aside' });
}

export function takeBack(ws: Workspace, { id, title }: LookedUp): void {
  const revision = ws.model.getState().detail?.revision ?? 1;
  const there = keptAt(ws, putAside, putAside.key!({ record: id, revision }));
  if (there) changeRecords(ws, `take “${title}” back`, [removed(ws, putAside, there)]);
}

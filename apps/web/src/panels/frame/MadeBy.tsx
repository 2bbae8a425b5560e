import type { Who } from '@bathyscope/contracts';
import type { RecordKind } from '@bathyscope/contracts/records';
import { formatDistanceToNow } from 'date-fns';
import { History } from 'lucide-react';
import { useStore } from 'zustand';
import { recordById } from '../../state/record-store.ts';
import { useWorkspace } from '../use-workspace.ts';

const nameOf = (who: Who | null): string => (who?.you ? 'you' : who?.name || 'someone');
const ago = (time: string): string => formatDistanceToNow(new Date(time), { addSuffix: true });

/** Who made a kept thing and who changed it last, and when; the name of someone else stands there. */
export function MadeBy<D extends object>({ kind, id }: { kind: RecordKind<D>; id: string }) {
  const ws = useWorkspace();
  const record = useStore(ws.records, (state) => recordById(state, kind.name, id));
  if (!record) return null;
  const { author, changedBy, createdAt, changedAt } = record;
  const made = `Kept by ${nameOf(author)} ${ago(createdAt)}`;
  const said = changedAt === createdAt ? made : `${made}, changed by ${nameOf(changedBy)} ${ago(changedAt)}`;
  const other = changedBy && !changedBy.you && changedBy.name;
  return (
    <span title={said} className="flex max-w-20 shrink-0 items-center gap-0.5 text-[12px] text-soft">
      <History size={13} role="img" aria-label={said} className="shrink-0" />
      {other && <span className="truncate">{other}</span>}
    </span>
  );
}

import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { KeptRecord } from '@bathyscope/contracts';
import { lifted, RECORD_KINDS } from '@bathyscope/contracts/records';
import { formatDistanceToNow } from 'date-fns';
import { useStore } from 'zustand';
import { taken } from '../../state/record-store.ts';
import { BinList } from '../../ui/BinList.tsx';
import { toast } from '../../ui/notices.ts';
import { Window } from '../../ui/Window.tsx';
import { useWorkspace } from '../use-workspace.ts';

/** What a thing in the bin is called, and what it is. */
function nameOf({ kind, version, document }: KeptRecord): string {
  const known = RECORD_KINDS.get(kind);
  const read = known?.read(lifted(known, version, document));
  const what = kind.replaceAll('-', ' ');
  const title = read && known?.title(read);
  return title && title !== what ? `${title} (${what})` : what;
}

/** What of the model lies in the bin: each can be put back, or deleted for good. */
export function BinDialog() {
  const ws = useWorkspace();
  const open = useStore(ws.dialog, (s) => s.open === 'bin');
  const queries = useQueryClient();
  const key = ['bin', ws.source.model];
  const bin = useQuery({ queryKey: key, queryFn: () => ws.source.records.bin(), enabled: open, gcTime: 0 });
  const close = () => ws.dialog.setState({ open: null });
  const anew = () => queries.invalidateQueries({ queryKey: key });
  const putBack = async (record: KeptRecord) => {
    const { id, kind, version, document, position, rev } = record;
    const [answer] = await ws.source.records.change([
      { id, kind, version, document, position, deleted: false, match: rev },
    ]);
    if (answer.outcome === 'refused') throw new Error(answer.problem);
    if (answer.record) ws.records.setState(taken(ws.records.getState(), [answer.record]));
  };
  const act = (work: Promise<void>) => void work.catch(toast.failed).then(anew);
  return (
    <Window open={open} close={close} title="Bin of this model" className="flex max-h-[80vh] w-130 flex-col">
      <BinList
        items={bin.data?.map((record) => ({
          id: record.id,
          name: nameOf(record),
          said: `deleted ${formatDistanceToNow(new Date(record.deletedAt!), { addSuffix: true })}`,
          putBack: () => act(putBack(record)),
          deleteForGood: () => act(ws.source.records.purge(record.id)),
        }))}
        error={bin.error?.message}
        none="Nothing of this model was deleted in the last weeks."
      />
    </Window>
  );
}

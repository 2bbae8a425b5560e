import { useQuery, useQueryClient } from '@tanstack/react-query';
import { formatDistanceToNow } from 'date-fns';
import { api } from '../api/api.ts';
import { BinList } from '../ui/BinList.tsx';
import { toast } from '../ui/notices.ts';
import { Window } from '../ui/Window.tsx';

const KEY = ['models', 'bin'];

/** Models that were taken off the shelf: each can be put back, or deleted for good. */
export function ShelfBin({ open, close }: { open: boolean; close: () => void }) {
  const queries = useQueryClient();
  const bin = useQuery({ queryKey: KEY, queryFn: api.bin, enabled: open });
  const act = (work: Promise<void>) =>
    void work.catch(toast.failed).then(() => queries.invalidateQueries({ queryKey: ['models'] }));
  return (
    <Window open={open} close={close} title="Bin" className="flex max-h-[80vh] w-150 flex-col">
      <BinList
        items={bin.data?.map((model) => ({
          id: model.id,
          name: model.name,
          said: `deleted ${formatDistanceToNow(new Date(model.deletedAt), { addSuffix: true })}, stays until ${new Date(model.until).toLocaleDateString()}`,
          putBack: () => act(api.restore(model.id)),
          deleteForGood: () => act(api.purge(model.id)),
        }))}
        error={bin.error?.message}
        none="The bin is empty. What is taken off the shelf lies here for a while."
      />
    </Window>
  );
}

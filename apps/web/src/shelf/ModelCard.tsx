import type { ModelListItem } from '@bathyscope/contracts';
import { formatDistanceToNow } from 'date-fns';
import { Box, Trash2 } from 'lucide-react';
import { Link } from 'react-router';
import { EditableName } from '../ui/EditableName.tsx';
import { IconButton } from '../ui/IconButton.tsx';

interface Props {
  model: ModelListItem;
  onRemove: () => void;
  onRename: (name: string) => void;
  onTag: (tags: string[]) => void;
}

const plural = (n: number, word: string): string => `${n.toLocaleString('en')} ${word}${n === 1 ? '' : 's'}`;

/** Bytes as people say them. */
function sizeOf(bytes: number): string {
  const units = ['B', 'kB', 'MB', 'GB'];
  const at = Math.min(units.length - 1, Math.max(0, Math.floor(Math.log10(Math.max(1, bytes)) / 3)));
  const value = bytes / 1000 ** at;
  return `${at && value < 10 ? value.toFixed(1) : Math.round(value)} ${units[at]}`;
}

export function ModelCard({ model, onRemove, onRename, onTag }: Props) {
  const counts = model.summary?.counts;
  const box = model.summary?.box;
  return (
    <div className="group flex h-full flex-col overflow-hidden rounded-lg border border-line bg-panel shadow-card">
      <Link
        to={`/models/${model.id}`}
        aria-label={`Open ${model.name}`}
        className="block min-h-0 flex-1 bg-linear-to-b from-(--shoal-top) to-(--shoal-bottom)"
      >
        {model.thumbnail ? (
          <img src={model.thumbnail} alt="" className="size-full object-contain" />
        ) : (
          <span className="grid size-full place-items-center text-soft">
            <Box size={40} strokeWidth={1} aria-hidden />
          </span>
        )}
      </Link>
      <div className="p-3">
        <div className="flex items-center gap-1">
          <EditableName name={model.name} label="Model name" className="-ml-1 min-w-0 flex-1 font-semibold" onRename={onRename} />
          <IconButton icon={Trash2} label={`Take ${model.name} off the shelf`} className="text-soft" onClick={onRemove} />
        </div>
        <p className="text-soft">
          {counts &&
            (counts.components > 1
              ? `${plural(counts.components, 'component')} of ${plural(counts.parts, 'part')}`
              : plural(counts.faces, 'face'))}
        </p>
        <p className="figures h-5 text-[12.5px] text-soft">
          {box && `${[0, 1, 2].map((k) => (box.max[k] - box.min[k]).toFixed(1)).join(' × ')} mm`}
        </p>
        <p className="truncate text-[12.5px] text-soft" title={model.fileName}>
          {model.fileName} · {sizeOf(model.fileSize)}
        </p>
        <p className="flex items-baseline gap-2 text-[12.5px] text-soft">
          <span className="flex-1 shrink-0 whitespace-nowrap">{formatDistanceToNow(new Date(model.createdAt), { addSuffix: true })}</span>
          <EditableName
            name={model.tags.join(', ')}
            label={`Tags of ${model.name}, with commas between`}
            empty="Add tags"
            className="min-w-0 shrink text-[12.5px]"
            onRename={(text) => onTag(text.split(',').map((t) => t.trim()))}
          />
        </p>
      </div>
    </div>
  );
}

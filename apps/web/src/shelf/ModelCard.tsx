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
}

const plural = (n: number, word: string): string => `${n.toLocaleString('en')} ${word}${n === 1 ? '' : 's'}`;

export function ModelCard({ model, onRemove, onRename }: Props) {
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
        <p className="text-[12.5px] text-soft">{formatDistanceToNow(new Date(model.createdAt), { addSuffix: true })}</p>
      </div>
    </div>
  );
}

import type { ModelListItem } from '@bathyscope/contracts';
import { formatDistanceToNow } from 'date-fns';
import { Box, FilePlus2, Trash2 } from 'lucide-react';
import { useRef, useState } from 'react';
import { Link } from 'react-router';
import { EditableName } from '../ui/EditableName.tsx';
import { fileSize } from '../ui/file-size.ts';
import { IconButton } from '../ui/IconButton.tsx';

interface Props {
  model: ModelListItem;
  onRemove: () => void;
  onRename: (name: string) => void;
  onTag: (tags: string[]) => void;
  /** A file is a new revision of it. */
  onRevise: (file: File) => void;
}

const plural = (n: number, word: string): string => `${n.toLocaleString('en')} ${word}${n === 1 ? '' : 's'}`;

/** A model on the shelf. A file that is dropped on it, and nowhere else, is its new revision. */
export function ModelCard({ model, onRemove, onRename, onTag, onRevise }: Props) {
  const [over, setOver] = useState(false);
  const take = (files: FileList | null) => {
    const [file] = files ?? [];
    if (file) onRevise(file);
  };
  const counts = model.summary?.counts;
  const box = model.summary?.box;
  return (
    <div
      className={`group relative flex h-full flex-col overflow-hidden rounded-lg border bg-panel shadow-card ${over ? 'border-magenta' : 'border-line'}`}
      onDragOver={(e) => {
        if (!e.dataTransfer.types.includes('Files')) return;
        e.preventDefault();
        e.stopPropagation();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        e.preventDefault();
        e.stopPropagation();
        setOver(false);
        take(e.dataTransfer.files);
      }}
    >
      {over && (
        <p className="pointer-events-none absolute inset-x-3 top-3 z-10 rounded border border-magenta bg-panel px-2 py-1 text-center font-medium">
          Drop: a new revision of it
        </p>
      )}
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
        <Head {...{ model, onRename, onRemove, take }} />
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
          {model.revision > 1 && <span className="figures">rev {model.revision} · </span>}
          {model.fileName} · {fileSize(model.fileSize)}
        </p>
        <p className="flex items-baseline gap-2 text-[12.5px] text-soft">
          <span className="flex-1 shrink-0 whitespace-nowrap">
            {formatDistanceToNow(new Date(model.createdAt), { addSuffix: true })}
          </span>
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

interface HeadProps extends Pick<Props, 'model' | 'onRename' | 'onRemove'> {
  take: (files: FileList | null) => void;
}

/** Its name, and what can be done with it. */
function Head({ model, onRename, onRemove, take }: HeadProps) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <div className="flex items-center gap-1">
      <EditableName
        name={model.name}
        label="Model name"
        className="-ml-1 min-w-0 flex-1 font-semibold"
        onRename={onRename}
      />
      <IconButton
        icon={FilePlus2}
        label={`New revision of ${model.name} …`}
        className="text-soft"
        onClick={() => input.current?.click()}
      />
      <input
        ref={input}
        type="file"
        accept=".step,.stp,.p21"
        aria-label={`File of the new revision of ${model.name}`}
        className="hidden"
        onChange={(e) => {
          take(e.target.files);
          e.target.value = '';
        }}
      />
      <IconButton
        icon={Trash2}
        label={`Take ${model.name} off the shelf`}
        className="text-soft"
        onClick={onRemove}
      />
    </div>
  );
}

import { useQueryClient } from '@tanstack/react-query';
import type { ModelListItem, ShelfOrder, TagCount } from '@bathyscope/contracts';
import { MoonStar, Sun, Trash2, Upload } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { toast } from '../ui/notices.ts';
import { useStore } from 'zustand';
import { api } from '../api/api.ts';
import { IconButton } from '../ui/IconButton.tsx';
import { SearchField } from '../ui/SearchField.tsx';
import { Mark } from '../ui/Mark.tsx';
import { useProfile } from '../panels/use-profile.ts';
import { CardGrid } from './CardGrid.tsx';
import { ModelCard } from './ModelCard.tsx';
import { ShelfBin } from './ShelfBin.tsx';
import { useLeftovers } from './use-leftovers.ts';
import { useShelf, useThumbnails } from './use-shelf.ts';
import { useTransfers } from './use-transfers.tsx';

/**
 * The start page: the models one has, found and ordered, with pictures; uploads and
 * conversions with their progress.
 */
export function ShelfPage() {
  const { models, known, error, more, wanted, tags, tag, setTag, bar } = useShelf();
  const { cards: transfers, start, busy } = useTransfers();
  const scroller = useRef<HTMLElement>(null);
  const [bin, setBin] = useState(false);
  useThumbnails(models);
  useLeftovers();
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    onDrop: (files) => files.forEach((file) => start(file)),
    noClick: true,
    noKeyboard: true,
  });
  useEffect(() => {
    document.title = 'Shelf · Bathyscope';
  }, []);
  const ready = models.filter((m) => m.state === 'ready');
  const none = known && !ready.length;
  const empty = none && !wanted && !tag && !busy;
  const cards = [
    ...transfers,
    ...ready.map((m) => ({
      key: m.id,
      card: <ReadyCard model={m} onRevise={(file) => start(file, m.id)} />,
    })),
  ];

  return (
    <div {...getRootProps()} className="flex h-full flex-col">
      <TopLine />
      <main ref={scroller} className="relative min-h-0 flex-1 overflow-y-auto px-6 py-5">
        <input {...getInputProps()} aria-label="Model files" />
        <div className="mx-auto max-w-6xl">
          <ShelfBar {...bar} openBin={() => setBin(true)} choose={open} />
          <TagList tags={tags} chosen={tag} choose={setTag} />
          {error && (
            <p role="alert" className="mb-4 rounded border border-red p-3 text-red">
              {error.message}
            </p>
          )}
          <CardGrid label="Models" cards={cards} scroller={scroller} onNearEnd={more} />
          {none && wanted && (
            <p className="mt-16 text-center text-soft">
              Nothing {tag ? `tagged “${tag}”` : 'on the shelf'} bears “{wanted}” in its name, file or tags.
            </p>
          )}
          {empty && (
            <p className="mt-16 text-center text-soft">
              The shelf is empty. Drop a STEP file (.step, .stp) here to open it.
            </p>
          )}
        </div>
      </main>
      <ShelfBin open={bin} close={() => setBin(false)} />
      {isDragActive && (
        <div className="pointer-events-none fixed inset-4 z-50 grid place-items-center rounded-xl border-4 border-dashed border-blue bg-panel/90">
          <p className="text-xl font-semibold">Drop to put it on the shelf</p>
        </div>
      )}
    </div>
  );
}

interface BarProps {
  search: string;
  setSearch: (text: string) => void;
  sort: ShelfOrder;
  setSort: (sort: ShelfOrder) => void;
  openBin: () => void;
  choose: () => void;
}

function ShelfBar({ search, setSearch, sort, setSort, openBin, choose }: BarProps) {
  return (
    <div className="mb-4 flex flex-wrap items-end gap-4">
      <div className="min-w-56 flex-1">
        <h1 className="text-xl font-semibold">Shelf</h1>
        <p className="text-soft">Drop STEP files anywhere on this page, or choose them.</p>
      </div>
      <SearchField
        label="Search the shelf"
        placeholder="Name, file or tag"
        value={search}
        onChange={setSearch}
        className="h-8 w-52"
      />
      <select
        aria-label="Order of the shelf"
        value={sort}
        onChange={(e) => setSort(e.target.value as ShelfOrder)}
        className="h-8 rounded border border-border bg-well px-1.5"
      >
        <option value="newest">Newest first</option>
        <option value="name">By name</option>
        <option value="size">Largest file first</option>
      </select>
      <button
        type="button"
        onClick={openBin}
        className="flex h-8 items-center gap-1.5 rounded border border-border bg-well px-2.5 hover:bg-hover"
      >
        <Trash2 size={15} aria-hidden /> Bin
      </button>
      <button
        type="button"
        onClick={choose}
        className="flex items-center gap-2 rounded bg-blue px-4 py-2 font-medium text-on-blue hover:opacity-90"
      >
        <Upload size={16} aria-hidden /> Choose files
      </button>
    </div>
  );
}

/** A model that can be opened, and what is done with it on the shelf. */
function ReadyCard({ model, onRevise }: { model: ModelListItem; onRevise: (file: File) => void }) {
  const queries = useQueryClient();
  const refresh = () => queries.invalidateQueries({ queryKey: ['models'] });
  const remove = async () => {
    await api.remove(model.id);
    await refresh();
    toast(`“${model.name}” was taken off the shelf.`, {
      action: {
        label: 'Undo',
        onClick: () => void api.restore(model.id).catch(toast.failed).then(refresh),
      },
    });
  };
  const rename = async (name: string) => {
    await api.rename(model.id, name).catch(toast.failed);
    await refresh();
  };
  const giveTags = async (tags: string[]) => {
    await api.setTags(model.id, tags).catch(toast.failed);
    await refresh();
  };
  return (
    <ModelCard
      model={model}
      onRemove={() => void remove()}
      onRename={(name) => void rename(name)}
      onTag={(tags) => void giveTags(tags)}
      onRevise={onRevise}
    />
  );
}

/** The tags there are, to see only what bears one of them. */
function TagList({
  tags,
  chosen,
  choose,
}: {
  tags: readonly TagCount[];
  chosen: string;
  choose: (tag: string) => void;
}) {
  if (!tags.length) return null;
  return (
    <div
      role="group"
      aria-label="Tags of the shelf"
      className="mb-4 flex max-h-20 flex-wrap gap-1.5 overflow-y-auto"
    >
      {tags.map(({ tag, count }) => (
        <button
          key={tag}
          type="button"
          aria-pressed={tag === chosen}
          onClick={() => choose(tag === chosen ? '' : tag)}
          className="rounded-full border border-border bg-well px-2.5 py-0.5 text-[13px] aria-pressed:border-blue aria-pressed:bg-blue aria-pressed:text-on-blue"
        >
          {tag} <span className="opacity-80">{count}</span>
        </button>
      ))}
    </div>
  );
}

function TopLine() {
  const profile = useProfile();
  const night = useStore(profile, (s) => s.theme === 'abyss');
  return (
    <header className="flex h-10 shrink-0 items-center gap-3 border-b border-line bg-panel px-3">
      <Mark />
      <span className="flex-1" />
      <IconButton
        icon={night ? Sun : MoonStar}
        label={night ? 'Day colours' : 'Night colours'}
        onClick={() => profile.getState().change({ theme: night ? 'chart' : 'abyss' })}
      />
    </header>
  );
}

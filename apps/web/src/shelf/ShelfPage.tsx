import { keepPreviousData, useInfiniteQuery, useQuery, useQueryClient } from '@tanstack/react-query';
import type { ModelListItem, ShelfOrder, TagCount } from '@bathyscope/contracts';
import { MoonStar, Sun, Trash2, Upload } from 'lucide-react';
import { useDeferredValue, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { useDropzone } from 'react-dropzone';
import { toast } from '../ui/notices.ts';
import { useStore } from 'zustand';
import { api, SHELF_PAGE } from '../api/api.ts';
import { IconButton } from '../ui/IconButton.tsx';
import { SearchField } from '../ui/SearchField.tsx';
import { Mark } from '../ui/Mark.tsx';
import { useProfile } from '../panels/use-profile.ts';
import { CardGrid } from './CardGrid.tsx';
import { ModelCard } from './ModelCard.tsx';
import { FailedCard, ProgressCard } from './ProgressCard.tsx';
import { Thumbnails } from '../scene/pictures/thumbnails.ts';
import { ShelfBin } from './ShelfBin.tsx';
import { useJobs } from './use-jobs.ts';
import { useLeftovers } from './use-leftovers.ts';
import { useUploads } from './use-uploads.ts';

const STAGES: Record<string, string> = {
  waiting: 'Waiting for its turn',
  'no room': 'Waiting for room on the server’s disk',
  starting: 'Starting',
  reading: 'Reading the file',
  transferring: 'Building the shapes',
  meshing: 'Meshing and measuring',
  done: 'Done',
};

/**
 * The start page: the models one has, found and ordered, with pictures; uploads and
 * conversions with their progress.
 */
export function ShelfPage() {
  const queries = useQueryClient();
  const profile = useProfile();
  const [search, setSearch] = useState('');
  const wanted = useDeferredValue(search.trim());
  const tags = useQuery({ queryKey: ['models', 'tags'], queryFn: api.tags });
  const [chosen, setTag] = useState('');
  // One that no model bears any more, as after an edit, is no filter.
  const tag = tags.data?.some((t) => t.tag === chosen) ? chosen : '';
  const [sort, setSort] = useState<ShelfOrder>('newest');
  const pages = useInfiniteQuery({
    queryKey: ['models', wanted, tag, sort],
    queryFn: ({ pageParam }) => api.models({ search: wanted, tag, sort }, pageParam),
    placeholderData: keepPreviousData,
    initialPageParam: undefined as string | undefined,
    getNextPageParam: (last) => (last.length === SHELF_PAGE ? last.at(-1)!.id : undefined),
  });
  // Read at every render: a change of what was not read at the last one renders nothing, and a list that
  // asked then would wait for good.
  const { hasNextPage, isFetching, fetchNextPage } = pages;
  const models = useMemo(() => pages.data?.pages.flat() ?? [], [pages.data]);
  const scroller = useRef<HTMLElement>(null);
  const thumbnails = useRef<Thumbnails>(null);
  useEffect(() => {
    thumbnails.current = new Thumbnails(profile);
    return () => thumbnails.current?.close();
  }, [profile]);
  const [bin, setBin] = useState(false);
  useLeftovers();
  const { jobs, forget } = useJobs();
  const { uploads, start, remove } = useUploads();
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    onDrop: (files) => files.forEach((file) => start(file)),
    noClick: true,
    noKeyboard: true,
  });
  const refresh = () => queries.invalidateQueries({ queryKey: ['models'] });

  useEffect(() => {
    document.title = 'Shelf · Bathyscope';
  }, []);
  useEffect(() => {
    if (models.length)
      void thumbnails
        .current!.makeMissing(models)
        .then((made) => (made ? queries.invalidateQueries({ queryKey: ['models'] }) : undefined));
  }, [models, queries]);

  const removeModel = async (model: ModelListItem) => {
    await api.remove(model.id);
    await refresh();
    toast(`“${model.name}” was taken off the shelf.`, {
      action: {
        label: 'Undo',
        onClick: () => void api.restore(model.id).catch(toast.failed).then(refresh),
      },
    });
  };
  const rename = async (model: ModelListItem, name: string) => {
    await api.rename(model.id, name).catch(toast.failed);
    await refresh();
  };
  const giveTags = async (model: ModelListItem, tags: string[]) => {
    await api.setTags(model.id, tags).catch(toast.failed);
    await refresh();
  };
  const dismiss = (id: string) => {
    forget(id);
    void api
      .cancelJob(id)
      .catch((e: Error) => toast(e.message, { id: 'wanted' }))
      .then(refresh);
  };
  const running = jobs.filter((j) => j.state === 'queued' || j.state === 'running');
  const ready = models.filter((m) => m.state === 'ready');
  const none = pages.isSuccess && !ready.length;
  const empty = none && !wanted && !tag && !running.length && !uploads.length;

  const cards: { key: string; card: ReactNode }[] = [
    ...uploads.map((u) => ({
      key: u.key,
      card: u.error ? (
        <FailedCard name={u.name} reason={u.error} onDismiss={() => remove(u.key)} />
      ) : (
        <ProgressCard
          name={u.name}
          stage="Uploading"
          share={u.share}
          onCancel={() => {
            u.abort();
            remove(u.key);
          }}
        />
      ),
    })),
    ...jobs
      .filter((j) => j.state === 'failed')
      .map((j) => ({
        key: j.id,
        card: (
          <FailedCard
            name={j.subject}
            reason={j.problem?.detail ?? 'The conversion failed.'}
            onDismiss={() => dismiss(j.id)}
          />
        ),
      })),
    ...running.map((j) => ({
      key: j.id,
      card: (
        <ProgressCard
          name={j.subject}
          stage={STAGES[j.stage] ?? j.stage}
          share={j.progress}
          onCancel={() => dismiss(j.id)}
        />
      ),
    })),
    ...ready.map((m) => ({
      key: m.id,
      card: (
        <ModelCard
          model={m}
          onRemove={() => void removeModel(m)}
          onRename={(name) => void rename(m, name)}
          onTag={(tags) => void giveTags(m, tags)}
          onRevise={(file) => start(file, m.id)}
        />
      ),
    })),
  ];

  return (
    <div {...getRootProps()} className="flex h-full flex-col">
      <TopLine />
      <main ref={scroller} className="relative min-h-0 flex-1 overflow-y-auto px-6 py-5">
        <input {...getInputProps()} aria-label="Model files" />
        <div className="mx-auto max-w-6xl">
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
              onClick={() => setBin(true)}
              className="flex h-8 items-center gap-1.5 rounded border border-border bg-well px-2.5 hover:bg-hover"
            >
              <Trash2 size={15} aria-hidden /> Bin
            </button>
            <button
              type="button"
              onClick={open}
              className="flex items-center gap-2 rounded bg-blue px-4 py-2 font-medium text-on-blue hover:opacity-90"
            >
              <Upload size={16} aria-hidden /> Choose files
            </button>
          </div>
          <TagList tags={tags.data ?? []} chosen={tag} choose={setTag} />
          {pages.isError && (
            <p role="alert" className="mb-4 rounded border border-red p-3 text-red">
              {pages.error.message}
            </p>
          )}
          <CardGrid
            label="Models"
            cards={cards}
            scroller={scroller}
            onNearEnd={() => hasNextPage && !isFetching && void fetchNextPage()}
          />
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

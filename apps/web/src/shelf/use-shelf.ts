import { keepPreviousData, useInfiniteQuery, useQuery, useQueryClient } from '@tanstack/react-query';
import type { ModelListItem, ShelfOrder } from '@bathyscope/contracts';
import { useDeferredValue, useEffect, useMemo, useRef, useState } from 'react';
import { api, SHELF_PAGE } from '../api/api.ts';
import { useProfile } from '../panels/use-profile.ts';
import { Thumbnails } from '../scene/pictures/thumbnails.ts';

/** What the shelf shows: what was searched for, by which tag and in which order, page by page. */
export function useShelf() {
  const [search, setSearch] = useState('');
  const wanted = useDeferredValue(search.trim());
  const tags = useQuery({ queryKey: ['models', 'tags'], queryFn: api.tags }).data ?? [];
  const [chosen, setTag] = useState('');
  // One that no model bears any more, as after an edit, is no filter.
  const tag = tags.some((t) => t.tag === chosen) ? chosen : '';
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
  const { hasNextPage, isFetching, fetchNextPage, isSuccess, error } = pages;
  const models = useMemo(() => pages.data?.pages.flat() ?? [], [pages.data]);
  return {
    models,
    known: isSuccess,
    error,
    more: () => hasNextPage && !isFetching && void fetchNextPage(),
    wanted,
    tags,
    tag,
    setTag,
    bar: { search, setSearch, sort, setSort },
  };
}

/** Pictures are drawn for the models that have none. */
export function useThumbnails(models: readonly ModelListItem[]): void {
  const profile = useProfile();
  const queries = useQueryClient();
  const thumbnails = useRef<Thumbnails>(null);
  useEffect(() => {
    thumbnails.current = new Thumbnails(profile);
    return () => thumbnails.current?.close();
  }, [profile]);
  useEffect(() => {
    if (models.length)
      void thumbnails
        .current!.makeMissing(models)
        .then((made) => (made ? queries.invalidateQueries({ queryKey: ['models'] }) : undefined));
  }, [models, queries]);
}

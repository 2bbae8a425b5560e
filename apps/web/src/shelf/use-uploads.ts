import { messageOf } from '@bathyscope/core/tables';
import { useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from '../ui/notices.ts';
import type { ModelListItem } from '@bathyscope/contracts';
import { api, upload } from '../api/api.ts';
import { useEvents } from '../panels/use-events.ts';
import { commonText } from '../ui/likeness-text.ts';

export interface UploadEntry {
  key: string;
  name: string;
  /** 0–1 while it runs. */
  share: number;
  /** A sentence when it was refused. */
  error: string | null;
  abort: () => void;
}

/** ms that a question about a file stays. */
const LONG = 30_000;

/** Uploads at the same moment: a browser has six connections for one server, and other requests need some. */
const AT_ONCE = 3;

/**
 * Files on their way to the server, a few at a time. The same file dropped twice while it
 * is on its way goes once.
 */
export function useUploads() {
  const [entries, setEntries] = useState<UploadEntry[]>([]);
  const active = useRef(new Set<string>());
  const waiting = useRef<{ key: string; begin: () => Promise<unknown> }[]>([]);
  const running = useRef(0);
  const queries = useQueryClient();
  const navigate = useNavigate();
  const events = useEvents();
  const change = (key: string, values: Partial<UploadEntry>) =>
    setEntries((old) => old.map((e) => (e.key === key ? { ...e, ...values } : e)));
  const remove = (key: string) => setEntries((old) => old.filter((e) => e.key !== key));

  const next = () => {
    while (running.current < AT_ONCE && waiting.current.length) {
      running.current++;
      void waiting.current
        .shift()!
        .begin()
        .finally(() => {
          running.current--;
          next();
        });
    }
  };

  const begin = async (file: File, key: string, revisionOf?: string) => {
    const { done, abort } = upload(
      file,
      (share) => change(key, { share }),
      revisionOf && `/api/models/${revisionOf}/revisions`,
    );
    change(key, { abort });
    try {
      const { duplicate, model } = await done;
      if (!duplicate && !revisionOf) void offerRevision(model);
      remove(key);
      void queries.invalidateQueries({ queryKey: ['models'] });
      if (duplicate)
        toast(`“${model.name}” is this very file: it is on the shelf already.`, {
          action: { label: 'Open', onClick: () => void navigate(`/models/${model.id}`) },
        });
    } catch (error) {
      change(key, { error: messageOf(error) });
    } finally {
      active.current.delete(key);
    }
  };

  /**
   * A file of a name that is there may be meant as the next revision; it is a model of its
   * own until somebody says so.
   */
  const offerRevision = async (model: ModelListItem) => {
    const named = await api.models({ search: model.name, tag: '', sort: 'newest' }).catch(() => []);
    const alike = (other: ModelListItem) => other.name === model.name || other.fileName === model.fileName;
    const like = named.find((other) => other.id !== model.id && other.state === 'ready' && alike(other));
    if (!like) return;
    const ask = (common: string) =>
      toast(
        `“${like.name}” has the name of this file${common && `, and ${common}`}. Is “${model.fileName}” its next revision?`,
        {
          id: `revision of ${like.id}`,
          duration: LONG,
          action: {
            label: 'Make it that',
            onClick: () => {
              off();
              void api
                .adoptRevision(like.id, model.id)
                .then(() => queries.invalidateQueries({ queryKey: ['models'] }), toast.failed);
            },
          },
        },
      );
    // What they have in common is known when it is converted; until then their names speak for it.
    const off = events.follow({
      onJob: ({ modelId, state }) => {
        if (modelId !== model.id || state !== 'done') return;
        off();
        void api.likeness(model.id, model.revision, like.id).then(
          (found) => ask(commonText(found) || 'nothing else in common'),
          () => {},
        );
      },
    });
    setTimeout(off, LONG);
    ask('');
  };

  /** @param revisionOf the model that it is a new revision of */
  const start = (file: File, revisionOf?: string) => {
    const key = `${revisionOf ?? ''}/${file.name}/${file.size}/${file.lastModified}`;
    if (active.current.has(key)) return;
    active.current.add(key);
    const leave = () => {
      waiting.current = waiting.current.filter((w) => w.key !== key);
      active.current.delete(key);
    };
    setEntries((old) => [
      { key, name: file.name, share: 0, error: null, abort: leave },
      ...old.filter((e) => e.key !== key),
    ]);
    waiting.current.push({ key, begin: () => begin(file, key, revisionOf) });
    next();
  };
  return { uploads: entries, start, remove };
}

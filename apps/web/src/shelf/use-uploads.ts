import { messageOf } from '@bathyscope/core/tables';
import { useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from '../ui/notices.ts';
import { upload } from '../api/api.ts';
import { useRevisionNotices } from './use-revision-notices.ts';

export interface UploadEntry {
  key: string;
  name: string;
  /** 0–1 while it runs. */
  share: number;
  /** A sentence when it was refused. */
  error: string | null;
  abort: () => void;
}

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
  const { offer, doubtWhenDone } = useRevisionNotices();
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
      const { duplicate, model, job } = await done;
      if (job && revisionOf) doubtWhenDone(model, job.id);
      if (job && !duplicate && !revisionOf) void offer(model, job.id);
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
